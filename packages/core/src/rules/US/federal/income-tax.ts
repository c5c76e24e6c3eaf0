import { movedToBusinessDay, PAY_DATES_PER_YEAR } from '../../../calendar/schedules';
import { dateOf, writtenDate, yearOf } from '../../../calendar/dates';
import { Exact, ZERO } from '../../../money/exact';
import type { Figure, Reckoning } from '../../../working/reckoning';
import type { TaxContext, TaxResult } from '../../country-pack';
import { isFederalHoliday } from '../holidays';
import { tables } from '../tables';
import type { Certificate2019, Certificate2020, UsEmployer, UsTax } from '../facts';

type Context = TaxContext<UsTax, UsEmployer>;

export const FEDERAL_INCOME_TAX = 'us.fit';
const LABEL = 'Federal income tax';
const QUALIFIED_OVERTIME = 'us.box12.TT';

/**
 * Federal income tax withheld: the percentage method for automated payroll systems (Publication 15-T,
 * worksheet 1A), and the flat rate on supplemental wages (Publication 15, section 7).
 */
export function federalIncomeTax(given: Context): TaxResult {
  const context = withLiveCertificate(given);
  const { paper, tax } = context;
  const wages = context.base('us.fit.wages');
  const supplemental = context.base('us.fit.supplemental');
  const overtime = qualifiedOvertime(given);
  const result = (figure: Figure): TaxResult => ({
    code: FEDERAL_INCOME_TAX,
    label: LABEL,
    figure,
    counted: wages,
    ...(overtime ? { bases: [{ code: QUALIFIED_OVERTIME, label: overtime.label, figure: overtime }] } : {}),
  });
  const reckoning = paper.reckon(FEDERAL_INCOME_TAX, LABEL);
  const excess = overMillion(supplemental, context);
  if (tax.federal.exempt) {
    withCertificate(reckoning, tax.federal.onFileSince)
      .start('Exempt by certificate', ZERO)
      .note('The certificate claims exemption from withholding; pay still counts as wages.');
    if (excess) reckoning.plus(excess.label, excess);
    return result(reckoning.done());
  }
  if (supplemental.amount.isZero()) return result(worksheet1A(reckoning, wages, context).done());
  const regularPay = paper
    .reckon('us.fit.regular-wages', 'Regular pay subject to this tax')
    .start(wages.label, wages)
    .less(supplemental.label, supplemental)
    .atLeast('Not below zero', ZERO)
    .done();
  const regular = regularPay.amount.isZero()
    ? undefined
    : worksheet1A(paper.reckon('us.fit.regular', 'On regular pay'), regularPay, context).done();
  // The flat rate is for those from whose regular wages tax is withheld in this or the last year (26 CFR 31.3402(g)-1(a)(7)).
  const withheld = (regular?.amount.isAbove(ZERO) ?? false) || (context.input.balances[FEDERAL_INCOME_TAX]?.inAll ?? 0) > 0;
  if (context.input.pay.taxMethod === 'aggregate' || !withheld)
    return result(aggregateTax(reckoning, wages, regularPay, excess, withheld, context));
  const once = supplementalTax(wages, regularPay, excess, context);
  // Alone, supplemental wages at the flat rate have nothing to do with the certificate.
  if (!regular) return result(reckoning.start(once.label, once).done());
  return result(reckoning.start(regular.label, regular).plus(once.label, once).done());
}

/**
 * The part of overtime pay that is over the regular rate: a third of what is paid at one and a half, and all of what is paid
 * as premium only (Public Law 119-21, section 70202; 26 U.S.C. 225(c)).
 */
function qualifiedOvertime(context: Context): Figure | undefined {
  const { paper, input } = context;
  const [whole, premium] = [context.base('us.overtime'), context.base('us.overtime-premium')];
  if (whole.amount.isZero() && premium.amount.isZero()) return undefined;
  const reckoning = paper.reckon(QUALIFIED_OVERTIME, 'Qualified overtime');
  if (!whole.amount.isZero()) reckoning.start(whole.label, whole).over('The premium is a third of time and a half', Exact.whole(3));
  if (!premium.amount.isZero()) reckoning.plus(premium.label, premium);
  return reckoning
    .round('half-up')
    .source({ publication: `26 U.S.C. 225(c); Public Law 119-21, section 70202 (${yearOf(input.pay.date)})` })
    .done();
}

/** An exemption holds for the year it was claimed in, and until 15 February of the next (26 CFR 31.3402(f)(4)-2(b)); then pay is taxed as single. */
function withLiveCertificate(context: Context): Context {
  const { federal } = context.tax;
  const { date } = context.input.pay;
  if (!federal.exempt || federal.onFileSince === undefined) return context;
  const lapses = movedToBusinessDay(dateOf(yearOf(federal.onFileSince) + 1, 2, 15), 'next', isFederalHoliday);
  if (date <= lapses) return context;
  context.problem({
    code: 'exemption-lapsed',
    weight: 'look',
    figure: FEDERAL_INCOME_TAX,
    sentence: `The exemption on the certificate of ${writtenDate(federal.onFileSince)} lapsed on ${writtenDate(lapses)}: tax is withheld as for single, without other entries. Ask for a new certificate.`,
  });
  const single: Certificate2020 = {
    certificate: '2020',
    status: 'single',
    twoJobs: false,
    dependents: '0',
    otherIncome: '0',
    deductions: '0',
    extra: '0',
    exempt: false,
  };
  return { ...context, tax: { ...context.tax, federal: single } };
}

function worksheet1A(reckoning: Reckoning, pay: Figure, context: Context): Reckoning {
  const { input, tax } = context;
  const date = input.pay.date;
  const periods = Exact.whole(PAY_DATES_PER_YEAR[input.pay.frequency]);
  withCertificate(reckoning, tax.federal.onFileSince);
  reckoning.start('Pay subject to this tax', pay).atLeast('Not below zero', ZERO);
  reckoning.times(`Over a year, ${PAY_DATES_PER_YEAR[input.pay.frequency]} pay dates`, periods);
  if (tax.federal.nonresidentAlien) {
    const more = tables.value(`us.fit.nonresident.${tax.federal.certificate}`, date);
    reckoning.plus('Nonresident alien, for the tax only', more.value).source(more.source);
  }
  const credit = tax.federal.certificate === '2020' ? annual2020(reckoning, tax.federal, date) : annual2019(reckoning, tax.federal, date);
  reckoning.over('For this pay date', periods);
  if (credit) {
    const share = context.paper
      .reckon('us.fit.credit', 'Credit for dependents, for this pay date')
      .start('Per year, step 3', credit)
      .over('Pay dates', periods)
      .done();
    reckoning.less('Less credit for dependents', share).atLeast('Not below zero', ZERO);
  }
  const extra = Exact.of(tax.federal.extra);
  if (!extra.isZero()) reckoning.plus('Extra withholding asked for', extra);
  reckoning.round('half-up', 2, 'Rounded to the cent once, at the end');
  reckoning.source({
    publication: `IRS Publication 15-T (${date.slice(0, 4)}), Federal Income Tax Withholding Methods`,
    section: 'Worksheet 1A',
    from: `${date.slice(0, 4)}-01-01`,
  });
  return reckoning;
}

/** Steps 1 and 2 of the worksheet for a certificate from 2020 on; gives the yearly credit of step 3. */
function annual2020(reckoning: Reckoning, certificate: Certificate2020, date: string): Exact | undefined {
  const otherIncome = Exact.of(certificate.otherIncome);
  const deductions = Exact.of(certificate.deductions);
  if (!otherIncome.isZero()) reckoning.plus('Other income, step 4(a)', otherIncome);
  if (!deductions.isZero()) reckoning.less('Less deductions, step 4(b)', deductions);
  if (!certificate.twoJobs) {
    const line1g = tables.value(certificate.status === 'married-jointly' ? 'us.fit.line-1g.married-jointly' : 'us.fit.line-1g.other', date);
    reckoning.less('Less, no two-jobs box', line1g.value).source(line1g.source);
  }
  reckoning.atLeast('Not below zero', ZERO);
  const schedule = tables.schedule(`us.fit.schedule.${certificate.twoJobs ? 'two-jobs' : 'standard'}.${certificate.status}`, date);
  reckoning
    .schedule(`${certificate.twoJobs ? 'Two-jobs' : 'Standard'} schedule, ${certificate.status.replace(/-/g, ' ')}`, schedule.bands)
    .source(schedule.source);
  const credit = Exact.of(certificate.dependents);
  return credit.isZero() ? undefined : credit;
}

function annual2019(reckoning: Reckoning, certificate: Certificate2019, date: string): undefined {
  const allowance = tables.value('us.fit.allowance', date);
  reckoning.less(
    `Less ${certificate.allowances} allowances of ${allowance.value.toDecimal()}`,
    allowance.value.times(Exact.whole(certificate.allowances)),
  );
  reckoning.source(allowance.source).atLeast('Not below zero', ZERO);
  const status = certificate.status === 'married' ? 'married-jointly' : 'single';
  const schedule = tables.schedule(`us.fit.schedule.standard.${status}`, date);
  reckoning.schedule(`Standard schedule, ${status === 'single' ? 'single' : 'married'}`, schedule.bands).source(schedule.source);
}

/**
 * The aggregate method (Publication 15, section 7): ordinary and supplemental wages as one payment, less the tax on
 * the ordinary wages. Paid apart, they are added to those of the latest regular payslip and what was withheld there counts.
 */
function aggregateTax(
  reckoning: Reckoning,
  wages: Figure,
  regularPay: Figure,
  excess: Figure | undefined,
  withheld: boolean,
  context: Context,
): Figure {
  const { paper, input } = context;
  const earlier = regularPay.amount.isZero() ? input.earlierPay : undefined;
  const lines = earlier?.lines ?? {};
  const supplementalThen = lines['us.fit.supplemental'] ?? 0;
  const ordinaryThen = paper
    .reckon('us.fit.earlier-wages', 'Ordinary pay of the latest regular payslip')
    .start(earlier ? `Paid ${writtenDate(earlier.date)}` : 'None', Exact.minor((lines['us.fit.wages'] ?? 0) - supplementalThen))
    .done();
  const both = paper.reckon('us.fit.together', 'Both as one payment').start(wages.label, wages);
  if (excess) both.less('Over 1,000,000 in the year, taxed apart', partOverMillion(context.base('us.fit.supplemental'), context));
  const together = both.plus(ordinaryThen.label, ordinaryThen).done();
  const whole = worksheet1A(paper.reckon('us.fit.on-both', 'On both as one payment'), together, context).done();
  const before =
    supplementalThen === 0
      ? paper
          .reckon('us.fit.earlier', 'Withheld on that payslip')
          .start('Withheld', Exact.minor(lines['us.fit'] ?? 0))
          .done()
      : worksheet1A(paper.reckon('us.fit.earlier', 'On the ordinary pay of that payslip'), ordinaryThen, context).done();
  reckoning.start(whole.label, whole);
  if (earlier) reckoning.less(before.label, before);
  reckoning.atLeast('Not below zero', ZERO);
  if (excess) reckoning.plus(excess.label, excess);
  if (!withheld && input.pay.taxMethod !== 'aggregate')
    reckoning.note('No income tax was withheld from regular wages in this year or the last: the flat rate is not allowed.');
  return reckoning
    .source({
      publication: `IRS Publication 15 (${input.pay.date.slice(0, 4)})`,
      section: 'Section 7, supplemental wages, aggregate method',
    })
    .done();
}

/** Supplemental wages over a million in the year are taxed at the highest rate, whatever the certificate or the method (26 U.S.C. 3402; Publication 15, section 7). */
function overMillion(supplemental: Figure, context: Context): Figure | undefined {
  const { paper, input } = context;
  const million = tables.value('us.fit.supplemental.million', input.pay.date);
  const before = context.yearToDate('us.fit.supplemental', 'Supplemental wages earlier this year').amount;
  const over = supplemental.amount.minus(million.value.minus(before).atLeast(ZERO)).atLeast(ZERO);
  if (over.isZero()) return undefined;
  const above = tables.value('us.fit.supplemental.over-million', input.pay.date);
  return paper
    .reckon('us.fit.over-million', 'On supplemental wages over 1,000,000 in the year')
    .start('Over', over)
    .percent('Rate', above.value)
    .round('half-up')
    .source(above.source, million.source)
    .done();
}

/** The part of supplemental wages that is over a million in the year. */
function partOverMillion(supplemental: Figure, context: Context): Exact {
  const { input } = context;
  const million = tables.value('us.fit.supplemental.million', input.pay.date).value;
  const before = context.yearToDate('us.fit.supplemental', 'Supplemental wages earlier this year').amount;
  return supplemental.amount.minus(million.minus(before).atLeast(ZERO)).atLeast(ZERO);
}

function supplementalTax(wages: Figure, regularPay: Figure, excess: Figure | undefined, context: Context): Figure {
  const { paper, input } = context;
  const rate = tables.value('us.fit.supplemental', input.pay.date);
  const pay = paper
    .reckon('us.fit.supplemental-wages', 'Supplemental wages')
    .start(wages.label, wages)
    .less(regularPay.label, regularPay)
    .done();
  const reckoning = paper.reckon('us.fit.flat', 'On supplemental wages').start(pay.label, pay);
  if (excess) reckoning.less('Over 1,000,000 in the year', partOverMillion(pay, context));
  reckoning.percent(`Flat rate ${rate.value.toDecimal()}%`, rate.value);
  if (excess) reckoning.plus(excess.label, excess);
  return reckoning.round('half-up').source(rate.source).done();
}

function withCertificate(reckoning: Reckoning, since: string | undefined): Reckoning {
  return reckoning.fact(since ? `Certificate on file since ${writtenDate(since)}` : 'Certificate', 'tax-details');
}
