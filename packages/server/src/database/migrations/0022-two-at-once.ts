/** What the database itself refuses when two act at once, and what a look at the growing tables needed. */
export const twoAtOnce = `
-- Somebody is once in a run; a reversal stands beside the entry that takes its place.
create unique index payslips_once on payslips (run_id, person_id) where state not in ('reversal', 'reversed');
create unique index payslips_replaced_once on payslips (replaces) where replaces is not null;
-- A payslip has one payment that stands.
create unique index net_payments_standing on net_payments (payslip_id) where stopped is null;

alter table one_offs add column refunds boolean not null default false;

-- What is given back of a deduction is no more than was taken by it.
create function refuse_refund_beyond_taken() returns trigger language plpgsql as $$
declare
  taken bigint;
  waiting bigint;
begin
  select coalesce(sum(l.amount), 0) into taken from ledger_lines l join pay_items i on i.id = new.item_id and l.code = i.code
    where l.person_id = new.person_id and l.kind in ('deduction-before-tax', 'deduction-after-tax');
  select coalesce(sum(-o.amount * 100), 0)::bigint into waiting from one_offs o left join payslips y on y.id = o.payslip_id
    where o.person_id = new.person_id and o.item_id = new.item_id and o.refunds and (y.id is null or y.state = 'draft');
  if waiting > taken then
    raise exception 'refunds of % are more than the % taken', waiting, taken using errcode = 'check_violation';
  end if;
  return null;
end $$;
create constraint trigger refunds_within_taken after insert or update of amount on one_offs deferrable initially immediate
  for each row when (new.refunds) execute function refuse_refund_beyond_taken();

-- What is recovered is no more than was paid.
create function refuse_recovery_beyond_paid() returns trigger language plpgsql as $$
declare
  paid bigint;
  claimed bigint;
begin
  select coalesce(sum(l.amount), 0) into paid from ledger_lines l join pay_items i on i.id = new.item_id and l.code = i.code
    where l.person_id = new.person_id;
  select coalesce(sum(v.total - coalesce((select sum(l.amount) from ledger_lines l where l.person_id = v.person_id and l.code = 'recovered:' || v.id), 0)), 0)::bigint
    into claimed from recoveries v where v.person_id = new.person_id and v.item_id = new.item_id and v.ended is null;
  if claimed > paid then
    raise exception 'recoveries of % are more than the % paid', claimed, paid using errcode = 'check_violation';
  end if;
  return null;
end $$;
create constraint trigger recoveries_within_paid after insert on recoveries deferrable initially immediate
  for each row execute function refuse_recovery_beyond_paid();

create table import_progress (employer_id uuid primary key references employers, done integer not null, "of" integer not null, beat timestamptz not null default now());

-- What only grows is not emptied at a stroke either.
create trigger ledger_is_not_emptied before truncate on ledger_lines for each statement execute function refuse_change();
create trigger audit_is_not_emptied before truncate on audit_entries for each statement execute function refuse_change();
create trigger results_are_not_emptied before truncate on payslip_results for each statement execute function refuse_change();

create index net_payments_run on net_payments (run_id);
create index outbox_payslip on outbox (payslip_id);
create index leave_requests_person on leave_requests (person_id);
create index time_changes_employer on time_changes (employer_id);
`;
