import { Exact, ZERO } from '../money/exact';
import type { Minor } from '../money/amounts';
import { CannotCompute } from '../rules/country-pack';
import { packOf } from '../rules/registry';
import { Paper } from '../working/reckoning';
import { PayslipDraft } from './draft';
import type { PayslipInput } from './input';

/** What is left of a limit of a person's item before this pay date, in minor units. */
export interface LimitLeft {
  item: string;
  /** Which limit: the year's, the whole sum, or the law's. */
  limit: 'year' | 'in-all' | 'law';
  label: string;
  of: Minor;
  left: Minor;
}

/**
 * Limits by year, in all and by law of the recurring items on an input, with what is left of each.
 * A limit that cannot be known (no table for the date) is left out.
 */
export function limitsLeft(input: PayslipInput): LimitLeft[] {
  const pack = packOf(input.country);
  const draft = new PayslipDraft(input, pack, new Paper(false), { tax: input.tax, employer: input.employer });
  const found: LimitLeft[] = [];
  for (const { item, limits: own } of input.items) {
    const limits = { ...item.limits, ...own };
    const add = (limit: LimitLeft['limit'], label: string, of: Exact, taken: number) =>
      found.push({ item: item.code, limit, label, of: of.toMinor(), left: of.minus(Exact.minor(taken)).atLeast(ZERO).toMinor() });
    const taken = input.balances[item.code];
    if (limits.perYear !== undefined) add('year', item.name, Exact.of(limits.perYear), taken?.year ?? 0);
    if (limits.inAll !== undefined) add('in-all', item.name, Exact.of(limits.inAll), taken?.inAll ?? 0);
    const treatment = pack.treatments[item.treatment];
    if (!treatment?.limitedBy) continue;
    try {
      const legal = pack.legalLimit(treatment.limit ?? treatment.limitedBy, draft.context);
      add('law', item.name, legal.amount, input.balances[treatment.limitedBy]?.year ?? 0);
    } catch (error) {
      if (!(error instanceof CannotCompute)) throw error;
    }
  }
  return found;
}
