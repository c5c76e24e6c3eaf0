/** What was posted of an item and moved to where it counts now: by person, base and tax year. */
export const movedItems = `
create table item_moves (
  run_id uuid not null references pay_runs (id),
  item_id uuid not null references pay_items (id),
  person_id uuid not null references people (id),
  tax_year text not null,
  base text not null,
  amount bigint not null
);
create index item_moves_item on item_moves (item_id, tax_year);
create trigger item_moves_are_append_only before update or delete on item_moves for each row execute function refuse_change();
create trigger item_moves_are_not_emptied before truncate on item_moves for each statement execute function refuse_change();
`;
