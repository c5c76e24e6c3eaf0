/** A line counts for the day it is paid on; what takes a line back counts for the day of the line that it takes back, in its tax year. */
export const countsOn = `
alter table ledger_lines disable trigger ledger_is_append_only;
alter table ledger_lines add column counts_on date;
update ledger_lines set counts_on = pay_date;
update ledger_lines l set counts_on = o.pay_date, tax_year = o.tax_year
from payslips y join lateral (select pay_date, tax_year from ledger_lines where payslip_id = y.reverses limit 1) o on true
where y.id = l.payslip_id and y.reverses is not null;
alter table ledger_lines alter column counts_on set not null;
alter table ledger_lines enable trigger ledger_is_append_only;

drop index ledger_lines_date;
create index ledger_lines_counts on ledger_lines (employer_id, counts_on, code);

delete from year_sums;
insert into year_sums (employer_id, person_id, tax_year, sums)
select employer_id, person_id, tax_year, jsonb_object_agg(code, amount)
from (select employer_id, person_id, tax_year, code, sum(amount) as amount from ledger_lines group by 1, 2, 3, 4) as summed group by 1, 2, 3;
`;
