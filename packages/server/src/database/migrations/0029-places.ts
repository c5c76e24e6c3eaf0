/**
 * Lines of states and localities say what they are and whose: one code for the tax, the place after `@`. What was posted
 * keeps its amounts and gets the names of today; figures of stored payslips are found by them.
 */
export const places = `
alter table ledger_lines disable trigger ledger_is_append_only;
alter table payslip_results disable trigger posted_results_stay_on_update;
alter table payslips disable trigger posted_payslips_stay;

create function at_its_place(what text, state text, local text, work_local text) returns text language sql immutable as $$
  select replace(replace(replace(replace(replace(replace(replace(replace(replace(replace(
    replace(replace(replace(replace(replace(replace(replace(replace(replace(what,
    'us.pa.income.taxed', 'us.state-income.wages@US-PA'), 'us.va.income.taxed', 'us.state-income.wages@US-VA'),
    'us.pa.income.wages', 'us.state-income.pay@US-PA'), 'us.va.income.wages', 'us.state-income.pay@US-VA'),
    'us.pa.uc.wages', 'us.unemployment.employee.pay@US-PA'), 'us.pa.uc.employee', 'us.unemployment.employee@US-PA'),
    'us.pa.local.taxed', 'us.local-income.wages@US-PA' || local), 'us.pa.local.wages', 'us.local-income.pay@US-PA'),
    'us.pa.services', 'us.local-services@US-PA' || work_local),
    'us.pa.suta.wages', 'us.unemployment.wages@US-PA'), 'us.va.suta.wages', 'us.unemployment.wages@US-VA'), 'us.tx.suta.wages', 'us.unemployment.wages@US-TX'),
    'us.pa.suta', 'us.unemployment@US-PA'), 'us.va.suta', 'us.unemployment@US-VA'), 'us.tx.suta', 'us.unemployment@US-TX'),
    'us.suta.pay', 'us.unemployment.pay@US-' || state),
    'us.pa.income', 'us.state-income@US-PA'), 'us.va.income', 'us.state-income@US-VA'), 'us.pa.local', 'us.local-income@US-PA' || local)
$$;

-- Where the work of each payslip was done, as its own facts say.
create temporary table places_of_payslips as
select y.id, coalesce(t.facts->>'workState', d.facts->>'workState', 'PA') as state,
       coalesce('/' || case when t.home is null or t.home_rate < t.work_rate then t.work else t.home end, '') as local,
       coalesce('/' || t.work, '') as work_local
from payslips y
left join payslip_results x on x.payslip_id = coalesce(y.reverses, y.id)
left join lateral (
  select f.facts, f.home, f.work, coalesce((f.places->f.home->>'residentRate')::numeric, 0) as home_rate, coalesce((f.places->f.work->>'nonresidentRate')::numeric, 0) as work_rate
  from (select x.input::jsonb->'tax' as facts, x.input::jsonb->'employer'->'localities' as places,
               case when x.input::jsonb->'tax'->>'residentState' = 'PA' then x.input::jsonb->'tax'->>'residentLocality' end as home,
               x.input::jsonb->'tax'->>'workLocality' as work) f) t on true
left join lateral (select facts from tax_details d where d.person_id = y.person_id order by d.from_date limit 1) d on true;
create index on places_of_payslips (id);

update ledger_lines l set code = at_its_place(l.code, p.state, p.local, p.work_local)
from places_of_payslips p where p.id = l.payslip_id and (l.code like 'us.pa.%' or l.code like 'us.va.%' or l.code like 'us.tx.%' or l.code = 'us.suta.pay');
update payslip_results x set lines = at_its_place(x.lines::text, p.state, p.local, p.work_local)::jsonb, input = at_its_place(x.input::text, p.state, p.local, p.work_local)::json,
       summary = at_its_place(x.summary::text, p.state, p.local, p.work_local)::jsonb, problems = at_its_place(x.problems::text, p.state, p.local, p.work_local)::jsonb
from places_of_payslips p where p.id = x.payslip_id;
update payslips y set edits = at_its_place(y.edits::text, p.state, p.local, p.work_local)::jsonb from places_of_payslips p where p.id = y.id and y.edits::text like '%us.%';
update standing_taxes s set tax = at_its_place(s.tax, coalesce(d.state, 'PA'), coalesce('/' || d.local, ''), coalesce('/' || d.work, ''))
from (select distinct on (person_id) person_id, facts->>'workState' as state, coalesce(facts->>'residentLocality', facts->>'workLocality') as local, facts->>'workLocality' as work
      from tax_details order by person_id, from_date desc) d where d.person_id = s.person_id;
update pay_items set definition = at_its_place(definition::text, 'PA', '', '')::jsonb where definition ? 'countsInstead';
drop table places_of_payslips;
drop function at_its_place(text, text, text, text);

alter table ledger_lines enable trigger ledger_is_append_only;
alter table payslip_results enable trigger posted_results_stay_on_update;
alter table payslips enable trigger posted_payslips_stay;

-- The place stands beside the code, for what is owed to each.
alter table ledger_lines add column place text not null generated always as (split_part(code, '@', 2)) stored;

delete from year_sums;
insert into year_sums (employer_id, person_id, tax_year, sums)
select employer_id, person_id, tax_year, jsonb_object_agg(code, amount)
from (select employer_id, person_id, tax_year, code, sum(amount) as amount from ledger_lines group by 1, 2, 3, 4) as summed group by 1, 2, 3;
`;
