import type { FileEncoding } from '@woodruff/contract';
import { invalid, Refusal } from '../errors';
import { inThread } from '../jobs/threads';
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
}

/** Rows of a CSV file or of a workbook's first sheet. A file that cannot be read is refused with what to do. */
export async function readTable({ name, content, encoding }: SentFile): Promise<Table> {
  const read = await inThread('readTable', {
    name,
    content: new Uint8Array(Buffer.from(content, 'base64')),
    ...(encoding ? { encoding } : {}),
  });
  if ('table' in read) return read.table;
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
