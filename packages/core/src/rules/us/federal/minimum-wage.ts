import type { TaxContext } from '../../country-pack';
import type { Figure } from '../../../working/reckoning';
import { tables } from '../tables';
import type { UsEmployer, UsTax } from '../tax-details';

/** The least that an hour is paid: the federal minimum wage, or that of the state where the work is done if it is higher (29 U.S.C. 218(a)). */
export function minimumWage({ paper, tax, input }: TaxContext<UsTax, UsEmployer>): Figure {
  const federal = tables.value('us.minimum-wage.federal', input.pay.date);
  const state = tables.value(`us.minimum-wage.${tax.workState}`, input.pay.date);
  return paper
    .reckon('minimum-wage', 'Minimum wage')
    .start('Federal minimum wage', federal.value)
    .atLeast(`Minimum wage of ${tax.workState}`, state.value)
    .source(federal.source, state.source)
    .done();
}
