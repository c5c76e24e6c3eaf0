/** Posting checks in one look at a statement's lines what foreign keys checked four times for each line. */
export const postingInSets = `
alter table ledger_lines drop constraint ledger_lines_employer_id_fkey, drop constraint ledger_lines_person_id_fkey,
  drop constraint ledger_lines_run_id_fkey, drop constraint ledger_lines_payslip_id_fkey;

create function refuse_lines_of_nothing() returns trigger language plpgsql as $$
begin
  if exists (select 1 from added l left join payslips y on y.id = l.payslip_id and y.run_id = l.run_id and y.person_id = l.person_id
             left join pay_runs r on r.id = y.run_id and r.employer_id = l.employer_id where r.id is null) then
    raise exception 'ledger lines of no payslip of the run, the person and the employer' using errcode = 'foreign_key_violation';
  end if;
  return null;
end $$;
create trigger ledger_lines_belong after insert on ledger_lines referencing new table as added for each statement execute function refuse_lines_of_nothing();

-- What is posted stays: its payslip is not deleted, and its state goes one way.
create function refuse_unposting() returns trigger language plpgsql as $$
begin
  if tg_op = 'DELETE' then
    if old.state <> 'draft' then raise exception 'payslip % is posted', old.id; end if;
    return old;
  end if;
  if old.state <> 'draft' and (new.run_id, new.person_id, new.reverses) is distinct from (old.run_id, old.person_id, old.reverses)
     or (old.state, new.state) not in (('draft', 'draft'), ('draft', 'posted'), ('posted', 'posted'), ('posted', 'reversed'), ('reversed', 'reversed'), ('reversal', 'reversal')) then
    raise exception 'payslip % is %, and cannot become %', old.id, old.state, new.state;
  end if;
  return new;
end $$;
create trigger posted_payslips_stay before update or delete on payslips for each row execute function refuse_unposting();

-- Balances are sums of the ledger, which is guarded itself.
alter table balances drop constraint balances_employer_id_fkey, drop constraint balances_person_id_fkey;
`;
