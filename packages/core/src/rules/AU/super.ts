import { anniversary, daysBetween } from '../../calendar/dates';
import { Exact, total, ZERO } from '../../money/exact';
import type { Figure } from '../../working/reckoning';
import { EARNINGS, SUPER, SUPER_FIRST } from './codes';
import type { TaxResult } from '../country-pack';
import { tables } from './tables';
import { PAYDAY_SUPER } from './tax-year';
import type { Context } from './context';

const ACT = { publication: 'Superannuation Guarantee (Administration) Act 1992, sections 15, 19 and 28' };
const PAYDAY = { publication: 'Payday Superannuation Act 2025', section: 'Qualifying earnings; due with each pay day' };
const ADULT = 18;
export const CONTRIBUTED = 'au.super.counted';

/** Super guarantee of the employer, of earnings up to the maximum base of the quarter, since July 2026 of the year. */
export function superGuarantee(context: Context): TaxResult[] {
  const { paper, input } = context;
  const { date } = input.pay;
  lookAtFund(context);
  const earnings = context.base(EARNINGS);
  if (earnings.amount.isZero()) return [];
  const young = tooYoung(context, earnings);
  const counted = young ?? upToMaximum(context, earnings);
  const rate = tables.value('au.super.rate', date);
  const payday = date >= PAYDAY_SUPER;
  // Of somebody for whom nothing was contributed before, the first contribution has longer.
  const first = payday && [SUPER, SUPER_FIRST].every((code) => !input.balances[code]?.inAll);
  const code = first ? SUPER_FIRST : SUPER;
  const label = first ? 'Super guarantee, first contribution' : 'Super guarantee';
  const figure = paper
    .reckon(code, label)
    .start(counted.label, counted)
    .percent('Charge percentage', rate.value)
    .round('half-up')
    .source(rate.source, payday ? PAYDAY : ACT)
    .done();
  return [
    {
      code,
      label,
      figure,
      bases: [
        {
          code: CONTRIBUTED,
          label: payday ? 'Qualifying earnings, up to the maximum base' : 'Earnings for super, up to the maximum base',
          figure: counted,
        },
      ],
    },
  ];
}

function upToMaximum(context: Context, earnings: Figure): Figure {
  const { paper, input } = context;
  const { date } = input.pay;
  const payday = date >= PAYDAY_SUPER;
  const most = tables.value('au.super.maximum', date);
  const before = payday
    ? context.yearToDate(CONTRIBUTED, 'Counted earlier this tax year').amount
    : Exact.minor(input.balances[CONTRIBUTED]?.quarter ?? 0);
  const left = most.value.minus(before).atLeast(ZERO);
  return paper
    .reckon(CONTRIBUTED, payday ? 'Qualifying earnings, up to the maximum base' : 'Earnings for super, up to the maximum base')
    .start(earnings.label, earnings)
    .atMost(`Left of the maximum base, ${most.value.toDecimal()} ${payday ? 'a year' : 'a quarter'}`, left)
    .source(most.source)
    .done();
}

/** Under 18 super is paid for weeks of more than 30 hours only: each by itself where time is kept by the day, else by the average. */
function tooYoung(context: Context, earnings: Figure): Figure | undefined {
  const { paper, input } = context;
  const { born } = input.person;
  if (born === undefined || anniversary(born, ADULT) <= input.pay.date) return undefined;
  const least = tables.value('au.super.young-hours', input.pay.date);
  const reckoning = paper.reckon(CONTRIBUTED, 'Earnings for super, up to the maximum base').source(least.source, ACT);
  const weeks = hoursOfWeeks(input);
  if (weeks.length) {
    const enough = weeks.filter((hours) => hours.isAbove(least.value));
    if (enough.length === weeks.length) return undefined;
    return reckoning
      .start(earnings.label, earnings)
      .times(`Hours of the weeks of more than ${least.value.toDecimal()}, under ${ADULT}`, total(enough))
      .over('Hours of all weeks', total(weeks))
      .round('half-up')
      .done();
  }
  const hours = context.hoursWorked().over(Exact.whole(weeksOf(input.pay.frequency)));
  if (hours.isAbove(least.value)) return undefined;
  return reckoning
    .start(`Under ${ADULT}, and ${hours.toDecimal(2)} hours a week are not more than ${least.value.toDecimal()}`, ZERO)
    .done();
}

const weeksOf = (frequency: string): number => ({ fortnightly: 2, 'four-weekly': 4, monthly: 4 })[frequency] ?? 1;

/** Hours worked in each week of a period of whole weeks, where they are kept by the day. */
function hoursOfWeeks({ time, pay }: Context['input']): Exact[] {
  const weeks = new Map<number, Exact>();
  if ((daysBetween(pay.from, pay.to) + 1) % 7) return [];
  for (const { date, hours, item, quantity } of time?.entries ?? []) {
    if (item !== undefined || quantity !== undefined || date < pay.from || date > pay.to) continue;
    const week = Math.floor(daysBetween(pay.from, date) / 7);
    weeks.set(week, (weeks.get(week) ?? ZERO).plus(Exact.of(hours)));
  }
  return [...weeks.values()].filter((hours) => !hours.isZero());
}

/** A fund that cannot take anything is said before it sends the money back. */
function lookAtFund(context: Context): void {
  const { input, tax, employer } = context;
  const own = tax.fundChoice === 'default' ? (employer.defaultFund ?? '') : tax.fund;
  const fund = employer.funds[own];
  const sentence = !own
    ? 'No super fund: the person has chosen none, and the employer has no default fund. Enter one with the tax details or the registrations.'
    : !fund
      ? `The super fund ${own} is not in the employer's list. Enter it with the registrations, or correct it with the tax details.`
      : fund.closed && fund.closed <= input.pay.date
        ? `${fund.name} takes nothing since ${fund.closed}. Enter the fund that follows it with the tax details.`
        : !tax.memberNumber && tax.fundChoice !== 'default'
          ? `There is no member number at ${fund.name}. Enter it with the tax details.`
          : undefined;
  if (sentence) context.problem({ code: 'super-fund', weight: 'look', figure: SUPER, sentence });
}
