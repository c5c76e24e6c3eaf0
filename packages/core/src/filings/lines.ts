import type { Minor } from '../money/amounts';
import type { FilingFacts, FilingLine } from './filing';

type Words = Pick<FilingLine, 'label' | 'working'> & Partial<Pick<FilingLine, 'codes' | 'sum' | 'settles'>>;

/**
 * The lines of a filing as they are made, one after another. A line that somebody has overridden counts as it was entered
 * for every line that is made of it; what it replaces stays beside it.
 */
export class Lines {
  readonly all: FilingLine[] = [];

  constructor(
    private readonly entered: FilingFacts['entered'],
    private readonly overrides: readonly string[],
  ) {}

  /** Adds a line in minor units, and gives what counts of it. */
  money(line: string, computed: Minor, words: Words): Minor {
    return this.add(line, computed, 'money', words);
  }

  count(line: string, computed: number, words: Words): number {
    return this.add(line, computed, 'count', words);
  }

  /** What was entered for a line that the ledger does not hold. */
  given(line: string): Minor {
    return this.entered[line]?.amount ?? 0;
  }

  private add(line: string, computed: number, unit: FilingLine['unit'], { codes = [], ...words }: Words): number {
    const over = this.overrides.includes(line) ? this.entered[line] : undefined;
    const amount = over?.amount ?? computed;
    this.all.push({ line, amount, unit, codes, ...words, ...(over ? { replaced: { amount: computed, reason: over.reason } } : {}) });
    return amount;
  }
}
