import type { CountryPack } from '@woodruff/core';

/** What is on file of a person, as far as being paid depends on it. */
export interface OnFile {
  hired: string | null;
  kind: string;
  scheduleId: string | null;
  hasRate: boolean;
  tax: unknown;
  hasNumber: boolean;
  hasPayment: boolean;
}

export interface MissingFact {
  sentence: string;
  /** Part of the person's page where it is entered. */
  part: 'facts' | 'pay' | 'tax' | 'payment';
  /** Without it the person cannot be paid. */
  keepsFromPay: boolean;
}

/** Required facts that are missing, all at once; the record can still be saved. */
export function missingFacts(onFile: OnFile, pack: CountryPack): MissingFact[] {
  const missing: MissingFact[] = [];
  const add = (sentence: string, part: MissingFact['part'], keepsFromPay: boolean) => missing.push({ sentence, part, keepsFromPay });
  if (!onFile.hired) add('No hire date', 'facts', true);
  if (!onFile.scheduleId) add('No pay schedule', 'facts', true);
  if (!onFile.hasRate) add('No rate of pay', 'pay', true);
  // Contractors pay their own taxes.
  const lacking = onFile.kind === 'contractor' ? null : lackingTaxDetail(onFile.tax, pack);
  if (lacking !== null) add(onFile.tax ? `Tax details incomplete: ${lacking}` : 'No tax details', 'tax', true);
  if (!onFile.hasNumber) add('No national number', 'facts', false);
  if (!onFile.hasPayment) add('No method of payment', 'payment', false);
  return missing;
}

const looked = new Map<string, string | null>();
const KEPT = 10_000;

/** The first tax detail that is not as the country wants it; null when all are. Lists ask this of thousands, of whom many are alike. */
function lackingTaxDetail(tax: unknown, pack: CountryPack): string | null {
  const key = `${pack.code} ${JSON.stringify(tax)}`;
  const known = looked.get(key);
  if (known !== undefined) return known;
  const parsed = pack.taxSchema.safeParse(tax);
  const found = parsed.success ? null : (parsed.error.issues[0]?.path.join('.') ?? '');
  if (looked.size >= KEPT) looked.clear();
  looked.set(key, found);
  return found;
}
