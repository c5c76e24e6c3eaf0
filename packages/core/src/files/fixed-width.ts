/** A field of a record: so many columns, filled with text to the left or figures to the right. */
export interface FixedField {
  key: string;
  length: number;
  kind: 'text' | 'figures';
  /** What it always holds. */
  always?: string;
}

/** A record of one length, of which the first columns say what it is. */
export interface FixedRecord {
  name: string;
  fields: readonly FixedField[];
}

/** Where a file is not as described: line and column count from 1. */
export interface FixedFault {
  line: number;
  column: number;
  what: string;
}

export type FixedValues = Readonly<Record<string, string>>;

/**
 * A record as one line. Text is cut to its columns and freed of what is not printable ASCII; figures that do not fit are
 * never cut.
 * @throws RangeError for figures that do not fit, and for what is no figure
 */
export function writeRecord({ name, fields }: FixedRecord, values: FixedValues): string {
  return fields
    .map(({ key, length, kind, always }) => {
      const value = always ?? values[key] ?? '';
      if (kind === 'text') return printable(value).slice(0, length).padEnd(length);
      if (!/^\d*$/.test(value) || value.length > length) throw new RangeError(`${name}: ${key} does not hold ${value}`);
      return value.padStart(length, '0');
    })
    .join('');
}

/** What a line holds, without the blanks that fill its columns. Faults where it is no such record. */
export function readRecord(
  { name, fields }: FixedRecord,
  text: string,
  line: number,
): { values: Record<string, string>; faults: FixedFault[] } {
  const length = fields.reduce((sum, field) => sum + field.length, 0);
  const faults: FixedFault[] = [];
  if (text.length !== length) faults.push({ line, column: text.length + 1, what: `${name} has ${length} columns, not ${text.length}` });
  const values: Record<string, string> = {};
  let column = 1;
  for (const field of fields) {
    const held = text.slice(column - 1, column - 1 + field.length);
    if (
      field.always !== undefined &&
      held !== (field.kind === 'text' ? field.always.padEnd(field.length) : field.always.padStart(field.length, '0'))
    )
      faults.push({ line, column, what: `${name}: ${field.key} is ${field.always}` });
    else if (field.kind === 'figures' && !/^\d*$/.test(held))
      faults.push({ line, column, what: `${name}: ${field.key} is made of figures` });
    values[field.key] = field.kind === 'text' ? held.trimEnd() : held;
    column += field.length;
  }
  return { values, faults };
}

/** Letters with marks become plain ones; what is left beyond ASCII becomes a blank. */
const printable = (text: string): string =>
  text
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .replace(/[^\x20-\x7e]/g, ' ');
