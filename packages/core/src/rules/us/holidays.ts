import { addDays, dateOf, lastOfMonth, weekday, yearOf, type IsoDate } from '../../calendar/dates';

const known = new Map<number, ReadonlySet<IsoDate>>();

/** Federal holidays as observed by banks (5 U.S.C. 6103; a Sunday's holiday is kept on Monday, 12 CFR practice of the Reserve Banks). */
export function isFederalHoliday(date: IsoDate): boolean {
  const year = yearOf(date);
  let days = known.get(year);
  if (!days) known.set(year, (days = holidaysOf(year)));
  return days.has(date);
}

function holidaysOf(year: number): ReadonlySet<IsoDate> {
  const fixed = [dateOf(year, 1, 1), dateOf(year, 6, 19), dateOf(year, 7, 4), dateOf(year, 11, 11), dateOf(year, 12, 25)];
  return new Set([
    ...fixed.map((date) => (weekday(date) === 0 ? addDays(date, 1) : date)),
    nth(year, 1, 1, 3),
    nth(year, 2, 1, 3),
    lastMonday(year, 5),
    nth(year, 9, 1, 1),
    nth(year, 10, 1, 2),
    nth(year, 11, 4, 4),
  ]);
}

function nth(year: number, month: number, day: number, count: number): IsoDate {
  const first = dateOf(year, month, 1);
  return addDays(first, ((day - weekday(first) + 7) % 7) + (count - 1) * 7);
}

function lastMonday(year: number, month: number): IsoDate {
  const last = lastOfMonth(year, month);
  return addDays(last, -((weekday(last) + 6) % 7));
}
