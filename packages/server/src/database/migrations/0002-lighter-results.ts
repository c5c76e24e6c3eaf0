/** Results of ten thousand payslips are written and looked through at once: checks by statement, and an index of those with problems. */
export const lighterResults = `
-- The payslip is of the run already; checking it again costs as much as writing the row.
alter table payslip_results drop constraint payslip_results_run_id_fkey;
create index payslip_results_problems on payslip_results (run_id) where problems <> '[]'::jsonb;

drop trigger posted_results_stay on payslip_results;
create or replace function refuse_posted_change() returns trigger language plpgsql as $$
declare posted uuid;
begin
  select y.id into posted from changed c join payslips y on y.id = c.payslip_id where y.state <> 'draft' limit 1;
  if posted is not null then
    raise exception 'payslip % is posted', posted;
  end if;
  return null;
end $$;
create trigger posted_results_stay_on_update after update on payslip_results referencing old table as changed for each statement execute function refuse_posted_change();
create trigger posted_results_stay_on_delete after delete on payslip_results referencing old table as changed for each statement execute function refuse_posted_change();
`;
