/** Amounts of items may be finer than a cent (so much a piece, an hour), and every item tells who holds it by date. */
export const itemsWhole = `
alter table person_items alter column amount type numeric;
create index ledger_lines_run on ledger_lines (run_id);
`;
