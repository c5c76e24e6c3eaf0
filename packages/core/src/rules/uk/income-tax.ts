import { Exact, ZERO } from '../../money/exact';
import { round } from '../../money/roundings';
import { bandsOf, type Figure } from '../../working/reckoning';
import { CannotCompute, type TaxContext, type TaxResult } from '../country-pack';
import { tables } from './tables';
import { taxMonth, taxWeek, type UkTax } from './pack';

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
  const cumulative = tax.basis === 'cumulative';
  const progress = progressOf(context);
  const periods = cumulative ? progress.number : progress.paid;
  const pay = context.base('uk.paye.pay');
  const soFar = paper.reckon('uk.paye.pay-to-date', cumulative ? 'Pay in the tax year' : 'Pay of this period');
  if (cumulative) soFar.start('Pay earlier this tax year', context.yearToDate('uk.paye.pay', '')).plus(pay.label, pay);
  else soFar.start(pay.label, pay);
  const payToDate = soFar.done();
  const adjustment = payAdjustment(context, periods, progress.ofYear);
  const negative = tax.taxCode.startsWith('K');
  const reckoning = paper.reckon('uk.paye.taxable', 'Taxable pay').start(payToDate.label, payToDate);
  if (negative) reckoning.plus(adjustment.label, adjustment);
  else reckoning.less(adjustment.label, adjustment);
  const taxable = reckoning.atLeast('Not below zero', ZERO).round('down', 0).source(SPECIFICATION).done();

  const due = paper
    .reckon('uk.paye.to-date', cumulative ? 'Tax due for the tax year so far' : 'Tax of this period')
    .start(taxable.label, taxable);
  const bands = tables.schedule('uk.paye.bands', input.pay.date);
  if (tax.taxCode === 'BR') due.percent('Basic rate', Exact.whole(20));
  else if (tax.taxCode === 'D0') due.percent('Higher rate', Exact.whole(40));
  else due.schedule(`Bands, ${periods} of ${progress.ofYear} parts of the year`, proportionate(bands.bands, periods, progress.ofYear));
  const dueFigure = due.round('down').source(bands.source, SPECIFICATION).done();

  const result = paper.reckon('uk.paye', LABEL).start(dueFigure.label, dueFigure);
  if (cumulative) result.less('Withheld earlier this tax year', context.yearToDate('uk.paye', ''));
  if (negative) {
    const limit = tables.value('uk.paye.regulatory-limit', input.pay.date);
    const half = paper
      .reckon('uk.paye.limit', 'Half of this pay')
      .start(pay.label, pay)
      .percent('Overriding limit', limit.value)
      .round('down')
      .source(limit.source)
      .done();
    result.atMost(half.label, half);
  }
  return {
    code: 'uk.paye',
    label: LABEL,
    figure: result.fact(`Tax code ${tax.taxCode}, ${cumulative ? 'cumulative' : 'week 1 / month 1'}`, 'tax-details').done(),
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
  const reckoning = paper.reckon('uk.paye.free-pay', label);
  if (number === 0) return reckoning.start(`Code ${tax.taxCode} has none`, ZERO).done();
  const quotient = Math.floor((number - 1) / 500);
  const remainder = ((number - 1) % 500) + 1;
  const per500 = round(Exact.whole(5000).over(Exact.whole(ofYear)), 'up', 2);
  const part = paper
    .reckon('uk.paye.free-pay.part', `For ${remainder}`)
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
