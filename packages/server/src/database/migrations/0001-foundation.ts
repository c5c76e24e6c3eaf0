/** Employers, users, people, pay items, runs, the ledger and the audit trail. */
export const foundation = /* sql */ `
create table employers (
  id uuid primary key default gen_random_uuid(),
  name text not null check (name <> ''),
  country text not null,
  currency text not null,
  business_date date not null,
  demo boolean not null default false,
  facts jsonb not null,
  -- Raised by every change of set-up and every posting: open runs worked out before it are out of date.
  facts_version integer not null default 1
);

create table users (
  id uuid primary key default gen_random_uuid(),
  email text not null unique check (email = lower(email)),
  name text not null,
  password_hash text not null
);

create table memberships (
  user_id uuid not null references users,
  employer_id uuid not null references employers,
  role text not null check (role in ('administrator', 'clerk', 'approver', 'viewer')),
  primary key (user_id, employer_id)
);

create table user_sessions (sid varchar primary key, sess json not null, expire timestamp(6) not null);
create index user_sessions_expire on user_sessions (expire);

create table pay_schedules (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers,
  name text not null,
  frequency text not null check (frequency in ('weekly', 'fortnightly', 'twice-a-month', 'monthly')),
  anchor date not null,
  pay_date_offset integer not null check (pay_date_offset between -31 and 31),
  move text not null check (move in ('previous', 'next')),
  unique (employer_id, name)
);

create table people (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers,
  code text not null,
  given_name text not null,
  family_name text not null,
  born date,
  email text,
  hired date,
  "left" date,
  left_reason text,
  department text not null default '',
  worksite text not null default '',
  job text not null default '',
  kind text not null default 'regular',
  schedule_id uuid references pay_schedules,
  standard_hours numeric(6, 2),
  address jsonb not null default '{}',
  number_sealed bytea,
  number_fingerprint text,
  number_last4 text,
  payment jsonb,
  account_sealed bytea,
  version integer not null default 1,
  unique (employer_id, code),
  check ("left" is null or hired is null or "left" >= hired)
);
create index people_fingerprint on people (employer_id, number_fingerprint);
create index people_schedule on people (schedule_id);

create table pay_rates (
  id uuid primary key default gen_random_uuid(),
  person_id uuid not null references people,
  series text not null,
  label text not null,
  per text not null check (per in ('hour', 'period', 'year')),
  amount numeric(14, 6) not null check (amount > 0),
  from_date date not null,
  is_primary boolean not null,
  reason text not null default '',
  unique (person_id, series, from_date)
);

create table tax_details (
  id uuid primary key default gen_random_uuid(),
  person_id uuid not null references people,
  from_date date not null,
  facts jsonb not null,
  unique (person_id, from_date)
);

create table pay_items (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers,
  code text not null,
  definition jsonb not null,
  retired boolean not null default false,
  version integer not null default 1,
  unique (employer_id, code)
);

create table person_items (
  id uuid primary key default gen_random_uuid(),
  person_id uuid not null references people,
  item_id uuid not null references pay_items,
  amount numeric(12, 2),
  percent numeric(12, 6),
  limits jsonb,
  order_facts jsonb,
  from_date date not null,
  to_date date,
  version integer not null default 1,
  check (to_date is null or to_date >= from_date)
);
create index person_items_person on person_items (person_id);
create index person_items_item on person_items (item_id);

create table pay_runs (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers,
  schedule_id uuid not null references pay_schedules,
  kind text not null check (kind in ('regular', 'correction')),
  period_from date not null,
  period_to date not null,
  pay_date date not null,
  state text not null check (state in ('calculating', 'open', 'approved')),
  compared_with uuid references pay_runs,
  facts_version integer not null default 0,
  version integer not null default 1,
  approved_by uuid references users,
  approved_at timestamptz,
  approval_key text,
  last_edited_by uuid references users,
  check (period_to >= period_from)
);
create unique index pay_runs_once on pay_runs (schedule_id, period_from) where kind = 'regular';
create index pay_runs_employer on pay_runs (employer_id, pay_date);

create table payslips (
  id uuid primary key default gen_random_uuid(),
  run_id uuid not null references pay_runs,
  person_id uuid not null references people,
  included boolean not null default true,
  edits jsonb not null default '{}',
  version integer not null default 1,
  state text not null default 'draft' check (state in ('draft', 'posted', 'reversed', 'reversal')),
  reverses uuid unique references payslips,
  replaces uuid references payslips
);
create index payslips_run on payslips (run_id);
create index payslips_person on payslips (person_id);

create table payslip_results (
  payslip_id uuid primary key references payslips on delete cascade,
  run_id uuid not null references pay_runs,
  gross bigint not null,
  reimbursements bigint not null,
  benefits_in_kind bigint not null,
  deductions bigint not null,
  taxes bigint not null,
  net bigint not null,
  employer_taxes bigint not null,
  employer_contributions bigint not null,
  employer_cost bigint not null,
  -- What the sheet shows beside the totals: hours by column, sum of one-offs.
  summary jsonb not null,
  lines jsonb not null,
  problems jsonb not null,
  input json not null,
  check (net + deductions + taxes = gross + reimbursements)
);
-- Compressing is most of the cost of writing a result: lz4 is several times quicker than the default.
alter table payslip_results alter column lines set compression lz4, alter column input set compression lz4;
create index payslip_results_run on payslip_results (run_id);

create table ledger_lines (
  id bigint generated always as identity primary key,
  employer_id uuid not null references employers,
  person_id uuid not null references people,
  run_id uuid not null references pay_runs,
  payslip_id uuid not null references payslips,
  pay_date date not null,
  tax_year text not null,
  kind text not null,
  code text not null,
  label text not null,
  amount bigint not null,
  quantity numeric(10, 2),
  posted_at timestamptz not null default now()
);
create index ledger_lines_date on ledger_lines (employer_id, pay_date, code);
create index ledger_lines_person on ledger_lines (person_id, tax_year, code);
create index ledger_lines_payslip on ledger_lines (payslip_id);

-- Sums of the ledger by person and year, kept beside it for speed; can be rebuilt and is compared with the sums.
create table balances (
  employer_id uuid not null references employers,
  person_id uuid not null references people,
  tax_year text not null,
  code text not null,
  amount bigint not null,
  primary key (person_id, tax_year, code)
);

create table accepted_points (
  run_id uuid not null references pay_runs on delete cascade,
  key text not null,
  reason text not null,
  user_id uuid not null references users,
  accepted_at timestamptz not null default now(),
  primary key (run_id, key)
);

create table run_progress (
  run_id uuid primary key references pay_runs on delete cascade,
  state text not null check (state in ('waiting', 'running', 'done', 'failed')),
  done integer not null default 0,
  "of" integer not null default 0,
  message text,
  beat timestamptz not null default now()
);

create table audit_entries (
  id bigint generated always as identity primary key,
  at timestamptz not null default now(),
  employer_id uuid references employers,
  user_id uuid references users,
  action text not null,
  subject text not null,
  subject_id uuid,
  what text not null,
  before jsonb,
  after jsonb
);
create index audit_entries_subject on audit_entries (subject_id, id);
create index audit_entries_employer on audit_entries (employer_id, id);

create function refuse_change() returns trigger language plpgsql as $$
begin
  raise exception '% is append-only', tg_table_name;
end $$;
create trigger ledger_is_append_only before update or delete on ledger_lines for each row execute function refuse_change();
create trigger audit_is_append_only before update or delete on audit_entries for each row execute function refuse_change();

-- A posted payslip keeps its result as it was paid.
create function refuse_posted_change() returns trigger language plpgsql as $$
begin
  if exists (select 1 from payslips where id = old.payslip_id and state <> 'draft') then
    raise exception 'payslip % is posted', old.payslip_id;
  end if;
  return case when tg_op = 'DELETE' then old else new end;
end $$;
create trigger posted_results_stay before update or delete on payslip_results for each row execute function refuse_posted_change();
`;
