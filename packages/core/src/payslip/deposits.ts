import type { Minor } from '../money/amounts';
import { Exact, HUNDRED, ZERO } from '../money/exact';
import { round } from '../money/roundings';

/** How much of net pay goes to one of a person's accounts. `value` is an amount or a per cent, as decimal text. */
export interface DepositShare {
  id: string;
  by: 'amount' | 'percent' | 'remainder';
  value?: string | undefined;
}

/**
 * Net pay over a person's accounts, in their order: amounts and per cents of the whole net while it lasts, the
 * remainder to the account that takes it. Amounts in minor units; they sum to the net.
 */
export function splitNet(net: Minor, shares: readonly DepositShare[]): { id: string; amount: Minor }[] {
  const whole = Exact.minor(net).atLeast(ZERO);
  let left = whole;
  const wanted = new Map<string, Exact>();
  for (const { id, by, value } of shares) {
    if (by === 'remainder') continue;
    const share = by === 'amount' ? Exact.of(value ?? '0') : round(whole.times(Exact.of(value ?? '0')).over(HUNDRED), 'half-up', 2);
    const amount = share.atMost(left);
    wanted.set(id, amount);
    left = left.minus(amount);
  }
  return shares.map(({ id, by }) => ({ id, amount: (by === 'remainder' ? left : (wanted.get(id) ?? ZERO)).toMinor() }));
}
