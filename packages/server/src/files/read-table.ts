import { createReadStream } from 'node:fs';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parse } from 'csv-parse/sync';
import ExcelJS from 'exceljs';
import iconv from 'iconv-lite';
import yauzl from 'yauzl';
import type { FileEncoding } from '@woodruff/contract';

export interface Table {
  headings: string[];
  /** Cells as text; the row's number in the file, for messages. */
  rows: { number: number; cells: string[] }[];
}

type Encoding = FileEncoding;
const ENCODINGS: readonly Encoding[] = ['utf-8', 'windows-1252', 'windows-1250', 'windows-1251', 'windows-1253'];
/** A table, what is wrong with the file, or the ways in which it could be read. */
export type Read = { table: Table } | { fault: string; tooLarge?: boolean } | { encodings: { encoding: Encoding; example: string }[] };

const MOST_ROWS = 20_000;
const MOST_COLUMNS = 400;
const LONGEST_CELL = 20_000;
/** Of a workbook: what it comes to unpacked. */
const MOST_BYTES = 150_000_000;

/** Reads a file; runs on a thread of its own with a limit of memory and time. What is wrong is told, not thrown. */
export async function readTable({ name, content, encoding }: { name: string; content: Uint8Array; encoding?: Encoding }): Promise<Read> {
  const file = Buffer.from(content);
  try {
    const all = file.subarray(0, 2).toString('latin1') === 'PK' ? await readWorkbook(file) : readText(file, encoding);
    if (!Array.isArray(all)) return all;
    const rows = all
      .map((cells, index) => ({ number: index + 1, cells: cells.map((cell) => cell.trim()) }))
      .filter((row) => row.cells.some(Boolean));
    const [first, ...rest] = rows;
    if (!first || !rest.length) return { fault: `${name} has no rows. The first row names the columns, each further row is one entry.` };
    return { table: { headings: first.cells, rows: rest } };
  } catch (error) {
    if (error instanceof TooMuch) return { fault: `${name} ${error.message}`, tooLarge: true };
    throw error;
  }
}

class TooMuch extends Error {}

function within(rows: string[][]): string[][] {
  if (rows.length > MOST_ROWS + 1) throw new TooMuch(`has more than ${MOST_ROWS} rows. Split it into files of at most so many.`);
  for (const row of rows) {
    if (row.length > MOST_COLUMNS) throw new TooMuch(`has more than ${MOST_COLUMNS} columns. Remove those that are not needed.`);
    if (row.some((cell) => cell.length > LONGEST_CELL)) throw new TooMuch(`has a cell of more than ${LONGEST_CELL} letters. Shorten it.`);
  }
  return rows;
}

function readText(file: Buffer, encoding?: Encoding): string[][] | Read {
  const text = decoded(file, encoding);
  if (typeof text !== 'string') return text;
  const firstLine = text.slice(0, text.indexOf('\n') + 1);
  const delimiter = firstLine.includes('\t') ? '\t' : firstLine.split(';').length > firstLine.split(',').length ? ';' : ',';
  try {
    const options = {
      bom: true,
      delimiter,
      relax_column_count: true,
      skip_empty_lines: false,
      to: MOST_ROWS + 2,
      max_record_size: 2_000_000,
    };
    return within(parse(text, options));
  } catch (error) {
    if (error instanceof TooMuch) throw error;
    return {
      fault: `The file is not a readable CSV: ${error instanceof Error ? error.message : 'unknown'}. Save it again as CSV (UTF-8) or as XLSX.`,
    };
  }
}

/** The text of a file. What is not UTF-8 could be read in several ways, each with other letters: it is asked about. */
function decoded(file: Buffer, encoding?: Encoding): string | Read {
  if (file[0] === 0xff && file[1] === 0xfe) return iconv.decode(file, 'utf16-le');
  if (file[0] === 0xfe && file[1] === 0xff) return iconv.decode(file, 'utf16-be');
  try {
    const text = new TextDecoder('utf-8', { fatal: true }).decode(file);
    if (!text.includes('\0')) return text;
  } catch {
    if (encoding && encoding !== 'utf-8') return iconv.decode(file, encoding);
    return {
      encodings: ENCODINGS.filter((one) => one !== 'utf-8').map((one) => ({ encoding: one, example: exampleOf(iconv.decode(file, one)) })),
    };
  }
  return { fault: 'The file holds something other than text. Save it again as CSV (UTF-8) or as XLSX.' };
}

/** The first word with a letter that is read otherwise in each encoding. */
const exampleOf = (text: string): string => /[^\s,;"\t]*[^\p{ASCII}\s,;"\t][^\s,;"\t]*/u.exec(text)?.[0].slice(0, 40) ?? '';

async function readWorkbook(file: Buffer): Promise<string[][] | Read> {
  const bytes = await unpackedSize(file);
  if (bytes === null) return { fault: 'The workbook cannot be read. Save it again as XLSX or as CSV (UTF-8).' };
  if (bytes > MOST_BYTES)
    throw new TooMuch(
      `comes to ${Math.round(bytes / 1_000_000)} MB unpacked; at most ${MOST_BYTES / 1_000_000} are read. Save only the rows that are needed.`,
    );
  const rows: string[][] = [];
  try {
    const folder = await mkdtemp(join(tmpdir(), 'woodruff-'));
    try {
      const path = join(folder, 'file.xlsx');
      await writeFile(path, file);
      const reader = new ExcelJS.stream.xlsx.WorkbookReader(createReadStream(path), {
        worksheets: 'emit',
        sharedStrings: 'cache',
        styles: 'cache',
        hyperlinks: 'ignore',
        entries: 'ignore',
      });
      for await (const worksheet of reader) {
        for await (const row of worksheet) {
          while (rows.length < row.number - 1 && rows.length <= MOST_ROWS) rows.push([]);
          if (row.cellCount > MOST_COLUMNS) within([Array<string>(row.cellCount)]);
          const cells: string[] = [];
          for (let column = 1; column <= row.cellCount; column++) cells.push(cellText(row.getCell(column).value));
          rows.push(cells);
          if (rows.length > MOST_ROWS + 1) return within(rows);
        }
        // The first sheet is the one that is read.
        break;
      }
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  } catch (error) {
    if (error instanceof TooMuch) throw error;
    return { fault: 'The workbook cannot be read. Save it again as XLSX or as CSV (UTF-8).' };
  }
  return within(rows);
}

/** What a packed file comes to, by unpacking it without keeping anything; null where it cannot be unpacked. */
function unpackedSize(file: Buffer): Promise<number | null> {
  return new Promise((resolve) => {
    yauzl.fromBuffer(file, { lazyEntries: true, validateEntrySizes: false }, (error, zip) => {
      if (error) return resolve(null);
      let bytes = 0;
      zip.on('error', () => resolve(null));
      zip.on('end', () => resolve(bytes));
      zip.on('entry', (entry: yauzl.Entry) => {
        zip.openReadStream(entry, (broken, stream) => {
          if (broken) return resolve(null);
          stream.on('data', (chunk: Buffer) => {
            bytes += chunk.length;
            if (bytes > MOST_BYTES) {
              stream.destroy();
              resolve(bytes);
            }
          });
          stream.on('error', () => resolve(null));
          stream.on('end', () => zip.readEntry());
        });
      });
      zip.readEntry();
    });
  });
}

function cellText(value: ExcelJS.CellValue): string {
  if (value === null || value === undefined) return '';
  if (value instanceof Date) return value.toISOString().slice(0, 10);
  if (typeof value === 'object') {
    if ('result' in value) return cellText(value.result);
    if ('richText' in value) return value.richText.map((part) => part.text).join('');
    if ('text' in value) return String(value.text);
    return '';
  }
  return String(value);
}
