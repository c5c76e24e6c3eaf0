/** What a category letter has of contributions between the thresholds, of employees and of the employer. */
export interface Letter {
  label: string;
  employee: 'main' | 'reduced' | 'deferred' | 'none';
  /** Of the employer: from the secondary threshold on, or from an upper one. */
  employer: 'secondary' | 'upper' | 'special' | 'none';
  /** The age below which the letter may be had, and whether pension age must be reached. */
  below?: number;
  pensionAge?: true;
}

/** Every category letter in force (HMRC, National Insurance rates and categories). */
export const LETTERS = {
  A: { label: 'A, standard', employee: 'main', employer: 'secondary' },
  B: { label: 'B, reduced rate of married women and widows', employee: 'reduced', employer: 'secondary' },
  C: { label: 'C, over state pension age', employee: 'none', employer: 'secondary', pensionAge: true },
  D: { label: 'D, investment zone, deferred', employee: 'deferred', employer: 'special' },
  E: { label: 'E, investment zone, reduced rate', employee: 'reduced', employer: 'special' },
  F: { label: 'F, freeport', employee: 'main', employer: 'special' },
  H: { label: 'H, apprentice under 25', employee: 'main', employer: 'upper', below: 25 },
  I: { label: 'I, freeport, reduced rate', employee: 'reduced', employer: 'special' },
  J: { label: 'J, deferred', employee: 'deferred', employer: 'secondary' },
  K: { label: 'K, investment zone, over state pension age', employee: 'none', employer: 'special', pensionAge: true },
  L: { label: 'L, freeport, deferred', employee: 'deferred', employer: 'special' },
  M: { label: 'M, under 21', employee: 'main', employer: 'upper', below: 21 },
  N: { label: 'N, investment zone', employee: 'main', employer: 'special' },
  S: { label: 'S, freeport, over state pension age', employee: 'none', employer: 'special', pensionAge: true },
  V: { label: 'V, veteran in the first year of civil employment', employee: 'main', employer: 'upper' },
  X: { label: 'X, no contributions', employee: 'none', employer: 'none' },
  Z: { label: 'Z, under 21, deferred', employee: 'deferred', employer: 'upper', below: 21 },
} as const satisfies Record<string, Letter>;
export type LetterCode = keyof typeof LETTERS;
