import type { AnswerOf, ImportCheck, ParsedBodyOf } from '@woodruff/contract';
import type { CountryPack } from '@woodruff/core';
import { randomUUID } from 'node:crypto';
import { record } from '../../audit/audit';
import { execute, select, type Transaction } from '../../database/connection';
import { factsChanged } from '../../employers/facts-version';
import { invalid } from '../../errors';
import { packFor, type Scope } from '../../users/scope';
import { accountsOf, sealedNumbers, type Payment } from '../payment';
import { theVault } from '../secrets';
import { choicesOf, columnsOf, headingKey, matched, type Choices, type Column } from './columns';
import { underWay } from './progress';
import { readTable } from './read-table';

type Problem = ImportCheck['problems'][number];
type Cells = Record<string, string | null>;

/** One person of the file, read and compared with what is on file. */
interface Wanted {
  row: number;
  id: string;
  code: string;
  cells: Cells;
  /** What would change, in words; empty when the row says what is on file. */
  changes: string[];
  isNew: boolean;
  person: PersonRow;
  rates: RateRow[];
  tax: { id: string; person_id: string; from_date: string; facts: unknown } | null;
  items: { id: string; person_id: string; item_id: string; amount: string | null; percent: string | null; from_date: string }[];
  ended: string[];
}

interface PersonRow {
  id: string;
  code: string;
  given_name: string;
  family_name: string;
  born: string | null;
  email: string | null;
  hired: string | null;
  left: string | null;
  left_reason: string | null;
  department: string;
  worksite: string;
  job: string;
  kind: string;
  schedule_id: string | null;
  standard_hours: string | null;
  address: Record<string, string>;
  number_fingerprint: string | null;
  number_last4: string | null;
  payment: Record<string, string> | null;
}

interface RateRow {
  id: string;
  person_id: string;
  series: string;
  label: string;
  per: string;
  amount: string;
  from_date: string;
  is_primary: boolean;
}

interface OnFile {
  person: PersonRow;
  account: string | null;
  rates: RateRow[] | null;
  tax: { from_date: string; facts: Record<string, unknown> } | null;
  items: { id: string; item_id: string; amount: string | null; percent: string | null; from_date: string }[] | null;
}

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
        `${check.problemCount === 1 ? 'One cell was' : `${check.problemCount} cells were`} not taken, so nothing was imported. Mend the file, or leave columns out.`,
      );
    const changed = wanted.filter((person) => person.isNew || person.changes.length);
    tell(0, changed.length);
    await scope.database.transaction(async (transaction) => {
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
  const table = await readTable(body.name, Buffer.from(body.content, 'base64'));
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

async function compared(
  scope: Scope,
  read: { number: number; cells: Cells }[],
  choices: Choices,
  mapping: readonly (string | null)[],
  problems: Problem[],
): Promise<Wanted[]> {
  const onFile = new Map((await everybodyOnFile(scope)).map((entry) => [entry.person.code.toLowerCase(), entry]));
  const numbers = new Map<string, string>();
  for (const { person } of onFile.values()) if (person.number_fingerprint) numbers.set(person.number_fingerprint, person.code);
  const pack = packFor(scope);
  return read.map(({ number, cells }) => {
    const known = onFile.get((cells['code'] ?? '').toLowerCase());
    const id = known?.person.id ?? randomUUID();
    const changes: string[] = [];
    const problem = (column: string, value: string, remedy: string) => problems.push({ row: number, column, value, remedy });
    const person = personOf(id, cells, known, changes);
    if (person.left && person.hired && person.left < person.hired)
      problem('Last day', person.left, 'It is before the hire date. Correct one of them.');
    if (person.born && person.hired && person.born > person.hired)
      problem('Date of birth', person.born, 'It is after the hire date. Correct one of them.');
    if (cells['nationalNumber']) {
      const fingerprint = theVault().fingerprint(cells['nationalNumber']);
      const other = numbers.get(fingerprint);
      if (other && other.toLowerCase() !== person.code.toLowerCase())
        problem(
          'National number',
          `•••-••-${cells['nationalNumber'].slice(-4)}`,
          `${other} has this number, too. Compare both with their cards.`,
        );
      numbers.set(fingerprint, person.code);
      if (fingerprint !== person.number_fingerprint) changes.push('national number');
      person.number_fingerprint = fingerprint;
      person.number_last4 = cells['nationalNumber'].slice(-4);
    }
    const rates = ratesOf(id, cells, person, known, changes, problem);
    const tax = taxOf(id, cells, person, known, pack, mapping, changes, problem);
    const { items, ended } = itemsOf(id, cells, person, known, choices, scope.employer.today, changes);
    return { row: number, id, code: person.code, cells, changes, isNew: !known, person, rates, tax, items, ended };
  });
}

/** Facts as they will stand: what the file says, else what is on file. An empty cell leaves a fact alone. */
function personOf(id: string, cells: Cells, known: OnFile | undefined, changes: string[]): PersonRow {
  const before = known?.person;
  const take = <T extends string | null>(key: string, was: T, label: string): T => {
    const value = cells[key];
    if (value === undefined || value === null || value === was) return was;
    changes.push(label);
    return value as T;
  };
  const address = { line1: '', line2: '', city: '', state: '', postcode: '', ...before?.address };
  for (const part of ['line1', 'city', 'state', 'postcode'] as const) address[part] = take(part, address[part], 'address');
  let payment = before?.payment ?? null;
  const { routing, account } = cells;
  if (routing && account && (payment?.['bank'] !== routing || known?.account !== account)) {
    payment = { method: 'deposit', bank: routing, last4: account.slice(-4) };
    changes.push('payment');
  }
  const hours = take('standardHours', before?.standard_hours ?? null, '');
  const sameHours = hours !== null && before?.standard_hours != null && Number(hours) === Number(before.standard_hours);
  if (changes.at(-1) === '') {
    changes.pop();
    if (!sameHours) changes.push('standard hours');
  }
  return {
    id,
    code: before?.code ?? cells['code'] ?? '',
    given_name: take('givenName', before?.given_name ?? '', 'given names'),
    family_name: take('familyName', before?.family_name ?? '', 'family name'),
    born: take('born', before?.born ?? null, 'date of birth'),
    email: take('email', before?.email ?? null, 'e-mail'),
    hired: take('hired', before?.hired ?? null, 'hire date'),
    left: take('left', before?.left ?? null, 'last day'),
    left_reason: take('leftReason', before?.left_reason ?? null, 'reason for leaving'),
    department: take('department', before?.department ?? '', 'department'),
    worksite: take('worksite', before?.worksite ?? '', 'worksite'),
    job: take('job', before?.job ?? '', 'job'),
    kind: take('kind', before?.kind ?? 'regular', 'kind'),
    schedule_id: take('schedule', before?.schedule_id ?? null, 'pay schedule'),
    standard_hours: sameHours ? before.standard_hours : hours,
    address,
    number_fingerprint: before?.number_fingerprint ?? null,
    number_last4: before?.number_last4 ?? null,
    payment,
  };
}

type Tell = (column: string, value: string, remedy: string) => void;

/** A rate that is in force already is left; another one from the same day corrects it; else it begins on its day. */
function ratesOf(id: string, cells: Cells, person: PersonRow, known: OnFile | undefined, changes: string[], problem: Tell): RateRow[] {
  const rates: RateRow[] = [];
  const add = (series: 'primary' | '2', amount: string | null | undefined, label: string) => {
    if (!amount) return;
    const from = cells['rateFrom'] ?? person.hired;
    if (!from) return problem('Rate from', '', 'A rate begins on a day: give it here, or give the hire date.');
    const held = (known?.rates ?? []).filter((rate) => rate.series === series);
    const inForce = held.filter((rate) => rate.from_date <= from).sort((a, b) => (a.from_date < b.from_date ? 1 : -1))[0];
    const per = cells['ratePer'] ?? inForce?.per ?? 'hour';
    if (inForce && Number(inForce.amount) === Number(amount) && inForce.per === per) return;
    changes.push(`${series === 'primary' ? 'rate' : 'second rate'} ${amount} from ${from}`);
    rates.push({
      id: inForce?.from_date === from ? inForce.id : randomUUID(),
      person_id: id,
      series,
      label,
      per,
      amount,
      from_date: from,
      is_primary: series === 'primary',
    });
  };
  add('primary', cells['rate'], cells['rateLabel'] ?? 'Pay');
  add('2', cells['secondRate'], cells['secondRateLabel'] ?? 'Second rate');
  return rates;
}

function taxOf(
  id: string,
  cells: Cells,
  person: PersonRow,
  known: OnFile | undefined,
  pack: CountryPack,
  mapping: readonly (string | null)[],
  changes: string[],
  problem: Tell,
): Wanted['tax'] {
  const entered = mapping.filter((key): key is string => !!key?.startsWith('tax:') && cells[key] !== null && cells[key] !== undefined);
  if (!entered.length) return null;
  const facts = structuredClone(known?.tax?.facts ?? {});
  const kinds = new Map(pack.taxForm.flatMap((group) => group.fields).map((field) => [field.key, field.kind]));
  for (const key of entered)
    put(facts, key.slice('tax:'.length), kinds.get(key.slice('tax:'.length)) === 'yes-no' ? cells[key] === 'true' : cells[key]);
  const parsed = pack.taxSchema.safeParse(facts);
  if (!parsed.success) {
    const issue = parsed.error.issues[0];
    problem(issue?.path.join('.') ?? 'Tax details', '', `Tax details are not complete: expected ${issue?.message ?? 'more'}.`);
    return null;
  }
  if (known?.tax && JSON.stringify(sorted(parsed.data)) === JSON.stringify(sorted(known.tax.facts))) return null;
  const from = cells['taxFrom'] ?? known?.tax?.from_date ?? person.hired;
  if (!from) {
    problem('Tax details from', '', 'Tax details begin on a day: give it here, or give the hire date.');
    return null;
  }
  changes.push(`tax details from ${from}`);
  return { id: randomUUID(), person_id: id, from_date: from, facts: parsed.data };
}

function itemsOf(
  id: string,
  cells: Cells,
  person: PersonRow,
  known: OnFile | undefined,
  choices: Choices,
  today: string,
  changes: string[],
): Pick<Wanted, 'items' | 'ended'> {
  const items: Wanted['items'] = [];
  const ended: string[] = [];
  for (const { id: itemId, definition } of choices.items) {
    const value = cells[`item:${definition.code}`];
    if (value === undefined || value === null) continue;
    const { by } = definition.method;
    const current = known?.items?.find((held) => held.item_id === itemId);
    if (value === 'false') {
      if (current) {
        ended.push(current.id);
        changes.push(`${definition.name} ends`);
      }
      continue;
    }
    const amount = by === 'match' || by === 'table' || by === 'percent' ? null : value;
    const percent = by === 'percent' ? value : null;
    if (current && same(current.amount, amount) && same(current.percent, percent)) continue;
    if (current) ended.push(current.id);
    changes.push(`${definition.name} ${percent ? `${percent}%` : (amount ?? '')}`.trim());
    items.push({ id: randomUUID(), person_id: id, item_id: itemId, amount, percent, from_date: known ? today : (person.hired ?? today) });
  }
  return { items, ended };
}

const same = (a: string | null, b: string | null): boolean => (a === null || b === null ? a === b : Number(a) === Number(b));

function put(facts: Record<string, unknown>, path: string, value: unknown): void {
  const parts = path.split('.');
  let here = facts;
  for (const part of parts.slice(0, -1)) here = (here[part] ??= {}) as Record<string, unknown>;
  here[parts.at(-1) ?? path] = value;
}

const sorted = (value: unknown): unknown =>
  value && typeof value === 'object' && !Array.isArray(value)
    ? Object.fromEntries(
        Object.entries(value)
          .sort(([a], [b]) => (a < b ? -1 : 1))
          .map(([key, inner]) => [key, sorted(inner)]),
      )
    : value;

async function everybodyOnFile(scope: Scope): Promise<OnFile[]> {
  const rows = await select<{
    person: PersonRow;
    sealed: Buffer | null;
    rates: RateRow[] | null;
    tax: OnFile['tax'];
    items: OnFile['items'];
  }>(
    scope.database,
    `select json_build_object('id', p.id, 'code', p.code, 'given_name', p.given_name, 'family_name', p.family_name, 'born', p.born, 'email', p.email, 'hired', p.hired, 'left', p."left",
              'left_reason', p.left_reason, 'department', p.department, 'worksite', p.worksite, 'job', p.job, 'kind', p.kind, 'schedule_id', p.schedule_id,
              'standard_hours', p.standard_hours::text, 'address', p.address, 'number_fingerprint', p.number_fingerprint, 'number_last4', p.number_last4, 'payment', p.payment) as person,
            p.account_sealed as sealed,
            (select json_agg(json_build_object('id', r.id, 'series', r.series, 'per', r.per, 'amount', r.amount::text, 'from_date', r.from_date)) from pay_rates r where r.person_id = p.id) as rates,
            (select json_build_object('from_date', t.from_date, 'facts', t.facts) from tax_details t where t.person_id = p.id order by t.from_date desc limit 1) as tax,
            (select json_agg(json_build_object('id', pi.id, 'item_id', pi.item_id, 'amount', pi.amount::text, 'percent', pi.percent::text, 'from_date', pi.from_date))
             from person_items pi where pi.person_id = p.id and (pi.to_date is null or pi.to_date >= :today)) as items
     from people p where p.employer_id = :employer`,
    { employer: scope.employer.id, today: scope.employer.today },
  );
  return rows.map(({ sealed, ...row }) => ({ ...row, account: mainAccount(row.person, sealed) }));
}

/** The number of the account that takes the remainder: the one that the file speaks of. */
function mainAccount(person: PersonRow, sealed: Buffer | null): string | null {
  const main = accountsOf(person.payment as Payment | null).find((account) => account.by === 'remainder');
  return (main && sealedNumbers(sealed)[main.id]) ?? null;
}

/** Writes a portion of people with a statement for each table. */
async function savePortion(scope: Scope, people: Wanted[], file: string, transaction: Transaction): Promise<void> {
  const { database, employer, user } = scope;
  const put = (sql: string, rows: unknown[]) =>
    rows.length
      ? execute(database, sql, { rows: JSON.stringify(rows), employer: employer.id, user: user.id, today: employer.today }, transaction)
      : undefined;
  await put(
    `insert into people (id, employer_id, code, given_name, family_name, born, email, hired, "left", left_reason, department, worksite, job, kind, schedule_id, standard_hours, address, payment, number_fingerprint, number_last4)
     select r.id, :employer, r.code, r.given_name, r.family_name, r.born, r.email, r.hired, r."left", r.left_reason, r.department, r.worksite, r.job, r.kind, r.schedule_id, r.standard_hours, r.address, r.payment, r.number_fingerprint, r.number_last4
     from jsonb_to_recordset(:rows::jsonb) as r(id uuid, code text, given_name text, family_name text, born date, email text, hired date, "left" date, left_reason text, department text, worksite text, job text, kind text,
       schedule_id uuid, standard_hours numeric, address jsonb, payment jsonb, number_fingerprint text, number_last4 text)
     on conflict (id) do update set given_name = excluded.given_name, family_name = excluded.family_name, born = excluded.born, email = excluded.email, hired = excluded.hired, "left" = excluded."left",
       left_reason = excluded.left_reason, department = excluded.department, worksite = excluded.worksite, job = excluded.job, kind = excluded.kind, schedule_id = excluded.schedule_id,
       standard_hours = excluded.standard_hours, address = excluded.address, payment = excluded.payment, number_fingerprint = excluded.number_fingerprint, number_last4 = excluded.number_last4, version = people.version + 1`,
    people.map(({ person }) => person),
  );
  await put(
    `update people p set number_sealed = coalesce(decode(r.number, 'base64'), p.number_sealed), account_sealed = coalesce(decode(r.account, 'base64'), p.account_sealed)
     from jsonb_to_recordset(:rows::jsonb) as r(id uuid, number text, account text) where p.id = r.id`,
    people
      .filter(({ cells }) => cells['nationalNumber'] ?? cells['account'])
      .map(({ id, cells }) => ({
        id,
        number: cells['nationalNumber'] ? theVault().seal(cells['nationalNumber']).toString('base64') : null,
        account: cells['account'] && cells['routing'] ? theVault().seal(cells['account']).toString('base64') : null,
      })),
  );
  await put(
    `insert into pay_rates (id, person_id, series, label, per, amount, from_date, is_primary, reason)
     select r.id, r.person_id, r.series, r.label, r.per, r.amount, r.from_date, r.is_primary, 'Imported' from jsonb_to_recordset(:rows::jsonb) as r(id uuid, person_id uuid, series text, label text, per text, amount numeric, from_date date, is_primary boolean)
     on conflict (id) do update set amount = excluded.amount, per = excluded.per, label = excluded.label`,
    people.flatMap(({ rates }) => rates),
  );
  await put(
    `insert into tax_details (id, person_id, from_date, facts) select r.id, r.person_id, r.from_date, r.facts from jsonb_to_recordset(:rows::jsonb) as r(id uuid, person_id uuid, from_date date, facts jsonb)
     on conflict (person_id, from_date) do update set facts = excluded.facts`,
    people.flatMap(({ tax }) => (tax ? [tax] : [])),
  );
  const ended = people.flatMap(({ ended }) => ended.map((id) => ({ id })));
  await put(
    `delete from person_items where from_date >= :today and id in (select r.id from jsonb_to_recordset(:rows::jsonb) as r(id uuid))`,
    ended,
  );
  await put(
    `update person_items set to_date = :today::date - 1, version = version + 1 where id in (select r.id from jsonb_to_recordset(:rows::jsonb) as r(id uuid))`,
    ended,
  );
  await put(
    `insert into person_items (id, person_id, item_id, amount, percent, from_date) select r.id, r.person_id, r.item_id, r.amount, r.percent, r.from_date
     from jsonb_to_recordset(:rows::jsonb) as r(id uuid, person_id uuid, item_id uuid, amount numeric, percent numeric, from_date date)`,
    people.flatMap(({ items }) => items),
  );
  await put(
    `insert into audit_entries (employer_id, user_id, action, subject, subject_id, what) select :employer, :user, 'import', 'person', r.id, r.what from jsonb_to_recordset(:rows::jsonb) as r(id uuid, what text)`,
    people.map(({ id, isNew, changes, row }) => ({
      id,
      what: `${isNew ? 'Added' : `Changed ${changes.join('; ')}`} from ${file}, row ${row}`,
    })),
  );
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
