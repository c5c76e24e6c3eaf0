import { addDays, addMonths, dateOf, lastOfMonth, monthOf, weekday, yearOf, type IsoDate } from '../../../calendar/dates';
import { movedToBusinessDay } from '../../../calendar/schedules';
import type { Due } from '../../../filings/filings';
import type { Minor } from '../../../money/amounts';
import { isFederalHoliday } from '../holidays';

/**
 * What is due within a range of dates: federal deposits of the liabilities given (26 CFR 31.6302-1),
 * quarterly returns and wage statements. Dates that are no business days move to the next one (26 U.S.C. 7503).
 */
export function dueDates(
  from: IsoDate,
  to: IsoDate,
  liabilities: readonly { payDate: IsoDate; amount: Minor }[],
  depositor: 'monthly' | 'semiweekly',
): Due[] {
  const next = (date: IsoDate) => movedToBusinessDay(date, 'next', isFederalHoliday);
  const due = new Map<string, Due>();
  for (const { payDate, amount } of liabilities) {
    const date = next(
      depositor === 'monthly' ? dateOf(yearOf(addMonths(payDate, 1)), monthOf(addMonths(payDate, 1)), 15) : semiweekly(payDate),
    );
    const key = `deposit ${date}`;
    const known = due.get(key);
    due.set(key, { kind: 'deposit', date, what: 'Federal deposit', amount: (known?.amount ?? 0) + amount });
  }
  for (let year = yearOf(from) - 1; year <= yearOf(to); year++) {
    for (let quarter = 1; quarter <= 4; quarter++) {
      const month = quarter * 3 + 1;
      const date = next(month > 12 ? lastOfMonth(year + 1, 1) : lastOfMonth(year, month));
      due.set(`941 ${year} ${quarter}`, { kind: 'return', date, what: `Form 941, quarter ${quarter} of ${year}`, year, quarter });
    }
    due.set(`W-2 ${year}`, { kind: 'statements', date: next(dateOf(year + 1, 1, 31)), what: `Forms W-2 for ${year}`, year });
  }
  return [...due.values()].filter((entry) => entry.date >= from && entry.date <= to).sort((a, b) => (a.date < b.date ? -1 : 1));
}

/** Paid Wednesday to Friday: the next Wednesday. Paid Saturday to Tuesday: the next Friday. */
function semiweekly(payDate: IsoDate): IsoDate {
  const day = weekday(payDate);
  const target = day >= 3 && day <= 5 ? 3 : 5;
  return addDays(payDate, (target - day + 7) % 7 || 7);
}
