import { Exact, ZERO } from '../../money/exact';
import type { ItemOnPayslip } from '../../pay-items/pay-item';
import type { Figure, Reckoning } from '../../working/reckoning';
import type { Source } from '../../working/working';
import {
  CannotCompute,
  type CountryPack,
  type OrderContext,
  type PublishedTable,
  type TableContext,
  type Treatment,
} from '../country-pack';
import { progressOf } from './progress';
import { tables } from './tables';

const ACT = { publication: 'Attachment of Earnings Act 1971' };
const FEE = { publication: 'Attachment of Earnings Act 1971, section 7(4)(a)', section: 'The fee may be taken beyond protected earnings' };
const MAINTENANCE = { publication: 'Child Support (Collection and Enforcement) Regulations 1992, regulations 8 to 13' };
const PENSIONS = ['pension-net-pay', 'pension-relief-at-source', 'pension-sacrifice', 'sacrifice'];
/** They lower take-home pay, not what can be attached. */
const LOANS = ['gb.student-loan', 'gb.postgraduate-loan'];
const DISPUTE = { publication: 'Social Security (Payments on account, Overpayments and Recovery) Regulations 1988, part VII' };
const SCOTLAND = { publication: 'Debtors (Scotland) Act 1987, sections 46 to 73 and schedule 2' };

const protectedEarnings = {
  key: 'protectedEarnings',
  label: 'Protected earnings each pay',
  help: 'As the order says',
  kind: 'amount',
} as const;

/** Orders and directions that an employer obeys, each with what it leaves free. */
export const attachments: Treatment[] = [
  {
    code: 'earnings-order-priority',
    label: 'Attachment of earnings order, priority (maintenance, fines)',
    for: ['deduction'],
    taken: 'order',
    counts: {},
    feeBeyondLimit: FEE,
    asks: [protectedEarnings],
    source: { ...ACT, section: 'Schedule 3, part I' },
  },
  {
    code: 'child-maintenance',
    label: 'Deduction from earnings order (child maintenance)',
    for: ['deduction'],
    taken: 'order',
    counts: {},
    feeBeyondLimit: MAINTENANCE,
    source: MAINTENANCE,
  },
  {
    code: 'council-tax',
    label: 'Council tax attachment of earnings order',
    for: ['deduction'],
    taken: 'order',
    counts: {},
    feeBeyondLimit: { publication: 'Council Tax (Administration and Enforcement) Regulations 1992, regulation 39' },
    source: { publication: 'Council Tax (Administration and Enforcement) Regulations 1992, schedule 4' },
  },
  {
    code: 'direct-earnings',
    label: 'Direct earnings attachment (benefit overpaid)',
    for: ['deduction'],
    taken: 'order',
    counts: {},
    feeBeyondLimit: { publication: 'Social Security (Overpayments and Recovery) Regulations 2013, regulation 20' },
    source: { publication: 'Social Security (Overpayments and Recovery) Regulations 2013, part 6' },
  },
  {
    code: 'income-support',
    label: 'Income support deduction notice (after a trade dispute)',
    for: ['deduction'],
    taken: 'order',
    counts: {},
    asks: [protectedEarnings],
    source: { ...DISPUTE, unconfirmed: true },
  },
  {
    code: 'earnings-arrestment',
    label: 'Earnings arrestment, or conjoined (Scotland)',
    for: ['deduction'],
    taken: 'order',
    counts: {},
    feeBeyondLimit: { ...SCOTLAND, section: 'Section 71: a pound for each operation of the arrestment' },
    source: { ...SCOTLAND, section: 'Section 49 and schedule 2' },
  },
  {
    code: 'maintenance-arrestment',
    label: 'Current maintenance arrestment (Scotland)',
    for: ['deduction'],
    taken: 'order',
    counts: {},
    feeBeyondLimit: { ...SCOTLAND, section: 'Section 71' },
    source: { ...SCOTLAND, section: 'Section 53' },
  },
  {
    code: 'earnings-order',
    label: 'Attachment of earnings order (judgment debt)',
    for: ['deduction'],
    taken: 'order',
    counts: {},
    feeBeyondLimit: FEE,
    asks: [protectedEarnings],
    source: { ...ACT, section: 'Schedule 3, part II' },
  },
];

/** Earnings that can be attached: pay less income tax, national insurance and contributions to a pension. */
export const attachable: CountryPack['disposable'] = (context) => {
  const { paper, gross, taxes } = context;
  const loans = context.withheld(LOANS);
  const reckoning = paper.reckon('gb.attachable', 'Attachable earnings').start(gross.label, gross).less(taxes.label, taxes);
  if (loans.isAbove(ZERO)) reckoning.plus('Loan repayments, which leave it as it is', loans);
  return reckoning
    .less('Pension contributions', context.deductedBeforeTax(PENSIONS))
    .atLeast('Not below zero', ZERO)
    .source({ ...ACT, section: 'Section 24 and schedule 3, paragraph 3' })
    .done();
};

/** The most that an order takes: what the others before have left over protected earnings, or over 60 per cent of attachable earnings. */
export function orderLimit(order: ItemOnPayslip, context: OrderContext): Figure {
  const { paper, takenByOrders } = context;
  const key = `limit:${order.figure ?? order.item.code}`;
  const earnings = attachable(context);
  const reckoning = paper.reckon(key, 'Most that the order may take').start(earnings.label, earnings);
  switch (order.item.treatment) {
    case 'earnings-order':
    case 'earnings-order-priority':
    case 'income-support': {
      const free = order.orderFacts?.['protectedEarnings'];
      if (typeof free !== 'string' || free.trim() === '')
        throw new CannotCompute(
          'order-without-protection',
          `${order.item.name} needs the protected earnings that the order names. Enter them at the person's item.`,
        );
      reckoning
        .less('Protected earnings, by the order', Exact.of(free))
        .source(order.item.treatment === 'income-support' ? { ...DISPUTE, unconfirmed: true } : ACT);
      break;
    }
    case 'earnings-arrestment':
      reckoning.source(SCOTLAND);
      break;
    case 'maintenance-arrestment': {
      const free = freeInScotland(context);
      reckoning.less('Free of arrestment in the period', free.value).source(free.source, SCOTLAND);
      break;
    }
    case 'council-tax':
      reckoning.source({ publication: 'Council Tax (Administration and Enforcement) Regulations 1992, regulation 38' });
      break;
    default: {
      const percent = tables.value('gb.protected.percent', context.input.pay.date);
      const free = paper
        .reckon(`protected:${key}`, 'Protected earnings')
        .start(earnings.label, earnings)
        .percent(`${percent.value.toDecimal()}%`, percent.value)
        .round('up')
        .source(percent.source)
        .done();
      reckoning.less(free.label, free);
    }
  }
  return reckoning.less('Taken by orders before', takenByOrders).atLeast('Not below zero', ZERO).done();
}

/** Rows of a table for earnings paid weekly or monthly; of several weeks or months it is looked up for one of them. */
function lookedUp(
  reckoning: Reckoning,
  context: TableContext,
  { table, earnings, slices }: { table: string; earnings: Figure; slices: boolean },
): Reckoning {
  const { ofYear, paid } = progressOf(context);
  const schedule = tables.schedule(`${table}.${ofYear === 12 ? 'monthly' : 'weekly'}`, context.input.pay.date);
  const one = earnings.amount.over(Exact.whole(paid));
  // The row that the earnings lie in; at its limit they still lie in the one below.
  const at = schedule.bands.reduce((found, { over }, index) => (index === 0 || one.isAbove(over) ? index : found), 0);
  const row = schedule.bands[at];
  const top = slices && at === schedule.bands.length - 1 ? schedule.bands[at - 1] : undefined;
  const unit = ofYear === 12 ? 'months' : 'weeks';
  reckoning.start(earnings.label, earnings);
  if (paid > 1) reckoning.over(`For one of ${paid} ${unit}`, Exact.whole(paid));
  if (row && top) {
    // Of the highest row the part below it at the rate of the row before, the rest at its own.
    const below = row.over.times(top.percent).over(Exact.whole(100));
    reckoning.less(`Below ${row.over.toDecimal()}`, row.over).percent(`${row.percent.toDecimal()}% of the rest`, row.percent);
    reckoning.plus(`${top.percent.toDecimal()}% of ${row.over.toDecimal()}`, below);
  } else reckoning.percent(`${row?.percent.toDecimal() ?? '0'}%, over ${row?.over.toDecimal() ?? '0'}`, row?.percent ?? ZERO);
  reckoning.round('half-down');
  if (paid > 1) reckoning.times(`Of ${paid} ${unit}`, Exact.whole(paid));
  return reckoning.source(schedule.source);
}

/** Of the earnings of one week or month nothing is arrested up to this; of a period of several it is so many times that. */
function freeInScotland(context: Pick<TableContext, 'input'>): { value: Exact; source: Source } {
  const { ofYear, paid } = progressOf(context);
  const { bands, source } = tables.schedule(`gb.arrestment.${ofYear === 12 ? 'monthly' : 'weekly'}`, context.input.pay.date);
  return { value: (bands[1]?.over ?? ZERO).times(Exact.whole(paid)), source };
}

/** Bands of net earnings, of the lowest at least so much. */
function arrested(reckoning: Reckoning, context: TableContext): Reckoning {
  const { ofYear, paid } = progressOf(context);
  const unit = ofYear === 12 ? 'monthly' : 'weekly';
  const { bands, source } = tables.schedule(`gb.arrestment.${unit}`, context.input.pay.date);
  const least = tables.value(`gb.arrestment.least.${unit}`, context.input.pay.date);
  const net = context.disposable();
  const one = net.amount.over(Exact.whole(paid));
  reckoning.start(net.label, net);
  if (paid > 1) reckoning.over(`For one of ${paid}`, Exact.whole(paid));
  reckoning.schedule('Bands of net earnings', bands);
  if (bands[1] && one.isAbove(bands[1].over)) reckoning.atLeast('At least', least.value);
  reckoning.round('half-up');
  if (paid > 1) reckoning.times(`Of ${paid}`, Exact.whole(paid));
  return reckoning.source(source, SCOTLAND);
}

/** What a council tax order takes, by the tables of a nation; a second goes by what the first has left. */
function councilTax(nation: string, table: string): PublishedTable {
  return {
    label: `Council tax attachment, ${nation}`,
    asks: 'Nothing: the table says it',
    lookUp(reckoning, _amount, context) {
      const before = context.deducted(['council-tax']);
      const net = context.disposable();
      const earnings = before.isZero()
        ? net
        : context.paper
            .reckon('gb.council-tax.left', 'Attachable earnings after the order before')
            .start(net.label, net)
            .less('Taken by it', before)
            .done();
      return lookedUp(reckoning, context, { table, earnings, slices: true });
    },
  };
}

const fixed = (reckoning: Reckoning, amount: Exact): Reckoning => reckoning.start('Fixed by the letter', amount);

/** Tables that orders go by, instead of an amount. */
export const attachmentTables: Readonly<Record<string, PublishedTable>> = {
  'gb.council-tax': councilTax('England', 'gb.council-tax'),
  'gb.council-tax.wales': councilTax('Wales', 'gb.council-tax.wales'),
  'gb.arrestment': {
    label: 'Earnings arrestment, Scotland',
    asks: 'Nothing: the table says it',
    lookUp: (reckoning, _amount, context) => arrested(reckoning, context),
  },
  'gb.direct-earnings.standard': {
    label: 'Direct earnings attachment, standard rate',
    asks: 'Fixed amount, where the letter gives one',
    lookUp: (reckoning, amount, context) =>
      amount.isAbove(ZERO)
        ? fixed(reckoning, amount)
        : lookedUp(reckoning, context, { table: 'gb.direct-earnings.standard', earnings: context.disposable(), slices: false }),
  },
  'gb.direct-earnings.higher': {
    label: 'Direct earnings attachment, higher rate',
    asks: 'Fixed amount, where the letter gives one',
    lookUp: (reckoning, amount, context) =>
      amount.isAbove(ZERO)
        ? fixed(reckoning, amount)
        : lookedUp(reckoning, context, { table: 'gb.direct-earnings.higher', earnings: context.disposable(), slices: false }),
  },
};
