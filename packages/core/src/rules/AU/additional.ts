import { daysBetween, writtenPeriod } from '../../calendar/dates';
import { PAY_DATES_PER_YEAR } from '../../calendar/schedules';
import { writtenDecimal } from '../../money/amounts';
import { Exact, ZERO } from '../../money/exact';
import type { PayItem } from '../../pay-items/pay-item';
import type { Figure } from '../../working/reckoning';
import { ADDITIONAL, ADDITIONAL_APART, ADDITIONAL_TAX, lumpSumCode } from './codes';
import { tables } from './tables';
import { treatments } from './treatments';
import type { Context } from './context';
import { PAY, wayOf, withheldFrom } from './withholding';

const PUBLICATION = 'ATO, Schedule 5: Tax table for back payments, commissions, bonuses and similar payments';
const SCHEDULE_5 = { publication: PUBLICATION, section: 'Method B' };
const BY_ITS_PERIODS = { publication: PUBLICATION, section: 'Method A' };
const SCHEDULE_7 = { publication: 'ATO, Schedule 7: Tax table for unused leave payments on termination of employment' };

/** Regular pay of a period: this payslip's, or where it has none, or is the last one, that of the latest regular payslip. */
export function usualPay(context: Context, now: Figure): Figure {
  const { paper, input } = context;
  const { earlierPay } = input;
  const latest = earlierPay?.lines[PAY];
  if (earlierPay === undefined || latest === undefined || (!now.amount.isZero() && input.person.ending === undefined)) return now;
  return paper
    .reckon('au.usual-pay', 'Usual pay of a period')
    .start(`Latest regular payslip, ${earlierPay.date}`, Exact.minor(latest))
    .done();
}

export interface AdditionalPay {
  withheld: Figure;
  bases: { code: string; label: string; figure: Figure }[];
}

/** Bonuses, back pay and the like: what was earned in pay periods that are known is spread over these, the rest over the year. */
export function withheldFromAdditional(context: Context, usual: Figure): AdditionalPay | undefined {
  const { paper } = context;
  const all = context.base(ADDITIONAL);
  if (all.amount.isZero()) return undefined;
  lookAtEarlierYears(context);
  const earned = earnedInPeriods(context);
  const apart =
    earned &&
    overPeriods(context, {
      usual,
      now: earned.figure,
      periods: earned.periods,
      key: 'au.additional.apart',
      label: 'On what was earned in earlier pay periods',
    });
  const bases: AdditionalPay['bases'] = earned ? [{ code: ADDITIONAL_APART, label: earned.figure.label, figure: earned.figure }] : [];
  const rest = earned
    ? paper.reckon('au.additional.rest', 'To be spread over the year').start(all.label, all).less(earned.figure.label, earned.figure).done()
    : all;
  if (apart && rest.amount.isZero()) return { withheld: apart, bases };
  const overYear = overTheYear(context, {
    usual,
    now: rest,
    before: earlierThisYear(context),
    withheldBefore: context.yearToDate(ADDITIONAL_TAX, 'Withheld from that'),
    key: 'au.additional',
    label: apart ? 'On what is spread over the year' : LABEL_OF_BOTH,
  });
  bases.push({ code: ADDITIONAL_TAX, label: overYear.label, figure: overYear });
  if (!apart) return { withheld: overYear, bases };
  return {
    withheld: paper.reckon('au.additional.both', LABEL_OF_BOTH).start(apart.label, apart).plus(overYear.label, overYear).done(),
    bases,
  };
}

const LABEL_OF_BOTH = 'Withheld from bonuses and back pay';

/** Of the tax year so far what was spread over the year, without what was spread over its own pay periods. */
function earlierThisYear(context: Context): Figure {
  const paid = context.yearToDate(ADDITIONAL, 'Paid so earlier this tax year');
  const apart = context.yearToDate(ADDITIONAL_APART, 'Of it spread over its own pay periods');
  if (apart.amount.isZero()) return paid;
  return context.paper.reckon('au.additional.earlier', paid.label).start(paid.label, paid).less(apart.label, apart).done();
}

/** One-offs that say in which days they were earned, and over how many pay periods these reach; within a year of pay periods. */
function earnedInPeriods(context: Context): { figure: Figure; periods: number } | undefined {
  const { paper, input } = context;
  if (wayOf(context).by !== 'scale') return undefined;
  const inYear = PAY_DATES_PER_YEAR[input.pay.frequency];
  const ranges = new Map<string, number>();
  const reckoning = paper.reckon(ADDITIONAL_APART, 'Earned in earlier pay periods');
  for (const { item, amount, earned, note } of input.oneOffs) {
    if (!earned || input.leftOut.includes(item.code) || !isSpread(item)) continue;
    ranges.set(`${earned.from} ${earned.to}`, Math.max(1, Math.round(((daysBetween(earned.from, earned.to) + 1) * inYear) / DAYS_OF_YEAR)));
    reckoning.plus(note ?? `${item.name}, ${writtenPeriod(earned.from, earned.to)}`, Exact.of(amount));
  }
  const periods = [...ranges.values()].reduce((sum, count) => sum + count, 0);
  // Over more than a year of pay periods it is spread over the year.
  return periods && periods <= inYear ? { figure: reckoning.done(), periods } : undefined;
}

const DAYS_OF_YEAR = 365.25;

const isSpread = ({ treatment, countsInstead }: PayItem): boolean =>
  (countsInstead?.[ADDITIONAL] ?? treatments.find(({ code }) => code === treatment)?.counts[ADDITIONAL]) === 1;

/** Back pay of earlier years is a lump sum from a least amount on; less is ordinary gross. */
function lookAtEarlierYears(context: Context): void {
  const code = lumpSumCode('E');
  const paid = context.base(code);
  if (paid.amount.isZero()) return;
  const least = tables.value('au.lump-sum-e.least', context.input.pay.date);
  const all = paid.amount.plus(context.yearToDate(code, 'Paid earlier this tax year').amount);
  if (!all.isBelow(least.value)) return;
  context.problem({
    code: 'lump-sum-e-small',
    weight: 'look',
    figure: code,
    sentence: `Back pay of earlier tax years counts as lump sum E from ${writtenDecimal(least.value.toDecimal(2))} on, and ${writtenDecimal(all.toDecimal(2))} is less. Pay it through an item of back pay of the tax year.`,
  });
}

interface OverTheYear {
  usual: Figure;
  now: Figure;
  before?: Figure;
  withheldBefore?: Figure;
  key: string;
  label: string;
}

/** The pay is spread over the pay periods of a year, and so is what is withheld more because of it. */
export const overTheYear = (context: Context, pay: OverTheYear): Figure =>
  overPeriods(context, { ...pay, periods: PAY_DATES_PER_YEAR[context.input.pay.frequency], ofYear: true });

/** The pay is spread over a number of pay periods, and so is what is withheld more because of it. */
function overPeriods(
  context: Context,
  { usual, now, before, withheldBefore, key, label, periods: count, ofYear = false }: OverTheYear & { periods: number; ofYear?: boolean },
): Figure {
  const { paper, input } = context;
  const { date } = input.pay;
  const way = wayOf(context);
  // By bands of the year, or at one rate, more pay is taxed as it comes.
  if (way.by !== 'scale') return withheldFrom(context, now, key, label);
  const periods = Exact.whole(count);
  const over = ofYear ? 'Pay periods of a year' : 'Pay periods in which it was earned';
  const all = paper.reckon(`${key}.all`, ofYear ? 'To be spread over the year' : 'To be spread over its pay periods');
  const earlier = before && !before.amount.isZero() ? before : undefined;
  const spread = (earlier ? all.start(earlier.label, earlier).plus(now.label, now) : all.start(now.label, now)).done();
  const part = paper
    .reckon(`${key}.part`, 'Part of each pay period')
    .start(spread.label, spread)
    .over(over, periods)
    .round('down', 0, 'Cents left out')
    .done();
  const together = paper.reckon(`${key}.together`, 'Usual pay with that part').start(usual.label, usual).plus(part.label, part).done();
  const [without, withIt] = [
    withheldFrom(context, usual, `${key}.without`, 'Withheld from usual pay'),
    withheldFrom(context, together, `${key}.with`, 'Withheld with that part'),
  ];
  const top = tables.value('au.paygw.top-rate', date);
  const rate = way.scale === '3' ? tables.value('au.paygw.no-number.foreign', date) : top;
  const most = paper
    .reckon(`${key}.most`, 'At the highest rate')
    .start(now.label, now)
    .percent('Highest rate', rate.value)
    .round('half-up', 0)
    .source(rate.source)
    .done();
  const reckoning = paper.reckon(key, label).start(withIt.label, withIt).less(without.label, without).times(over, periods);
  if (earlier && withheldBefore) reckoning.less(withheldBefore.label, withheldBefore);
  return reckoning
    .atLeast('Not below zero', ZERO)
    .atMost(most.label, most)
    .round('half-up', 0)
    .source(!ofYear ? BY_ITS_PERIODS : key === 'au.additional' ? SCHEDULE_5 : SCHEDULE_7)
    .done();
}
