/** One-offs waiting for a run; special runs; runs that are submitted, sent back and withdrawn. */
export const payPeriod = `
create table one_offs (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers,
  person_id uuid not null references people,
  item_id uuid not null references pay_items,
  amount numeric(12, 2) not null check (amount <> 0),
  note text not null default '',
  part jsonb,
  take_by text not null check (take_by in ('next', 'run', 'date')),
  run_id uuid references pay_runs on delete set null,
  on_date date check ((on_date is null) = (take_by <> 'date')),
  -- The paid period and item that it is back pay for.
  back jsonb,
  -- The payslip that took it; without one it waits.
  payslip_id uuid references payslips,
  user_id uuid not null references users,
  entered_at timestamptz not null default now()
);
create index one_offs_payslip on one_offs (payslip_id);
create index one_offs_waiting on one_offs (employer_id, person_id) where payslip_id is null;
create index one_offs_back on one_offs (person_id) where back is not null;

alter table pay_runs drop constraint pay_runs_kind_check, add constraint pay_runs_kind_check check (kind in ('regular', 'special', 'correction', 'opening')),
  drop constraint pay_runs_state_check, add constraint pay_runs_state_check check (state in ('calculating', 'open', 'submitted', 'approved', 'withdrawn')),
  add column name text not null default '',
  add column rules jsonb,
  add column submitted_by uuid references users,
  add column submitted_at timestamptz,
  add column sent_back text;

-- The mail stand-in: what was written to whom; the same to the same address once.
create table outbox (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers,
  run_id uuid not null references pay_runs,
  payslip_id uuid references payslips,
  kind text not null check (kind in ('payslip', 'register')),
  to_address text not null,
  to_name text not null,
  subject text not null,
  body text not null,
  queued_at timestamptz not null default now(),
  delivered_at timestamptz
);
create unique index outbox_once on outbox (run_id, kind, to_address, coalesce(payslip_id, run_id));
create index outbox_latest on outbox (employer_id, queued_at desc);
create index outbox_waiting on outbox (queued_at) where delivered_at is null;

drop index pay_runs_once;
create unique index pay_runs_once on pay_runs (schedule_id, period_from) where kind = 'regular' and state <> 'withdrawn';
`;
