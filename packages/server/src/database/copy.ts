import { pipeline } from 'node:stream/promises';
import { Readable } from 'node:stream';
import type { Client } from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import type { Transaction } from './connection';

/** Writes rows by COPY on the transaction's own connection: all or nothing with it. Values are already escaped by `copyRow`. */
export async function copyInto(
  transaction: Transaction,
  table: string,
  columns: readonly string[],
  chunks: Iterable<string> | AsyncIterable<string>,
): Promise<void> {
  const client = (transaction as unknown as { connection: Client }).connection;
  await pipeline(Readable.from(chunks), client.query(copyFrom(`copy ${table} (${columns.join(', ')}) from stdin`)));
}

/** One row in COPY's text format. */
export function copyRow(values: readonly (string | number | null)[]): string {
  return `${values.map((value) => (value === null ? '\\N' : typeof value === 'number' ? String(value) : escaped(value))).join('\t')}\n`;
}

const escaped = (text: string): string =>
  /[\\\t\n\r]/.test(text) ? text.replace(/\\/g, '\\\\').replace(/\t/g, '\\t').replace(/\n/g, '\\n').replace(/\r/g, '\\r') : text;
