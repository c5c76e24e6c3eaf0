import type { AnswerOf, ImportCheck, ParsedBodyOf } from '@woodruff/contract';
import { record } from '../../audit/audit';
import { execute, select, type Transaction } from '../../database/connection';
import { factsChanged } from '../../employers/facts-version';
import { invalid } from '../../errors';
import { changing } from '../../users/changing';
import type { Scope } from '../../scope';
import { unlessSecondPersonIsNeeded } from '../../users/second-person';
import { choicesOf, columnsOf, headingKey, matched, type Column } from './columns';
import { savePortion } from './save';
import { underWay } from './progress';
import { readTable } from '../../files/table';
import { compared, type Cells, type Problem, type Wanted } from './wanted';

const PROBLEMS_SHOWN = 500;
/** What importing the file would do, and everything that keeps it from being taken. Nothing is saved. */
export async function checkImport(scope: Scope, body: ParsedBodyOf<'checkImport'>): Promise<ImportCheck> {
  const { check } = await prepared(scope, body);
  return check;
}

/** Takes the whole file or nothing of it. The same file again changes nothing. */
export function importPeople(scope: Scope, body: ParsedBodyOf<'importPeople'>): Promise<AnswerOf<'importPeople'>> {
  return underWay(scope, async (tell) => {
    const { check, wanted, mapping, headings } = await prepared(scope, body);
    if (check.problemCount)
      throw invalid(
        `${check.problemCount === 1 ? 'One cell was' : `${check.problemCount} cells were`} not taken, so nothing was imported. Fix the file, or leave columns out.`,
      );
    const changed = wanted.filter((person) => person.isNew || person.changes.length);
    if (changed.some((person) => person.paidTo)) unlessSecondPersonIsNeeded(scope, 'bank');
    tell(0, changed.length);
    await changing(scope, async (transaction) => {
      // Rows in portions, so that the progress can be followed; one transaction all the same.
      for (let start = 0; start < changed.length; start += 500) {
        const portion = changed.slice(start, start + 500);
        await savePortion(scope, portion, body.name, transaction);
        tell(start + portion.length, changed.length);
      }
      await remember(scope, headings, mapping, transaction);
      if (changed.length) {
        await record(
          scope,
          {
            action: 'import',
            subject: 'employer',
            subjectId: scope.employer.id,
            what: `Imported ${body.name}: ${check.added} people added, ${check.changed} changed, ${check.unchanged} as they were`,
          },
          transaction,
        );
        await factsChanged(scope, transaction);
      }
    });
    return { added: check.added, changed: check.changed, unchanged: check.unchanged };
  });
}

async function prepared(
  scope: Scope,
  body: ParsedBodyOf<'checkImport'>,
): Promise<{ check: ImportCheck; wanted: Wanted[]; mapping: (string | null)[]; headings: string[] }> {
  const table = await readTable(body);
  const choices = await choicesOf(scope);
  const columns = columnsOf(scope, choices);
  const [memory] = await select<{ columns: Record<string, string> }>(
    scope.database,
    'select columns from import_columns where employer_id = :id',
    { id: scope.employer.id },
  );
  const mapping = body.columns
    ? table.headings.map((_heading, index) => columns.find((column) => column.key === body.columns?.[index])?.key ?? null)
    : matched(table.headings, columns, memory?.columns ?? {});
  const byKey = new Map(columns.map((column) => [column.key, column]));
  const at = mapping.map((key) => (key ? byKey.get(key) : undefined));
  const problems: Problem[] = [];
  for (const required of ['code', 'givenName', 'familyName'])
    if (!mapping.includes(required))
      problems.push({
        row: 1,
        column: byKey.get(required)?.label ?? required,
        value: '',
        remedy: 'No column of the file says this. Choose the one that does.',
      });
  const read = problems.length
    ? []
    : table.rows.map(({ number, cells }) => ({ number, cells: readRow(number, cells, at, table.headings, problems) }));
  const doubled = new Map<string, number>();
  for (const { number, cells } of read) {
    const code = (cells['code'] ?? '').toLowerCase();
    const before = doubled.get(code);
    if (code && before)
      problems.push({
        row: number,
        column: 'Code',
        value: cells['code'] ?? '',
        remedy: `Row ${before} has this code, too. Keep one row for each person.`,
      });
    doubled.set(code, number);
  }
  const wanted = problems.length ? [] : await compared(scope, read, choices, mapping, problems);
  const added = wanted.filter((person) => person.isNew).length;
  const changed = wanted.filter((person) => !person.isNew && person.changes.length).length;
  return {
    wanted,
    mapping,
    headings: table.headings,
    check: {
      rows: table.rows.length,
      columns: table.headings.map((heading, index) => ({
        heading,
        key: mapping[index] ?? null,
        example: table.rows.find((row) => row.cells[index])?.cells[index] ?? '',
      })),
      choices: columns.map(({ key, label }) => ({ key, label })),
      problems: problems.sort((a, b) => a.row - b.row).slice(0, PROBLEMS_SHOWN),
      problemCount: problems.length,
      added,
      changed,
      unchanged: wanted.length - added - changed,
      changes: wanted
        .filter((person) => person.changes.length)
        .slice(0, 50)
        .map((person) => ({
          row: person.row,
          name: `${person.person.given_name} ${person.person.family_name}`,
          what: person.isNew ? 'new' : person.changes.join('; '),
        })),
    },
  };
}

function readRow(
  row: number,
  cells: readonly string[],
  at: readonly (Column | undefined)[],
  headings: readonly string[],
  problems: Problem[],
): Cells {
  const read: Cells = {};
  at.forEach((column, index) => {
    if (!column) return;
    const cell = cells[index] ?? '';
    if (cell === '') {
      read[column.key] = null;
      if (column.key === 'code' || column.key === 'givenName' || column.key === 'familyName')
        problems.push({ row, column: headings[index] ?? column.label, value: '', remedy: 'It is needed for every person.' });
      return;
    }
    const result = column.read(cell);
    if ('fault' in result) problems.push({ row, column: headings[index] ?? column.label, value: cell.slice(0, 80), remedy: result.fault });
    else read[column.key] = result.value;
  });
  return read;
}

/** Headings are remembered by what they were matched with. */
async function remember(
  scope: Scope,
  headings: readonly string[],
  mapping: readonly (string | null)[],
  transaction: Transaction,
): Promise<void> {
  const columns = Object.fromEntries(headings.flatMap((heading, index) => (mapping[index] ? [[headingKey(heading), mapping[index]]] : [])));
  await execute(
    scope.database,
    `insert into import_columns (employer_id, columns) values (:id, :columns) on conflict (employer_id) do update set columns = import_columns.columns || excluded.columns`,
    { id: scope.employer.id, columns: JSON.stringify(columns) },
    transaction,
  );
}
