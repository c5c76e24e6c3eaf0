/** What an employer has reckoned for itself out of everybody's pay: only differences to what was reckoned before are added. */
export const reckonings = `
create table reckonings (
  id bigint generated always as identity primary key,
  employer_id uuid not null references employers (id),
  tax_year text not null,
  code text not null,
  -- The day with which it is owed, and the business day on which it was reckoned.
  on_day date not null,
  reckoned_on date not null,
  period text not null,
  amount bigint not null check (amount <> 0),
  workings jsonb not null,
  at timestamptz not null default now()
);
create index on reckonings (employer_id, tax_year);
create trigger reckonings_are_append_only before update or delete on reckonings for each row execute function refuse_change();

alter table journal_entries drop constraint journal_entries_kind_check,
  add constraint journal_entries_kind_check check (kind in ('pay', 'payment', 'return', 'remittance', 'undone', 'accrual', 'accrual-back', 'leave', 'difference', 'reckoning'));
`;
