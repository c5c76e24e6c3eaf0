import type { Frequency } from '../../calendar/schedules';
import { Exact, ZERO } from '../../money/exact';
import type { Figure, Paper, Reckoning } from '../../working/reckoning';

/** How a pay of a period becomes weekly earnings, and a weekly amount one of the period (Schedule 1: Using a formula). */
const STEPS: Readonly<Record<Frequency, readonly (readonly [operation: 'times' | 'over', label: string, by: number])[]>> = {
  daily: [['times', 'Days of a week', 5]],
  weekly: [],
  fortnightly: [['over', 'Weeks', 2]],
  'four-weekly': [['over', 'Weeks', 4]],
  'twice-a-month': [
    ['times', 'Halves of a quarter', 6],
    ['over', 'Weeks of a quarter', 13],
  ],
  monthly: [
    ['times', 'Months of a quarter', 3],
    ['over', 'Weeks of a quarter', 13],
  ],
  quarterly: [['over', 'Weeks', 13]],
  'half-yearly': [['over', 'Weeks', 26]],
  yearly: [['over', 'Weeks', 52]],
};
const NINETY_NINE = Exact.of('0.99');
const CENT = Exact.of('0.01');
const THIRTY_THREE = Exact.of('0.33');

/** Weekly earnings: cents left out, and 99 cents put on. */
export function weeklyEarnings(paper: Paper, key: string, pay: Figure, frequency: Frequency): Figure {
  const reckoning = paper.reckon(`${key}.weekly`, 'Weekly earnings').start(pay.label, pay).atLeast('Not below zero', ZERO);
  if (frequency === 'monthly' && centsOf(reckoning.result).equals(THIRTY_THREE)) reckoning.plus('A month that ends in 33 cents', CENT);
  for (const [operation, label, by] of STEPS[frequency]) reckoning[operation](label, Exact.whole(by));
  return reckoning.round('down', 0, 'Cents left out').plus('99 cents', NINETY_NINE).done();
}

/** A weekly amount in whole dollars as one of the period, to the nearest dollar. */
export function ofPeriod(reckoning: Reckoning, frequency: Frequency): Reckoning {
  for (const [operation, label, by] of [...STEPS[frequency]].reverse())
    reckoning[operation === 'times' ? 'over' : 'times'](label, Exact.whole(by));
  return reckoning.round('half-up', 0);
}

const centsOf = (amount: Exact): Exact => amount.minus(Exact.of(amount.toDecimal(6).replace(/\..*/, '')));
