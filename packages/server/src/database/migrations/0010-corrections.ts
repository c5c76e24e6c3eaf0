/** Pay recovered over several payslips, and how net pay was handed over. */
export const corrections = `
create table recoveries (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers,
  person_id uuid not null references people,
  item_id uuid not null references pay_items,
  total bigint not null check (total > 0),
  per_payslip bigint not null check (per_payslip > 0),
  reason text not null,
  ended text,
  user_id uuid not null references users,
  entered_at timestamptz not null default now()
);
create index recoveries_person on recoveries (person_id);

-- One row for each time net pay is handed over; paid again, the earlier row is stopped and says why.
create table net_payments (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers,
  run_id uuid not null references pay_runs,
  payslip_id uuid not null references payslips,
  amount bigint not null check (amount > 0),
  method text not null check (method in ('cheque', 'cash', 'deposit')),
  number integer,
  parts jsonb not null default '[]',
  stopped text,
  replaces uuid unique references net_payments,
  user_id uuid not null references users,
  entered_at timestamptz not null default now()
);
create index net_payments_payslip on net_payments (payslip_id);
create unique index net_payments_cheque on net_payments (employer_id, number) where number is not null;
alter table employers add column next_cheque integer not null default 1001;
`;
