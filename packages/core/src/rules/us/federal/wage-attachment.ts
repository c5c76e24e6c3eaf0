import type { Frequency } from '../../../calendar/schedules';
import { Exact, ZERO } from '../../../money/exact';
import type { ItemOnPayslip } from '../../../pay-items/pay-item';
import type { Figure } from '../../../working/reckoning';
import type { OrderContext } from '../../country-pack';
import { tables } from '../tables';

/** Weeks by which the weekly protected amount is multiplied (29 CFR 870.10): 4⅓ for a month. */
const WEEKS: Record<Frequency, Exact> = {
  weekly: Exact.whole(1),
  fortnightly: Exact.whole(2),
  'twice-a-month': Exact.whole(13).over(Exact.whole(6)),
  monthly: Exact.whole(13).over(Exact.whole(3)),
};

/** The most that a court order may take from this payslip (Consumer Credit Protection Act, 15 U.S.C. 1673). */
export function orderLimit(order: ItemOnPayslip, context: OrderContext): Figure {
  const disposable = context.paper
    .reckon('us.disposable', 'Disposable earnings')
    .start('Gross pay', context.gross)
    .less('Taxes required by law', context.taxes)
    .atLeast('Not below zero', ZERO)
    .source({ publication: '15 U.S.C. 1672(b)', section: 'Disposable earnings' })
    .done();
  return order.item.treatment === 'child-support' ? supportLimit(order, disposable, context) : creditorLimit(order, disposable, context);
}

function supportLimit(order: ItemOnPayslip, disposable: Figure, context: OrderContext): Figure {
  const facts = order.orderFacts ?? {};
  const percent = (facts.supportsOthers ? 50 : 60) + (facts.arrearsOver12Weeks ? 5 : 0);
  const why = `${facts.supportsOthers ? 'supports others too' : 'supports no others'}${facts.arrearsOver12Weeks ? ', arrears over 12 weeks' : ''}`;
  return context.paper
    .reckon(`limit:${order.item.code}`, 'Most that support orders may take')
    .start(disposable.label, disposable)
    .percent(`${percent}% (${why})`, Exact.whole(percent))
    .less('Taken by orders before', context.takenByOrders)
    .atLeast('Not below zero', ZERO)
    .round('down')
    .source({ publication: '15 U.S.C. 1673(b)(2)' })
    .done();
}

function creditorLimit(order: ItemOnPayslip, disposable: Figure, context: OrderContext): Figure {
  const { paper, input } = context;
  const date = input.pay.date;
  const wage = tables.value('us.minimum-wage', date);
  const hours = tables.value('us.ccpa.hours', date);
  const percent = tables.value('us.ccpa.percent', date);
  const protectedPay = paper
    .reckon('us.protected-earnings', 'Protected earnings')
    .start('Federal minimum wage', wage.value)
    .times('Hours a week', hours.value)
    .times('Weeks in the pay period', WEEKS[input.pay.frequency])
    .round('half-up')
    .source(wage.source, hours.source, { publication: '29 CFR 870.10' })
    .done();
  const over = paper
    .reckon('us.over-protected', 'Over protected earnings')
    .start(disposable.label, disposable)
    .less(protectedPay.label, protectedPay)
    .atLeast('Not below zero', ZERO)
    .done();
  return paper
    .reckon(`limit:${order.item.code}`, 'Most that creditors may take')
    .start(disposable.label, disposable)
    .percent(`${percent.value.toDecimal()}%`, percent.value)
    .atMost(over.label, over)
    .less('Taken by orders before', context.takenByOrders)
    .atLeast('Not below zero', ZERO)
    .round('down')
    .source(percent.source, { publication: '29 CFR 870.11(b)(2)', section: 'Support orders taken first use up the limit' })
    .done();
}
