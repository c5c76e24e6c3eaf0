import type { Frequency } from '../../../calendar/schedules';
import { Exact, ZERO } from '../../../money/exact';
import type { ItemOnPayslip } from '../../../pay-items/pay-item';
import type { Figure } from '../../../working/reckoning';
import { CannotCompute, type OrderContext } from '../../country-pack';
import { atPlace } from '../../../ledger/codes';
import type { UsTax } from '../facts';
import { stateOf } from '../states';
import type { CreditorShare, State } from '../states/state';
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
  'half-yearly': Exact.whole(26),
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
  const free = order.orderFacts?.['exemptPerPayslip'];
  if (typeof free !== 'string')
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

/** Premiums for health cover, taken off before a federal agency's share is reckoned. */
const HEALTH = ['health-premium'];

/** Debts to federal agencies: 15% of what is left of disposable pay after health premiums, or 25% less what orders before take, whichever is less (31 CFR 285.11(c), (i)). */
function agencyLimit(order: ItemOnPayslip, disposable: Figure, context: OrderContext): Figure {
  const { paper } = context;
  const date = context.input.pay.date;
  const percent = tables.value('us.agency-garnishment.percent', date);
  const most = tables.value('us.ccpa.percent', date);
  const key = order.figure ?? order.item.code;
  const premiums = context.deductedBeforeTax(HEALTH);
  const pay = premiums.isZero()
    ? disposable
    : paper
        .reckon(`agency-pay:${key}`, 'Disposable pay after health premiums')
        .start(disposable.label, disposable)
        .less('Health premiums', premiums)
        .atLeast('Not below zero', ZERO)
        .source({ publication: '31 CFR 285.11(c)', section: 'Disposable pay' })
        .done();
  const quarter = paper
    .reckon(`agency-rest:${key}`, 'A quarter less what orders before take')
    .start(pay.label, pay)
    .percent(`${most.value.toDecimal()}%`, most.value)
    .less('Taken by orders before', context.takenByOrders)
    .atLeast('Not below zero', ZERO)
    .done();
  const over = overProtected(pay, context);
  return paper
    .reckon(`limit:${key}`, 'Most that a federal agency may take')
    .start(pay.label, pay)
    .percent(`${percent.value.toDecimal()}%`, percent.value)
    .atMost(quarter.label, quarter)
    .atMost(over.label, over)
    .round('down')
    .source(percent.source, { publication: '31 CFR 285.11(i)', section: 'Priority and limits' })
    .done();
}

function supportLimit(order: ItemOnPayslip, disposable: Figure, context: OrderContext): Figure {
  const { supportsOthers, arrearsOver12Weeks } = order.orderFacts ?? {};
  const federal = (supportsOthers ? 50 : 60) + (arrearsOver12Weeks ? 5 : 0);
  // The law of the place of work may leave more (15 U.S.C. 1677).
  const state = stateOf(`US-${(context.tax as UsTax).workState}`);
  const percent = Math.min(federal, state.support?.percent ?? federal);
  const why =
    percent < federal
      ? `law of ${state.name}`
      : `${supportsOthers ? 'supports others too' : 'supports no others'}${arrearsOver12Weeks ? ', arrears over 12 weeks' : ''}`;
  return context.paper
    .reckon(`limit:${order.figure ?? order.item.code}`, 'Most that support orders may take')
    .start(disposable.label, disposable)
    .percent(`${percent}% (${why})`, Exact.whole(percent))
    .less('Taken by orders before', context.takenByOrders)
    .atLeast('Not below zero', ZERO)
    .round('down')
    .source({ publication: '15 U.S.C. 1673(b)(2)' }, ...(percent < federal && state.support ? [state.support.source] : []))
    .done();
}

function overProtected(disposable: Figure, context: OrderContext, state?: State, share?: CreditorShare): Figure {
  const { paper, input } = context;
  const own = share?.timesMinimumWage === undefined ? undefined : { times: share.timesMinimumWage, source: share.source };
  const wage = tables.value('us.minimum-wage', input.pay.date);
  const federalHours = tables.value('us.ccpa.hours', input.pay.date);
  const hours = own ? { value: Exact.whole(own.times), source: own.source } : federalHours;
  const least = own ? tables.value(atPlace('minimum-wage', state?.place), input.pay.date) : wage;
  const reckoning = paper
    .reckon(own ? `us.protected-earnings@${state?.place}` : 'us.protected-earnings', 'Protected earnings')
    .start('Federal minimum wage', wage.value);
  if (own) reckoning.atLeast(`Minimum wage of ${state?.name}`, least.value).source(least.source);
  const protectedPay = reckoning
    .times('Hours a week', hours.value)
    .times('Weeks in the pay period', WEEKS[input.pay.frequency])
    .round('half-up')
    .source(wage.source, hours.source, { publication: '29 CFR 870.10' })
    .done();
  return paper
    .reckon(own ? `us.over-protected@${state?.place}` : 'us.over-protected', 'Over protected earnings')
    .start(disposable.label, disposable)
    .less(protectedPay.label, protectedPay)
    .atLeast('Not below zero', ZERO)
    .done();
}

function creditorLimit(order: ItemOnPayslip, disposable: Figure, context: OrderContext): Figure {
  const state = stateOf(`US-${(context.tax as UsTax).workState}`);
  const key = `limit:${order.figure ?? order.item.code}`;
  if (state.creditors && 'barred' in state.creditors && !order.orderFacts?.['excepted'])
    return context.paper
      .reckon(key, 'Most that creditors may take')
      .start(`Wages are free of ordinary creditors in ${state.name}`, ZERO)
      .note('A debt that the law excepts (rent, taxes, a student loan and the like) is marked so at the person’s item.')
      .source(state.creditors.barred)
      .done();
  if (!state.creditors)
    context.problem({
      code: 'creditor-limit-of-state',
      weight: 'look',
      item: order.item.code,
      figure: key,
      sentence: `${order.item.name}: what the law of ${state.name} leaves free of creditors is not in; the federal limit is applied. Compare it with the order, or accept it with a reason.`,
    });
  // What the state's law excepts from its own limit is under the federal one.
  const share = state.creditors && 'source' in state.creditors && !order.orderFacts?.['excepted'] ? state.creditors : undefined;
  const federal = tables.value('us.ccpa.percent', context.input.pay.date);
  const percent = share?.percentOfDisposable === undefined ? federal.value : Exact.whole(share.percentOfDisposable);
  const over = overProtected(disposable, context, state, share);
  const excess =
    share?.percentOfExcess === undefined
      ? over
      : context.paper
          .reckon(`excess:${key}`, `${share.percentOfExcess}% of what is over protected earnings`)
          .start(over.label, over)
          .percent(`${share.percentOfExcess}%`, Exact.whole(share.percentOfExcess))
          .done();
  const reckoning = context.paper
    .reckon(key, 'Most that creditors may take')
    .start(disposable.label, disposable)
    .percent(`${percent.toDecimal()}%`, percent)
    .atMost(excess.label, excess);
  if (share?.percentOfGross !== undefined) {
    const gross = context.paper
      .reckon(`gross:${key}`, `${share.percentOfGross}% of gross pay`)
      .start('Gross pay', context.gross)
      .percent(`${share.percentOfGross}%`, Exact.whole(share.percentOfGross))
      .done();
    reckoning.atMost(gross.label, gross);
  }
  return reckoning
    .less('Taken by orders before', context.takenByOrders)
    .atLeast('Not below zero', ZERO)
    .round('down')
    .source(...(share ? [share.source] : []), federal.source, {
      publication: '29 CFR 870.11(b)(2)',
      section: 'Support orders taken first use up the limit',
    })
    .done();
}
