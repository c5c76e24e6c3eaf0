import type { AnswerOf, ParsedBodyOf, TimeLine, TimePage } from '@woodruff/contract';
import { invalid } from '../errors';
import { readDate } from '../people/import/columns';
import { readTable } from '../files/table';
import { changing } from '../users/changing';
import type { Scope } from '../scope';
import { timeRulesOf } from '../payslip-input/time-rules';
import { itemsOfTime, jobsAt, timePage } from './page';
import { refuseLocked, saveSheets } from './service';
import { periodAsked, sheetsOf, type Sheet } from './sheets';
import { csvOf } from '../files/write';

const HEADINGS = {
  code: ['code', 'employee', 'employee id', 'employee number'],
  date: ['date', 'day'],
  hours: ['hours'],
  begins: ['begin', 'begins', 'start', 'in', 'from'],
  ends: ['end', 'ends', 'out', 'to'],
  breakMinutes: ['break', 'break minutes'],
  rate: ['rate'],
  item: ['item', 'kind'],
  quantity: ['quantity', 'pieces', 'tips'],
  place: ['place', 'department', 'job'],
} as const;
type Column = keyof typeof HEADINGS;
type Fault = (column: Column, expected: string) => void;

/**
 * A file with the columns code, date, and hours or begin, end and break; rate, item, quantity (pieces made, or tips
 * received, of an item) and place may be there. All rows or none.
 */
export async function importTime(scope: Scope, body: ParsedBodyOf<'importTime'>): Promise<AnswerOf<'importTime'>> {
  const { schedule, period } = await periodAsked(scope, body);
  const table = await readTable(body);
  const headings = table.headings.map((heading) => heading.toLowerCase().trim());
  const columns = Object.fromEntries(
    Object.entries(HEADINGS).map(([column, names]) => [
      column,
      headings.findIndex((heading) => (names as readonly string[]).includes(heading)),
    ]),
  ) as Record<Column, number>;
  const worked = columns.hours >= 0 || (columns.begins >= 0 && columns.ends >= 0) || (columns.item >= 0 && columns.quantity >= 0);
  if (columns.code < 0 || columns.date < 0 || !worked)
    throw invalid('The first row must name the columns code, date, and hours, or begin and end, or item and quantity.');
  const items = await itemsOfTime(scope);
  const sheets = await sheetsOf(scope, schedule, period, timeRulesOf(scope, period.from, period.to));
  const byCode = new Map(sheets.map((sheet) => [sheet.code.toLowerCase(), sheet]));
  const faults: { path: string; expected: string }[] = [];
  const byPerson = new Map<string, TimeLine[]>();
  for (const { number, cells } of table.rows) {
    const cell = (column: Column) => (cells[columns[column]] ?? '').trim();
    const fault: Fault = (column, expected) => faults.push({ path: `row ${number}, ${column} “${cell(column)}”`, expected });
    const sheet = byCode.get(cell('code').toLowerCase());
    if (!sheet) fault('code', 'the code of somebody paid by the hour on this schedule');
    const line = lineOf(cell, fault, sheet, period, items);
    if (sheet) byPerson.set(sheet.personId, [...(byPerson.get(sheet.personId) ?? []), line]);
  }
  const [first] = faults;
  if (first)
    throw invalid(
      `Nothing was entered: ${faults.length === 1 ? 'one cell is' : `${faults.length} cells are`} wrong. First: ${first.path}, expected ${first.expected}.`,
      faults.slice(0, 200),
    );
  await changing(scope, async (transaction) => {
    await refuseLocked(scope, schedule.id, period, transaction);
    await saveSheets(
      scope,
      schedule,
      period,
      [...byPerson].map(([personId, lines]) => ({
        personId,
        lines,
        version: sheets.find((one) => one.personId === personId)?.version ?? 0,
      })),
      transaction,
    );
  });
  return { people: byPerson.size, lines: table.rows.length };
}

/** A row as a line of the sheet; what can not be taken is told cell by cell. */
function lineOf(
  cell: (column: Column) => string,
  fault: Fault,
  sheet: Sheet | undefined,
  period: { from: string; to: string },
  items: TimePage['items'],
): TimeLine {
  const date = readDate(cell('date'));
  const day = 'value' in date ? (date.value ?? '') : '';
  if (day < period.from || day > period.to) fault('date', `a day from ${period.from} to ${period.to}`);
  const known = (text: string, ...names: string[]) => names.some((name) => name.toLowerCase() === text.toLowerCase());
  const item = items.find((one) => known(cell('item'), one.code, one.name));
  if (cell('item') && !item) fault('item', `one of ${items.map((one) => one.code).join(', ')}, or nothing for time worked`);
  const rate = sheet?.rates?.find((one) => one.per === 'hour' && known(cell('rate'), one.id, one.label, ...jobsAt(sheet, one.id)));
  if (cell('rate') && sheet && !rate) fault('rate', 'an hourly rate of the person, by its name or the position it is for');
  const line = {
    date: day,
    hours: null,
    begins: null,
    ends: null,
    breakMinutes: 0,
    rate: rate && !rate.primary ? rate.id : null,
    item: item?.code ?? null,
    place: cell('place').slice(0, 60),
  };
  if (item && item.per !== 'hours') {
    if (!/^\d{1,7}(\.\d{1,4})?$/.test(cell('quantity')))
      fault('quantity', item.per === 'tips' ? 'an amount such as 84.50' : 'a number such as 12');
    return { ...line, quantity: cell('quantity') };
  }
  const clock = (column: 'begins' | 'ends') => {
    const text = cell(column).padStart(5, '0');
    if (!cell(column)) return null;
    if (/^([01]\d|2[0-3]):[0-5]\d$/.test(text)) return text;
    fault(column, 'a time such as 07:30');
    return null;
  };
  const [begins, ends] = [clock('begins'), clock('ends')];
  if (begins && ends) {
    if (!/^\d{0,3}$/.test(cell('breakMinutes'))) fault('breakMinutes', 'minutes, such as 30');
    return { ...line, begins, ends, breakMinutes: Number(cell('breakMinutes')) || 0 };
  }
  if (!/^\d{1,2}(\.\d{1,2})?$/.test(cell('hours'))) fault('hours', 'hours in figures, such as 7.50');
  return { ...line, hours: cell('hours') };
}

/** The hours as the rules pay them, one row for each person, item and rate. */
export async function timeCsv(scope: Scope, query: { scheduleId: string; from: string }): Promise<string> {
  const page = await timePage(scope, query);
  return csvOf([
    ['code', 'name', 'from', 'to', 'state', 'item', 'description', 'hours'],
    ...page.rows.flatMap((row) =>
      row.paid.map((paid) => [row.code, row.name, page.from, page.to, row.state, paid.item, paid.label, paid.hours]),
    ),
  ]);
}
