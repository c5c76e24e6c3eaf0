/** Pieces and tips by day, beside hours. */
export const quantities = `
alter table time_entries add column quantity numeric(12, 4) check (quantity > 0),
  drop constraint time_entries_hours_check,
  add constraint time_entries_hours_check check ((hours > 0 or (hours = 0 and quantity is not null)) and hours <= 24);
`;
