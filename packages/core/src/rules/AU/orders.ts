import { Exact, ZERO } from '../../money/exact';
import type { ItemOnPayslip } from '../../pay-items/pay-item';
import type { Figure } from '../../working/reckoning';
import { CannotCompute, type CountryPack, type OrderContext, type Treatment } from '../country-pack';
import { deductionCode } from './codes';

const CHILD_SUPPORT = { publication: 'Child Support (Registration and Collection) Act 1988, sections 4, 46 and 72A' };
const GARNISHEE = {
  publication: 'Civil procedure acts of the states and territories; Taxation Administration Act 1953, schedule 1, section 260-5',
};

const protectedEarnings = {
  key: 'protectedEarnings',
  label: 'Protected earnings each pay',
  help: 'As Services Australia publishes them for the year',
  kind: 'amount',
} as const;

/** Withheld by notice of the registrar, and handed on by the 7th of the month after. */
export const childSupport: Treatment = {
  code: 'child-support',
  label: 'Child support deduction (section 45 notice)',
  for: ['deduction'],
  taken: 'order',
  counts: { [deductionCode('D')]: 1 },
  asks: [protectedEarnings],
  remitted: {
    rule: { by: 'month', day: 7 },
    purpose: 'support',
    source: { ...CHILD_SUPPORT, section: 'Section 47: by the 7th of the following month' },
  },
  source: CHILD_SUPPORT,
};

export const garnishee: readonly Treatment[] = [
  {
    code: 'child-support-garnishee',
    label: 'Child support garnishee (section 72A notice)',
    for: ['deduction'],
    taken: 'order',
    counts: { [deductionCode('G')]: 1 },
    source: { ...CHILD_SUPPORT, section: 'Section 72A: as the notice says' },
  },
  {
    code: 'garnishee-order',
    label: 'Garnishee order of a court, or notice of the tax office',
    for: ['deduction'],
    taken: 'order',
    counts: {},
    asks: [{ ...protectedEarnings, help: 'What the order leaves free; 0 where it leaves nothing' }],
    source: GARNISHEE,
  },
];

/** Pay less what is withheld. */
export const disposable: CountryPack['disposable'] = ({ paper, gross, taxes }) =>
  paper
    .reckon('au.disposable', 'Pay after withholding')
    .start(gross.label, gross)
    .less(taxes.label, taxes)
    .atLeast('Not below zero', ZERO)
    .source(CHILD_SUPPORT)
    .done();

/** The most that an order takes: pay after withholding over what it protects, less what orders before it took. */
export function orderLimit(order: ItemOnPayslip, context: OrderContext): Figure {
  const { paper, takenByOrders } = context;
  const left = disposable(context);
  const reckoning = paper.reckon(`limit:${order.figure ?? order.item.code}`, 'Most that the order may take').start(left.label, left);
  if (order.item.treatment !== 'child-support-garnishee') {
    const free = order.orderFacts?.['protectedEarnings'];
    if (typeof free !== 'string' || free.trim() === '')
      throw new CannotCompute(
        'order-without-protection',
        `${order.item.name} needs the earnings that it protects. Enter them at the person's item.`,
      );
    reckoning.less('Protected earnings', Exact.of(free)).source(order.item.treatment === 'child-support' ? CHILD_SUPPORT : GARNISHEE);
  }
  return reckoning.less('Taken by orders before', takenByOrders).atLeast('Not below zero', ZERO).done();
}
