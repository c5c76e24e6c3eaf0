import type { AnswerOf, ParsedBodyOf, TimeLine } from '@woodruff/contract';
import { stringify } from 'csv-stringify/sync';
import { invalid } from '../errors';
import { readDate } from '../people/import/columns';
import { readTable } from '../people/import/read-table';
import type { Scope } from '../users/scope';
import { timeRulesOf } from './rules';
import { timePage } from './page';
import { refuseLocked, saveSheets } from './service';
import { periodAsked, sheetsOf } from './sheets';

/** A file with the columns code, date, and hours or begin, end and break; rate, item and place may be there. All rows or none. */
export async function importTime(scope: Scope, body: ParsedBodyOf<'importTime'>): Promise<AnswerOf<'importTime'>> {
  const { schedule, period } = await periodAsked(scope, body);
  const table = await readTable(body.name, Buffer.from(body.content, 'base64'));
  const at = (...names: string[]) => table.headings.findIndex((heading) => names.includes(heading.toLowerCase().trim()));
  const columns = {
    code: at('code', 'employee', 'employee id', 'employee number'),
    date: at('date', 'day'),
    hours: at('hours'),
    begins: at('begin', 'begins', 'start', 'in', 'from'),
    ends: at('end', 'ends', 'out', 'to'),
    breakMinutes: at('break', 'break minutes'),
    rate: at('rate'),
    item: at('item', 'kind'),
    place: at('place', 'department', 'job'),
  };
  if (columns.code < 0 || columns.date < 0 || (columns.hours < 0 && (columns.begins < 0 || columns.ends < 0)))
    throw invalid('The first row must name the columns code, date, and hours or begin and end.');
  const rules = timeRulesOf(scope, period.from, period.to);
  const sheets = await sheetsOf(scope, schedule, period, rules);
  const faults: { path: string; expected: string }[] = [];
  const byPerson = new Map<string, TimeLine[]>();
  for (const { number, cells } of table.rows) {
    const cell = (key: keyof typeof columns) => cells[columns[key]] ?? '';
    const fault = (key: keyof typeof columns, expected: string) => faults.push({ path: `row ${number}, ${key} “${cell(key)}”`, expected });
    const sheet = sheets.find((one) => one.code.toLowerCase() === cell('code').toLowerCase());
    const date = readDate(cell('date'));
    const day = 'value' in date ? (date.value ?? '') : '';
    const clock = (key: 'begins' | 'ends') => (cell(key) ? cell(key).padStart(5, '0') : null);
    if (!sheet) fault('code', 'the code of somebody paid by the hour on this schedule');
    if (day < period.from || day > period.to) fault('date', `a day from ${period.from} to ${period.to}`);
    const [begins, ends] = [clock('begins'), clock('ends')];
    for (const key of ['begins', 'ends'] as const)
      if (cell(key) && !/^([01]\d|2[0-3]):[0-5]\d$/.test(clock(key) ?? '')) fault(key, 'a time such as 07:30');
    if (!(begins && ends) && !/^\d{1,2}(\.\d{1,2})?$/.test(cell('hours'))) fault('hours', 'hours in figures, such as 7.50');
    if (sheet)
      byPerson.set(sheet.personId, [
        ...(byPerson.get(sheet.personId) ?? []),
        {
          date: day,
          hours: begins && ends ? null : cell('hours'),
          begins: begins && ends ? begins : null,
          ends: begins && ends ? ends : null,
          breakMinutes: Number(cell('breakMinutes') || '0') || 0,
          rate: cell('rate') || null,
          item: cell('item') || null,
          place: cell('place'),
        },
      ]);
  }
  const [first] = faults;
  if (first)
    throw invalid(
      `Nothing was entered: ${faults.length === 1 ? 'one cell is' : `${faults.length} cells are`} wrong. First: ${first.path}, expected ${first.expected}.`,
      faults.slice(0, 200),
    );
  await scope.database.transaction(async (transaction) => {
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

/** The hours as the rules pay them, one row for each person, item and rate. */
export async function timeCsv(scope: Scope, query: { scheduleId: string; from: string }): Promise<string> {
  const page = await timePage(scope, query);
  return stringify([
    ['code', 'name', 'from', 'to', 'state', 'item', 'description', 'hours'],
    ...page.rows.flatMap((row) =>
      row.paid.map((paid) => [row.code, row.name, page.from, page.to, row.state, paid.item, paid.label, paid.hours]),
    ),
  ]);
}
