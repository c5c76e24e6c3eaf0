/** A tax code as the agency writes it, taken apart. */
export interface TaxCode {
  /** Whose rates: of Scotland, of Wales, or of England and Northern Ireland. */
  nation: 'scotland' | 'wales' | 'rest';
  kind: 'allowance' | 'additional-pay' | 'flat' | 'no-allowance' | 'no-tax';
  /** The figures of the code; 0 where it has none. */
  number: number;
  /** Of a flat code, which of the bands' rates: counted from the lowest. */
  band: number;
}

/** Rates by their name, lowest first, as each nation calls them. */
export const RATES: Readonly<Record<TaxCode['nation'], readonly string[]>> = {
  rest: ['Basic', 'Higher', 'Additional'],
  wales: ['Basic', 'Higher', 'Additional'],
  scotland: ['Starter', 'Basic', 'Intermediate', 'Higher', 'Advanced', 'Top'],
};
const BASIC: Readonly<Record<TaxCode['nation'], number>> = { rest: 0, wales: 0, scotland: 1 };

/**
 * Takes a code apart; undefined for one that cannot exist (HMRC, Specification for PAYE tax table routines; CWG2, 1.2):
 * figures with L, M, N or T, K with figures, BR, D0 and above, 0T, NT; before it S or C for the rates of Scotland or Wales.
 */
export function taxCodeOf(text: string): TaxCode | undefined {
  const found = /^([SC]?)(?:(0|[1-9]\d{0,4})([LMNT])|K([1-9]\d{0,4})|(BR|D\d)|(NT))$/.exec(text);
  if (!found) return undefined;
  const [, prefix, figures, letter, added, flat, none] = found;
  const nation = prefix === 'S' ? 'scotland' : prefix === 'C' ? 'wales' : 'rest';
  if (none) return prefix ? undefined : { nation, kind: 'no-tax', number: 0, band: 0 };
  if (added) return { nation, kind: 'additional-pay', number: Number(added), band: 0 };
  if (flat) {
    const band = BASIC[nation] + (flat === 'BR' ? 0 : Number(flat.slice(1)) + 1);
    return band < RATES[nation].length ? { nation, kind: 'flat', number: 0, band } : undefined;
  }
  if (figures === '0' && letter === 'T') return { nation, kind: 'no-allowance', number: 0, band: 0 };
  return { nation, kind: 'allowance', number: Number(figures), band: 0 };
}
