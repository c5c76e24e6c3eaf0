import { addDays, dateOf, lastOfMonth, weekday, yearOf, type IsoDate } from '../../calendar/dates';
import { movedToBusinessDay } from '../../calendar/schedules';

const known = new Map<number, ReadonlySet<IsoDate>>();
const legal = new Map<number, ReadonlySet<IsoDate>>();

/** Federal holidays as observed by banks (5 U.S.C. 6103; a Sunday's holiday is kept on Monday, 12 CFR practice of the Reserve Banks). */
export function isFederalHoliday(date: IsoDate): boolean {
  const year = yearOf(date);
  let days = known.get(year);
  if (!days) known.set(year, (days = holidaysOf(year)));
  return days.has(date);
}

/**
 * Legal holidays of the District of Columbia, by which dates for deposits and returns move (26 U.S.C. 7503; D.C. Code
 * 28-2701): a Saturday's is kept on Friday, a Sunday's on Monday; Emancipation Day and Inauguration Day among them.
 */
export function isLegalHoliday(date: IsoDate): boolean {
  const year = yearOf(date);
  let days = legal.get(year);
  if (!days) legal.set(year, (days = legalHolidaysOf(year)));
  return days.has(date);
}

/** The day itself, or the next that is neither a weekend nor a legal holiday (26 U.S.C. 7503). */
export const nextBusinessDay = (date: IsoDate): IsoDate => movedToBusinessDay(date, 'next', isLegalHoliday);

const kept = (date: IsoDate): IsoDate => addDays(date, weekday(date) === 6 ? -1 : weekday(date) === 0 ? 1 : 0);

function legalHolidaysOf(year: number): ReadonlySet<IsoDate> {
  const inauguration = year % 4 === 1 ? [dateOf(year, 1, 20)] : [];
  // New Year's Day of the next year may be kept on the last day of this one.
  const fixed = [...fixedOf(year), dateOf(year, 4, 16), ...inauguration, dateOf(year + 1, 1, 1)];
  return new Set([...fixed.map(kept), ...movableOf(year)]);
}

const fixedOf = (year: number): IsoDate[] => [
  dateOf(year, 1, 1),
  dateOf(year, 6, 19),
  dateOf(year, 7, 4),
  dateOf(year, 11, 11),
  dateOf(year, 12, 25),
];

const holidaysOf = (year: number): ReadonlySet<IsoDate> =>
  new Set([...fixedOf(year).map((date) => (weekday(date) === 0 ? addDays(date, 1) : date)), ...movableOf(year)]);

function movableOf(year: number): IsoDate[] {
  return [nth(year, 1, 1, 3), nth(year, 2, 1, 3), lastMonday(year, 5), nth(year, 9, 1, 1), nth(year, 10, 1, 2), nth(year, 11, 4, 4)];
}

function nth(year: number, month: number, day: number, count: number): IsoDate {
  const first = dateOf(year, month, 1);
  return addDays(first, ((day - weekday(first) + 7) % 7) + (count - 1) * 7);
}

function lastMonday(year: number, month: number): IsoDate {
  const last = lastOfMonth(year, month);
  return addDays(last, -((weekday(last) + 6) % 7));
}
