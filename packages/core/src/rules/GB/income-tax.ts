import { Exact, ZERO } from '../../money/exact';
import { round } from '../../money/roundings';
import { bandsOf, type Band, type Figure } from '../../working/reckoning';
import { CannotCompute, type TaxContext, type TaxResult } from '../country-pack';
import { tables } from './tables';
import type { UkTax } from './facts';
import { taxMonth, taxWeek } from './tax-year';

const LABEL = 'Income tax (PAYE)';
const SPECIFICATION = { publication: 'HMRC, Specification for PAYE tax table routines' };

/** How far the tax year has run: period `number` of `ofYear`, and how many of them one payslip pays. */
interface Progress {
  number: number;
  ofYear: 12 | 52;
  paid: number;
}

/** Cumulative income tax, or on a week-1/month-1 basis each period by itself; may be a refund. */
export function incomeTax(context: TaxContext<UkTax>): TaxResult {
  const { paper, input, tax } = context;
  const progress = progressOf(context);
  // A pay day in week 53 has the tables of weeks 1, 2 and 4, each by itself (weeks 53, 54 and 56).
  const week53 = progress.ofYear === 52 && progress.number > 52;
  const cumulative = tax.basis === 'cumulative' && !week53;
  const periods = cumulative ? progress.number : progress.paid;
  const pay = context.base('gb.paye.pay');
  const soFar = paper.reckon('gb.paye.pay-to-date', cumulative ? 'Pay in the tax year' : 'Pay of this period');
  if (cumulative) soFar.start('Pay earlier this tax year', context.yearToDate('gb.paye.pay', '')).plus(pay.label, pay);
  else soFar.start(pay.label, pay);
  const payToDate = soFar.done();
  const adjustment = payAdjustment(context, periods, progress.ofYear);
  const negative = tax.taxCode.startsWith('K');
  const reckoning = paper.reckon('gb.paye.taxable', 'Taxable pay').start(payToDate.label, payToDate);
  if (negative) reckoning.plus(adjustment.label, adjustment);
  else reckoning.less(adjustment.label, adjustment);
  const taxable = reckoning.atLeast('Not below zero', ZERO).round('down', 0).source(SPECIFICATION).done();

  const due = paper
    .reckon('gb.paye.to-date', cumulative ? 'Tax due for the tax year so far' : 'Tax of this period')
    .start(taxable.label, taxable);
  const bands = tables.schedule('gb.paye.bands', input.pay.date);
  const flat = { BR: 0, D0: 1 }[tax.taxCode];
  if (flat !== undefined) {
    const rate = bands.bands[flat]?.percent ?? ZERO;
    due.percent(`${flat === 0 ? 'Basic' : 'Higher'} rate, ${rate.toDecimal()}%`, rate);
  } else
    due.schedule(
      `Bands, ${periods} of ${progress.ofYear} parts of the year`,
      placed(taxable.amount, proportionate(bands.bands, periods, progress.ofYear)),
    );
  const dueFigure = due.round('down').source(bands.source, SPECIFICATION).done();

  const result = paper.reckon('gb.paye', LABEL).start(dueFigure.label, dueFigure);
  if (cumulative) result.less('Withheld earlier this tax year', context.yearToDate('gb.paye', ''));
  // Since 2015 of every code: no more than half of the pay (regulation 23 of the PAYE regulations 2003).
  const limit = tables.value('gb.paye.regulatory-limit', input.pay.date);
  const half = paper
    .reckon('gb.paye.limit', 'Half of this pay')
    .start(pay.label, pay)
    .atLeast('Not below zero', ZERO)
    .percent('Overriding limit', limit.value)
    .round('down')
    .source(limit.source)
    .done();
  result.atMost(half.label, half);
  return {
    code: 'gb.paye',
    label: LABEL,
    figure: result
      .fact(`Tax code ${tax.taxCode}, ${cumulative ? 'cumulative' : week53 ? 'week 53, by itself' : 'week 1 / month 1'}`, 'tax-details')
      .done(),
  };
}

function progressOf(context: TaxContext<UkTax>): Progress {
  const { date, frequency } = context.input.pay;
  switch (frequency) {
    case 'monthly':
      return { number: taxMonth(date), ofYear: 12, paid: 1 };
    case 'weekly':
      return { number: taxWeek(date), ofYear: 52, paid: 1 };
    case 'fortnightly':
      return { number: taxWeek(date), ofYear: 52, paid: 2 };
    case 'four-weekly':
      return { number: taxWeek(date), ofYear: 52, paid: 4 };
    default:
      throw new CannotCompute(
        'no-table',
        'There are no PAYE tables here for this pay period. Pay weekly, fortnightly, four-weekly or monthly.',
      );
  }
}

/** Free pay of the code (or additional pay of a K code) up to now, by the quotient and remainder of 500. */
function payAdjustment(context: TaxContext<UkTax>, periods: number, ofYear: 12 | 52): Figure {
  const { paper, tax } = context;
  const number = Number(/\d+/.exec(tax.taxCode)?.[0] ?? '0') * (['BR', 'D0', '0T'].includes(tax.taxCode) ? 0 : 1);
  const label = tax.taxCode.startsWith('K') ? 'Additional pay of the code' : 'Free pay of the code';
  const reckoning = paper.reckon('gb.paye.free-pay', label);
  if (number === 0) return reckoning.start(`Code ${tax.taxCode} has none`, ZERO).done();
  const quotient = Math.floor((number - 1) / 500);
  const remainder = ((number - 1) % 500) + 1;
  const per500 = round(Exact.whole(5000).over(Exact.whole(ofYear)), 'up', 2);
  const part = paper
    .reckon('gb.paye.free-pay.part', `For ${remainder}`)
    .start('Remainder × 10 + 9', Exact.whole(remainder * 10 + 9))
    .over(ofYear === 12 ? 'Months' : 'Weeks', Exact.whole(ofYear))
    .round('up')
    .done();
  return reckoning
    .start(part.label, part)
    .plus(`${quotient} × 500 at ${per500.toDecimal()}`, per500.times(Exact.whole(quotient)))
    .times(ofYear === 12 ? 'Months counted' : 'Weeks counted', Exact.whole(periods))
    .source(SPECIFICATION)
    .done();
}

function proportionate(bands: readonly { over: Exact; percent: Exact }[], periods: number, ofYear: number) {
  const share = Exact.whole(periods).over(Exact.whole(ofYear));
  // Thresholds are kept to four decimals, as the specification says.
  return bandsOf(bands.map((band) => ({ over: round(band.over.times(share), 'down', 4).toDecimal(4), percent: band.percent.toDecimal() })));
}

/** Bands up to the one that the tax due is placed in: its limit is rounded up to a pound before pay is compared with it. */
const placed = (taxable: Exact, bands: readonly Band[]): Band[] =>
  bands.filter((band, index) => index === 0 || taxable.isAbove(round(band.over, 'up', 0)));
