/** Sums of the ledger in one row for each person and tax year: posting writes as many rows as people, not as lines. */
export const sumsByYear = `
create table year_sums (
  employer_id uuid not null,
  person_id uuid not null,
  tax_year text not null,
  sums jsonb not null,
  primary key (person_id, tax_year)
);
alter table year_sums alter column sums set compression lz4;
create index year_sums_employer on year_sums (employer_id, tax_year);

create function sums_added(one jsonb, other jsonb) returns jsonb language sql immutable parallel safe as $$
  select coalesce(jsonb_object_agg(key, amount), '{}')
  from (select key, sum(value::bigint) as amount from (select * from jsonb_each_text(one) union all select * from jsonb_each_text(other)) as both_of_them group by key) as summed
$$;

insert into year_sums (employer_id, person_id, tax_year, sums)
select employer_id, person_id, tax_year, jsonb_object_agg(code, amount) from balances group by employer_id, person_id, tax_year;
drop table balances;

create view balances as
select y.employer_id, y.person_id, y.tax_year, s.key as code, s.value::bigint as amount from year_sums y cross join lateral jsonb_each_text(y.sums) s;

-- The sums answer for codes: a person's lines are found by year.
drop index ledger_lines_person;
create index ledger_lines_person on ledger_lines (person_id, tax_year);
-- A run's lines are those of its payslips.
drop index ledger_lines_run;

-- As for ledger lines: one look at a statement's payments instead of three for each.
alter table net_payments drop constraint net_payments_employer_id_fkey, drop constraint net_payments_run_id_fkey, drop constraint net_payments_payslip_id_fkey;
create function refuse_payments_of_nothing() returns trigger language plpgsql as $$
begin
  if exists (select 1 from added n left join payslips y on y.id = n.payslip_id and y.run_id = n.run_id
             left join pay_runs r on r.id = y.run_id and r.employer_id = n.employer_id where r.id is null) then
    raise exception 'payments of no payslip of the run and the employer' using errcode = 'foreign_key_violation';
  end if;
  return null;
end $$;
create trigger net_payments_belong after insert on net_payments referencing new table as added for each statement execute function refuse_payments_of_nothing();
`;
