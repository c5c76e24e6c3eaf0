import { Exact } from '../money/exact';
import { writtenDecimal, type Minor } from '../money/amounts';
import { writtenDate } from '../calendar/dates';
import { inForce } from '../payslip/rates-in-time';
import { computePayslip } from '../payslip/compute-payslip';
import type { PayslipInput } from '../payslip/input';
import type { Payslip, Totals } from '../payslip/payslip';

/** A part of the difference between two payslips, due to one group of facts. */
export interface Cause {
  group: FactGroup | 'unexplained';
  /** In words: what changed. */
  sentences: string[];
  /** The cause's share of the difference, in minor units. */
  share: Minor;
}

/** Groups of facts in the order in which the later ones are put in. */
export const FACT_GROUPS = ['rates', 'hours', 'one-offs', 'items', 'tax-details', 'tables', 'balances', 'by-hand'] as const;
export type FactGroup = (typeof FACT_GROUPS)[number];

const KEYS: Record<FactGroup, readonly (keyof PayslipInput)[]> = {
  rates: ['rates', 'employed', 'away', 'earnedBefore', 'placeMinimumWage'],
  hours: ['hours', 'hourItems', 'time', 'leave', 'payOutItems', 'timeItems'],
  'one-offs': ['oneOffs', 'recoveries'],
  items: ['items', 'leftOut'],
  'tax-details': ['tax', 'standingTaxes', 'employer', 'person'],
  tables: ['pay', 'country'],
  balances: ['balances', 'earlierPay'],
  'by-hand': ['overrides'],
};

/** Which amount of a payslip is compared: a total, or the sum of the lines of a code. */
export type Compared = keyof Totals | { code: string };

/**
 * Why an amount differs between two payslips, in causes that sum to the difference exactly. The later facts
 * replace the earlier ones group by group, and the payslip is calculated after each.
 * @param earlier.stored, later.stored the amount as paid, in minor units, where it is on record: what the
 *   workings can not account for is a cause of its own
 */
export function causesOf(
  compared: Compared,
  earlier: { input: PayslipInput; stored?: Minor },
  later: { input: PayslipInput; stored?: Minor },
): { difference: Minor; causes: Cause[] } {
  const causes: Cause[] = [];
  let input = { ...earlier.input };
  const start = amountOf(computePayslip(input), compared);
  let amount = start;
  for (const group of FACT_GROUPS) {
    const keys = KEYS[group].filter((key) => JSON.stringify(input[key]) !== JSON.stringify(later.input[key]));
    if (!keys.length) continue;
    const before = input;
    input = { ...input, ...Object.fromEntries(keys.map((key) => [key, later.input[key]])) };
    const now = amountOf(computePayslip(input), compared);
    if (now !== amount) causes.push({ group, sentences: sentencesOf(group, before, input), share: now - amount });
    amount = now;
  }
  const difference = (later.stored ?? amount) - (earlier.stored ?? start);
  const unexplained = difference - causes.reduce((sum, cause) => sum + cause.share, 0);
  if (unexplained !== 0) causes.unshift({ group: 'unexplained', sentences: ['Not explained by any change of facts'], share: unexplained });
  return { difference, causes };
}

export function amountOf(payslip: Payslip, compared: Compared): Minor {
  if (typeof compared === 'string') return payslip.totals[compared];
  return payslip.lines.reduce((sum, line) => (line.code === compared.code ? sum + line.amount : sum), 0);
}

function sentencesOf(group: FactGroup, before: PayslipInput, after: PayslipInput): string[] {
  switch (group) {
    case 'rates':
      if (JSON.stringify(before.employed) !== JSON.stringify(after.employed)) return ['Employed for a part of one of the periods only'];
      if (JSON.stringify(before.away) !== JSON.stringify(after.away)) return ['On leave by law for a part of one of the periods'];
      return rateChanges(before, after);
    case 'hours': {
      const sentences = changes(
        hoursByItem(before),
        hoursByItem(after),
        (entry) => entry.item,
        (entry) => entry.name,
        (entry) => entry.hours,
        'hours',
      );
      const [was, is] = [timeOf(before), timeOf(after)];
      if (was !== is) sentences.push(`Time by day: ${is} instead of ${was} hours`);
      return sentences.length ? sentences : ['Other days of the same time, or leave taken'];
    }
    case 'one-offs': {
      const sentences = [...oneOffsOnlyIn(before, after, 'no longer'), ...oneOffsOnlyIn(after, before, 'this time')];
      return sentences.length ? sentences : ['Pay that is recovered over several payslips'];
    }
    case 'items':
      return itemChanges(before, after);
    case 'tax-details':
      return JSON.stringify(before.standingTaxes ?? []) === JSON.stringify(after.standingTaxes ?? [])
        ? ['Tax details or facts of the employer changed']
        : ['An exemption, or a tax fixed by a letter, began, changed or ended'];
    case 'tables':
      return [`Pay date ${writtenDate(after.pay.date)} instead of ${writtenDate(before.pay.date)}: other tables or another period`];
    case 'balances':
      return ['Sums of the year so far: limits and ceilings'];
    case 'by-hand':
      return after.overrides.length
        ? after.overrides.map((override) => `A tax overridden: ${override.reason}`)
        : ['No tax is overridden any more'];
  }
}

function rateChanges(before: PayslipInput, after: PayslipInput): string[] {
  const sentences = changes(
    before.rates,
    after.rates,
    (rate) => rate.id,
    (rate) => rate.label,
    (rate) =>
      inForce(rate)
        .map(({ amount, to }) => (to ? `${amount} until ${writtenDate(to)}, then` : amount))
        .join(' '),
    `per ${after.rates[0]?.per ?? 'hour'}`,
  );
  return sentences.length ? sentences : ['The minimum wage of the place'];
}

/** Hours of the days within the pay period. */
function timeOf({ time, pay }: PayslipInput): string {
  const days = (time?.entries ?? []).filter(({ date }) => date >= pay.from && date <= pay.to);
  return days.reduce((sum, { hours }) => sum.plus(Exact.of(hours)), Exact.whole(0)).toDecimal(2);
}

function hoursByItem(input: PayslipInput): { item: string; name: string; hours: string }[] {
  const sums = new Map<string, Exact>();
  for (const entry of input.hours) sums.set(entry.item, (sums.get(entry.item) ?? Exact.whole(0)).plus(Exact.of(entry.hours)));
  return [...sums].map(([item, hours]) => ({
    item,
    name: input.hourItems.find((candidate) => candidate.code === item)?.name ?? item,
    hours: hours.toDecimal(2),
  }));
}

function itemChanges(before: PayslipInput, after: PayslipInput): string[] {
  const active = (input: PayslipInput) => input.items.filter((entry) => !input.leftOut.includes(entry.item.code));
  const sentences = changes(
    active(before),
    active(after),
    (entry) => entry.item.code,
    (entry) => entry.item.name,
    (entry) => (entry.once ? `${entry.once.amount} given for one payslip` : (entry.amount ?? entry.percent ?? '')),
    '',
  );
  return sentences.length ? sentences : ['Pay items changed: their limits, order or carried amounts'];
}

function oneOffsOnlyIn(those: PayslipInput, notThese: PayslipInput, when: string): string[] {
  const key = (oneOff: { item: { code: string }; amount: string }) => `${oneOff.item.code}|${oneOff.amount}`;
  const others = new Set(notThese.oneOffs.map(key));
  return those.oneOffs
    .filter((oneOff) => !others.has(key(oneOff)))
    .map((oneOff) => `${oneOff.item.name} of ${writtenDecimal(Exact.of(oneOff.amount).toDecimal())} ${when}`);
}

/** What was added, went away or has another value, in words. */
function changes<T>(
  before: readonly T[],
  after: readonly T[],
  key: (entry: T) => string,
  name: (entry: T) => string,
  value: (entry: T) => string,
  unit: string,
): string[] {
  const old = new Map(before.map((entry) => [key(entry), entry]));
  const sentences: string[] = [];
  for (const entry of after) {
    const was = old.get(key(entry));
    old.delete(key(entry));
    if (!was) sentences.push(`${name(entry)} is new${value(entry) ? `: ${value(entry)} ${unit}` : ''}`.trimEnd());
    else if (value(was) !== value(entry)) sentences.push(`${name(entry)}: ${value(entry)} instead of ${value(was)} ${unit}`.trimEnd());
  }
  for (const gone of old.values()) sentences.push(`${name(gone)} no longer`);
  return sentences;
}
