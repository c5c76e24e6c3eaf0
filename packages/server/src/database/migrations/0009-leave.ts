/** Leave plans with dated terms, who is in them, and requests; balances adjusted without payment. */
export const leave = `
create table leave_plans (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers,
  code text not null,
  unique (employer_id, code)
);

create table leave_terms (
  plan_id uuid not null references leave_plans on delete cascade,
  from_date date not null,
  terms jsonb not null,
  primary key (plan_id, from_date)
);

create table leave_members (
  id uuid primary key default gen_random_uuid(),
  plan_id uuid not null references leave_plans,
  person_id uuid not null references people,
  from_date date not null,
  to_date date,
  check (to_date is null or to_date >= from_date),
  unique (person_id, plan_id, from_date)
);
create index leave_members_plan on leave_members (plan_id);

create table leave_requests (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers,
  person_id uuid not null references people,
  plan_id uuid not null references leave_plans,
  from_date date not null,
  to_date date not null check (to_date >= from_date),
  note text not null default '',
  state text not null default 'asked' check (state in ('asked', 'approved', 'declined', 'withdrawn')),
  comment text not null default '',
  version integer not null default 1,
  user_id uuid not null references users,
  entered_at timestamptz not null default now()
);
create index leave_requests_days on leave_requests (employer_id, from_date, to_date);

create table leave_days (
  request_id uuid not null references leave_requests on delete cascade,
  person_id uuid not null references people,
  on_date date not null,
  hours numeric(5, 2) not null check (hours > 0 and hours <= 24),
  primary key (request_id, on_date)
);
create index leave_days_person on leave_days (person_id, on_date);

create index ledger_lines_leave on ledger_lines (person_id) where kind = 'leave';

alter table pay_runs drop constraint pay_runs_kind_check,
  add constraint pay_runs_kind_check check (kind in ('regular', 'special', 'correction', 'opening', 'adjustment'));
alter table leavings add column pays_leave boolean not null default true;
`;
