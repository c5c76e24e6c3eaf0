import { ZERO } from '../../money/exact';
import type { Figure } from '../../working/reckoning';
import type { TaxContext, TaxResult } from '../country-pack';
import { tables } from './tables';

/** What is paid because employment ends and for no work: redundancy and the like. */
export const AWARD = 'gb.termination';
export const CLASS_1A = 'gb.ni.1a';
const LAW = {
  publication:
    'Income Tax (Earnings and Pensions) Act 2003, sections 401 to 404; Social Security Contributions and Benefits Act 1992, section 10(2A)',
  section: 'The first 30,000 of a termination award are free of tax',
};

/** Of an award what is over the exempt sum, with what was paid of it before in the tax year. */
export function taxedAward(context: Pick<TaxContext, 'paper' | 'input' | 'base' | 'yearToDate'>): Figure | undefined {
  const now = context.base(AWARD);
  if (now.amount.isZero()) return undefined;
  const exempt = tables.value('gb.termination.exempt', context.input.pay.date);
  const before = context.yearToDate(AWARD, '');
  const taxedBefore = context.paper
    .reckon('gb.termination.before', 'Award taxed earlier')
    .start('Award paid earlier in the tax year', before)
    .less('Exempt sum', exempt.value)
    .atLeast('Not below zero', ZERO)
    .done();
  return context.paper
    .reckon('gb.termination.taxed', 'Termination award over the exempt sum')
    .start('Award paid earlier in the tax year', before)
    .plus(now.label, now)
    .less('Exempt sum', exempt.value)
    .atLeast('Not below zero', ZERO)
    .less(taxedBefore.label, taxedBefore)
    .source(exempt.source, LAW)
    .done();
}

/** Class 1A contributions of the employer on what of an award is taxed. */
export function class1aOnAward(context: TaxContext): TaxResult[] {
  const taxed = taxedAward(context);
  if (!taxed) return [];
  const rate = tables.value('gb.ni.1a', context.input.pay.date);
  const label = 'National insurance on termination awards, class 1A';
  return [
    {
      code: CLASS_1A,
      label,
      figure: context.paper
        .reckon(CLASS_1A, label)
        .start(taxed.label, taxed)
        .percent('Rate', rate.value)
        .round('half-down')
        .source(rate.source, LAW)
        .done(),
    },
  ];
}
