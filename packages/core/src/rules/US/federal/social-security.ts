import type { TaxContext, TaxResult } from '../../country-pack';
import { payUpToCeiling } from '../../ceilings';
import type { Figure } from '../../../working/reckoning';
import { tables } from '../tables';

export const SOCIAL_SECURITY = 'us.oasdi';
export const MEDICARE = 'us.medicare';
export const ADDITIONAL_MEDICARE = 'us.medicare.additional';

/** The employee's social security and Medicare taxes (26 U.S.C. 3101). */
export function employeeSocialTaxes(context: TaxContext): TaxResult[] {
  const { paper, input } = context;
  const date = input.pay.date;
  const wages = socialSecurityWages(context);
  const rate = tables.value('us.oasdi.rate', date);
  const medicarePay = context.base('us.medicare.wages');
  const medicareRate = tables.value('us.medicare.rate', date);
  return [
    {
      code: SOCIAL_SECURITY,
      label: 'Social security',
      figure: paper
        .reckon(SOCIAL_SECURITY, 'Social security')
        .start(wages.label, wages)
        .percent(`${rate.value.toDecimal()}%`, rate.value)
        .round('half-up')
        .source(rate.source)
        .done(),
      counted: wages,
      bases: wagesAndTips(context, wages),
    },
    {
      code: MEDICARE,
      label: 'Medicare',
      figure: paper
        .reckon(MEDICARE, 'Medicare')
        .start(medicarePay.label, medicarePay)
        .percent(`${medicareRate.value.toDecimal()}%`, medicareRate.value)
        .round('half-up')
        .source(medicareRate.source)
        .done(),
    },
    additionalMedicare(context),
  ];
}

/** Wages and tips up to the ceiling are posted apart, for they have boxes of their own; other wages go first. */
function wagesAndTips(context: TaxContext, wages: Figure): NonNullable<TaxResult['bases']> {
  const { paper } = context;
  const tips = context.base('us.tips');
  const label = 'Social security wages';
  if (tips.amount.isZero()) return [{ code: 'us.oasdi.wages', label, figure: wages }];
  const others = paper
    .reckon('us.oasdi.wages-beside-tips', label)
    .start('Pay counted, beside tips', context.base('us.oasdi.pay').amount.minus(tips.amount))
    .atMost(wages.label, wages)
    .done();
  const tipped = paper.reckon('us.oasdi.tips', 'Social security tips').start(wages.label, wages).less(others.label, others).done();
  return [
    { code: 'us.oasdi.wages', label, figure: others },
    { code: 'us.oasdi.tips', label: tipped.label, figure: tipped },
  ];
}

/** Withheld from pay over the threshold in the year, whatever the filing status (26 U.S.C. 3102(f)). */
function additionalMedicare(context: TaxContext): TaxResult {
  const { paper, input } = context;
  const threshold = tables.value('us.medicare.additional.threshold', input.pay.date);
  const rate = tables.value('us.medicare.additional.rate', input.pay.date);
  const pay = context.base('us.medicare.wages');
  const under = payUpToCeiling(context, 'us.medicare.wages', {
    key: 'us.medicare.under-threshold',
    label: 'Pay up to the threshold',
    ceiling: threshold,
  });
  const wages = paper
    .reckon('us.medicare.additional.wages', 'Medicare wages over 200,000')
    .start(pay.label, pay)
    .less(under.label, under)
    .done();
  return {
    code: ADDITIONAL_MEDICARE,
    label: 'Additional Medicare',
    figure: paper
      .reckon(ADDITIONAL_MEDICARE, 'Additional Medicare')
      .start(wages.label, wages)
      .percent(`${rate.value.toDecimal()}%`, rate.value)
      .round('half-up')
      .source(rate.source, threshold.source)
      .done(),
    bases: [{ code: 'us.medicare.additional.wages', label: wages.label, figure: wages }],
  };
}

/** The employer's share of both (26 U.S.C. 3111). */
export function employerSocialTaxes(context: TaxContext): TaxResult[] {
  const { paper, input } = context;
  const date = input.pay.date;
  const wages = socialSecurityWages(context);
  const pay = context.base('us.medicare.wages');
  const rate = tables.value('us.oasdi.rate', date);
  const medicareRate = tables.value('us.medicare.rate', date);
  return [
    {
      code: 'us.oasdi.employer',
      label: "Social security, employer's share",
      figure: paper
        .reckon('us.oasdi.employer', "Social security, employer's share")
        .start(wages.label, wages)
        .percent(`${rate.value.toDecimal()}%`, rate.value)
        .round('half-up')
        .source(rate.source)
        .done(),
    },
    {
      code: 'us.medicare.employer',
      label: "Medicare, employer's share",
      figure: paper
        .reckon('us.medicare.employer', "Medicare, employer's share")
        .start(pay.label, pay)
        .percent(`${medicareRate.value.toDecimal()}%`, medicareRate.value)
        .round('half-up')
        .source(medicareRate.source)
        .done(),
    },
  ];
}

function socialSecurityWages(context: TaxContext) {
  const ceiling = tables.value('us.oasdi.wage-base', context.input.pay.date);
  return payUpToCeiling(context, 'us.oasdi.pay', { key: 'us.oasdi.wages', label: 'Social security wages', ceiling });
}
