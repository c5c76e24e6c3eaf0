/**
 * The journal: entries that balance (the database says so), made of what the ledger and the payments say, each once.
 * Accounts by what is posted, department and worksite, the most specific first; changed for what is posted from then on.
 */
export const journal = `
create table journal_accounts (
  employer_id uuid not null references employers (id),
  side text not null check (side in ('expense', 'liability', 'bank')),
  code text not null default '',
  department text not null default '',
  worksite text not null default '',
  account text not null check (account <> ''),
  primary key (employer_id, side, code, department, worksite)
);

create table journal_entries (
  id bigint generated always as identity primary key,
  employer_id uuid not null references employers (id),
  on_day date not null,
  kind text not null check (kind in ('pay', 'payment', 'return', 'remittance', 'undone')),
  source_id uuid,
  words text not null,
  at timestamptz not null default now()
);
create index on journal_entries (employer_id, on_day, id);
create index on journal_entries (source_id);

create table journal_lines (
  id bigint generated always as identity primary key,
  entry_id bigint not null references journal_entries (id),
  account text not null,
  side text not null check (side in ('expense', 'liability', 'bank')),
  amount bigint not null,
  words text not null default '',
  department text not null default '',
  owed text not null default '',
  codes jsonb not null default '[]',
  payslip_id uuid
);
create index on journal_lines (entry_id);

-- What of the bank's and the payees' is in the journal: each once.
create table journal_payments (
  event_id bigint primary key references transfer_events (id),
  entry_id bigint not null references journal_entries (id)
);

create function journal_balances() returns trigger language plpgsql as $$
begin
  if exists (select 1 from added a join journal_lines l on l.entry_id = a.entry_id group by l.entry_id having sum(l.amount) <> 0) then
    raise exception 'a journal entry does not balance' using errcode = '23514';
  end if;
  return null;
end $$;
create trigger journal_entries_balance after insert on journal_lines referencing new table as added for each statement execute function journal_balances();
create trigger journal_lines_are_append_only before update or delete on journal_lines for each row execute function refuse_change();
create trigger journal_lines_are_not_emptied before truncate on journal_lines for each statement execute function refuse_change();
create trigger journal_entries_are_append_only before update or delete on journal_entries for each row execute function refuse_change();

-- What is owed, by code and the day it counts on: so that nothing looks through the years of the ledger for it.
create table owed_days (
  employer_id uuid not null references employers (id),
  code text not null,
  counts_on date not null,
  amount bigint not null,
  primary key (employer_id, code, counts_on)
);
insert into owed_days (employer_id, code, counts_on, amount)
select l.employer_id, l.code, l.counts_on, sum(l.amount) from ledger_lines l join pay_runs r on r.id = l.run_id and r.kind not in ('opening', 'adjustment')
where l.kind in ('tax', 'employer-tax', 'deduction-before-tax', 'deduction-after-tax', 'employer-contribution') group by 1, 2, 3;

create table tie_outs (
  employer_id uuid not null references employers (id),
  code text not null,
  agrees boolean not null,
  difference bigint not null,
  checked_on date not null,
  checked_at timestamptz not null default now(),
  primary key (employer_id, code)
);
`;
