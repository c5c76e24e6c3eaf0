import { writtenDate, type IsoDate } from '../calendar/dates';
import { Exact } from '../money/exact';
import type { Source } from '../working/working';
import { bandsOf, type Band } from '../working/reckoning';
import { CannotCompute } from './country-pack';

/** One dated entry of a rate table. Entries are added, never edited. */
export interface ParameterEntry {
  code: string;
  from: IsoDate;
  /** Last day in force; without it the entry holds until a later one. */
  to?: IsoDate;
  value?: string;
  /** `base`: the tax on all below, where the publication prints it; else it is added up. */
  bands?: { over: string; percent: string; base?: string }[];
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
  from: IsoDate;
  to: IsoDate | undefined;
  value: Exact | undefined;
  bands: readonly Band[] | undefined;
  source: Source;
}

/** Dated parameters, compiled once and looked up by code and date. */
export class Parameters {
  private readonly byCode = new Map<string, Compiled[]>();

  constructor(files: readonly ParameterFile[]) {
    for (const entry of files.flatMap((file) => file.entries)) {
      const source: Source = { publication: entry.publication, from: entry.from };
      if (entry.section) source.section = entry.section;
      if (!entry.confirmed) source.unconfirmed = true;
      const list = this.byCode.get(entry.code) ?? [];
      list.push({
        from: entry.from,
        to: entry.to,
        value: entry.value === undefined ? undefined : Exact.of(entry.value),
        bands: entry.bands && bandsOf(entry.bands),
        source,
      });
      this.byCode.set(
        entry.code,
        list.sort((a, b) => b.from.localeCompare(a.from)),
      );
    }
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
      `There is no table "${code}" for the pay date ${writtenDate(date)}. Load the published table for that year, or choose another pay date.`,
    );
  }

  private find(code: string, date: IsoDate): Compiled | undefined {
    return this.byCode.get(code)?.find((entry) => entry.from <= date && (entry.to === undefined || date <= entry.to));
  }
}
