import type { AnswerOf, ImportCheck, ParsedBodyOf } from '@woodruff/contract';
import { Exact, isDate, writtenDate, type PayslipInput, typedNumber } from '@woodruff/core';
import { select, type Transaction } from '../../database/connection';
import { invalid } from '../../errors';
import { changing, lookedAt } from '../../users/changing';
import type { Scope } from '../../scope';
import { enterableCodes, postEntries, type OpeningEntry } from '../history/opening';
import { matched, readDate, type Column } from './columns';
import { underWay } from './progress';
import { readTable } from '../../files/table';

interface Row extends OpeningEntry {
  row: number;
  name: string;
}

interface ReadFile {
  /** What is known without posting anything; problems are added while it is posted. */
  check: ImportCheck;
  rows: Row[];
  /** Entries posted already, by person and day: amounts in minor units. */
  onFile: Map<string, Record<string, number>>;
}

const PORTION = 500;
const SHOWN = 500;

/** What importing a file of opening balances would do: it is really done, and taken back with its transaction. */
export async function checkOpenings(scope: Scope, body: ParsedBodyOf<'checkOpenings'>): Promise<ImportCheck> {
  const read = await readFile(scope, body);
  await lookedAt(scope, (transaction) => postAll(scope, read, body.acceptDifferences, transaction));
  return read.check;
}

/** Takes the whole file or nothing of it: one row for each person and day. The same file again changes nothing. */
export function importOpenings(scope: Scope, body: ParsedBodyOf<'importOpenings'>): Promise<AnswerOf<'importOpenings'>> {
  return underWay(scope, async (tell) => {
    const read = await readFile(scope, body);
    const { check } = read;
    await changing(scope, async (transaction) => {
      await postAll(scope, read, body.acceptDifferences, transaction, tell);
      if (check.problemCount)
        throw invalid(
          `${check.problemCount === 1 ? 'One cell was' : `${check.problemCount} cells were`} not taken, so nothing was imported. Fix the file, or leave columns out.`,
        );
    });
    return { added: check.added, changed: check.changed, unchanged: check.unchanged };
  });
}

async function readFile(scope: Scope, body: ParsedBodyOf<'checkOpenings'>): Promise<ReadFile> {
  const table = await readTable(body);
  const people = await select<{ id: string; code: string; name: string }>(
    scope.database,
    `select id, code, given_name || ' ' || family_name as name from people where employer_id = :employer`,
    { employer: scope.employer.id },
  );
  const byCode = new Map(people.map((person) => [person.code.toLowerCase(), person]));
  const named = table.rows.flatMap(({ cells }) => cells.flatMap((cell) => byCode.get(cell.toLowerCase())?.id ?? []));
  const columns = columnsOf(await enterableCodes(scope, [...new Set(named)]));
  const mapping = body.columns
    ? table.headings.map((_heading, index) => columns.find((column) => column.key === body.columns?.[index])?.key ?? null)
    : matched(table.headings, columns, {});
  const check: ImportCheck = {
    rows: table.rows.length,
    columns: table.headings.map((heading, index) => ({
      heading,
      key: mapping[index] ?? null,
      example: table.rows.find((row) => row.cells[index])?.cells[index] ?? '',
    })),
    choices: columns.map(({ key, label }) => ({ key, label })),
    problems: [],
    problemCount: 0,
    added: 0,
    changed: 0,
    unchanged: 0,
    changes: [],
  };
  const rows: Row[] = [];
  for (const [key, label] of [
    ['code', 'Code'],
    ['paidUntil', 'Paid until'],
  ] as const)
    if (!mapping.includes(key)) problem(check, 1, label, '', 'No column of the file says this. Choose the one that does.');
  if (!check.problemCount)
    for (const { number, cells } of table.rows) {
      const row = readRow(number, cells, mapping, columns, byCode, check);
      if (row) rows.push(row);
    }
  const seen = new Map<string, number>();
  for (const { row, name, ...entry } of rows) {
    const before = seen.get(keyOf(entry));
    if (before)
      problem(check, row, 'Paid until', entry.paidUntil, `Row ${before} is for ${name} and this day, too. Keep one row for each day.`);
    seen.set(keyOf(entry), row);
  }
  return { check, rows, onFile: await postedBefore(scope) };
}

function columnsOf({ items, taxes }: Awaited<ReturnType<typeof enterableCodes>>): Column[] {
  const amount = (cell: string) => {
    const bare = typedNumber(cell);
    return /^-?\d{1,9}(\.\d{1,2})?$/.test(bare) ? { value: bare } : { fault: 'Write an amount such as 1250.00.' };
  };
  return [
    { key: 'code', label: 'Code', also: ['employee code', 'employee id', 'id'], read: (cell) => ({ value: cell }) },
    { key: 'paidUntil', label: 'Paid until', also: ['until', 'quarter end', 'pay date'], read: readDate },
    ...items.map(({ code, name }) => ({ key: code, label: name, also: [code], read: amount })),
    ...taxes.map(({ code, label }) => ({ key: code, label, also: [code], read: amount })),
  ];
}

function readRow(
  row: number,
  cells: readonly string[],
  mapping: readonly (string | null)[],
  columns: readonly Column[],
  people: ReadonlyMap<string, { id: string; name: string }>,
  check: ImportCheck,
): Row | undefined {
  const values: Record<string, string> = {};
  mapping.forEach((key, index) => {
    const column = columns.find((candidate) => candidate.key === key);
    const cell = cells[index] ?? '';
    if (!column || cell === '') return;
    const read = column.read(cell);
    if ('fault' in read) problem(check, row, column.label, cell, read.fault);
    else if (read.value !== null) values[column.key] = read.value;
  });
  const { code = '', paidUntil = '', ...amounts } = values;
  const person = people.get(code.toLowerCase());
  if (!person) {
    problem(check, row, 'Code', code, 'Nobody on file has this code. Add or import the people first.');
    return undefined;
  }
  if (!isDate(paidUntil)) {
    if (!cells[mapping.indexOf('paidUntil')]) problem(check, row, 'Paid until', '', 'Give the last pay date that the amounts cover.');
    return undefined;
  }
  return { row, name: person.name, personId: person.id, paidUntil, amounts };
}

/** Day by day, for ceilings of the year count from what was posted before; in portions, so that the progress can be followed. */
async function postAll(
  scope: Scope,
  { check, rows, onFile }: ReadFile,
  acceptDifferences: boolean,
  transaction: Transaction,
  tell: (done: number, of: number) => void = () => undefined,
): Promise<void> {
  if (check.problemCount) return;
  const wanted = rows.filter((row) => !sameAmounts(row.amounts, onFile.get(keyOf(row))));
  check.unchanged = rows.length - wanted.length;
  check.added = wanted.filter((row) => !onFile.has(keyOf(row))).length;
  check.changed = wanted.length - check.added;
  check.changes = wanted.slice(0, 50).map((row) => ({
    row: row.row,
    name: row.name,
    what: `${onFile.has(keyOf(row)) ? 'other amounts' : 'new'} until ${writtenDate(row.paidUntil)}`,
  }));
  let done = 0;
  for (const day of [...new Set(wanted.map((row) => row.paidUntil))].sort()) {
    const ofDay = wanted.filter((row) => row.paidUntil === day);
    for (let start = 0; start < ofDay.length; start += PORTION) {
      const portion = ofDay.slice(start, start + PORTION);
      const outcomes = await postEntries(scope, portion, transaction);
      for (const { personId, fault, checks } of outcomes) {
        const row = portion.find((one) => one.personId === personId);
        if (fault) problem(check, row?.row ?? 0, 'Code', row?.name ?? '', fault);
        else if (!acceptDifferences)
          for (const sentence of checks) problem(check, row?.row ?? 0, 'Does not tie out', row?.name ?? '', sentence);
      }
      tell((done += portion.length), wanted.length);
    }
  }
}

const keyOf = ({ personId, paidUntil }: Pick<OpeningEntry, 'personId' | 'paidUntil'>): string => `${personId} ${paidUntil}`;

function sameAmounts(amounts: Record<string, string>, before: Record<string, number> | undefined): boolean {
  if (!before) return false;
  const now = Object.fromEntries(Object.entries(amounts).map(([code, amount]) => [code, Exact.of(amount).toMinor()]));
  return [...new Set([...Object.keys(now), ...Object.keys(before)])].every((code) => (now[code] ?? 0) === (before[code] ?? 0));
}

/** What was entered of each entry that stands, from the input it was calculated from. */
async function postedBefore(scope: Scope): Promise<ReadFile['onFile']> {
  const rows = await select<{ personId: string; paidUntil: string; input: Pick<PayslipInput, 'oneOffs' | 'overrides'> }>(
    scope.database,
    `select y.person_id as "personId", r.pay_date as "paidUntil", json_build_object('oneOffs', x.input->'oneOffs', 'overrides', x.input->'overrides') as input
     from payslips y join pay_runs r on r.id = y.run_id join payslip_results x on x.payslip_id = y.id
     where r.employer_id = :employer and r.kind = 'opening' and y.state = 'posted'`,
    { employer: scope.employer.id },
  );
  return new Map(
    rows.map(({ input, ...row }) => [
      keyOf(row),
      Object.fromEntries([
        ...input.oneOffs.map(({ id, amount }) => [id, Exact.of(amount).toMinor()] as const),
        ...input.overrides.map(({ tax, amount }) => [tax, Exact.of(amount).toMinor()] as const),
      ]),
    ]),
  );
}

function problem(check: ImportCheck, row: number, column: string, value: string, remedy: string): void {
  check.problemCount += 1;
  if (check.problems.length < SHOWN) check.problems.push({ row, column, value: value.slice(0, 80), remedy });
}
