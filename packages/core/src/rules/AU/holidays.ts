import { addDays, dateOf, weekday, yearOf, type IsoDate } from '../../calendar/dates';
import { easterOf } from '../../calendar/easter';

const known = new Map<string, ReadonlySet<IsoDate>>();

/**
 * Public holidays of a state or territory by its public holidays act; of the whole country those on which the banks' clearing
 * rests: the days that all states keep. Regional days, and those proclaimed once, are the employer's to enter.
 */
export function isPublicHoliday(date: IsoDate, place = ''): boolean {
  const state = place.replace(/^AU-/, '').split('/')[0] ?? '';
  const key = `${state} ${yearOf(date)}`;
  let days = known.get(key);
  if (!days) known.set(key, (days = new Set(holidaysOf(yearOf(date), state))));
  return days.has(date);
}

function holidaysOf(year: number, state: string): IsoDate[] {
  const easter = easterOf(year);
  const [christmas, boxing, newYear] = [dateOf(year, 12, 25), dateOf(year, 12, 26), dateOf(year, 1, 1)];
  const national = [
    ...(isWeekend(newYear) ? [newYear, nextMonday(newYear)] : [newYear]),
    nextWeekday(dateOf(year, 1, 26)),
    addDays(easter, -2),
    addDays(easter, 1),
    dateOf(year, 4, 25),
    christmas,
    ...(weekday(christmas) === 6 ? [addDays(christmas, 2)] : weekday(christmas) === 0 ? [addDays(christmas, 2)] : []),
    boxing,
    ...(weekday(boxing) === 6 ? [addDays(boxing, 2)] : weekday(boxing) === 0 ? [addDays(boxing, 2)] : []),
  ];
  return [...national, ...(OF_STATE[state]?.(year, easter) ?? [])];
}

/** What each keeps beside the days of all. */
const OF_STATE: Readonly<Record<string, (year: number, easter: IsoDate) => IsoDate[]>> = {
  ACT: (year, easter) => [
    ...easterDays(easter),
    nth(year, 3, 1, 2),
    onOrAfterMonday(dateOf(year, 5, 27)),
    ...anzacOnSunday(year),
    nth(year, 6, 1, 2),
    nth(year, 10, 1, 1),
  ],
  NSW: (year, easter) => [...easterDays(easter), nth(year, 6, 1, 2), nth(year, 10, 1, 1), ...anzacOnWeekend(year)],
  NT: (year, easter) => [addDays(easter, -1), nth(year, 5, 1, 1), nth(year, 6, 1, 2), nth(year, 8, 1, 1)],
  QLD: (year, easter) => [...easterDays(easter), nth(year, 5, 1, 1), nth(year, 10, 1, 1), ...anzacOnSunday(year)],
  SA: (year, easter) => [...easterDays(easter), nth(year, 3, 1, 2), nth(year, 6, 1, 2), nth(year, 10, 1, 1), ...anzacOnSunday(year)],
  TAS: (year) => [nth(year, 3, 1, 2), nth(year, 6, 1, 2)],
  VIC: (year, easter) => [
    ...easterDays(easter),
    nth(year, 3, 1, 2),
    nth(year, 6, 1, 2),
    ...proclaimed(GRAND_FINAL_EVES, year),
    nth(year, 11, 2, 1),
  ],
  WA: (year, easter) => [easter, nth(year, 3, 1, 1), nth(year, 6, 1, 1), ...proclaimed(KINGS_BIRTHDAYS, year), ...anzacOnWeekend(year)],
};

const easterDays = (easter: IsoDate): IsoDate[] => [addDays(easter, -1), easter];
const anzacOnSunday = (year: number): IsoDate[] => (weekday(dateOf(year, 4, 25)) === 0 ? [dateOf(year, 4, 26)] : []);
/** A further day where it falls on a weekend. */
const anzacOnWeekend = (year: number): IsoDate[] => (isWeekend(dateOf(year, 4, 25)) ? [nextMonday(dateOf(year, 4, 25))] : []);
/** Proclaimed each year; known are these. */
const GRAND_FINAL_EVES: Readonly<Record<number, IsoDate>> = { 2025: '2025-09-26', 2026: '2026-09-25' };
const KINGS_BIRTHDAYS: Readonly<Record<number, IsoDate>> = { 2025: '2025-09-29', 2026: '2026-09-28' };
const proclaimed = (days: Readonly<Record<number, IsoDate>>, year: number): IsoDate[] => (days[year] ? [days[year]] : []);

const isWeekend = (date: IsoDate): boolean => weekday(date) === 0 || weekday(date) === 6;
const nextMonday = (date: IsoDate): IsoDate => addDays(date, (8 - weekday(date)) % 7 || 7);
const nextWeekday = (date: IsoDate): IsoDate => (isWeekend(date) ? nextMonday(date) : date);
const onOrAfterMonday = (date: IsoDate): IsoDate => (weekday(date) === 1 ? date : nextMonday(date));
/** The so-many-th weekday of a month. */
const nth = (year: number, month: number, day: number, which: number): IsoDate => {
  const first = dateOf(year, month, 1);
  return addDays(first, ((day - weekday(first) + 7) % 7) + (which - 1) * 7);
};
