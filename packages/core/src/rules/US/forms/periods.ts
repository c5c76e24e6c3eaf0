import { dateOf, lastOfMonth } from '../../../calendar/dates';
import type { FilingPeriod } from '../../../filings/filing';
import { nextBusinessDay } from '../holidays';

/** The calendar year, due by the end of January. */
export const calendarYear = (year: number): FilingPeriod[] => [
  {
    key: String(year),
    label: String(year),
    from: dateOf(year, 1, 1),
    to: dateOf(year, 12, 31),
    due: nextBusinessDay(dateOf(year + 1, 1, 31)),
    taxYear: String(year),
  },
];

/** Its quarters, each due at the end of the month after it. */
export const quarters = (year: number): FilingPeriod[] =>
  [1, 2, 3, 4].map((quarter) => ({
    key: `${year}-Q${quarter}`,
    label: `quarter ${quarter} of ${year}`,
    from: dateOf(year, quarter * 3 - 2, 1),
    to: lastOfMonth(year, quarter * 3),
    due: nextBusinessDay(quarter === 4 ? lastOfMonth(year + 1, 1) : lastOfMonth(year, quarter * 3 + 1)),
    taxYear: String(year),
  }));
