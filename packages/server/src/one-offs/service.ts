import type { AnswerOf, OneOff, OneOffPage, ParsedBodyOf, PayslipView, Takes } from '@woodruff/contract';
import { Exact, writtenDate, writtenDay, writtenPeriod, typedNumber } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select, type Transaction } from '../database/connection';
import { conflict, invalid, notFound } from '../errors';
import { workOutAgain } from '../calculation/again';
import { openRun } from '../calculation/calculation';
import { readTable } from '../files/table';
import { changing } from '../users/changing';
import { packFor, type Scope } from '../scope';

interface Row {
  id: string;
  personId: string;
  person: string;
  code: string;
  department: string;
  item: string;
  itemName: string;
  kind: string;
  amount: string;
  note: string;
  part: OneOff['part'];
  earned: OneOff['earned'];
  takeBy: Takes['by'];
  namedRun: string | null;
  namedPayDate: string | null;
  onDate: string | null;
  back: OneOff['back'];
  payslipId: string | null;
  runId: string | null;
  payDate: string | null;
  payslipState: string | null;
  by: string;
  at: string;
}

const ROWS = `select o.id, o.person_id as "personId", p.family_name || ', ' || p.given_name as person, p.code, p.department, i.code as item, i.definition->>'name' as "itemName", i.definition->>'kind' as kind,
    o.amount::text, o.note, o.part, o.earned, o.take_by as "takeBy", o.run_id as "namedRun", nr.pay_date as "namedPayDate", o.on_date as "onDate", o.back, o.payslip_id as "payslipId", y.run_id as "runId", r.pay_date as "payDate", y.state as "payslipState",
    u.name as by, to_char(o.entered_at, 'YYYY-MM-DD"T"HH24:MI:SS') as at
  from one_offs o join people p on p.id = o.person_id join pay_items i on i.id = o.item_id join users u on u.id = o.user_id
  left join pay_runs nr on nr.id = o.run_id left join payslips y on y.id = o.payslip_id left join pay_runs r on r.id = y.run_id`;

/** What waits, and what was taken: by an open run, or with `all` by those of the last year. */
export async function oneOffPage(scope: Scope, all: boolean): Promise<OneOffPage> {
  const employer = scope.employer.id;
  const rows = await select<Row>(
    scope.database,
    `${ROWS} where o.employer_id = :employer and (o.payslip_id is null or y.state = 'draft' ${all ? 'or r.pay_date > cast(:today as date) - 366' : ''}) order by p.family_name, p.given_name, p.code, o.number limit 5000`,
    { employer, today: scope.employer.today },
  );
  const runs = await select<{ id: string; from: string; to: string; payDate: string; name: string }>(
    scope.database,
    `select r.id, r.period_from as "from", r.period_to as "to", r.pay_date as "payDate", coalesce(nullif(r.name, ''), s.name) as name from pay_runs r join pay_schedules s on s.id = r.schedule_id
     where r.employer_id = :employer and r.state in ('calculating', 'open') order by r.pay_date`,
    { employer },
  );
  const items = await select<OneOffPage['items'][number]>(
    scope.database,
    `select code, definition->>'name' as name, definition->>'kind' as kind from pay_items
     where employer_id = :employer and not retired and definition->>'kind' <> 'employer-contribution' and definition->'method'->>'by' <> 'salary' order by (definition->>'order')::int, 2`,
    { employer },
  );
  return {
    oneOffs: rows.map(viewOf),
    runs: runs.map((run) => ({ id: run.id, label: `${run.name}, ${writtenPeriod(run.from, run.to)}, paid ${writtenDate(run.payDate)}` })),
    items,
    earnedCounts: packFor(scope).countsDaysEarned ?? false,
  };
}

function viewOf({ takeBy, namedRun, namedPayDate, onDate, payslipState, payDate, ...row }: Row): OneOff {
  const takes: Takes =
    takeBy === 'run' && namedRun
      ? { by: 'run', runId: namedRun }
      : takeBy === 'date' && onDate
        ? { by: 'date', date: onDate }
        : { by: 'next' };
  const state = !row.payslipId ? 'waiting' : payslipState === 'draft' ? 'in-run' : 'paid';
  const waitsFor =
    takes.by === 'next'
      ? 'the next run'
      : takes.by === 'date'
        ? `the first pay date from ${writtenDate(takes.date)}`
        : `the run paid ${namedPayDate ? writtenDate(namedPayDate) : ''}`;
  return {
    ...row,
    takes,
    state,
    where: state === 'waiting' ? waitsFor : `${state === 'paid' ? 'paid' : 'in the run paid'} ${payDate ? writtenDay(payDate) : ''}`,
  };
}

/** All or none; each that fits an open run is taken by it at once. */
export async function addOneOffs(scope: Scope, { entries }: ParsedBodyOf<'addOneOffs'>): Promise<{ added: number }> {
  return { added: (await enterOneOffs(scope, entries)).length };
}

/** Gives the identifiers of those entered, in their order. */
export function enterOneOffs(scope: Scope, entries: ParsedBodyOf<'addOneOffs'>['entries']): Promise<string[]> {
  return changing(scope, async (transaction) => {
    const read = await checked(scope, entries, transaction);
    return insert(
      scope,
      read.map(({ personId, itemId, entry }) => ({ personId, itemId, ...entry, back: null })),
      transaction,
    );
  });
}

export interface NewOneOff {
  personId: string;
  itemId: string;
  amount: string;
  note: string;
  part?: OneOff['part'] | undefined;
  earned?: OneOff['earned'] | undefined;
  takes: Takes;
  back: OneOff['back'];
  /** A deduction given back: the database holds it to what was taken. */
  refunds?: true;
}

/** Also the way of back pay, which names the period it is for. */
export async function insert(scope: Scope, entries: readonly NewOneOff[], transaction: Transaction): Promise<string[]> {
  const made = (await execute(
    scope.database,
    `insert into one_offs (employer_id, person_id, item_id, amount, note, part, earned, take_by, run_id, on_date, back, refunds, user_id)
     select :employer, e."personId", e."itemId", e.amount, e.note, e.part, e.earned, e.by, e."runId", e.date, e.back, coalesce(e.refunds, false), :user
     from jsonb_to_recordset(cast(:entries as jsonb)) as e("personId" uuid, "itemId" uuid, amount numeric, note text, part jsonb, earned jsonb, by text, "runId" uuid, date date, back jsonb, refunds boolean) returning id`,
    {
      employer: scope.employer.id,
      user: scope.user.id,
      entries: JSON.stringify(
        entries.map(({ takes, part, earned, ...entry }) => ({ ...entry, part: part ?? null, earned: earned ?? null, ...takes })),
      ),
    },
    transaction,
  )) as { id: string }[];
  await record(
    scope,
    entries.map(({ personId, amount, note }) => ({
      action: 'add-one-off',
      subject: 'person',
      subjectId: personId,
      what: `One-off of ${amount}${note ? `: ${note}` : ''}`,
    })),
    transaction,
  );
  await letOpenRunsTake(scope, transaction, [...new Set(entries.map((entry) => entry.personId))]);
  return made.map(({ id }) => id);
}

interface Checked {
  personId: string;
  itemId: string;
  entry: ParsedBodyOf<'addOneOffs'>['entries'][number];
}

async function checked(scope: Scope, entries: ParsedBodyOf<'addOneOffs'>['entries'], transaction: Transaction): Promise<Checked[]> {
  const employer = scope.employer.id;
  const people = await select<{ id: string; code: string }>(
    scope.database,
    'select id, lower(code) as code from people where employer_id = :employer and lower(code) in (:codes)',
    { employer, codes: entries.map((entry) => entry.person.toLowerCase()) },
    transaction,
  );
  const items = await select<{ id: string; code: string; kind: string; retired: boolean }>(
    scope.database,
    `select id, lower(code) as code, definition->>'kind' as kind, retired from pay_items where employer_id = :employer and lower(code) in (:codes)`,
    { employer, codes: entries.map((entry) => entry.item.toLowerCase()) },
    transaction,
  );
  const fields: { path: string; expected: string }[] = [];
  const found = entries.map((entry, index) => {
    const person = people.find((one) => one.code === entry.person.toLowerCase());
    const item = items.find((one) => one.code === entry.item.toLowerCase());
    if (!person) fields.push({ path: `entries.${index}.person`, expected: 'the code of a person on file' });
    if (!item || item.kind === 'employer-contribution')
      fields.push({ path: `entries.${index}.item`, expected: 'a pay item that can be paid or deducted' });
    else if (item.retired) fields.push({ path: `entries.${index}.item`, expected: 'an item that is not retired' });
    if (Exact.of(entry.amount).isZero()) fields.push({ path: `entries.${index}.amount`, expected: 'an amount other than zero' });
    return { personId: person?.id ?? '', itemId: item?.id ?? '', entry };
  });
  for (const [index, { entry }] of found.entries())
    if (entry.takes.by === 'run') {
      const run = await openRun(scope, entry.takes.runId, transaction).catch(() => null);
      if (!run || !['calculating', 'open'].includes(run.state))
        fields.push({ path: `entries.${index}.takes`, expected: 'a run that is open' });
    }
  const [first] = fields;
  if (first)
    throw invalid(
      `Nothing was entered: line ${Number(first.path.split('.')[1]) + 1}, ${first.path.split('.')[2] ?? ''}: expected ${first.expected}.`,
      fields,
    );
  return found;
}

export async function changeOneOff(scope: Scope, id: string, body: ParsedBodyOf<'changeOneOff'>): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const row = await unpaid(scope, id, transaction);
    if (Exact.of(body.amount).isZero())
      throw invalid('An amount of nothing is no one-off. Remove it instead.', [{ path: 'amount', expected: 'other than zero' }]);
    const { takes } = body;
    const payslip = row.payslipId;
    await execute(
      scope.database,
      `update one_offs set amount = :amount, note = :note, part = :part, earned = :earned, take_by = :by, run_id = :runId, on_date = :date, payslip_id = null where id = :id`,
      {
        id,
        amount: body.amount,
        note: body.note,
        part: body.part ? JSON.stringify(body.part) : null,
        earned: body.earned ? JSON.stringify(body.earned) : null,
        by: takes.by,
        runId: takes.by === 'run' ? takes.runId : null,
        date: takes.by === 'date' ? takes.date : null,
      },
      transaction,
    );
    await recorded(scope, row, `One-off of ${row.itemName} changed: ${body.amount}${body.note ? `, ${body.note}` : ''}`, transaction);
    if (payslip) await workOutAgain(scope, [payslip], transaction);
    await letOpenRunsTake(scope, transaction, [row.personId]);
    return {};
  });
}

export async function removeOneOff(scope: Scope, id: string): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const row = await unpaid(scope, id, transaction);
    await execute(scope.database, 'delete from one_offs where id = :id', { id }, transaction);
    await recorded(scope, row, `One-off of ${row.itemName} ${row.amount} removed before it was paid`, transaction);
    if (row.payslipId) await workOutAgain(scope, [row.payslipId], transaction);
    return {};
  });
}

/** Out of the open run that took it; the run after takes it. */
export async function putOneOffBack(scope: Scope, id: string): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const row = await unpaid(scope, id, transaction);
    if (!row.payslipId) throw conflict('waits-already', 'No run has taken it yet.');
    await execute(
      scope.database,
      `update one_offs set payslip_id = null, take_by = 'next', run_id = null, on_date = null where id = :id`,
      { id },
      transaction,
    );
    await recorded(scope, row, `One-off of ${row.itemName} ${row.amount} put back: it waits for the next run`, transaction);
    await workOutAgain(scope, [row.payslipId], transaction);
    return {};
  });
}

async function unpaid(scope: Scope, id: string, transaction: Transaction): Promise<Row> {
  await execute(scope.database, 'select 1 from one_offs where id = :id for update', { id }, transaction);
  const [row] = await select<Row>(
    scope.database,
    `${ROWS} where o.id = :id and o.employer_id = :employer`,
    { id, employer: scope.employer.id },
    transaction,
  );
  if (!row) throw notFound('one-off');
  if (row.payslipId && row.payslipState !== 'draft')
    throw conflict(
      'paid-already',
      `It was paid ${row.payDate ? writtenDay(row.payDate) : ''}. Reverse the payslip, or enter one that takes it back.`,
    );
  return row;
}

const recorded = (scope: Scope, row: Row, what: string, transaction: Transaction): Promise<void> =>
  record(scope, { action: 'one-off', subject: 'person', subjectId: row.personId, what }, transaction);

/** Rows of a file with headings such as code, item, amount, note and date; read for looking at. */
export async function readOneOffs(file: ParsedBodyOf<'readOneOffs'>): Promise<AnswerOf<'readOneOffs'>> {
  const table = await readTable(file);
  const at = (...names: string[]) => table.headings.findIndex((heading) => names.includes(heading.toLowerCase().trim()));
  const columns = {
    person: at('code', 'person', 'employee', 'employee number', 'employee id'),
    item: at('item', 'pay item', 'earning', 'type'),
    amount: at('amount', 'sum'),
    note: at('note', 'reason', 'description', 'memo'),
    date: at('date', 'pay date', 'from'),
  };
  const absent = (['person', 'item', 'amount'] as const).filter((key) => columns[key] < 0);
  if (absent.length)
    throw invalid(
      `The first row must name the columns code, item and amount; ${absent.map((key) => (key === 'person' ? 'code' : key)).join(' and ')} ${absent.length === 1 ? 'is' : 'are'} missing.`,
    );
  return table.rows.map(({ number, cells }) => {
    const cell = (key: keyof typeof columns) => cells[columns[key]] ?? '';
    return {
      row: number,
      person: cell('person'),
      item: cell('item'),
      amount: typedNumber(cell('amount')),
      note: cell('note'),
      date: cell('date'),
    };
  });
}

const TAKE = `update one_offs o set payslip_id = y.id from payslips y join pay_runs r on r.id = y.run_id
  where y.person_id = o.person_id and y.state = 'draft' and y.included and y.replaces is null and o.payslip_id is null and o.employer_id = :employer
    and r.state in ('calculating', 'open')
    and ((o.take_by = 'run' and o.run_id = r.id)
      or (o.take_by = 'next' and r.kind = 'regular')
      or (o.take_by = 'date' and r.kind = 'regular' and o.on_date <= r.pay_date)
      or (r.kind = 'special' and o.take_by <> 'run' and (r.rules->>'takesWaiting')::boolean and (o.take_by = 'next' or o.on_date <= r.pay_date)
          and exists (select 1 from pay_items i where i.id = o.item_id and jsonb_exists(r.rules->'items', i.code))))`;

/** What a run that begins takes of what waits; working it out is the caller's. */
export async function takeWaiting(scope: Scope, runId: string, transaction: Transaction): Promise<void> {
  await execute(scope.database, `${TAKE} and r.id = :runId`, { employer: scope.employer.id, runId }, transaction);
}

/** Open runs take what was entered for people in them; their payslips are recalculated. */
async function letOpenRunsTake(scope: Scope, transaction: Transaction, people: readonly string[]): Promise<void> {
  // The run that pays first takes it.
  const runs = await select<{ id: string }>(
    scope.database,
    `select id from pay_runs where employer_id = :employer and state in ('calculating', 'open') order by pay_date, id`,
    { employer: scope.employer.id },
    transaction,
  );
  for (const { id } of runs) {
    const taken = (await execute(
      scope.database,
      `${TAKE} and r.id = :runId and o.person_id in (:people) returning y.id`,
      { employer: scope.employer.id, runId: id, people },
      transaction,
    )) as { id: string }[];
    await workOutAgain(scope, [...new Set(taken.map((payslip) => payslip.id))], transaction);
  }
}

/** What payslips had taken waits again: their run is deleted, or they were left out of it. */
export const letGo = (
  scope: Scope,
  where: 'y.run_id = :subject' | 'y.run_id = :subject and not y.included' | 'y.id = :subject',
  subject: string,
  transaction: Transaction,
): Promise<unknown> =>
  execute(
    scope.database,
    `update one_offs o set payslip_id = null, take_by = case when o.take_by = 'run' then 'next' else o.take_by end, run_id = null from payslips y where o.payslip_id = y.id and ${where}`,
    { subject },
    transaction,
  );

export const takenBy = (scope: Scope, payslipId: string): Promise<PayslipView['taken']> =>
  select(
    scope.database,
    `select o.id, i.definition->>'name' as item, o.amount::text, o.note from one_offs o join pay_items i on i.id = o.item_id where o.payslip_id = :payslipId and o.employer_id = :employer order by o.number`,
    { payslipId, employer: scope.employer.id },
  );
