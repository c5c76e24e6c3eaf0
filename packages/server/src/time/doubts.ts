import {
  daysWithoutTime,
  Exact,
  isBusinessDay,
  periodOf,
  readPunches,
  writtenDay,
  type LeavePlan,
  type PayPeriod,
  type Punch,
  type TimeEntry,
} from '@woodruff/core';
import type { TimeLine } from '@woodruff/contract';
import { FROM_CLOCK, punchesOf } from '../clock/punches';
import { select, type Transaction } from '../database/connection';
import { termsOn } from '../payslip-input/leave-terms';
import { holidaysOf, type Scope } from '../scope';
import { isExpected } from './expected';
import { sheetsOf, type Sheet } from './sheets';
import { schedulesOf } from '../employers/schedules-on-file';

/** A day of more hours than this is asked about. */
const LONG_DAY = 14;
/** As many missing days are named; more are counted. */
const NAMED = 5;

const dayOf = (date: string): string => writtenDay(date).slice(0, -5);

/** Days of a sheet as time: what it says itself, and approved leave where it says nothing of it. */
export function daysOf(
  sheet: Sheet,
  plans: ReadonlyMap<string, LeavePlan>,
): { entries: TimeEntry[]; away: { date: string; hours: string; plan: string }[] } {
  const worked = (sheet.lines ?? []).map(entryOf);
  const leave = (sheet.leave ?? []).flatMap(({ date, hours, plan }) => {
    const of = plans.get(plan);
    return of ? [{ date, hours, plan: of.name, item: of.item }] : [];
  });
  return {
    entries: [
      ...worked,
      ...leave.flatMap(({ date, hours, plan, item }) =>
        item && !worked.some((entry) => entry.date === date && entry.item === item)
          ? [{ date, hours, item, label: `${plan}, approved` }]
          : [],
      ),
    ],
    away: leave.map(({ item: _item, ...day }) => day),
  };
}

/** What is missing or doubtful in a sheet that was handed in: workdays without time, very long days, punches without their other half. */
export function doubtsOf(
  scope: Scope,
  sheet: Sheet,
  period: Pick<PayPeriod, 'from' | 'to'>,
  plans: ReadonlyMap<string, LeavePlan>,
  punches: readonly Punch[],
): string[] {
  const lines = sheet.lines ?? [];
  const doubts: string[] = [];
  if (lines.length && isExpected(scope, sheet.standardHours)) {
    const { entries, away } = daysOf(sheet, plans);
    const holiday = holidaysOf(scope, sheet.worksite);
    const workday = (date: string) => isBusinessDay(date, holiday) && !away.some((day) => day.date === date);
    const missing = daysWithoutTime(entries, period, workday);
    if (missing.length > NAMED) doubts.push(`Nothing on ${missing.length} workdays`);
    else if (missing.length) doubts.push(`Nothing on ${missing.map(dayOf).join(', ')}`);
  }
  for (const date of new Set(lines.map((line) => line.date))) {
    const sum = lines.filter((line) => line.date === date).reduce((all, line) => all.plus(Exact.of(line.hours)), Exact.whole(0));
    if (sum.isAbove(Exact.whole(LONG_DAY))) doubts.push(`${dayOf(date)} has ${sum.toDecimal(2)} hours`);
  }
  for (const { at, kind } of readPunches(punches).open) {
    const date = at.slice(0, 10);
    // A day that was fixed by hand is settled.
    if (date < period.from || date > period.to || lines.some((line) => line.date === date && line.place !== FROM_CLOCK)) continue;
    doubts.push(`${kind === 'in' ? 'No end' : 'No begin'} on ${dayOf(date)}: ${kind} at ${at.slice(11)}`);
  }
  return doubts;
}

/** Approved sheets of a regular run's period with something left that is missing or doubtful. */
export async function approvedWithDoubts(
  scope: Scope,
  run: { scheduleId: string; periodFrom: string; periodTo: string },
  transaction?: Transaction,
): Promise<{ personId: string; version: number; doubts: string[] }[]> {
  const [any] = await select<{ id: string }>(
    scope.database,
    `select id from timesheets where employer_id = :employer and period_from = :from and state = 'approved' limit 1`,
    { employer: scope.employer.id, from: run.periodFrom },
    transaction,
  );
  const schedule = any && (await schedulesOf(scope)).find((one) => one.id === run.scheduleId);
  if (!schedule) return [];
  const period = periodOf(schedule, run.periodFrom, holidaysOf(scope));
  const sheets = (await sheetsOf(scope, schedule, period, null, transaction)).filter((sheet) => sheet.state === 'approved');
  const plans = await termsOn(scope, period.to, transaction);
  const punches = await punchesOf(scope, period, transaction);
  return sheets.flatMap((sheet) => {
    const doubts = doubtsOf(scope, sheet, period, plans, punches.get(sheet.personId) ?? []);
    return doubts.length ? [{ personId: sheet.personId, version: sheet.version ?? 0, doubts }] : [];
  });
}

const entryOf = (line: TimeLine & { hours: string }): TimeEntry => ({
  date: line.date,
  hours: line.hours,
  ...(line.rate ? { rate: line.rate } : {}),
  ...(line.item ? { item: line.item } : {}),
  ...(line.quantity ? { quantity: line.quantity } : {}),
  ...(line.begins && line.ends ? { from: line.begins, to: line.ends } : {}),
  ...(line.place ? { label: line.place } : {}),
});
