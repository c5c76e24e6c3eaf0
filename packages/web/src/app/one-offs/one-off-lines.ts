import type { BodyOf, OneOffPage, PersonRow } from '@woodruff/contract';
import { typedNumber } from '@woodruff/core';

/** A line being entered; everything as typed. */
export interface EntryLine {
  person: string;
  item: string;
  amount: string;
  note: string;
  /** `next`, the id of a run, or `date`. */
  takes: string;
  date: string;
  /** Days that it says: of the month the part that is paid, or those in which it was earned. */
  days: '' | 'part' | 'earned';
  daysFrom: string;
  daysTo: string;
}

export const emptyLine = (): EntryLine => ({
  person: '',
  item: '',
  amount: '',
  note: '',
  takes: 'next',
  date: '',
  days: '',
  daysFrom: '',
  daysTo: '',
});

/** The columns that a block copied from a spreadsheet fills, in their order. */
export const PASTED = ['person', 'item', 'amount', 'note'] as const;

/** A block put in from a line and a column on; lines are added as they are needed, and one empty line stays at the end. */
export function withBlock(
  lines: readonly EntryLine[],
  at: number,
  column: (typeof PASTED)[number],
  block: readonly string[][],
): EntryLine[] {
  const first = PASTED.indexOf(column);
  const filled = lines.map((line) => ({ ...line }));
  block.forEach((cells, down) => {
    while (filled.length <= at + down) filled.push(emptyLine());
    cells.forEach((cell, across) => {
      const key = PASTED[first + across];
      const line = filled[at + down];
      if (key && line) line[key] = key === 'amount' ? typedNumber(cell) : cell.trim();
    });
  });
  return withEmptyEnd(filled);
}

export function withEmptyEnd(lines: EntryLine[]): EntryLine[] {
  const last = lines.at(-1);
  return !last || last.person || last.item || last.amount ? [...lines, emptyLine()] : lines;
}

/** The code of a person typed as code, as name, or chosen from the list as `Name (code)`. */
export function codeOfPerson(typed: string, people: readonly Pick<PersonRow, 'code' | 'name'>[]): string {
  const text = typed.trim().toLowerCase();
  const chosen = /\(([^)]+)\)$/.exec(text)?.[1];
  const found = people.filter(
    ({ code, name }) => code.toLowerCase() === (chosen ?? text) || name.toLowerCase() === text || turned(name).toLowerCase() === text,
  );
  return found.length === 1 ? found[0]!.code : typed.trim();
}

const turned = (name: string): string => name.split(', ').reverse().join(' ');

/** The code of an item typed as code or name. */
export function codeOfItem(typed: string, items: OneOffPage['items']): string {
  const text = typed.trim().toLowerCase();
  return items.find(({ code, name }) => code.toLowerCase() === text || name.toLowerCase() === text)?.code ?? typed.trim();
}

/** What is sent of the lines that say something. */
export function entriesOf(
  lines: readonly EntryLine[],
  people: readonly Pick<PersonRow, 'code' | 'name'>[],
  items: OneOffPage['items'],
): BodyOf<'addOneOffs'>['entries'] {
  return lines
    .filter((line) => line.person || line.item || line.amount)
    .map((line) => ({
      person: codeOfPerson(line.person, people),
      item: codeOfItem(line.item, items),
      amount: typedNumber(line.amount),
      note: line.note,
      ...daysOf(line),
      takes: takesOf(line),
    }));
}

/** The part of a month that is paid, or the days in which it was earned; days that are left open are for the server to refuse. */
export function daysOf({ days, daysFrom, daysTo }: EntryLine): Pick<BodyOf<'addOneOffs'>['entries'][number], 'part' | 'earned'> {
  const said = { from: daysFrom, to: daysTo };
  return { part: days === 'part' ? said : null, earned: days === 'earned' ? said : null };
}

export const takesOf = ({ takes, date }: Pick<EntryLine, 'takes' | 'date'>): BodyOf<'addOneOffs'>['entries'][number]['takes'] =>
  takes === 'next' ? { by: 'next' } : takes === 'date' ? { by: 'date', date } : { by: 'run', runId: takes };
