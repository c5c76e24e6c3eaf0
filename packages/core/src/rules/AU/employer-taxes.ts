import { Exact } from '../../money/exact';
import type { TaxResult } from '../country-pack';
import { INSURANCE, TAXED_WAGES } from './codes';
import { placeOf } from './states';
import type { Context } from './context';

const LAW = { publication: 'Payroll tax acts of the states and territories: wages, with super contributions (harmonised since 2007)' };

/** What is posted of each payslip by state: wages for payroll tax, super with them, and the accrual of workers' insurance. */
export function byState(context: Context, contributed: readonly TaxResult[]): TaxResult[] {
  const { paper, tax, employer } = context;
  const place = placeOf(tax.state);
  const code = `${TAXED_WAGES}@${place}`;
  const wages = context.base(code);
  if (wages.amount.isZero()) return [];
  const liable = paper.reckon(code, wages.label).start('Wages', wages);
  for (const { figure } of contributed) liable.plus(figure.label, figure);
  const figure = liable.source(LAW).done();
  const rate = employer.states[tax.state]?.premiumRate;
  const reckoning = paper.reckon(`${INSURANCE}@${place}`, `Workers' insurance, ${tax.state}`);
  if (rate === undefined) reckoning.start('No premium rate is entered for the state', Exact.whole(0));
  else reckoning.start('Wages', wages).percent("Premium rate of the insurer's notice", Exact.of(rate)).round('half-up');
  return [
    {
      code: `${INSURANCE}@${place}`,
      label: `Workers' insurance, ${tax.state}`,
      figure: reckoning.fact('Registrations', 'registrations').done(),
      bases: [{ code, label: wages.label, figure }],
    },
  ];
}
