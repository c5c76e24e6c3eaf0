import type { CostByDay, ParsedQueryOf } from '@woodruff/contract';
import { addDays, daysBetween, decimalOf, Exact, isBusinessDay, shareOut } from '@woodruff/core';
import { select } from '../database/connection';
import { invalid } from '../errors';
import { csvOf } from '../files/write';
import type { Scope } from '../scope';
import type { Spread } from './places';

interface Cost {
  id: string;
  from: string;
  to: string;
  department: string;
  spread: Spread | null;
  cost: number;
  /** Hours of approved time by day and department, where time is kept. */
  days: { day: string; department: string; hours: string }[] | null;
}

/** At most so many days side by side. */
const DAYS = 62;

/**
 * What work cost by department and by the day on which it was done: a payslip's cost goes to the days of its time by their
 * hours, and without time to the weekdays of its period in equal parts. To the cent: the days of a payslip are its cost.
 */
export async function costByDay(scope: Scope, { from, to }: ParsedQueryOf<'costByDay'>): Promise<CostByDay> {
  if (to < from || daysBetween(from, to) >= DAYS)
    throw invalid(`Choose at most ${DAYS} days.`, [{ path: 'to', expected: `a day within ${DAYS} days of the first` }]);
  const rows = await select<Cost>(
    scope.database,
    `select y.id, r.period_from as "from", r.period_to as "to", coalesce(c.department, p.department) as department, c.spread, l.cost, t.days
     from pay_runs r join payslips y on y.run_id = r.id and y.state = 'posted' join people p on p.id = y.person_id left join payslip_places c on c.payslip_id = y.id
     cross join lateral (select coalesce(sum(amount), 0)::bigint as cost from ledger_lines where payslip_id = y.id and kind in ('earning', 'reimbursement', 'employer-tax', 'employer-contribution')) l
     left join lateral (select json_agg(json_build_object('day', on_date, 'department', department, 'hours', hours::text)) as days from (
       select e.on_date, coalesce(nullif(s.department, ''), p.department) as department, sum(e.hours) as hours from timesheets h join time_entries e on e.timesheet_id = h.id and e.hours > 0
       left join person_positions s on s.person_id = p.id and s.rate_series = e.rate and e.on_date >= s.from_date and (s.to_date is null or e.on_date <= s.to_date)
       where h.person_id = p.id and h.period_from = r.period_from and h.state = 'approved' group by 1, 2 order by 1, 2) d) t on true
     where r.employer_id = :employer and r.kind in ('regular', 'correction') and r.state = 'approved' and r.period_from <= :to and r.period_to >= :from`,
    { employer: scope.employer.id, from, to },
  );
  const cells = new Map<string, number>();
  for (const row of rows) {
    const parts = row.days ?? weekdaysOf(row);
    const shares = shareOut(
      Math.abs(row.cost),
      parts.map(({ hours }) => Exact.of(hours)),
    );
    for (const [index, { day, department }] of parts.entries()) {
      if (day < from || day > to) continue;
      const key = `${department}\n${day}`;
      cells.set(key, (cells.get(key) ?? 0) + Math.sign(row.cost) * (shares[index] ?? 0));
    }
  }
  const days = Array.from({ length: daysBetween(from, to) + 1 }, (_, index) => addDays(from, index));
  const departments = [...new Set([...cells.keys()].map((key) => key.split('\n')[0] ?? ''))].sort();
  return {
    from,
    to,
    days,
    departments: departments.map((department) => {
      const amounts = days.map((day) => cells.get(`${department}\n${day}`) ?? 0);
      return { department, amounts, total: amounts.reduce((sum, amount) => sum + amount, 0) };
    }),
  };
}

/** Weekdays of a period, by the departments that the cost is spread over. */
function weekdaysOf({ from, to, department, spread }: Cost): { day: string; department: string; hours: string }[] {
  const places = spread?.map(({ department: one, weight }) => ({ department: one, hours: weight })) ?? [{ department, hours: '1' }];
  const days = Array.from({ length: daysBetween(from, to) + 1 }, (_, index) => addDays(from, index)).filter((day) =>
    isBusinessDay(day, () => false),
  );
  return days.flatMap((day) => places.map((place) => ({ day, ...place })));
}

/** The same as CSV: a row for each department. */
export async function costFile(scope: Scope, query: ParsedQueryOf<'costByDay'>): Promise<Buffer> {
  const { days, departments } = await costByDay(scope, query);
  return Buffer.from(
    csvOf([
      ['department', ...days, 'total'],
      ...departments.map(({ department, amounts, total }) => [department, ...amounts.map(decimalOf), decimalOf(total)]),
    ]),
  );
}
