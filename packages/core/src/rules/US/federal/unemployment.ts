import type { TaxContext, TaxResult } from '../../country-pack';
import { payUpToCeiling } from '../../ceilings';
import { tables } from '../tables';

/** Federal unemployment tax at the rate after the full credit (26 U.S.C. 3301, 3302). */
export function federalUnemployment(context: TaxContext): TaxResult {
  const date = context.input.pay.date;
  const ceiling = tables.value('us.futa.wage-base', date);
  const rate = tables.value('us.futa.rate', date);
  const credit = tables.value('us.futa.credit', date);
  const wages = payUpToCeiling(context, 'us.futa.pay', { key: 'us.futa.wages', label: 'Federal unemployment wages', ceiling });
  const net = context.paper
    .reckon('us.futa.net-rate', 'Rate after credit')
    .in('percent')
    .start('Rate', rate.value)
    .less('Credit for state unemployment tax', credit.value)
    .source(rate.source, credit.source)
    .done();
  return {
    code: 'us.futa',
    label: 'Federal unemployment',
    figure: context.paper
      .reckon('us.futa', 'Federal unemployment')
      .start(wages.label, wages)
      .percent(`${net.amount.toDecimal()}%`, net)
      .round('half-up')
      .source(rate.source)
      .done(),
    bases: [{ code: 'us.futa.wages', label: 'Federal unemployment wages', figure: wages }],
  };
}
