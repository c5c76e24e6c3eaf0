import { PAY_DATES_PER_YEAR } from '../../../calendar/schedules';
import { Exact, ZERO } from '../../../money/exact';
import { CannotCompute, type TaxContext, type TaxResult } from '../../country-pack';
import { tables } from '../tables';
import type { UsEmployer, UsTax } from '../tax-details';

type Context = TaxContext<UsTax, UsEmployer>;

/** Pennsylvania income tax: a flat rate without allowances (72 P.S. 7302). */
export function pennsylvaniaIncomeTax(context: Context): TaxResult {
  const rate = tables.value('us.pa.income.rate', context.input.pay.date);
  const pay = context.base('us.pa.income.wages');
  const figure = context.paper
    .reckon('us.pa.income', 'Pennsylvania income tax')
    .start(pay.label, pay)
    .atLeast('Not below zero', ZERO)
    .percent(`${rate.value.toDecimal()}%`, rate.value)
    .round('half-up')
    .source(rate.source)
    .done();
  return {
    code: 'us.pa.income',
    label: 'Pennsylvania income tax',
    figure,
    bases: [{ code: 'us.pa.income.taxed', label: 'Pennsylvania wages', figure: pay }],
  };
}

/** The employee's unemployment contribution: on all pay, without a ceiling. */
export function pennsylvaniaUnemploymentOfEmployee(context: Context): TaxResult {
  const rate = tables.value('us.pa.uc.employee.rate', context.input.pay.date);
  const pay = context.base('us.pa.uc.wages');
  const figure = context.paper
    .reckon('us.pa.uc.employee', 'Pennsylvania unemployment')
    .start(pay.label, pay)
    .percent(`${rate.value.toDecimal()}%`, rate.value)
    .round('half-up')
    .source(rate.source)
    .done();
  return { code: 'us.pa.uc.employee', label: 'Pennsylvania unemployment', figure };
}

/** Local earned income tax: the higher of the rate where one lives and the non-resident rate where one works (Act 32 of 2008). */
export function localEarnedIncomeTax(context: Context): TaxResult | undefined {
  const home = localityOf(context, context.tax.residentState === 'PA' ? context.tax.residentLocality : undefined, 'lives');
  const work = localityOf(context, context.tax.workLocality, 'works');
  if (!home && !work) return undefined;
  const homeRate = Exact.of(home?.residentRate ?? '0');
  const workRate = Exact.of(work?.nonresidentRate ?? '0');
  const rate = homeRate.atLeast(workRate);
  const place = homeRate.isBelow(workRate) ? work : home;
  const pay = context.base('us.pa.local.wages');
  const figure = context.paper
    .reckon('us.pa.local', 'Local earned income tax')
    .start(pay.label, pay)
    .atLeast('Not below zero', ZERO)
    .percent(`${rate.toDecimal()}%, ${place?.name ?? ''}`, rate)
    .round('half-up')
    .note(
      `Rate where one lives ${homeRate.toDecimal()}%, non-resident rate where one works ${workRate.toDecimal()}%: the higher is withheld.`,
    )
    .source({ publication: 'Pennsylvania Act 32 of 2008, 53 Pa.C.S. 6924.512' })
    .done();
  return {
    code: 'us.pa.local',
    label: 'Local earned income tax',
    figure,
    bases: [{ code: 'us.pa.local.taxed', label: 'Local wages', figure: pay }],
  };
}

/** Local services tax: the year's amount in equal parts, each rounded down to the cent (Act 7 of 2007). */
export function localServicesTax(context: Context): TaxResult | undefined {
  const work = localityOf(context, context.tax.workLocality, 'works');
  if (!work || Exact.of(work.servicesTaxPerYear).isZero()) return undefined;
  const reckoning = context.paper
    .reckon('us.pa.services', 'Local services tax')
    .source({ publication: 'Pennsylvania Act 7 of 2007, 53 Pa.C.S. 6924.301.1' });
  const year = Exact.of(work.servicesTaxPerYear);
  if (context.tax.servicesTaxExempt) reckoning.start('Exempt: certificate on file', ZERO);
  else if (!context.base('us.pa.local.wages').amount.isAbove(ZERO)) reckoning.start('No pay on this payslip', ZERO);
  else {
    const before = context.yearToDate('us.pa.services', 'Taken earlier this year');
    reckoning
      .start(`${work.name}, per year`, year)
      .over(
        'Pay dates in the year',
        Exact.whole(Math.max(context.input.pay.payDatesInYear, PAY_DATES_PER_YEAR[context.input.pay.frequency])),
      )
      .round('down')
      .atMost("Remaining the year's amount", year.minus(before.amount).atLeast(ZERO));
  }
  return { code: 'us.pa.services', label: 'Local services tax', figure: reckoning.done() };
}

function localityOf(context: Context, code: string | undefined, how: 'lives' | 'works') {
  if (!code) return undefined;
  const locality = context.employer.localities[code];
  if (!locality) {
    throw new CannotCompute(
      'locality-missing',
      `The locality ${code} where this person ${how} has no rates. Enter them with the employer's facts, or correct the code in the tax details.`,
    );
  }
  return locality;
}
