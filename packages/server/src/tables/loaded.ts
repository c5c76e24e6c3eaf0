import { packOf, type ParameterEntry } from '@woodruff/core';
import { select, type Database, type Transaction } from '../database/connection';

/** What an installation has loaded beside the tables of the product, of one country. */
export interface LoadedTables {
  country: string;
  /** Of another state of what is loaded another one. */
  version: string;
  entries: readonly ParameterEntry[];
}

const used = new Map<string, LoadedTables>();

/** Tables as they are loaded now. */
export const loadedTables = (country: string): LoadedTables => used.get(country) ?? { country, version: '', entries: [] };

/** Lets loaded tables count from now on, in this thread. */
export function useTables(tables: LoadedTables): void {
  if (loadedTables(tables.country).version === tables.version) return;
  packOf(tables.country).tables.setLoaded(tables.entries);
  used.set(tables.country, tables);
}

/** Lets count what was approved; of a code and day in two files, the one approved last. */
export async function readTables(database: Database, transaction?: Transaction): Promise<void> {
  const files = await select<{ id: string; country: string; entries: ParameterEntry[] }>(
    database,
    'select id, country, entries from table_files where approved order by decided_at',
    {},
    transaction,
  );
  for (const country of new Set([...files.map((file) => file.country), ...used.keys()])) {
    const own = files.filter((file) => file.country === country);
    const entries = new Map(own.flatMap((file) => file.entries).map((entry) => [`${entry.code} ${entry.from}`, entry]));
    useTables({ country, version: own.map(({ id }) => id).join(' '), entries: [...entries.values()] });
  }
}
