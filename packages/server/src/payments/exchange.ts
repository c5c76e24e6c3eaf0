import { counted } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select, type Database, type Transaction } from '../database/connection';
import { postPayments } from '../journal/post';
import { changing } from '../users/changing';
import { scopeOf } from '../users/service';
import type { Scope } from '../scope';
import type { Bank } from './bank';
import { batchFile, payerOf } from './batches';
import { readStatements, type Statement } from './camt053';
import { happened } from './transfers';
import { packFor } from '../scope';

/** How far back statements are asked for again: what is known already changes nothing. */
const DAYS_AGAIN = 14;

/**
 * Hands released files to the bank, and takes what it tells. It can be cut off anywhere and done again: a file keeps its
 * identity, and a line of a statement counts once.
 */
export async function exchangeWithBank(scope: Scope, bank: Bank): Promise<{ sent: number; lines: number; unknown: number }> {
  const waiting = await select<{ id: string; number: number }>(
    scope.database,
    'select id, number from payment_batches where employer_id = :employer and released_at is not null and delivered_at is null order by number',
    { employer: scope.employer.id },
  );
  for (const { id, number } of waiting) await deliver(scope, bank, id, number);
  const [any] = await select<{ since: string | null }>(
    scope.database,
    `select to_char(coalesce((select max(on_day) from account_balances where employer_id = :employer), (select min(released_on) from payment_batches where employer_id = :employer)) - ${DAYS_AGAIN}, 'YYYY-MM-DD') as since`,
    { employer: scope.employer.id },
  );
  if (!any?.since) return { sent: waiting.length, lines: 0, unknown: 0 };
  const { bank: code, account } = await payerOf(scope);
  const contents = await bank.statements({ bank: code, account, currency: packFor(scope).currency }, any.since, scope.employer.today);
  let [lines, unknown] = [0, 0];
  for (const content of contents) {
    const told = await takeStatement(scope, content);
    lines += told.lines;
    unknown += told.unknown;
  }
  return { sent: waiting.length, lines, unknown };
}

/** Hands in what a process that died left released, and asks for statements of whoever has sent anything. */
export async function exchangeForAll(database: Database, bankOf: (scope: Scope) => Bank): Promise<void> {
  const senders = await select<{ employerId: string; userId: string }>(
    database,
    `select distinct on (employer_id) employer_id as "employerId", released_by as "userId" from payment_batches where released_at is not null order by employer_id, released_at desc`,
  );
  for (const { employerId, userId } of senders) {
    const scope = await scopeOf(database, userId, employerId);
    await exchangeWithBank(scope, bankOf(scope));
  }
}

async function deliver(scope: Scope, bank: Bank, id: string, number: number): Promise<void> {
  const { name, content } = await batchFile(scope, id);
  const answer = await bank.submit({ name, content, on: scope.employer.today });
  await changing(scope, async (transaction) => {
    const done = await execute(
      scope.database,
      'update payment_batches set delivered_at = now(), refusal = cast(:faults as jsonb) where id = :id and delivered_at is null returning id',
      { id, faults: answer.taken ? null : JSON.stringify(answer.faults) },
      transaction,
    );
    if (!done.length) return;
    if (!answer.taken) {
      const first = answer.faults[0];
      const refused = await select<{ id: string }>(
        scope.database,
        `select t.id from transfers t where t.batch_id = :id and t.method = 'file' and not exists (select 1 from transfer_events e where e.transfer_id = t.id and e.step = 'dropped')`,
        { id },
        transaction,
      );
      await happened(
        scope,
        refused.map((one) => one.id),
        {
          step: 'refused',
          words: `The bank refused the file: line ${first?.line ?? 1}, column ${first?.column ?? 1}: ${first?.what ?? ''}`,
          byBank: true,
        },
        transaction,
      );
    }
    await record(
      scope,
      {
        action: 'batch',
        subject: 'employer',
        subjectId: scope.employer.id,
        what: answer.taken
          ? `The bank took the file of batch ${number}`
          : `The bank refused the file of batch ${number}: ${counted(answer.faults.length, 'fault', 'faults')}`,
      },
      transaction,
    );
  });
}

/** Takes a statement: each line once, and what it says of our payments. What names none of them is kept, and shown. */
export async function takeStatement(scope: Scope, content: string): Promise<{ lines: number; unknown: number }> {
  const statements = readStatements(content);
  return changing(scope, async (transaction) => {
    let [lines, unknown] = [0, 0];
    for (const statement of statements) {
      const told = await takeLines(scope, statement, transaction);
      lines += told.lines;
      unknown += told.unknown;
    }
    await markTrials(scope, transaction);
    await postPayments(scope, transaction);
    return { lines, unknown };
  });
}

/** A trial deposit that was booked shows that its account is right; one that came back, that it is not. */
async function markTrials(scope: Scope, transaction: Transaction): Promise<void> {
  const told = await select<{ personId: string; account: string; state: 'arrived' | 'returned' }>(
    scope.database,
    `select t.person_id as "personId", t.reason as account, case when exists (select 1 from transfer_events r where r.transfer_id = t.id and r.step = 'returned') then 'returned' else 'arrived' end as state
     from transfers t join transfer_events e on e.transfer_id = t.id and e.step = 'booked' join people p on p.id = t.person_id
     where t.employer_id = :employer and t.purpose = 'trial' and exists (select 1 from jsonb_array_elements(coalesce(p.payment->'accounts', '[]')) a where a->>'id' = t.reason and a->>'trial' in ('asked', 'arrived'))`,
    { employer: scope.employer.id },
    transaction,
  );
  for (const { personId, account, state } of told)
    await execute(
      scope.database,
      `update people set payment = jsonb_set(payment, '{accounts}', (select jsonb_agg(case when a->>'id' = :account then a || jsonb_build_object('trial', cast(:state as text)) else a end) from jsonb_array_elements(payment->'accounts') a)) where id = :personId returning id`,
      { personId, account, state },
      transaction,
    );
}

interface Taken {
  transfer: string | null;
  amount: number;
  wanted: number | null;
  on: string;
  code: string;
  words: string;
}

async function takeLines(scope: Scope, statement: Statement, transaction: Transaction): Promise<{ lines: number; unknown: number }> {
  const taken = (await execute(
    scope.database,
    `with read as (select * from jsonb_to_recordset(cast(:lines as jsonb)) as l(statement text, entry text, "on" date, amount bigint, reference text, code text, words text))
     insert into statement_lines (employer_id, statement, entry, on_day, amount, reference, transfer_id, code, words)
     select :employer, l.statement, l.entry, l."on", l.amount, l.reference, t.id, l.code, l.words
     from read l left join transfers t on t.reference = l.reference and t.employer_id = :employer
     on conflict (employer_id, entry) do nothing
     returning transfer_id as transfer, amount, (select t.amount from transfers t where t.id = transfer_id) as wanted, on_day as "on", code, words`,
    { employer: scope.employer.id, lines: JSON.stringify(statement.lines) },
    transaction,
  )) as Taken[];
  await execute(
    scope.database,
    `insert into account_balances (employer_id, on_day, balance) values (:employer, :day, :balance) on conflict (employer_id, on_day) do update set balance = excluded.balance`,
    { employer: scope.employer.id, day: statement.day, balance: statement.closing },
    transaction,
  );
  const ours = taken.filter((line): line is Taken & { transfer: string } => line.transfer !== null);
  // Money that left in another amount than was asked for is not taken as this payment; it is shown as unexplained.
  const booked = ours.filter(({ amount, wanted, code }) => code === '' && amount === -(wanted ?? 0));
  for (const [on, some] of byDay(booked))
    await happened(
      scope,
      some.map(({ transfer }) => transfer),
      { step: 'booked', on, byBank: true },
      transaction,
    );
  const { returns } = packFor(scope).bank;
  for (const { transfer, amount, wanted, on, code, words } of ours) {
    if (!code) continue;
    if (amount === 0) {
      const [bank = '', account = ''] = words.split(' ');
      await happened(
        scope,
        [transfer],
        { step: 'notice', on, code, words: returns[code] ?? ISO_REASONS[code] ?? '', told: { bank, account }, byBank: true },
        transaction,
      );
    } else if (amount === wanted)
      await happened(
        scope,
        [transfer],
        { step: 'returned', on, code, words: returns[code] ?? ISO_REASONS[code] ?? '', byBank: true },
        transaction,
      );
  }
  return { lines: taken.length, unknown: taken.filter(({ transfer }) => transfer === null).length };
}

/** Reasons of returns (ISO 20022, external code list of status reasons). */
const ISO_REASONS: Record<string, string> = {
  AC01: 'The account number is wrong',
  AC04: 'The account is closed',
  AC06: 'The account is blocked',
  BE01: 'Name and account do not belong together',
  CNOR: 'The bank of the account has another number now',
  MS03: 'The bank gives no reason',
};

function byDay(lines: readonly (Taken & { transfer: string })[]): Map<string, (Taken & { transfer: string })[]> {
  const days = new Map<string, (Taken & { transfer: string })[]>();
  for (const line of lines) days.set(line.on, [...(days.get(line.on) ?? []), line]);
  return days;
}
