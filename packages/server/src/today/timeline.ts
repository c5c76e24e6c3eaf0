import type { Timeline } from '@woodruff/contract';
import { addDays, extraPayDates, nextPeriod, payDatesInYear, periodOf, yearOf } from '@woodruff/core';
import { select } from '../database/connection';
import { schedulesOf } from '../employers/schedules-on-file';
import { invalid } from '../errors';
import { dueBetween } from '../filings/due';
import { holidaysOf, type Scope } from '../scope';

/** Periods, pay dates and due dates within a range, for the dateline. */
export async function timeline(scope: Scope, from: string, to: string): Promise<Timeline> {
  if (to < from || to > addDays(from, 800))
    throw invalid('The range of the dateline is at most two years.', [{ path: 'to', expected: 'a date within two years' }]);
  const holiday = holidaysOf(scope);
  const runs = await select<{ id: string; scheduleId: string; from: string; state: string }>(
    scope.database,
    `select id, schedule_id as "scheduleId", period_from as "from", state from pay_runs where employer_id = :employer and kind = 'regular' and state <> 'withdrawn'`,
    { employer: scope.employer.id },
  );
  const rows: Timeline['rows'] = [];
  for (const schedule of await schedulesOf(scope)) {
    const periods: Timeline['rows'][number]['periods'] = [];
    const counts = new Map<number, number>();
    for (let period = periodOf(schedule, from, holiday); period.from <= to; period = nextPeriod(schedule, period, holiday)) {
      const run = runs.find((candidate) => candidate.scheduleId === schedule.id && candidate.from === period.from);
      // A year with one pay date more than usual is flagged on its last one.
      const year = yearOf(period.payDate);
      const count = counts.get(year) ?? payDatesInYear(schedule, year, holiday);
      counts.set(year, count);
      const next = nextPeriod(schedule, period, holiday);
      const extra = extraPayDates(schedule, count) > 0 && yearOf(next.payDate) > yearOf(period.payDate);
      periods.push({ ...period, runId: run?.id ?? null, state: !run ? 'none' : run.state === 'approved' ? 'approved' : 'open', extra });
    }
    rows.push({ schedule: schedule.name, scheduleId: schedule.id, periods });
  }
  return {
    rows,
    due: (await dueBetween(scope, from, to)).map(({ done, ...entry }) => ({
      ...entry,
      overdue: !done && entry.date < scope.employer.today,
    })),
    holidays: (scope.employer.facts.holidays ?? []).filter(({ date }) => date >= from && date <= to),
  };
}
