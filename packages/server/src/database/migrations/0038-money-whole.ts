/**
 * Several accounts that pay; accounts of the journal by position and group too; where the cost of each payslip went, so
 * that a reversal takes it back from there; accruals; differences of employer taxes; an agency's own payment service, with
 * books of its own; receipts.
 */
export const moneyWhole = `
create table paying_accounts (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers (id),
  name text not null,
  bank text not null,
  last4 text not null,
  account_sealed bytea,
  unique (employer_id, name)
);
alter table pay_schedules add column paying_account_id uuid references paying_accounts (id);
alter table payees add column paying_account_id uuid references paying_accounts (id);
alter table payment_batches add column paying_account_id uuid references paying_accounts (id);
-- Of what waits for a batch: from which account it goes.
alter table transfers add column paying_account_id uuid references paying_accounts (id);
-- Empty is the employer's first account.
alter table account_balances add column paying text not null default '', drop constraint account_balances_pkey, add primary key (employer_id, paying, on_day);
alter table statement_lines add column paying text not null default '', drop constraint statement_lines_employer_id_entry_key, add unique (employer_id, paying, entry);

alter table journal_accounts add column job text not null default '', add column pay_group text not null default '', drop constraint journal_accounts_pkey,
  add primary key (employer_id, side, code, department, worksite, job, pay_group);
alter table journal_entries drop constraint journal_entries_kind_check,
  add check (kind in ('pay', 'payment', 'return', 'remittance', 'undone', 'accrual', 'accrual-back', 'leave', 'difference'));
alter table journal_lines add column run_id uuid;
create index journal_lines_run on journal_lines (run_id) where run_id is not null;
create unique index journal_entries_of_day on journal_entries (employer_id, on_day) where kind = 'pay' and source_id is null;

-- Each entry is added up once, however many lines of it came in.
create or replace function journal_balances() returns trigger language plpgsql as $$
begin
  if exists (select 1 from (select distinct entry_id from added) a join journal_lines l on l.entry_id = a.entry_id group by l.entry_id having sum(l.amount) <> 0) then
    raise exception 'a journal entry does not balance' using errcode = '23514';
  end if;
  return null;
end $$;

-- Where the cost of a payslip was posted; spread over several places by hours, or by shares.
create table payslip_places (
  payslip_id uuid primary key references payslips (id),
  department text not null,
  worksite text not null,
  job text not null,
  pay_group text not null,
  spread jsonb
);
-- The accounts that a run was posted to, by what was looked for: a reversal goes to the same.
create table journal_maps (
  run_id uuid not null references pay_runs (id),
  key text not null,
  account text not null,
  primary key (run_id, key)
);
alter table person_positions add column share numeric(5, 2) check (share > 0 and share < 100);

create table tax_differences (
  id bigint generated always as identity primary key,
  employer_id uuid not null references employers (id),
  code text not null,
  month date not null,
  -- On which day it counts as owed, and on which business day it was entered.
  on_day date not null,
  entered_on date not null,
  amount bigint not null check (amount <> 0),
  reason text not null check (length(reason) >= 3),
  user_id uuid not null references users (id),
  at timestamptz not null default now()
);
create index on tax_differences (employer_id, month);
create trigger tax_differences_are_append_only before update or delete on tax_differences for each row execute function refuse_change();

-- By which the payee knows the payer, and when its own service was told.
alter table remittances add column told_at timestamptz, add column taxpayer text not null default '';
update remittances set told_at = at where method = 'agency';
create table remittance_receipts (
  id uuid primary key default gen_random_uuid(),
  remittance_id uuid not null references remittances (id),
  name text not null,
  type text not null,
  content bytea not null,
  user_id uuid not null references users (id),
  at timestamptz not null default now()
);
create index on remittance_receipts (remittance_id);
create trigger remittance_receipts_are_append_only before update or delete on remittance_receipts for each row execute function refuse_change();

create schema agency;
create table agency.payments (
  confirmation text primary key,
  order_key text not null unique,
  payee text not null,
  taxpayer text not null,
  about text not null,
  due date not null,
  amount bigint not null check (amount > 0),
  settles_on date not null,
  received_on date not null,
  at timestamptz not null default now()
);
create table bank.settings (cut_off text not null default '23:59' check (cut_off ~ '^([01][0-9]|2[0-3]):[0-5][0-9]$'), one boolean primary key default true check (one));
insert into bank.settings default values;
alter table bank.files add column late boolean not null default false;
`;
