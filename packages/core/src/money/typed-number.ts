/** Commas that group thousands from the right, and nothing else: 1,250.00 and 12,345, not 24,50. */
const GROUPED = /^-?\d{1,3}(,\d{3})+(\.\d*)?$/;

/**
 * A number as people and spreadsheets write it, without what does not change it: spaces, a currency sign, a per cent
 * sign, commas that group thousands, and the typographic minus. A comma that groups nothing may have been meant as a
 * point: it stays, so that whoever reads the number refuses it instead of reading a hundred times as much.
 * @returns the text to be read as a number; it need not be one
 */
export function typedNumber(text: string): string {
  const bare = text
    .trim()
    .replace(/[\s\p{Sc}]/gu, '')
    .replace(/^[−–](?=[\d.])/, '-')
    .replace(/%$/, '');
  return GROUPED.test(bare) ? bare.replaceAll(',', '') : bare;
}
