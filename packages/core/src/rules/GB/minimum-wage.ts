import type { Figure } from '../../working/reckoning';
import type { TaxContext } from '../country-pack';
import type { UkTax } from './facts';
import { hasAge } from './pension-age';
import { tables } from './tables';

/**
 * The least that an hour worked is paid by age (National Minimum Wage Regulations 2015, regulations 4, 4A and 6): of an apprentice
 * under 19 or in the first year, of the under 18, of 18 to 20, and from 21 on. Without a date of birth the highest holds.
 */
export function minimumWage({ paper, input, tax }: TaxContext<UkTax>): Figure {
  // A rate, and the age, hold from the first pay reference period that begins with them.
  const date = input.pay.from;
  const { born } = input.person;
  const row = tax.apprentice ? 'apprentice' : born === undefined || hasAge(born, 21, date) ? '21' : hasAge(born, 18, date) ? '18' : '16';
  const words = { apprentice: 'of an apprentice', '21': 'from 21 on', '18': '18 to 20', '16': 'under 18' }[row];
  const rate = tables.value(`gb.minimum-wage.${row}`, date);
  return paper.reckon('minimum-wage', 'Minimum wage').start(`National minimum wage, ${words}`, rate.value).source(rate.source).done();
}
