import { counted } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select, type Database, type Transaction } from '../database/connection';
import { postPayments } from '../journal/post-payments';
import { changing } from '../users/changing';
import { scopeOf } from '../users/service';
import type { Scope } from '../scope';
import type { Bank } from './bank';
import { payerOf, payingAccounts, type Paying } from '../employers/paying-accounts';
import { invalid } from '../errors';
import { batchFile } from './batches';
import { readStatements, type Statement } from './camt053';
import { happened } from './transfers';
import { packFor } from '../scope';

/** How far back statements are asked for again: what is known already changes nothing. */
const DAYS_AGAIN = 14;

/**
 * Hands released files to the bank, and takes what it tells of every account that has sent something. It can be cut off
 * anywhere and done again: a file keeps its identity, and a line of a statement counts once.
 */
export async function exchangeWithBank(scope: Scope, bank: Bank): Promise<{ sent: number; lines: number; unknown: number }> {
  const waiting = await select<{ id: string; number: number }>(
    scope.database,
    'select id, number from payment_batches where employer_id = :employer and released_at is not null and delivered_at is null order by number',
    { employer: scope.employer.id },
  );
  for (const { id, number } of waiting) await deliver(scope, bank, id, number);
  const senders = await select<{ paying: Paying; since: string }>(
    scope.database,
    `select b.paying_account_id as paying, to_char(coalesce((select max(a.on_day) from account_balances a where a.employer_id = :employer and a.paying = coalesce(b.paying_account_id::text, '')), min(b.released_on)) - ${DAYS_AGAIN}, 'YYYY-MM-DD') as since
     from payment_batches b where b.employer_id = :employer and b.released_at is not null group by b.paying_account_id`,
    { employer: scope.employer.id },
  );
  let [lines, unknown] = [0, 0];
  for (const { paying, since } of senders) {
    const { bank: code, account } = await payerOf(scope, paying);
    const contents = await bank.statements({ bank: code, account, currency: packFor(scope).currency }, since, scope.employer.today);
    for (const content of contents) {
      const told = await takeStatement(scope, content);
      lines += told.lines;
      unknown += told.unknown;
    }
  }
  return { sent: waiting.length, lines, unknown };
}

/**
 * What is done with the outside for every employer that has sent or ordered anything, as whoever did so last: what a
 * process that died left is sent, and statements are asked for. One that fails does not keep it from the others.
 */
export async function forEveryPayer(
  database: Database,
  work: (scope: Scope) => Promise<unknown>,
  failed: (employer: string, error: unknown) => void,
): Promise<void> {
  const payers = await select<{ employerId: string; userId: string }>(
    database,
    `select distinct on (employer_id) employer_id as "employerId", user_id as "userId" from (
       select b.employer_id, b.released_by as user_id, b.released_at as at from payment_batches b where b.released_at is not null
       union all select m.employer_id, m.user_id, m.at from remittances m where m.method = 'agency' and m.told_at is null and m.undone is null
       union all select e.employer_id, e.user_id, e.at from filing_events e join filing_files f on f.employer_id = e.employer_id and f.filing = e.filing and f.period = e.period and f.attempt = e.attempt where e.step = 'sent') s
     where exists (select 1 from memberships m where m.employer_id = s.employer_id and m.user_id = s.user_id)
       and not exists (select 1 from employers e where e.id = s.employer_id and e.being_played) order by employer_id, at desc`,
  );
  for (const { employerId, userId } of payers) {
    try {
      await work(await scopeOf(database, userId, employerId));
    } catch (error) {
      failed(employerId, error);
    }
  }
}

/** The time of day where the employer is. */
async function timeOf(scope: Scope): Promise<string> {
  const [row] = await select<{ at: string }>(scope.database, `select to_char(now() at time zone :zone, 'HH24:MI') as at`, {
    zone: scope.employer.facts.timeZone || packFor(scope).timeZones[0],
  });
  return row?.at ?? '12:00';
}

async function deliver(scope: Scope, bank: Bank, id: string, number: number): Promise<void> {
  const { name, content } = await batchFile(scope, id);
  const answer = await bank.submit({ name, content, on: scope.employer.today, at: await timeOf(scope) });
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
  const numbers = new Map<string, Paying>();
  for (const { id } of await payingAccounts(scope)) {
    const { bank, account } = await payerOf(scope, id);
    numbers.set(`${bank} ${account}`, id);
  }
  const strange = statements.find(({ bank, account }) => !numbers.has(`${bank} ${account}`));
  if (strange)
    throw invalid(
      `This is a statement of the account ending ${strange.account.slice(-4)}, which is none of the paying accounts. Choose the statement of one of them.`,
    );
  return changing(scope, async (transaction) => {
    let [lines, unknown] = [0, 0];
    for (const statement of statements) {
      const paying = numbers.get(`${statement.bank} ${statement.account}`) ?? null;
      const told = await takeLines(scope, statement, paying, transaction);
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

async function takeLines(
  scope: Scope,
  statement: Statement,
  paying: Paying,
  transaction: Transaction,
): Promise<{ lines: number; unknown: number }> {
  const taken = (await execute(
    scope.database,
    `with read as (select * from jsonb_to_recordset(cast(:lines as jsonb)) as l(statement text, entry text, "on" date, amount bigint, reference text, code text, words text))
     insert into statement_lines (employer_id, paying, statement, entry, on_day, amount, reference, transfer_id, code, words)
     select :employer, :paying, l.statement, l.entry, l."on", l.amount, l.reference, t.id, l.code, l.words
     from read l left join transfers t on t.reference = l.reference and t.employer_id = :employer
     on conflict (employer_id, paying, entry) do nothing
     returning transfer_id as transfer, amount, (select t.amount from transfers t where t.id = transfer_id) as wanted, on_day as "on", code, words`,
    { employer: scope.employer.id, paying: paying ?? '', lines: JSON.stringify(statement.lines) },
    transaction,
  )) as Taken[];
  await execute(
    scope.database,
    `insert into account_balances (employer_id, paying, on_day, balance) values (:employer, :paying, :day, :balance) on conflict (employer_id, paying, on_day) do update set balance = excluded.balance`,
    { employer: scope.employer.id, paying: paying ?? '', day: statement.day, balance: statement.closing },
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
