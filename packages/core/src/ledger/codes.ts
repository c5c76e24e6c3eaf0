/**
 * What a posted line is summed by: what it is, and after `@` whose it is, where a place below the country has a share in
 * it. The same tax of two places is two sums, with ceilings of their own, and is remitted to each.
 */
export type LedgerCode = string;

/** `us.state-income` and `US-PA` make `us.state-income@US-PA`; without a place the code stands alone. */
export const atPlace = (what: string, place: string | undefined): LedgerCode => (place ? `${what}@${place}` : what);

/** The place of a code; empty for what is the country's own, or the employer's. */
export const placeOfCode = (code: LedgerCode): string => code.slice(whatOf(code).length + 1);

/** What a code is, wherever it belongs. */
export const whatOf = (code: LedgerCode): string => {
  const at = code.indexOf('@');
  return at < 0 ? code : code.slice(0, at);
};
