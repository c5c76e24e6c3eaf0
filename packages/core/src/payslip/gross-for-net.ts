import { decimalOf, minorOf, type Minor } from '../money/amounts';
import type { PayItem } from '../pay-items/pay-item';
import { computePayslip } from './compute-payslip';
import type { OneOff, PayslipInput } from './input';
import type { Payslip } from './payslip';

export interface GrossForNet {
  /** What to enter, as a one-off on the item given. */
  oneOff: OneOff;
  /** The payslip with it: the proof, with its workings. */
  payslip: Payslip;
  /** Wanted less reached, in minor units: not zero only where no amount of whole cents reaches the net to reach. */
  missing: Minor;
}

/**
 * Finds the amount of an item that brings net pay to the net to reach, to the cent.
 * @param net decimal text
 * @throws RangeError when even the largest amount tried (ten million) does not reach it, or when without the item net is above it
 */
export function grossForNet(input: PayslipInput, item: PayItem, net: string): GrossForNet {
  const wanted = minorOf(net);
  const attempt = (amount: Minor): PayslipInput => ({
    ...input,
    oneOffs: [...input.oneOffs, { id: 'net-wanted', item, amount: decimalOf(amount), note: `So that net pay is ${net}` }],
  });
  const netOf = (amount: Minor): Minor => computePayslip(attempt(amount)).totals.net;
  let low = 0;
  let high = 1_000_000_000;
  if (netOf(low) > wanted) throw new RangeError(`Net pay is already above ${net} without ${item.name}.`);
  if (netOf(high) < wanted) throw new RangeError(`No amount of ${item.name} brings net pay to ${net}.`);
  // Net never falls when gross rises, so that halving finds the smallest gross that reaches it.
  while (low < high) {
    const middle = Math.floor((low + high) / 2);
    if (netOf(middle) >= wanted) high = middle;
    else low = middle + 1;
  }
  const solved = attempt(low);
  const payslip = computePayslip(solved, { workings: true });
  const oneOff = solved.oneOffs.at(-1);
  if (!oneOff) throw new RangeError('no one-off');
  return { oneOff, payslip, missing: wanted - payslip.totals.net };
}
