import type { Figure } from '../working/reckoning';
import type { TaxContext } from './country-pack';
import type { Parameter } from './parameters';

/**
 * The part of this payslip's pay that lies below a yearly ceiling. It is calculated cumulatively, so that
 * a reversal or a negative correction gives back exactly what lies below the ceiling and no more.
 * @param base code of the base whose full pay is posted without a ceiling
 */
export function payUpToCeiling(context: TaxContext, base: string, to: { key: string; label: string; ceiling: Parameter }): Figure {
  const pay = context.base(base);
  const before = context.yearToDate(base, 'Pay earlier this year');
  const after = before.amount.plus(pay.amount);
  const reckoning = context.paper.reckon(to.key, to.label);
  // Below the ceiling before and after, the whole pay counts: no need to write the ceiling's arithmetic.
  if (!after.isAbove(to.ceiling.value) && !before.amount.isAbove(to.ceiling.value)) {
    return reckoning
      .start(pay.label, pay)
      .source(to.ceiling.source)
      .note(`Ceiling of the year: ${to.ceiling.value.toDecimal()}; with this payslip ${after.toDecimal()}.`)
      .done();
  }
  return reckoning
    .start('Pay earlier this year', before)
    .plus(pay.label, pay)
    .atMost('Ceiling of the year', to.ceiling.value)
    .less('Counted earlier this year', before.amount.atMost(to.ceiling.value))
    .source(to.ceiling.source)
    .done();
}
