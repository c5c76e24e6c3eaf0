/** Lines of filings that the ledger does not hold, as they were entered: the last one counts, the earlier ones stay. */
export const filingEntries = `
create table filing_entries (
  id bigint generated always as identity primary key,
  employer_id uuid not null references employers (id),
  filing text not null,
  period text not null,
  line text not null,
  amount bigint not null,
  reason text not null,
  user_id uuid not null references users (id),
  at timestamptz not null default now()
);
create index on filing_entries (employer_id, filing, period, line, id);
create trigger filing_entries_are_append_only before update or delete on filing_entries for each row execute function refuse_change();
create trigger filing_entries_are_not_emptied before truncate on filing_entries for each statement execute function refuse_change();
`;
