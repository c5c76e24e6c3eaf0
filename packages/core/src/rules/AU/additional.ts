import { PAY_DATES_PER_YEAR } from '../../calendar/schedules';
import { Exact, ZERO } from '../../money/exact';
import type { Figure } from '../../working/reckoning';
import { ADDITIONAL, ADDITIONAL_TAX } from './codes';
import { tables } from './tables';
import type { Context } from './context';
import { PAY, wayOf, withheldFrom } from './withholding';

const SCHEDULE_5 = {
  publication: 'ATO, Schedule 5: Tax table for back payments, commissions, bonuses and similar payments',
  section: 'Method B',
};
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

/** Bonuses, back pay and the like: the year's effect on withholding (method B), at most the highest rate of what is paid. */
export function withheldFromAdditional(context: Context, usual: Figure): Figure | undefined {
  const now = context.base(ADDITIONAL);
  if (now.amount.isZero()) return undefined;
  const before = context.yearToDate(ADDITIONAL, 'Paid so earlier this tax year');
  const withheldBefore = context.yearToDate(ADDITIONAL_TAX, 'Withheld from that');
  return overTheYear(context, { usual, now, before, withheldBefore, key: 'au.additional', label: 'Withheld from bonuses and back pay' });
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
export function overTheYear(context: Context, { usual, now, before, withheldBefore, key, label }: OverTheYear): Figure {
  const { paper, input } = context;
  const { date, frequency } = input.pay;
  const way = wayOf(context);
  // By bands of the year, or at one rate, more pay is taxed as it comes.
  if (way.by !== 'scale') return withheldFrom(context, now, key, label);
  const periods = Exact.whole(PAY_DATES_PER_YEAR[frequency]);
  const all = paper.reckon(`${key}.all`, 'To be spread over the year');
  const earlier = before && !before.amount.isZero() ? before : undefined;
  const spread = (earlier ? all.start(earlier.label, earlier).plus(now.label, now) : all.start(now.label, now)).done();
  const part = paper
    .reckon(`${key}.part`, 'Part of each pay period')
    .start(spread.label, spread)
    .over(`Pay periods of a year`, periods)
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
  const reckoning = paper
    .reckon(key, label)
    .start(withIt.label, withIt)
    .less(without.label, without)
    .times('Pay periods of a year', periods);
  if (earlier && withheldBefore) reckoning.less(withheldBefore.label, withheldBefore);
  return reckoning
    .atLeast('Not below zero', ZERO)
    .atMost(most.label, most)
    .round('half-up', 0)
    .source(key === 'au.additional' ? SCHEDULE_5 : SCHEDULE_7)
    .done();
}
