const weighted = (digits: string, weights: readonly number[]): number =>
  weights.reduce((sum, weight, index) => sum + weight * Number(digits[index] ?? 0), 0);

/** Eleven figures, of which the first less one makes the weighted sum a multiple of 89. */
export const isAbn = (text: string): boolean =>
  /^[1-9]\d{10}$/.test(text) && weighted(`${Number(text[0]) - 1}${text.slice(1)}`, [10, 1, 3, 5, 7, 9, 11, 13, 15, 17, 19]) % 89 === 0;

const SPECIAL = ['000000000', '111111111', '333333333', '444444444', '987654321'];

/** Nine figures whose weighted sum is a multiple of eleven, or a number with a meaning of its own. */
export const isTfn = (text: string): boolean =>
  SPECIAL.includes(text) || (/^\d{9}$/.test(text) && weighted(text, [1, 4, 3, 7, 5, 8, 6, 9, 10]) % 11 === 0);
export const isSpecial = (text: string): boolean => SPECIAL.includes(text);
