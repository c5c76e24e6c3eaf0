import { packOf, payDatesInYear, yearOf, type PayItem, type PaySchedule } from '@woodruff/core';
import { select, type Transaction } from '../database/connection';
import type { Scope } from '../users/scope';
import type { PersonFacts, RunFacts } from './payslip-input';

interface RunRow {
  id: string;
  scheduleId: string;
  periodFrom: string;
  periodTo: string;
  payDate: string;
}

export async function loadRunFacts(scope: Scope, run: RunRow, transaction?: Transaction): Promise<RunFacts> {
  const [schedule] = await select<PaySchedule>(
    scope.database,
    'select frequency, anchor, pay_date_offset as "payDateOffset", move from pay_schedules where id = :id and employer_id = :employer',
    { id: run.scheduleId, employer: scope.employer.id },
    transaction,
  );
  if (!schedule) throw new Error(`run ${run.id} has no schedule`);
  const definitions = await select<{ definition: PayItem }>(
    scope.database,
    'select definition from pay_items where employer_id = :employer and not retired',
    { employer: scope.employer.id },
    transaction,
  );
  const items = definitions.map((row) => row.definition).sort((a, b) => a.order - b.order);
  const pack = packOf(scope.employer.country);
  return {
    country: scope.employer.country,
    pay: {
      date: run.payDate,
      from: run.periodFrom,
      to: run.periodTo,
      frequency: schedule.frequency,
      payDatesInYear: payDatesInYear(schedule, yearOf(run.payDate), (date) => pack.isHoliday(date)),
    },
    employer: scope.employer.facts.country,
    items: new Map(items.map((item) => [item.code, item])),
    hourItems: items.filter((item) => item.method.by === 'hours'),
    salaryItem: items.find((item) => item.method.by === 'salary'),
  };
}

/** Facts of the people behind payslips in one statement, so that the cost per person does not grow with people or past runs. */
export function loadPeopleFacts(
  scope: Scope,
  run: RunRow,
  payslipIds: readonly string[],
  transaction?: Transaction,
): Promise<PersonFacts[]> {
  const taxYear = packOf(scope.employer.country).taxYearOf(run.payDate).label;
  return select<PersonFacts>(
    scope.database,
    // Looked up person by person through indexes: linear whatever the planner believes about a table that has just been filled.
    `select y.id as "payslipId", p.id as "personId", p.given_name || ' ' || p.family_name as name, p.born, trim_scale(p.standard_hours)::text as "standardHours", y.edits,
            (select json_agg(json_build_object('id', r.series, 'label', r.label, 'per', r.per, 'amount', trim_scale(r.amount)::text, 'from', r.from_date, 'primary', r.is_primary) order by r.is_primary desc, r.series)
             from (select distinct on (series) * from pay_rates where person_id = p.id and from_date <= :periodTo order by series, from_date desc) r) as rates,
            (select t.facts from tax_details t where t.person_id = p.id and t.from_date <= :payDate order by t.from_date desc limit 1) as tax,
            (select json_agg(json_build_object('id', pi.id, 'code', i.code, 'amount', pi.amount::text, 'percent', trim_scale(pi.percent)::text, 'limits', pi.limits, 'orderFacts', pi.order_facts) order by i.code)
             from person_items pi join pay_items i on i.id = pi.item_id
             where pi.person_id = p.id and pi.from_date <= :payDate and (pi.to_date is null or pi.to_date >= :payDate) and not i.retired) as items,
            (select json_object_agg(b.code, json_build_object('year', b.year, 'inAll', b.in_all))
             from (select code, coalesce(sum(amount) filter (where tax_year = :taxYear), 0) as year, sum(amount) as in_all from balances where person_id = p.id group by code) b) as balances
     from payslips y join people p on p.id = y.person_id and p.employer_id = :employer
     where y.run_id = :run and y.id in (:payslipIds) order by p.family_name, p.given_name, p.code`,
    { run: run.id, payslipIds, employer: scope.employer.id, periodTo: run.periodTo, payDate: run.payDate, taxYear },
    transaction,
  );
}
