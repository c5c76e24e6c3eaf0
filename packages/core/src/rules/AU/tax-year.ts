import { dateOf, monthOf, yearOf, type IsoDate } from '../../calendar/dates';

/** The 1 July on or before a date. */
export const yearStart = (date: IsoDate): IsoDate => dateOf(monthOf(date) >= 7 ? yearOf(date) : yearOf(date) - 1, 7, 1);
export const yearEnd = (date: IsoDate): IsoDate => dateOf(yearOf(yearStart(date)) + 1, 6, 30);

/** As the trade writes it: "2026-27". */
export const taxYearLabel = (date: IsoDate): string => {
  const year = yearOf(yearStart(date));
  return `${year}-${String(year + 1).slice(2)}`;
};

/** Super is due with each pay day from this day on (Payday Superannuation Act 2025). */
export const PAYDAY_SUPER = '2026-07-01';
