import { Exact, ZERO } from './exact';

/**
 * Shares a sum out by what each asks for, to the cent and without losing one: each share is rounded down, and the cents
 * that are left go to the largest remainders, the earlier first.
 * @param total in minor units, not negative
 * @param asked what each asks for; all zero gives nothing to anybody
 * @returns shares in minor units, together the total
 */
export function shareOut(total: number, asked: readonly Exact[]): number[] {
  const all = asked.reduce((sum, one) => sum.plus(one), ZERO);
  if (!all.isAbove(ZERO)) return asked.map(() => 0);
  const exact = asked.map((one) => Exact.whole(total).times(one).over(all));
  const shares = exact.map((one) => Math.floor(Number(one.toDecimal(6))));
  const left = total - shares.reduce((sum, one) => sum + one, 0);
  const byRemainder = exact
    .map((one, index) => ({ index, rest: one.minus(Exact.whole(shares[index] ?? 0)) }))
    .sort((a, b) => (a.rest.isAbove(b.rest) ? -1 : b.rest.isAbove(a.rest) ? 1 : a.index - b.index));
  for (const { index } of byRemainder.slice(0, left)) shares[index] = (shares[index] ?? 0) + 1;
  return shares;
}
