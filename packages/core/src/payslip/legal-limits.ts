import { yearOf, type IsoDate } from '../calendar/dates';
import type { Minor } from '../money/amounts';
import { CannotCompute, type TaxContext } from '../rules/country-pack';
import { packOf } from '../rules/registry';
import { Paper } from '../working/reckoning';
import type { Working } from '../working/working';

/** What the law allows in a year, for those whose age in it does not matter and for older ones where more is allowed. */
export interface LegalLimit {
  /** The youngest age in the year that it is for; null for everybody else. */
  fromAge: number | null;
  amount: Minor;
  working: Working;
}

/** Ages at which laws allow more; each is tried, and kept where it differs from the one before. */
const AGES = [50, 55, 60, 64];

/**
 * The legal limits of items of a treatment in the year of a date.
 * @returns none where the treatment has no limit or the year no table
 */
export function legalLimits(country: string, treatmentCode: string, date: IsoDate): LegalLimit[] {
  const pack = packOf(country);
  const treatment = pack.treatments[treatmentCode];
  if (!treatment?.limitedBy) return [];
  const name = treatment.limit ?? treatment.limitedBy;
  const limits: LegalLimit[] = [];
  try {
    for (const age of [null, ...AGES]) {
      const paper = new Paper(true);
      const person = age === null ? { name: '', born: `${yearOf(date) - 30}-01-01` } : { name: '', born: `${yearOf(date) - age}-01-01` };
      // A limit looks at nothing but the date and the age.
      const figure = pack.legalLimit(name, { paper, input: { pay: { date }, person } } as unknown as TaxContext);
      const working = paper.workings[figure.key];
      const amount = figure.amount.toMinor();
      if (working && amount !== limits.at(-1)?.amount) limits.push({ fromAge: age, amount, working });
    }
  } catch (error) {
    if (!(error instanceof CannotCompute)) throw error;
  }
  return limits;
}
