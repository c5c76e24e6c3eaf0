import { monthOf, MONTHS } from '../calendar/dates';
import type { PayFacts } from '../payslip/input';
import { CannotCompute } from '../rules/country-pack';
import type { PayItem, When } from './pay-item';

const ORDINALS = ['', 'first', 'second', 'third', 'fourth', 'fifth', 'sixth'];
const ordinal = (place: number): string => ORDINALS[place] ?? `${place}th`;
const listed = (words: string[]): string => (words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`);

/** In words, when an item stands on a payslip. */
export function writtenWhen(when: When | undefined): string {
  const parts: string[] = [];
  if (when?.every) parts.push(`every ${ordinal(when.every.pays)} pay date of the year, from the ${ordinal(when.every.first)} on`);
  if (when?.paysOfMonth)
    parts.push(`on the ${listed(when.paysOfMonth.map((pay) => (pay === 'last' ? 'last' : ordinal(pay))))} pay date of the month`);
  if (when?.months) parts.push(`in ${listed(when.months.map((month) => MONTHS[month - 1] ?? ''))}`);
  if (when?.regularRunsOnly) parts.push('in regular runs only');
  return parts.length ? parts.join(', ') : 'on every payslip';
}

/**
 * Why an item does not stand on a payslip, or nothing when it does.
 * @throws CannotCompute `place-unknown` when the item needs the pay date's place in month and year, and the input does not give it
 */
export function notDueWhy(item: PayItem, when: When, pay: PayFacts): string | undefined {
  const only = `Only ${writtenWhen(when)}`;
  if (when.regularRunsOnly && pay.special) return `${only}; this is a special run`;
  if (when.months && !when.months.includes(monthOf(pay.date))) return only;
  if (!when.paysOfMonth && !when.every) return undefined;
  if (!pay.place)
    throw new CannotCompute('place-unknown', `${item.name} is not on every payslip: the pay date's place in its month and year is needed.`);
  const { inMonth, ofMonth, inYear } = pay.place;
  if (when.paysOfMonth && !when.paysOfMonth.some((wanted) => (wanted === 'last' ? inMonth === ofMonth : wanted === inMonth)))
    return `${only}; this is the ${ordinal(inMonth)}${inMonth === ofMonth ? ' and last' : ''}`;
  if (when.every && (inYear < when.every.first || (inYear - when.every.first) % when.every.pays !== 0))
    return `${only}; this is the ${ordinal(inYear)}`;
  return undefined;
}
