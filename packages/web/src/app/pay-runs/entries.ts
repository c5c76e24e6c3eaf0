import type { ProblemDetail } from '@woodruff/contract';
import { typedNumber } from '@woodruff/core';

/** What was typed as hours: in figures, with a point or a comma; nothing means back to set-up. */
export function readHours(typed: string): { value: string | null } | { fault: string } {
  const text = typed.trim().replace(',', '.');
  if (text === '' || text === '–') return { value: null };
  if (!/^\d{1,3}(\.\d{0,2})?$|^\.\d{1,2}$/.test(text))
    return { fault: `“${typed}” was not taken: hours are figures such as 7.5 or 80. Type them again, or press Escape.` };
  return { value: normal(text) };
}

/** What was typed as a number of pieces; nothing means none. */
export function readPieces(typed: string): { value: string | null } | { fault: string } {
  const text = typedNumber(typed);
  if (text === '' || text === '–') return { value: null };
  if (!/^\d{1,6}(\.\d{0,2})?$/.test(text))
    return { fault: `“${typed}” was not taken: pieces are figures such as 430. Type them again, or press Escape.` };
  return { value: normal(text) };
}

/** What was typed as an amount; nothing means none. */
export function readAmount(typed: string): { value: string | null } | { fault: string } {
  const text = typedNumber(typed);
  if (text === '' || text === '–') return { value: null };
  if (!/^-?\d{1,9}(\.\d{0,2})?$/.test(text))
    return { fault: `“${typed}” was not taken: an amount is figures such as 150 or 84.20. Type it again, or press Escape.` };
  return { value: normal(text) };
}

/** Rows and columns of text copied from a spreadsheet. */
export const readBlock = (text: string): string[][] =>
  text
    .replace(/\r/g, '')
    .replace(/\n$/, '')
    .split('\n')
    .map((line) => line.split('\t'));

export const notTaken = (detail: string): ProblemDetail => ({ type: '/problems/entry', title: detail, detail, status: 0, code: 'entry' });

function normal(text: string): string {
  const negative = text.startsWith('-');
  const [whole = '', fraction = ''] = text.replace('-', '').split('.');
  return `${negative ? '-' : ''}${whole.replace(/^0+(?=\d)/, '') || '0'}.${fraction.padEnd(2, '0')}`;
}
