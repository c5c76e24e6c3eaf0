/** Timesheets with their days, and the lock of a period's time. */
export const time = `
create table timesheets (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers,
  person_id uuid not null references people,
  period_from date not null,
  period_to date not null check (period_to >= period_from),
  state text not null default 'open' check (state in ('open', 'submitted', 'approved', 'returned')),
  comment text not null default '',
  version integer not null default 1,
  unique (person_id, period_from)
);
create index timesheets_period on timesheets (employer_id, period_from);

create table time_entries (
  id bigint generated always as identity primary key,
  timesheet_id uuid not null references timesheets on delete cascade,
  person_id uuid not null references people,
  on_date date not null,
  hours numeric(7, 4) not null check (hours > 0 and hours <= 24),
  rate text,
  item text,
  begins text check (begins ~ '^[0-2][0-9]:[0-5][0-9]$'),
  ends text check (ends ~ '^[0-2][0-9]:[0-5][0-9]$'),
  break_minutes integer not null default 0 check (break_minutes between 0 and 720),
  place text not null default ''
);
create index time_entries_person on time_entries (person_id, on_date);
create index time_entries_sheet on time_entries (timesheet_id);

create table time_locks (
  schedule_id uuid not null references pay_schedules,
  period_from date not null,
  user_id uuid not null references users,
  locked_at timestamptz not null default now(),
  primary key (schedule_id, period_from)
);
`;
