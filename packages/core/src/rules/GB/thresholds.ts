import { Exact } from '../../money/exact';
import { round } from '../../money/roundings';
import { daysBetween, type IsoDate } from '../../calendar/dates';
import type { TaxContext } from '../country-pack';
import type { Parameter } from '../parameters';
import type { UkTax } from './facts';
import { progressOf } from './progress';
import { tables } from './tables';
import { taxWeek, yearStart } from './tax-year';

export type Threshold = 'lower' | 'primary' | 'secondary' | 'upper' | 'special';

/** The year's figure for so many of its parts, rounded up to a pound (CWG2, 1.8; CA44, 11). */
function partOfYear(name: Threshold, date: IsoDate, parts: number, ofYear: number): Parameter {
  const yearly = tables.value(`gb.ni.${name}.annual`, date);
  return { ...yearly, value: round(yearly.value.times(Exact.whole(parts)).over(Exact.whole(ofYear)), 'up', 0) };
}

/** A threshold of the earnings period that one payslip pays. */
export function ofPeriod(context: Pick<TaxContext, 'input'>, name: Threshold): Parameter {
  const { date } = context.input.pay;
  const { ofYear, paid, times } = progressOf(context);
  // Of weeks that are paid ahead each has its own.
  if (times > 1) {
    const one = tables.value(`gb.ni.${name}.weekly`, date);
    return { ...one, value: one.value.times(Exact.whole(paid)) };
  }
  if (paid === 1) return tables.value(`gb.ni.${name}.${ofYear === 12 ? 'monthly' : 'weekly'}`, date);
  if (paid === ofYear) return tables.value(`gb.ni.${name}.annual`, date);
  return partOfYear(name, date, paid, ofYear);
}

/** A threshold of a director's year; of who was appointed within it, for the weeks from the appointment's on. */
export function ofDirectorsYear({ input, tax }: TaxContext<UkTax>, name: Threshold): Parameter {
  const { date } = input.pay;
  const since = tax.directorSince;
  if (since <= yearStart(date) || daysBetween(since, date) < 0) return tables.value(`gb.ni.${name}.annual`, date);
  return partOfYear(name, date, Math.max(1, 53 - taxWeek(since)), 52);
}
