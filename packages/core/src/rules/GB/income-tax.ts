import { Exact, ZERO } from '../../money/exact';
import { round } from '../../money/roundings';
import { bandsOf, type Band, type Figure } from '../../working/reckoning';
import { CannotCompute, type TaxContext, type TaxResult } from '../country-pack';
import { tables } from './tables';
import type { UkTax } from './facts';
import { progressOf, type Progress } from './progress';
import { RATES, taxCodeOf, type TaxCode } from './tax-code';
import { taxYearLabel } from './tax-year';
import { taxedAward } from './termination';

const LABEL = 'Income tax (PAYE)';
const SPECIFICATION = { publication: 'HMRC, Specification for PAYE tax table routines' };
const BANDS: Readonly<Record<TaxCode['nation'], string>> = {
  rest: 'gb.paye.bands',
  wales: 'gb.paye.bands.wales',
  scotland: 'gb.paye.bands.scotland',
};

/** Cumulative income tax, or on a week-1/month-1 basis each period by itself; may be a refund. */
export function incomeTax(context: TaxContext<UkTax>): TaxResult {
  const { paper, input, tax } = context;
  const used = afterLeaving(context) ? afterLeavingCode(tax.taxCode) : tax.taxCode;
  const code = taxCodeOf(used);
  if (!code) throw new CannotCompute('no-table', `There is no tax code ${tax.taxCode}. Correct it with the tax details.`);
  const progress = progressOf(context);
  // A pay day in week 53 has the tables of weeks 1, 2 and 4, each by itself (weeks 53, 54 and 56).
  const week53 = progress.ofYear === 52 && progress.number > 52;
  const cumulative = tax.basis === 'cumulative' && !week53 && !afterLeaving(context);
  const periods = cumulative ? progress.number : progress.paid;
  const award = taxedAward(context);
  const counted = context.base('gb.paye.pay');
  const pay = award
    ? paper.reckon('gb.paye.pay-now', 'Pay, with what is taxed of the award').start(counted.label, counted).plus(award.label, award).done()
    : counted;
  const previous = cumulative && tax.previousYear === taxYearLabel(input.pay.date);
  // Two payments of one week or month are taxed together, by a code that looks at each period by itself.
  const earlier = context.earlierInPeriod('gb.paye.pay', '');
  const soFar = paper.reckon('gb.paye.pay-to-date', cumulative ? 'Pay in the tax year' : 'Pay of this period');
  if (cumulative) soFar.start('Pay earlier this tax year', context.yearToDate('gb.paye.pay', '')).plus(pay.label, pay);
  else if (earlier.amount.isZero()) soFar.start(pay.label, pay);
  else soFar.start('Paid earlier in the same tax week or month', earlier).plus(pay.label, pay);
  if (previous) soFar.plus('Pay of the earlier employment', Exact.of(tax.previousPay));
  const payToDate = soFar.done();
  const due = taxDue(context, { code, payToDate, cumulative, periods, progress });

  const result = paper.reckon('gb.paye', LABEL).start(due.label, due);
  if (cumulative) result.less('Withheld earlier this tax year', context.yearToDate('gb.paye', ''));
  else if (!earlier.amount.isZero()) result.less('Withheld earlier in the same tax week or month', context.earlierInPeriod('gb.paye', ''));
  if (previous) result.less('Tax of the earlier employment', Exact.of(tax.previousTax));
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
      .fact(`Tax code ${used}, ${cumulative ? 'cumulative' : week53 ? 'week 53, by itself' : 'week 1 / month 1'}`, 'tax-details')
      .done(),
    ...(award ? { bases: [{ code: 'gb.paye.pay', label: 'Termination award over the exempt sum', figure: award }] } : {}),
  };
}

/** Employment has ended before the days that are paid: the certificate of leaving was given. */
const afterLeaving = ({ input }: TaxContext<UkTax>): boolean => input.person.left !== undefined;
/** Code 0T of the nation, by itself (Income Tax (PAYE) Regulations 2003, regulation 37). */
const afterLeavingCode = (code: string): string => (code === 'NT' ? code : `${/^[SC](?=\d|K|B|D)/.exec(code)?.[0] ?? ''}0T`);

interface Due {
  code: TaxCode;
  payToDate: Figure;
  cumulative: boolean;
  periods: number;
  progress: Progress;
}

/** Tax on the pay so far, or of the period by itself. */
function taxDue(context: TaxContext<UkTax>, { code, payToDate, cumulative, periods, progress: { ofYear } }: Due): Figure {
  const { paper, input } = context;
  const label = cumulative ? 'Tax due for the tax year so far' : 'Tax of this period';
  if (code.kind === 'no-tax') return paper.reckon('gb.paye.to-date', label).start('Code NT: no tax', ZERO).source(SPECIFICATION).done();
  const adjustment = payAdjustment(context, code, { periods, ofYear });
  const reckoning = paper.reckon('gb.paye.taxable', 'Taxable pay').start(payToDate.label, payToDate);
  if (code.kind === 'additional-pay') reckoning.plus(adjustment.label, adjustment);
  else reckoning.less(adjustment.label, adjustment);
  const taxable = reckoning.atLeast('Not below zero', ZERO).round('down', 0).source(SPECIFICATION).done();
  const due = paper.reckon('gb.paye.to-date', label).start(taxable.label, taxable);
  const { bands, source } = tables.schedule(BANDS[code.nation], input.pay.date);
  if (code.kind === 'flat') {
    const rate = bands[code.band]?.percent ?? ZERO;
    due.percent(`${RATES[code.nation][code.band] ?? ''} rate, ${rate.toDecimal()}%`, rate);
  } else due.schedule(`Bands, ${periods} of ${ofYear} parts of the year`, placed(taxable.amount, proportionate(bands, periods, ofYear)));
  return due.round('down').source(source, SPECIFICATION).done();
}

/** Free pay of the code (or additional pay of a K code) up to now, by the quotient and remainder of 500. */
function payAdjustment(
  { paper, tax }: TaxContext<UkTax>,
  { kind, number }: TaxCode,
  { periods, ofYear }: { periods: number; ofYear: 12 | 52 },
): Figure {
  const label = kind === 'additional-pay' ? 'Additional pay of the code' : 'Free pay of the code';
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
