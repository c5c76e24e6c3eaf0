import { Exact } from '../../../money/exact';
import { CannotCompute, type TaxContext, type TaxResult } from '../../country-pack';
import { payUpToCeiling } from '../../ceilings';
import { tables } from '../tables';
import type { UsEmployer, UsTax } from '../tax-details';

const NAMES = { PA: 'Pennsylvania', VA: 'Virginia', TX: 'Texas' } as const;

/** The employer's unemployment contribution to the state where the work is done, at the rate assigned to the employer. */
export function stateUnemployment(context: TaxContext<UsTax, UsEmployer>): TaxResult {
  const state = context.tax.workState;
  const assigned = context.employer.states[state];
  if (!assigned) {
    throw new CannotCompute(
      'employer-rate-missing',
      `The employer has no unemployment rate for ${NAMES[state]}. Enter the rate of the state's notice with the employer's facts.`,
    );
  }
  const code = `us.${state.toLowerCase()}.suta`;
  const ceiling = tables.value(`${code}.wage-base`, context.input.pay.date);
  const wages = payUpToCeiling(context, 'us.suta.pay', { key: `${code}.wages`, label: `${NAMES[state]} unemployment wages`, ceiling });
  const label = `${NAMES[state]} unemployment`;
  return {
    code,
    label,
    figure: context.paper
      .reckon(code, label)
      .start(wages.label, wages)
      .percent(`${assigned.unemploymentRate}%, rate assigned to the employer`, Exact.of(assigned.unemploymentRate))
      .round('half-up')
      .source(ceiling.source)
      .done(),
    bases: [{ code: `${code}.wages`, label: wages.label, figure: wages }],
  };
}
