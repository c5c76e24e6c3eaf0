import { Exact, ZERO } from '../../money/exact';
import { round } from '../../money/roundings';
import { CannotCompute, type TaxContext, type TaxResult } from '../country-pack';
import type { Parameter } from '../parameters';
import { tables } from './tables';

const METHOD = {
  publication: 'HMRC, CA38 and National Insurance guidance for software developers',
  section: 'Exact percentage method: to the nearest penny, half a penny down',
};

/** Employee's class 1 contributions, category A, by the exact percentage method. Each period stands alone. */
export function nationalInsuranceOfEmployee(context: TaxContext): TaxResult {
  const { paper } = context;
  const earnings = context.base('gb.ni.earnings');
  const primary = threshold(context, 'primary');
  const upper = threshold(context, 'upper');
  const main = tables.value('gb.ni.employee.main', context.input.pay.date);
  const above = tables.value('gb.ni.employee.upper', context.input.pay.date);
  const atMain = paper
    .reckon('gb.ni.main', 'Between primary threshold and upper earnings limit')
    .start(earnings.label, earnings)
    .atMost('Upper earnings limit', upper.value)
    .less('Primary threshold', primary.value)
    .atLeast('Not below zero', ZERO)
    .percent('Main rate', main.value)
    .round('half-down')
    .source(primary.source, METHOD)
    .done();
  const atUpper = paper
    .reckon('gb.ni.upper', 'Above the upper earnings limit')
    .start(earnings.label, earnings)
    .less('Upper earnings limit', upper.value)
    .atLeast('Not below zero', ZERO)
    .percent('Upper rate', above.value)
    .round('half-down')
    .source(above.source, METHOD)
    .done();
  return {
    code: 'gb.ni',
    label: 'National insurance',
    figure: paper.reckon('gb.ni', 'National insurance').start(atMain.label, atMain).plus(atUpper.label, atUpper).done(),
  };
}

export function nationalInsuranceOfEmployer(context: TaxContext): TaxResult {
  const secondary = threshold(context, 'secondary');
  const rate = tables.value('gb.ni.employer', context.input.pay.date);
  const earnings = context.base('gb.ni.earnings');
  const figure = context.paper
    .reckon('gb.ni.employer', "National insurance, employer's")
    .start(earnings.label, earnings)
    .less('Secondary threshold', secondary.value)
    .atLeast('Not below zero', ZERO)
    .percent("Employer's rate", rate.value)
    .round('half-down')
    .source(secondary.source, METHOD)
    .done();
  return { code: 'gb.ni.employer', label: "National insurance, employer's", figure };
}

function threshold(context: TaxContext, name: 'primary' | 'upper' | 'secondary'): Parameter {
  const { frequency, date } = context.input.pay;
  if (frequency === 'monthly') return tables.value(`gb.ni.${name}.monthly`, date);
  const weeks = { weekly: 1, fortnightly: 2, 'four-weekly': 4 }[frequency as string];
  if (!weeks)
    throw new CannotCompute(
      'no-table',
      'National insurance has no such earnings period here. Pay weekly, fortnightly, four-weekly or monthly.',
    );
  if (weeks === 1) return tables.value(`gb.ni.${name}.weekly`, date);
  // Of several weeks: the year's figure by 52, times the weeks, rounded up to a pound.
  const yearly = tables.value(`gb.ni.${name}.annual`, date);
  return { ...yearly, value: round(yearly.value.times(Exact.whole(weeks)).over(Exact.whole(52)), 'up', 0) };
}
