import { writtenDate, type IsoDate } from '../calendar/dates';
import { Exact } from '../money/exact';
import type { Source } from '../working/working';
import { bandsOf, type Band } from '../working/reckoning';
import { CannotCompute } from './cannot-compute';

/** One dated entry of a rate table. Entries are added, never edited. */
export interface ParameterEntry {
  code: string;
  from: IsoDate;
  /** Last day in force; without it the entry holds until a later one. */
  to?: IsoDate;
  value?: string;
  /**
   * `base`: the tax on all below, where the publication prints it; `less`: what it takes off so much per cent of the whole, where it
   * prints coefficients; else it is added up.
   */
  bands?: { over: string; percent: string; base?: string; less?: string }[];
  publication: string;
  section?: string;
  confirmed: boolean;
}

export interface ParameterFile {
  format: 'woodruff.parameters/1';
  title: string;
  entries: ParameterEntry[];
}

export interface Parameter {
  value: Exact;
  source: Source;
}

export interface Schedule {
  bands: readonly Band[];
  source: Source;
}

interface Compiled {
  entry: ParameterEntry;
  from: IsoDate;
  to: IsoDate | undefined;
  value: Exact | undefined;
  bands: readonly Band[] | undefined;
  source: Source;
}

/** Figures of a code from a date on. */
export interface EntryInForce extends ParameterEntry {
  /** From a file that was loaded here, and not from those that come with the product. */
  loaded: boolean;
}

const compiled = (entry: ParameterEntry): Compiled => {
  const source: Source = { publication: entry.publication, from: entry.from };
  if (entry.section) source.section = entry.section;
  if (!entry.confirmed) source.unconfirmed = true;
  return {
    entry,
    from: entry.from,
    to: entry.to,
    value: entry.value === undefined ? undefined : Exact.of(entry.value),
    bands: entry.bands && bandsOf(entry.bands),
    source,
  };
};

const byCodes = (entries: readonly ParameterEntry[]): Map<string, Compiled[]> => {
  const found = new Map<string, Compiled[]>();
  for (const entry of entries) found.set(entry.code, [...(found.get(entry.code) ?? []), compiled(entry)]);
  for (const list of found.values()) list.sort((a, b) => b.from.localeCompare(a.from));
  return found;
};

/**
 * Dated parameters, compiled once and looked up by code and date. What an installation has loaded stands before what comes
 * with the product: of two entries in force the later one counts, and of one date the loaded one.
 */
export class Parameters {
  private readonly shipped: Map<string, Compiled[]>;
  private loaded = new Map<string, Compiled[]>();

  constructor(files: readonly ParameterFile[]) {
    this.shipped = byCodes(files.flatMap((file) => file.entries));
  }

  /** In place of all that was loaded before. */
  setLoaded(entries: readonly ParameterEntry[]): void {
    this.loaded = byCodes(entries);
  }

  /** Does something as it would be with further entries, and leaves everything as it was. */
  trying<Result>(entries: readonly ParameterEntry[], work: () => Result): Result {
    const before = this.loaded;
    const tried = byCodes(entries);
    this.loaded = new Map([...before].map(([code, list]) => [code, [...(tried.get(code) ?? []), ...list]]));
    for (const [code, list] of tried) if (!before.has(code)) this.loaded.set(code, list);
    for (const list of this.loaded.values()) list.sort((a, b) => b.from.localeCompare(a.from));
    try {
      return work();
    } finally {
      this.loaded = before;
    }
  }

  /** What is in force on a date, by code. */
  inForceOn(date: IsoDate): EntryInForce[] {
    const codes = [...new Set([...this.shipped.keys(), ...this.loaded.keys()])].sort();
    return codes.flatMap((code) => {
      const found = this.find(code, date);
      return found ? [{ ...found.entry, loaded: this.loaded.get(code)?.includes(found) ?? false }] : [];
    });
  }

  /** Every code that there has been a figure of, with whether it is a single value or a schedule. */
  kinds(): Map<string, 'value' | 'bands'> {
    return new Map([...this.shipped].map(([code, [first]]) => [code, first?.bands ? 'bands' : 'value']));
  }

  /** Throws CannotCompute `no-table` when no entry is in force on the date. */
  value(code: string, date: IsoDate): Parameter {
    const found = this.inForce(code, date);
    if (!found.value) throw new TypeError(`${code} is a schedule`);
    return { value: found.value, source: found.source };
  }

  /** Throws CannotCompute `no-table` when no entry is in force on the date. */
  schedule(code: string, date: IsoDate): Schedule {
    const found = this.inForce(code, date);
    if (!found.bands) throw new TypeError(`${code} is a single value`);
    return { bands: found.bands, source: found.source };
  }

  has(code: string, date: IsoDate): boolean {
    return this.find(code, date) !== undefined;
  }

  private inForce(code: string, date: IsoDate): Compiled {
    const found = this.find(code, date);
    if (found) return found;
    throw new CannotCompute(
      'no-table',
      `There is no table "${code}" for the pay date ${writtenDate(date)}. An administrator loads the published table for that year under Tables; or choose another pay date.`,
    );
  }

  private find(code: string, date: IsoDate): Compiled | undefined {
    const of = (list: readonly Compiled[] | undefined) =>
      list?.find((entry) => entry.from <= date && (entry.to === undefined || date <= entry.to));
    const [shipped, loaded] = [of(this.shipped.get(code)), this.loaded.size ? of(this.loaded.get(code)) : undefined];
    return loaded && (!shipped || loaded.from >= shipped.from) ? loaded : shipped;
  }
}
