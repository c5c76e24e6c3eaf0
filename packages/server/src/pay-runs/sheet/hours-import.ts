import { hours as hoursSchema, type Edits } from '@woodruff/contract';
import { parse } from 'csv-parse/sync';
import { record } from '../../audit/audit';
import { execute, select } from '../../database/connection';
import { invalid } from '../../errors';
import { changing } from '../../users/changing';
import type { Scope } from '../../scope';
import { openRun } from '../../calculation/calculation';
import { readColumn } from '../../payslip-input/input';
import { mustBeOpen } from '../../calculation/calculation';

const COLUMNS = ['code', 'item', 'hours'] as const;

interface Row {
  code: string;
  item: string;
  hours: string;
}

/**
 * Enters hours from a CSV with the columns code, item, hours: every row or none. Each fault is told with its row, column
 * and what was expected.
 * @returns how many people's hours were entered
 */
export async function importHours(scope: Scope, runId: string, csv: string): Promise<number> {
  const rows = readRows(csv);
  return changing(scope, async (transaction) => {
    const run = await openRun(scope, runId, transaction);
    mustBeOpen(run);
    const payslips = await select<{ id: string; code: string; edits: Edits }>(
      scope.database,
      `select y.id, p.code, y.edits from payslips y join people p on p.id = y.person_id where y.run_id = :runId and y.state = 'draft'`,
      { runId },
      transaction,
    );
    const items = await select<{ code: string }>(
      scope.database,
      `select code from pay_items where employer_id = :employer and not retired and definition->'method'->>'by' = 'hours'`,
      { employer: scope.employer.id },
      transaction,
    );
    const byCode = new Map(payslips.map((payslip) => [payslip.code, payslip]));
    const known = new Set(items.map((item) => item.code));
    const faults = rows.flatMap((row, index) => faultsOf(row, index + 2, byCode, known));
    if (faults.length) throw refusal(faults);
    const changed = new Map<string, Edits>();
    for (const row of rows) {
      const payslip = byCode.get(row.code);
      if (!payslip) continue;
      const edits = changed.get(payslip.id) ?? payslip.edits;
      changed.set(payslip.id, { ...edits, hours: { ...edits.hours, [row.item]: row.hours } });
    }
    for (const [id, edits] of changed) {
      await execute(
        scope.database,
        'update payslips set edits = :edits, version = version + 1 where id = :id',
        { id, edits: JSON.stringify(edits) },
        transaction,
      );
      const before = payslips.find((payslip) => payslip.id === id)?.edits;
      const entered = Object.entries(edits.hours ?? {}).map(([item, hours]) => `${hours} hours on ${item}`);
      await record(
        scope,
        { action: 'edit', subject: 'payslip', subjectId: id, what: `From a CSV file: ${entered.join('; ')}`, before, after: edits },
        transaction,
      );
    }
    await run.update({ version: run.version + 1, lastEditedBy: scope.user.id }, { transaction });
    return changed.size;
  });
}

function readRows(csv: string): Row[] {
  let lines: string[][];
  try {
    lines = parse(csv, { bom: true, trim: true, skip_empty_lines: true, relax_column_count: true });
  } catch (error) {
    throw invalid(`The file could not be read as CSV: ${(error as Error).message}. Save it again as CSV and repeat.`);
  }
  const [header = [], ...rest] = lines;
  const at = COLUMNS.map((column) => header.findIndex((name) => name.toLowerCase() === column));
  const absent = COLUMNS.filter((_column, index) => (at[index] ?? -1) < 0);
  if (absent.length)
    throw invalid(
      `The first row must name the columns code, item and hours; ${absent.join(' and ')} ${absent.length === 1 ? 'is' : 'are'} missing.`,
    );
  if (!rest.length) throw invalid('The file has no rows below the names of the columns. Nothing was entered.');
  const cell = (line: string[], index: number): string => line[at[index] ?? -1] ?? '';
  return rest.map((line) => ({ code: cell(line, 0), item: cell(line, 1), hours: cell(line, 2) }));
}

type Fault = { path: string; expected: string };

function faultsOf(row: Row, line: number, people: ReadonlyMap<string, unknown>, items: ReadonlySet<string>): Fault[] {
  const faults: Fault[] = [];
  if (!people.has(row.code)) faults.push({ path: `row ${line}, code “${row.code}”`, expected: 'the code of somebody in this run' });
  if (!items.has(readColumn(row.item).item))
    faults.push({ path: `row ${line}, item “${row.item}”`, expected: `one of ${[...items].join(', ')}` });
  if (!hoursSchema.safeParse(row.hours).success)
    faults.push({ path: `row ${line}, hours “${row.hours}”`, expected: 'hours in figures, such as 7.50' });
  return faults;
}

const refusal = (faults: Fault[]) => {
  const [first] = faults;
  return invalid(
    `Nothing was entered: ${faults.length === 1 ? 'one cell is' : `${faults.length} cells are`} wrong. First: ${first?.path}, expected ${first?.expected}.`,
    faults.slice(0, 200),
  );
};
