import { PAY_DATES_PER_YEAR } from '../../../calendar/schedules';
import { Exact, ZERO } from '../../../money/exact';
import type { TaxContext, TaxResult } from '../../country-pack';
import { tables } from '../tables';
import type { UsEmployer, UsTax } from '../tax-details';

/** Virginia income tax by the formula of the state's withholding guide for employers. */
export function virginiaIncomeTax(context: TaxContext<UsTax, UsEmployer>): TaxResult {
  const { paper, input, tax } = context;
  const date = input.pay.date;
  const certificate = tax.virginia;
  const pay = context.base('us.va.income.wages');
  const periods = Exact.whole(PAY_DATES_PER_YEAR[input.pay.frequency]);
  const reckoning = paper.reckon('us.va.income', 'Virginia income tax').fact('Certificate VA-4', 'tax-details');
  if (certificate?.exempt) {
    reckoning.start('Exempt by certificate', ZERO);
  } else {
    const deduction = tables.value('us.va.income.standard-deduction', date);
    const exemption = tables.value('us.va.income.exemption', date);
    const ageExemption = tables.value('us.va.income.exemption-age', date);
    const schedule = tables.schedule('us.va.income.schedule', date);
    const exemptions = certificate?.exemptions ?? 0;
    const ages = certificate?.ageOrBlindness ?? 0;
    reckoning
      .start('Pay subject to this tax', pay)
      .times(`Over a year, ${PAY_DATES_PER_YEAR[input.pay.frequency]} pay dates`, periods)
      .less('Standard deduction', deduction.value)
      .less(`${exemptions} exemptions of ${exemption.value.toDecimal()}`, exemption.value.times(Exact.whole(exemptions)));
    if (ages)
      reckoning.less(
        `${ages} exemptions for age or blindness of ${ageExemption.value.toDecimal()}`,
        ageExemption.value.times(Exact.whole(ages)),
      );
    reckoning.atLeast('Not below zero', ZERO).schedule("Virginia's yearly schedule", schedule.bands).over('For this pay date', periods);
    const extra = Exact.of(certificate?.extra ?? '0');
    if (!extra.isZero()) reckoning.plus('Extra withholding asked for', extra);
    reckoning.round('half-up', 2, 'Rounded to the cent once, at the end').source(schedule.source, deduction.source, exemption.source);
  }
  return {
    code: 'us.va.income',
    label: 'Virginia income tax',
    figure: reckoning.done(),
    bases: [{ code: 'us.va.income.taxed', label: 'Virginia wages', figure: pay }],
  };
}
