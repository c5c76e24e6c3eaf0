import { dateOf, daysBetween, monthOf, yearOf, type IsoDate } from '../../calendar/dates';

/** The 6 April on or before a date. */
export const yearStart = (date: IsoDate): IsoDate => {
  const here = dateOf(yearOf(date), 4, 6);
  return date >= here ? here : dateOf(yearOf(date) - 1, 4, 6);
};

/** As the trade writes it: "2026-27". */
export const taxYearLabel = (date: IsoDate): string => {
  const year = yearOf(yearStart(date));
  return `${year}-${String(year + 1).slice(2)}`;
};

/** Tax month, 1 to 12, of a pay date: month 1 runs from 6 April to 5 May. */
export function taxMonth(date: IsoDate): number {
  const months = (yearOf(date) - yearOf(yearStart(date))) * 12 + monthOf(date) - 4;
  return Number(date.slice(8)) >= 6 ? months + 1 : months;
}

/** Tax week, 1 to 53, of a pay date. */
export const taxWeek = (date: IsoDate): number => Math.floor(daysBetween(yearStart(date), date) / 7) + 1;
