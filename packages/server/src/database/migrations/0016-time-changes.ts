/** Changes of a day's time that employees ask for; what was asked stays as it was asked. */
export const timeChanges = `
create table time_changes (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers,
  person_id uuid not null references people,
  on_date date not null,
  hours numeric(6, 4) not null check (hours between 0 and 24),
  begins text,
  ends text,
  break_minutes int not null default 0,
  reason text not null,
  state text not null default 'asked' check (state in ('asked', 'accepted', 'declined', 'withdrawn')),
  answer text not null default '',
  asked_at timestamptz not null default now(),
  answered_by uuid references users,
  answered_at timestamptz
);
create index time_changes_person on time_changes (person_id, on_date);
create unique index time_changes_one_asked on time_changes (person_id, on_date) where state = 'asked';
`;
