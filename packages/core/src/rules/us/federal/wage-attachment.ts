import type { Frequency } from '../../../calendar/schedules';
import { Exact, ZERO } from '../../../money/exact';
import type { ItemOnPayslip } from '../../../pay-items/pay-item';
import type { Figure } from '../../../working/reckoning';
import { CannotCompute, type OrderContext } from '../../country-pack';
import { tables } from '../tables';

/** Weeks by which the weekly protected amount is multiplied (29 CFR 870.10): 4⅓ for a month, never less than one. */
const WEEKS: Record<Frequency, Exact> = {
  daily: Exact.whole(1),
  weekly: Exact.whole(1),
  fortnightly: Exact.whole(2),
  'four-weekly': Exact.whole(4),
  'twice-a-month': Exact.whole(13).over(Exact.whole(6)),
  monthly: Exact.whole(13).over(Exact.whole(3)),
  quarterly: Exact.whole(13),
  yearly: Exact.whole(52),
};

/** Gross pay less taxes required by law. */
export const disposableEarnings = ({ paper, gross, taxes }: Pick<OrderContext, 'paper' | 'gross' | 'taxes'>): Figure =>
  paper
    .reckon('us.disposable', 'Disposable earnings')
    .start('Gross pay', gross)
    .less('Taxes required by law', taxes)
    .atLeast('Not below zero', ZERO)
    .source({ publication: '15 U.S.C. 1672(b)', section: 'Disposable earnings' })
    .done();

/** The most that a court order or levy may take from this payslip. */
export function orderLimit(order: ItemOnPayslip, context: OrderContext): Figure {
  switch (order.item.treatment) {
    case 'tax-levy':
      return levyLimit(order, context);
    case 'child-support':
      return supportLimit(order, disposableEarnings(context), context);
    case 'federal-agency':
      return agencyLimit(order, disposableEarnings(context), context);
    default:
      return creditorLimit(order, disposableEarnings(context), context);
  }
}

/** A levy takes all take-home pay but what its notice leaves free (26 U.S.C. 6334(a)(9), (d)). */
function levyLimit(order: ItemOnPayslip, context: OrderContext): Figure {
  const free = order.orderFacts?.exemptPerPayslip;
  if (free === undefined)
    throw new CannotCompute(
      'levy-without-exemption',
      `${order.item.name} needs the amount that its notice leaves free for each pay. Enter it at the person's item.`,
    );
  return context.paper
    .reckon(`limit:${order.figure ?? order.item.code}`, 'Most that the levy may take')
    .start('Take-home pay: gross pay less taxes and all taken before', context.available)
    .less('Left free for each pay, by the notice', Exact.of(free))
    .atLeast('Not below zero', ZERO)
    .source({ publication: '26 U.S.C. 6334(d)', section: 'Exempt amount by Publication 1494, as the notice gives it' })
    .done();
}

/** Debts to federal agencies: 15% of disposable earnings, and no more than creditors could take (31 CFR 285.11(i)). */
function agencyLimit(order: ItemOnPayslip, disposable: Figure, context: OrderContext): Figure {
  const percent = tables.value('us.agency-garnishment.percent', context.input.pay.date);
  const creditors = overProtected(disposable, context);
  return context.paper
    .reckon(`limit:${order.figure ?? order.item.code}`, 'Most that a federal agency may take')
    .start(disposable.label, disposable)
    .percent(`${percent.value.toDecimal()}%`, percent.value)
    .atMost(creditors.label, creditors)
    .less('Taken by orders before', context.takenByOrders)
    .atLeast('Not below zero', ZERO)
    .round('down')
    .source(percent.source)
    .done();
}

function supportLimit(order: ItemOnPayslip, disposable: Figure, context: OrderContext): Figure {
  const facts = order.orderFacts ?? {};
  const percent = (facts.supportsOthers ? 50 : 60) + (facts.arrearsOver12Weeks ? 5 : 0);
  const why = `${facts.supportsOthers ? 'supports others too' : 'supports no others'}${facts.arrearsOver12Weeks ? ', arrears over 12 weeks' : ''}`;
  return context.paper
    .reckon(`limit:${order.figure ?? order.item.code}`, 'Most that support orders may take')
    .start(disposable.label, disposable)
    .percent(`${percent}% (${why})`, Exact.whole(percent))
    .less('Taken by orders before', context.takenByOrders)
    .atLeast('Not below zero', ZERO)
    .round('down')
    .source({ publication: '15 U.S.C. 1673(b)(2)' })
    .done();
}

function overProtected(disposable: Figure, { paper, input }: OrderContext): Figure {
  const wage = tables.value('us.minimum-wage', input.pay.date);
  const hours = tables.value('us.ccpa.hours', input.pay.date);
  const protectedPay = paper
    .reckon('us.protected-earnings', 'Protected earnings')
    .start('Federal minimum wage', wage.value)
    .times('Hours a week', hours.value)
    .times('Weeks in the pay period', WEEKS[input.pay.frequency])
    .round('half-up')
    .source(wage.source, hours.source, { publication: '29 CFR 870.10' })
    .done();
  return paper
    .reckon('us.over-protected', 'Over protected earnings')
    .start(disposable.label, disposable)
    .less(protectedPay.label, protectedPay)
    .atLeast('Not below zero', ZERO)
    .done();
}

function creditorLimit(order: ItemOnPayslip, disposable: Figure, context: OrderContext): Figure {
  const percent = tables.value('us.ccpa.percent', context.input.pay.date);
  const over = overProtected(disposable, context);
  return context.paper
    .reckon(`limit:${order.figure ?? order.item.code}`, 'Most that creditors may take')
    .start(disposable.label, disposable)
    .percent(`${percent.value.toDecimal()}%`, percent.value)
    .atMost(over.label, over)
    .less('Taken by orders before', context.takenByOrders)
    .atLeast('Not below zero', ZERO)
    .round('down')
    .source(percent.source, { publication: '29 CFR 870.11(b)(2)', section: 'Support orders taken first use up the limit' })
    .done();
}
