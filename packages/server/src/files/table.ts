import type { DateOrder, FileEncoding } from '@woodruff/contract';
import { isDate, writtenDate } from '@woodruff/core';
import { invalid, Refusal } from '../errors';
import { inThread } from '../threads/threads';
import type { Table } from './read-table';

export type { Table };

const NAMES: Record<FileEncoding, string> = {
  'utf-8': 'UTF-8',
  'windows-1252': 'Western European',
  'windows-1250': 'Central European',
  'windows-1251': 'Cyrillic',
  'windows-1253': 'Greek',
};

/** A file as it is sent: its name, its content in base64, and how it is read where that was asked. */
export interface SentFile {
  name: string;
  content: string;
  encoding?: FileEncoding | undefined;
  dates?: DateOrder | undefined;
}

/** Rows of a CSV file or of a workbook's first sheet. A file that cannot be read is refused with what to do. */
export async function readTable({ name, content, encoding, dates }: SentFile): Promise<Table> {
  const read = await inThread('readTable', {
    name,
    content: new Uint8Array(Buffer.from(content, 'base64')),
    ...(encoding ? { encoding } : {}),
  });
  if ('table' in read) return withDates(read.table, name, dates);
  if ('fault' in read) throw read.tooLarge ? new Refusal(413, 'too-large', read.fault) : invalid(read.fault);
  const ways = read.encodings.map(({ encoding: one, example }) => ({ path: `encoding.${one}`, expected: `${NAMES[one]}: ${example}` }));
  throw new Refusal(
    422,
    'which-encoding',
    `${name} is not saved as UTF-8, so its letters can be read in several ways. Say which is right, or save it again as “CSV UTF-8”: ${ways
      .map(({ expected }) => expected)
      .join('; ')}.`,
    { fields: ways },
  );
}

const STROKES = /^(\d{1,2})\/(\d{1,2})\/(\d{4})$/;

/** Dates with strokes as the open format has them. Which of day and month comes first one date of the file tells, or it is asked. */
function withDates(table: Table, name: string, given: DateOrder | undefined): Table {
  const dates = table.rows.flatMap(({ cells }) =>
    cells.flatMap((cell) => {
      const match = STROKES.exec(cell.trim());
      return match ? [match] : [];
    }),
  );
  if (!dates.length) return table;
  const monthFirst = dates.some(([, , second]) => Number(second) > 12);
  const dayFirst = dates.some(([, first]) => Number(first) > 12);
  if (monthFirst && dayFirst)
    throw invalid(`${name} writes the month first in some dates and the day first in others. Write dates as 2026-11-27.`);
  const told = monthFirst ? 'month-first' : dayFirst ? 'day-first' : given;
  // The same day and month is the same either way.
  const doubtful = dates.find(([, first, second]) => first !== second);
  if (!told && doubtful) {
    const [cell] = doubtful;
    throw new Refusal(
      422,
      'which-date',
      `${name} has dates such as ${cell}, which can be read in two ways. Say which is right, or write dates as 2026-11-27.`,
      {
        fields: (['month-first', 'day-first'] as const).map((order) => ({
          path: `dates.${order}`,
          expected: `${cell} is ${writtenDate(isoOf(doubtful, order))}`,
        })),
      },
    );
  }
  const order = told ?? 'month-first';
  const read = (cell: string): string => {
    const match = STROKES.exec(cell.trim());
    const iso = match ? isoOf(match, order) : '';
    return isDate(iso) ? iso : cell;
  };
  return { ...table, rows: table.rows.map((row) => ({ ...row, cells: row.cells.map(read) })) };
}

function isoOf([, first = '', second = '', year = '']: RegExpExecArray, order: DateOrder): string {
  const [month, day] = order === 'month-first' ? [first, second] : [second, first];
  return `${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`;
}
