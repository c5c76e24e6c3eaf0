import { addDays, addMonths, dateOf, daysBetween, monthOf, yearOf, type IsoDate } from '../../calendar/dates';

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

/**
 * The tax weeks or months that a payment's earnings period has (Social Security (Contributions) Regulations 2001, regulation 3):
 * counted from the beginning of the tax year.
 */
export function earningsPeriod(date: IsoDate, frequency: string): { from: IsoDate; to: IsoDate } {
  const start = yearStart(date);
  const weeks = { weekly: 1, fortnightly: 2, 'four-weekly': 4 }[frequency];
  if (weeks) {
    const from = addDays(start, Math.floor((taxWeek(date) - 1) / weeks) * weeks * 7);
    const last = addDays(addMonths(start, 12), -1);
    const to = addDays(from, weeks * 7 - 1);
    return { from, to: to < last ? to : last };
  }
  const months = { quarterly: 3, 'half-yearly': 6, yearly: 12 }[frequency] ?? 1;
  const from = addMonths(start, Math.floor((taxMonth(date) - 1) / months) * months);
  return { from, to: addDays(addMonths(from, months), -1) };
}

/** Tax week, 1 to 53, of a pay date. */
export const taxWeek = (date: IsoDate): number => Math.floor(daysBetween(yearStart(date), date) / 7) + 1;
