/** Leave that the law knows and pays: as it was assessed, with the one-offs that pay its weeks. */
export const leaveByLaw = `
create table law_leaves (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers (id),
  person_id uuid not null references people (id),
  kind text not null,
  from_date date not null,
  to_date date not null check (to_date >= from_date),
  about jsonb not null default '{}',
  -- Ordinary pay goes on beside what the law pays.
  pays_on boolean not null default false,
  assessed jsonb not null,
  undone text,
  version integer not null default 1,
  user_id uuid not null references users (id),
  at timestamptz not null default now()
);
create index on law_leaves (person_id);

alter table one_offs add column law_leave_id uuid references law_leaves (id), add column law_leave_day date,
  add check ((law_leave_id is null) = (law_leave_day is null));
create index one_offs_law_leave on one_offs (law_leave_id) where law_leave_id is not null;
`;
