import { addDays, addMonths, dateOf, lastOfMonth, monthOf, quarterOf, weekday, yearOf, type IsoDate } from '../../../calendar/dates';
import { isBusinessDay, movedToBusinessDay } from '../../../calendar/schedules';
import type { Due } from '../../../filings/filings';
import type { Minor } from '../../../money/amounts';
import { isLegalHoliday } from '../holidays';

const next = (date: IsoDate): IsoDate => movedToBusinessDay(date, 'next', isLegalHoliday);

/** The return of a quarter is due at the end of the month after it; dates that are no business days move to the next one (26 U.S.C. 7503). */
export const returnDue = (year: number, quarter: number): IsoDate =>
  next(quarter === 4 ? lastOfMonth(year + 1, 1) : lastOfMonth(year, quarter * 3 + 1));

/**
 * What is due within a range of dates: federal deposits of the liabilities given, quarterly returns and wage statements.
 * @param liabilities by pay date; for a monthly depositor those of this year and the last, for what happened in them counts
 */
export function dueDates(
  from: IsoDate,
  to: IsoDate,
  liabilities: readonly { payDate: IsoDate; amount: Minor }[],
  depositor: 'monthly' | 'semiweekly',
): Due[] {
  const due: Due[] = deposits(liabilities, depositor);
  for (let year = yearOf(from) - 1; year <= yearOf(to); year++) {
    for (let quarter = 1; quarter <= 4; quarter++)
      due.push({ kind: 'return', date: returnDue(year, quarter), what: `Form 941, quarter ${quarter} of ${year}`, year, quarter });
    due.push({ kind: 'statements', date: next(dateOf(year + 1, 1, 31)), what: `Forms W-2 for ${year}`, year });
  }
  return due.filter((entry) => entry.date >= from && entry.date <= to).sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0));
}

/** A liability of so much within one deposit period is due the next business day (26 CFR 31.6302-1(c)(3)). */
const NEXT_DAY: Minor = 10_000_000;

/**
 * Deposits by the depositor's schedule (26 CFR 31.6302-1): monthly by the 15th; semi-weekly three business days after the
 * period closes. What reaches 100,000 in a period is due the next day, and makes a monthly depositor a semi-weekly one for
 * the rest of the year and the next. Liabilities of two quarters in one period are two deposits.
 */
function deposits(liabilities: readonly { payDate: IsoDate; amount: Minor }[], depositor: 'monthly' | 'semiweekly'): Due[] {
  const made: Due[] = [];
  // Of the open period: what has been added to it, by quarter.
  let open: { ends: IsoDate; due: IsoDate; byQuarter: Map<string, Minor> } | undefined;
  let semiweeklyUntil = depositor === 'semiweekly' ? 9999 : 0;
  const close = (date: IsoDate, what: string) => {
    for (const amount of open?.byQuarter.values() ?? []) if (amount !== 0) made.push({ kind: 'deposit', date, what, amount });
    open = undefined;
  };
  for (const { payDate, amount } of [...liabilities].sort((a, b) => (a.payDate < b.payDate ? -1 : 1))) {
    if (open && payDate > open.ends) close(open.due, 'Federal deposit');
    open ??= { ...periodOf(payDate, yearOf(payDate) <= semiweeklyUntil), byQuarter: new Map() };
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
  for (let count = 0; count < 3; ) {
    due = addDays(due, 1);
    if (isBusinessDay(due, isLegalHoliday)) count++;
  }
  return { ends, due };
}
