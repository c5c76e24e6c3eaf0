/**
 * Money out. A batch gathers payments that leave one account on one day; a transfer is one payment of it, and what
 * happened to it is only ever added to. One payment takes the place of another at most once. Beside them stand the tables
 * of the stand-in for a bank, which nothing of the product reads or writes but its own files.
 */
export const payments = `
create table payment_batches (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers (id),
  number integer not null,
  pay_date date not null,
  format text,
  prepared_by uuid not null references users (id),
  prepared_at timestamptz not null default now(),
  released_by uuid references users (id),
  released_at timestamptz,
  released_on date,
  dropped_at timestamptz,
  file_sealed bytea,
  file_hash text,
  delivered_at timestamptz,
  refusal jsonb,
  version integer not null default 1,
  unique (employer_id, number),
  check ((released_at is null) = (released_by is null)),
  check (released_at is null or dropped_at is null)
);
create index payment_batches_undelivered on payment_batches (employer_id) where released_at is not null and delivered_at is null;

create sequence transfer_references;

create table transfers (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null,
  reference text not null unique default 'W' || lpad(nextval('transfer_references')::text, 12, '0'),
  batch_id uuid references payment_batches (id),
  net_payment_id uuid,
  remittance_id uuid,
  person_id uuid,
  part integer not null default 0,
  method text not null check (method in ('file', 'cheque', 'cash', 'set-off')),
  purpose text not null check (purpose in ('pay', 'payee', 'support', 'trial')),
  amount bigint not null check (amount >= 0),
  payee text not null,
  label text not null default '',
  cheque_number integer,
  destination_sealed bytea,
  replaces uuid unique references transfers (id),
  reason text,
  user_id uuid not null references users (id),
  at timestamptz not null default now(),
  check (amount > 0 or purpose = 'trial')
);
create index transfers_batch on transfers (batch_id);
create index transfers_net_payment on transfers (net_payment_id);
create index transfers_remittance on transfers (remittance_id);
create index transfers_waiting on transfers (employer_id) where batch_id is null;
create unique index transfers_cheque on transfers (employer_id, cheque_number) where cheque_number is not null;
create unique index transfers_once on transfers (net_payment_id, part) where replaces is null and net_payment_id is not null;

create table transfer_events (
  id bigint generated always as identity primary key,
  transfer_id uuid not null references transfers (id),
  step text not null check (step in ('released', 'dropped', 'refused', 'booked', 'returned', 'notice', 'noted', 'printed', 'cleared', 'stopped', 'held')),
  on_day date not null,
  at timestamptz not null default now(),
  code text not null default '',
  words text not null default '',
  told jsonb,
  user_id uuid references users (id),
  unique (transfer_id, step)
);
create trigger transfer_events_are_append_only before update or delete on transfer_events for each row execute function refuse_change();
create trigger transfer_events_are_not_emptied before truncate on transfer_events for each statement execute function refuse_change();

create table statement_lines (
  id bigint generated always as identity primary key,
  employer_id uuid not null references employers (id),
  statement text not null,
  entry text not null,
  on_day date not null,
  amount bigint not null,
  reference text not null default '',
  transfer_id uuid references transfers (id),
  code text not null default '',
  words text not null default '',
  at timestamptz not null default now(),
  unique (employer_id, entry)
);
create trigger statement_lines_are_append_only before update or delete on statement_lines for each row execute function refuse_change();

create table account_balances (
  employer_id uuid not null references employers (id),
  on_day date not null,
  balance bigint not null,
  primary key (employer_id, on_day)
);

create table payees (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers (id),
  name text not null,
  address jsonb not null default '{}',
  method text not null default 'cheque' check (method in ('file', 'cheque', 'agency', 'elsewhere')),
  bank text not null default '',
  last4 text not null default '',
  account_sealed bytea,
  rule jsonb,
  version integer not null default 1,
  unique (employer_id, name)
);

-- What was paid of what is owed: by which obligation, by the day it was due.
create table remittances (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers (id),
  owed text not null,
  due date not null,
  up_to date not null,
  payee text not null,
  what text not null,
  amount bigint not null check (amount > 0),
  method text not null check (method in ('file', 'cheque', 'agency', 'elsewhere')),
  on_day date not null,
  reference text not null default '',
  about text not null default '',
  undone text,
  user_id uuid not null references users (id),
  at timestamptz not null default now()
);
create index on remittances (employer_id, owed, due);

alter table employers add column next_batch integer not null default 1;

-- What was paid before there were batches was paid by other means.
alter table net_payments add column gathered boolean not null default false;
update net_payments set gathered = true;
create index net_payments_waiting on net_payments (employer_id) where not gathered and stopped is null;
create index transfer_events_open on transfer_events (transfer_id) where step in ('returned', 'refused', 'notice');

create schema bank;
create table bank.accounts (
  bank text not null,
  account text not null,
  name text not null default '',
  state text not null default 'open' check (state in ('open', 'closed', 'unknown', 'other-name', 'moved')),
  new_bank text,
  new_account text,
  opening bigint not null default 0,
  primary key (bank, account)
);
create table bank.files (
  id bigint generated always as identity primary key,
  hash text not null unique,
  name text not null,
  content bytea not null,
  received_on date not null,
  payer_bank text,
  payer_account text,
  faults jsonb,
  at timestamptz not null default now()
);
create table bank.payments (
  id bigint generated always as identity primary key,
  file_id bigint not null references bank.files (id),
  reference text not null,
  payer_bank text not null,
  payer_account text not null,
  name text not null,
  bank text not null,
  account text not null,
  amount bigint not null,
  effective date not null,
  booked_on date,
  returned_on date,
  code text not null default '',
  told jsonb,
  unique (payer_bank, payer_account, reference)
);
create index on bank.payments (payer_bank, payer_account, effective);
`;
