import { parse } from 'csv-parse/sync';
import ExcelJS from 'exceljs';
import { invalid } from '../../errors';

export interface Table {
  headings: string[];
  /** Cells as text; the row's number in the file, for messages. */
  rows: { number: number; cells: string[] }[];
}

const MOST_ROWS = 20_000;

/** Rows of a CSV file or of a workbook's first sheet. A file that cannot be read is refused with what to do. */
export async function readTable(name: string, content: Buffer): Promise<Table> {
  const all = content.subarray(0, 2).toString('latin1') === 'PK' ? await readWorkbook(content) : readText(content);
  const rows = all
    .map((cells, index) => ({ number: index + 1, cells: cells.map((cell) => cell.trim()) }))
    .filter((row) => row.cells.some(Boolean));
  const [first, ...rest] = rows;
  if (!first || !rest.length) throw invalid(`${name} has no rows. The first row names the columns, each further row is a person.`);
  if (rest.length > MOST_ROWS) throw invalid(`${name} has ${rest.length} rows. Split it into files of at most ${MOST_ROWS}.`);
  return { headings: first.cells, rows: rest };
}

function readText(content: Buffer): string[][] {
  try {
    const text = content.toString('utf8');
    const firstLine = text.slice(0, text.indexOf('\n') + 1);
    const delimiter = firstLine.includes('\t') ? '\t' : firstLine.split(';').length > firstLine.split(',').length ? ';' : ',';
    return parse(text, { bom: true, delimiter, relax_column_count: true, skip_empty_lines: false });
  } catch (error) {
    throw invalid(
      `The file is not a readable CSV: ${error instanceof Error ? error.message : 'unknown'}. Save it again as CSV (UTF-8) or as XLSX.`,
    );
  }
}

async function readWorkbook(content: Buffer): Promise<string[][]> {
  const workbook = new ExcelJS.Workbook();
  try {
    await workbook.xlsx.load(content as unknown as ArrayBuffer);
  } catch {
    throw invalid('The workbook cannot be read. Save it again as XLSX or as CSV (UTF-8).');
  }
  const rows: string[][] = [];
  workbook.worksheets[0]?.eachRow({ includeEmpty: true }, (row) => {
    const cells: string[] = [];
    for (let column = 1; column <= row.cellCount; column++) cells.push(cellText(row.getCell(column).value));
    rows.push(cells);
  });
  return rows;
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
