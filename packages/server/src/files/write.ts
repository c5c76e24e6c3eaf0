import { stringify } from 'csv-stringify/sync';
import { inThread } from '../threads/threads';
import type { Cell, Workbook } from './write-workbook';

/** A text that a spreadsheet would take for a formula: it gets an apostrophe before it. A number written as text is none. */
const FORMULA = /^\s*[=+\-@\t\r\uff1d\uff0b\uff0d\uff20−]/;
const NUMBER = /^[-−+]?\d[\d,]*(\.\d+)?%?$/;
export const harmless = (cell: Cell): Cell =>
  typeof cell === 'string' && FORMULA.test(cell) && !NUMBER.test(cell.trim()) ? `'${cell}` : cell;

/** Rows as CSV with nothing in them that a spreadsheet would run: the one way out for every export. */
export const csvOf = (rows: readonly (readonly Cell[])[], { bom = false } = {}): string =>
  stringify(
    rows.map((row) => row.map(harmless)),
    { bom },
  );

export const workbookOf = async (workbook: Workbook): Promise<Buffer> =>
  Buffer.from(await inThread('writeWorkbook', { ...workbook, rows: workbook.rows.map((row) => row.map(harmless)) }));
