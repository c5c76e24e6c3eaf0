import { addMonths, dateOf, yearOf, type IsoDate } from '../calendar/dates';
import type { Source } from '../working/working';

/** When wages that nobody has claimed are reported and handed over, by the law of a place. */
export interface UnclaimedRule {
  /** After so many years from the day on which they were payable. */
  years: number;
  /** Counted until this day of the year, and reported by that one. */
  until: { month: number; day: number };
  report: { month: number; day: number };
  source: Source;
}

const onOrAfter = (date: IsoDate, { month, day }: { month: number; day: number }): IsoDate => {
  const own = dateOf(yearOf(date), month, day);
  return own >= date ? own : dateOf(yearOf(date) + 1, month, day);
};

/** From when a payment counts as unclaimed, and by when it is reported. */
export function unclaimedBy({ years, until, report }: UnclaimedRule, payable: IsoDate): { from: IsoDate; report: IsoDate } {
  const from = addMonths(payable, years * 12);
  return { from, report: onOrAfter(onOrAfter(from, until), report) };
}
