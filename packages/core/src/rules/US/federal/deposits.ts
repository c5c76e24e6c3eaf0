import { addDays, addMonths, dateOf, lastOfMonth, monthOf, quarterOf, weekday, yearOf, type IsoDate } from '../../../calendar/dates';
import { isBusinessDay } from '../../../calendar/schedules';
import type { DuePayment, Liability } from '../../../filings/owed';
import type { Minor } from '../../../money/amounts';
import { isLegalHoliday, nextBusinessDay as next } from '../holidays';

export type Depositor = 'monthly' | 'semiweekly';

/** A liability of so much within one deposit period is due the next business day (26 CFR 31.6302-1(c)(3)). */
const NEXT_DAY: Minor = 10_000_000;

/**
 * Deposits by the depositor's schedule (26 CFR 31.6302-1): monthly by the 15th; semi-weekly three business days after the
 * period closes. What reaches 100,000 in a period is due the next day, and makes a monthly depositor a semi-weekly one for
 * the rest of the year and the next. Liabilities of two quarters in one period are two deposits.
 */
export function federalDeposits(liabilities: readonly Liability[], depositor: Depositor): DuePayment[] {
  const made: DuePayment[] = [];
  // Of the open period: what has been added to it, by quarter.
  let open: { ends: IsoDate; due: IsoDate; byQuarter: Map<string, Minor>; last: IsoDate } | undefined;
  let semiweeklyUntil = depositor === 'semiweekly' ? 9999 : 0;
  const close = (date: IsoDate, what: string) => {
    for (const amount of open?.byQuarter.values() ?? []) if (open && amount !== 0) made.push({ date, what, amount, upTo: open.last });
    open = undefined;
  };
  for (const { payDate, amount } of [...liabilities].sort((a, b) => (a.payDate < b.payDate ? -1 : 1))) {
    if (open && payDate > open.ends) close(open.due, 'Federal deposit');
    open ??= { ...periodOf(payDate, yearOf(payDate) <= semiweeklyUntil), byQuarter: new Map(), last: payDate };
    open.last = payDate;
    const quarter = `${yearOf(payDate)} ${quarterOf(payDate)}`;
    open.byQuarter.set(quarter, (open.byQuarter.get(quarter) ?? 0) + amount);
    const accumulated = [...open.byQuarter.values()].reduce((sum, one) => sum + one, 0);
    if (accumulated < NEXT_DAY) continue;
    close(next(addDays(payDate, 1)), 'Federal deposit, next day');
    semiweeklyUntil = Math.max(semiweeklyUntil, yearOf(payDate) + 1);
  }
  if (open) close(open.due, 'Federal deposit');
  return made;
}

/** The deposit period of a pay date, with the day on which its deposit is due. */
function periodOf(payDate: IsoDate, semiweekly: boolean): { ends: IsoDate; due: IsoDate } {
  if (!semiweekly) {
    const after = addMonths(payDate, 1);
    return { ends: lastOfMonth(yearOf(payDate), monthOf(payDate)), due: next(dateOf(yearOf(after), monthOf(after), 15)) };
  }
  // Wednesday to Friday, and Saturday to Tuesday.
  const day = weekday(payDate);
  const last = day >= 3 && day <= 5 ? 5 : 2;
  const ends = addDays(payDate, (last - day + 7) % 7);
  let due = ends;
  for (let count = 0; count < 3;) {
    due = addDays(due, 1);
    if (isBusinessDay(due, isLegalHoliday)) count++;
  }
  return { ends, due };
}
