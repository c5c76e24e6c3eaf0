import type { Batch, ParsedBodyOf, Transfer } from '@woodruff/contract';
import { addDays, counted, isBusinessDay, writtenDate, writtenDay } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select, type Transaction } from '../database/connection';
import { ownPaying, payingAccounts, type Paying } from '../employers/paying-accounts';
import { conflict, notFound } from '../errors';
import type { Payment } from '../people/payment/accounts';
import { planned } from '../pay-runs/posting/net-payments';
import { holidaysOf, packFor, type Scope } from '../scope';
import { changing } from '../users/changing';
import { theVault } from '../vault/vault';
import { latestBalance } from './balances';
import { changedAccounts, type Going } from './destinations';
import { transfersWhere } from './transfers';

/** ISO 20022, which banks take everywhere. */
export const ISO = { code: 'pain.001', name: 'ISO 20022 (pain.001)', extension: 'xml' };

/** Cents of notes and coins that a cash list is counted into. */
const DENOMINATIONS = [10_000, 5_000, 2_000, 1_000, 500, 100, 25, 10, 5, 1];

/** Payments of approved runs that stand and are in no batch, with the schedule that says from which account. */
export const WAITING = `from net_payments n join pay_runs r on r.id = n.run_id and r.state = 'approved' join payslips y on y.id = n.payslip_id and y.state = 'posted' join people p on p.id = y.person_id left join pay_schedules ps on ps.id = r.schedule_id
  where n.employer_id = :employer and n.stopped is null and not n.gathered`;

/** Gathers what leaves on a day. Nothing is paid by it; the batch can be dropped again. */
export async function prepareBatch(
  scope: Scope,
  { kind, payDate, payingAccountId }: ParsedBodyOf<'prepareBatch'>,
): Promise<{ id: string }> {
  return changing(scope, async (transaction) => {
    const paying = await ownPaying(scope, payingAccountId);
    const [employer] = (await execute(
      scope.database,
      'update employers set next_batch = next_batch + 1 where id = :employer returning next_batch - 1 as number',
      { employer: scope.employer.id },
      transaction,
    )) as { number: number }[];
    const [batch] = (await execute(
      scope.database,
      'insert into payment_batches (employer_id, number, pay_date, prepared_by, paying_account_id) values (:employer, :number, :payDate, :user, :paying) returning id',
      { employer: scope.employer.id, number: employer?.number, payDate, user: scope.user.id, paying },
      transaction,
    )) as { id: string }[];
    if (!batch || !employer) throw new Error('no batch was made');
    const taken =
      kind === 'pay'
        ? await takePay(scope, batch.id, { payDate, paying }, transaction)
        : await takeWaiting(scope, batch.id, { kind, paying }, transaction);
    if (!taken)
      throw conflict(
        'nothing-to-pay',
        `Nothing waits to be paid on ${writtenDate(payDate)}: it is in a batch already, or its run is not approved.`,
      );
    await record(
      scope,
      {
        action: 'batch',
        subject: 'employer',
        subjectId: scope.employer.id,
        what: `Batch ${employer.number} prepared for ${writtenDay(payDate)}: ${counted(taken, 'payment', 'payments')}`,
      },
      transaction,
    );
    return { id: batch.id };
  });
}

async function takePay(
  scope: Scope,
  batch: string,
  { payDate, paying }: { payDate: string; paying: Paying },
  transaction: Transaction,
): Promise<number> {
  const rows = await execute(
    scope.database,
    `insert into transfers (employer_id, batch_id, net_payment_id, person_id, part, method, purpose, amount, payee, label, cheque_number, user_id)
     select :employer, :batch, n.id, p.id, coalesce(parts.part, 1) - 1, case n.method when 'deposit' then 'file' else n.method end, 'pay',
            coalesce((parts.value->>'amount')::bigint, n.amount), p.given_name || ' ' || p.family_name, coalesce(parts.value->>'label', ''), n.number, :user
     ${WAITING.replace('where n.employer_id', "left join lateral jsonb_array_elements(n.parts) with ordinality as parts(value, part) on n.method = 'deposit' where n.employer_id")}
       and r.pay_date = :payDate and ps.paying_account_id is not distinct from cast(:paying as uuid) and coalesce((parts.value->>'amount')::bigint, n.amount) > 0
     order by p.family_name, p.given_name, p.code, parts.part returning id`,
    { employer: scope.employer.id, batch, payDate, paying, user: scope.user.id },
    transaction,
  );
  await execute(
    scope.database,
    'update net_payments set gathered = true where id in (select net_payment_id from transfers where batch_id = :batch) returning id',
    { batch },
    transaction,
  );
  await setOff(scope, batch, transaction);
  if (rows.length) await takeTrials(scope, batch, transaction);
  return rows.length;
}

/** Trial deposits that were asked for go along, where the country's own file carries them: nothing is paid by them. */
async function takeTrials(scope: Scope, batch: string, transaction: Transaction): Promise<void> {
  if (!packFor(scope).bank.files.length) return;
  await execute(
    scope.database,
    `insert into transfers (employer_id, batch_id, person_id, method, purpose, amount, payee, label, reason, user_id)
     select :employer, :batch, p.id, 'file', 'trial', 0, p.given_name || ' ' || p.family_name, 'trial of the account ending ' || (a->>'last4'), a->>'id', :user
     from people p cross join lateral jsonb_array_elements(coalesce(p.payment->'accounts', '[]')) a
     where p.employer_id = :employer and a->>'trial' = 'asked'
       and not exists (select 1 from transfers t where t.person_id = p.id and t.purpose = 'trial' and t.reason = a->>'id') returning id`,
    { employer: scope.employer.id, batch, user: scope.user.id },
    transaction,
  );
}

/**
 * What was paid for a payslip that another replaces is the employee's already: it is set off, and only the rest goes out.
 * More than the new net is not taken back by itself; it stands among what does not tie out.
 */
async function setOff(scope: Scope, batch: string, transaction: Transaction): Promise<void> {
  const replacing = await select<{
    id: string;
    personId: string;
    name: string;
    net: number;
    paid: number;
    payment: Payment | null;
    method: string;
    edits: Going['edits'];
  }>(
    scope.database,
    `select n.id, p.id as "personId", p.given_name || ' ' || p.family_name as name, n.amount as net, n.method, p.payment, y.edits, paid.amount as paid
     from net_payments n join payslips y on y.id = n.payslip_id join people p on p.id = y.person_id
     cross join lateral (select coalesce(sum(t.amount), 0)::bigint as amount from net_payments o join transfers t on t.net_payment_id = o.id
       where o.payslip_id = y.replaces and exists (select 1 from transfer_events e where e.transfer_id = t.id and e.step in ('released', 'cleared'))
         and not exists (select 1 from transfer_events e where e.transfer_id = t.id and e.step in ('returned', 'refused', 'stopped', 'dropped'))
         and not exists (select 1 from transfers r where r.replaces = t.id)) paid
     where y.replaces is not null and paid.amount > 0 and exists (select 1 from transfers t where t.batch_id = :batch and t.net_payment_id = n.id)`,
    { batch },
    transaction,
  );
  for (const { id, personId, name, net, paid, payment, method, edits } of replacing) {
    await execute(
      scope.database,
      'delete from transfers where batch_id = :batch and net_payment_id = :id returning id',
      { batch, id },
      transaction,
    );
    const rest = net - Math.min(net, paid);
    const plan = method === 'deposit' && rest > 0 ? planned(packFor(scope).bank, rest, payment, edits.payment) : null;
    const going = plan ? plan.parts.filter(({ amount }) => amount > 0) : rest > 0 ? [{ label: '', amount: rest }] : [];
    const rows = [
      { method: 'set-off', label: 'against what was paid for the payslip that it replaces', amount: Math.min(net, paid) },
      ...going.map((part) => ({ method: method === 'deposit' ? 'file' : method, ...part })),
    ];
    for (const [part, row] of rows.entries()) {
      await execute(
        scope.database,
        `insert into transfers (employer_id, batch_id, net_payment_id, person_id, part, method, purpose, amount, payee, label, cheque_number, user_id)
         select :employer, :batch, :id, :personId, :part, :method, 'pay', :amount, :name, :label, case when :method = 'cheque' then n.number end, :user from net_payments n where n.id = :id returning id`,
        {
          employer: scope.employer.id,
          batch,
          id,
          personId,
          part: row.method === 'set-off' ? -1 : part - 1,
          name,
          user: scope.user.id,
          ...row,
        },
        transaction,
      );
    }
  }
}

async function takeWaiting(
  scope: Scope,
  batch: string,
  { kind, paying }: { kind: 'again' | 'remittance'; paying: Paying },
  transaction: Transaction,
): Promise<number> {
  const rows = await execute(
    scope.database,
    `update transfers set batch_id = :batch where employer_id = :employer and batch_id is null and paying_account_id is not distinct from cast(:paying as uuid) and ${kind === 'again' ? 'net_payment_id' : 'remittance_id'} is not null returning id`,
    { employer: scope.employer.id, batch, paying },
    transaction,
  );
  return rows.length;
}

export interface BatchRow {
  id: string;
  number: number;
  payDate: string;
  version: number;
  preparedBy: string;
  preparedAt: string;
  releasedBy: string | null;
  releasedAt: string | null;
  dropped: boolean;
  delivered: boolean;
  faults: Batch['faults'];
  format: string | null;
  hash: string | null;
  paying: Paying;
}

/** A batch as it is kept; held until the use case ends where one is given. */
export async function batchRow(scope: Scope, id: string, transaction?: Transaction): Promise<BatchRow> {
  const [row] = await select<BatchRow>(
    scope.database,
    `select b.id, b.number, b.pay_date as "payDate", b.version, p.name as "preparedBy", to_char(b.prepared_at, 'YYYY-MM-DD"T"HH24:MI:SS') as "preparedAt", u.name as "releasedBy",
            to_char(b.released_at, 'YYYY-MM-DD"T"HH24:MI:SS') as "releasedAt", b.dropped_at is not null as dropped, b.delivered_at is not null as delivered, b.refusal as faults, b.format, b.file_hash as hash, b.paying_account_id as paying
     from payment_batches b join users p on p.id = b.prepared_by left join users u on u.id = b.released_by where b.id = :id and b.employer_id = :employer ${transaction ? 'for update of b' : ''}`,
    { id, employer: scope.employer.id },
    transaction,
  );
  if (!row) throw notFound('batch');
  return row;
}

/** A batch with everything in it, and what there is to look at before it is released. */
export async function batchView(scope: Scope, id: string): Promise<Batch> {
  const row = await batchRow(scope, id);
  const transfers = await transfersWhere(scope, 't.batch_id = :id', { id });
  const standing = transfers.filter(({ state, method }) => state !== 'left-out' && method !== 'set-off');
  const amount = standing.reduce((sum, transfer) => sum + transfer.amount, 0);
  const balance = await latestBalance(scope, row.paying);
  const account = (await payingAccounts(scope)).find(({ id: one }) => one === row.paying);
  const { dropped, paying: _paying, ...shown } = row;
  return {
    ...shown,
    from: account ? { name: account.name, last4: account.last4 } : null,
    handInBy: row.releasedAt || dropped ? null : bankDayBefore(scope, row.payDate),
    state: stateOfBatch({ ...row, dropped }, standing),
    formats: [...packFor(scope).bank.files, ISO].map(({ code, name }) => ({ code, name })),
    amount,
    sums: sumsOf(standing),
    changed: row.releasedAt || dropped ? [] : await changedAccounts(scope, id),
    short: row.releasedAt || dropped || !balance || balance.balance >= amount ? null : amount - balance.balance,
    transfers,
    lines: denominationsOf(standing.filter(({ method }) => method === 'cash').map((transfer) => transfer.amount)),
  };
}

/** The last business day before a day: by then the bank must have a file whose payments are there on the day. */
function bankDayBefore(scope: Scope, date: string): string {
  const isHoliday = holidaysOf(scope);
  let day = addDays(date, -1);
  while (!isBusinessDay(day, isHoliday)) day = addDays(day, -1);
  return day;
}

export function stateOfBatch(
  batch: { releasedAt: string | null; dropped: boolean; faults: unknown },
  transfers: readonly Transfer[],
): Batch['state'] {
  if (batch.dropped) return 'left-out';
  if (batch.faults) return 'refused';
  if (!batch.releasedAt) return 'to-send';
  if (transfers.some(({ state }) => state === 'returned')) return 'returned';
  return transfers.every(({ state }) => state !== 'sent') ? 'confirmed' : 'sent';
}

export function sumsOf(transfers: readonly Pick<Transfer, 'method' | 'amount'>[]): Batch['sums'] {
  return (['file', 'cheque', 'cash'] as const).flatMap((method) => {
    const some = transfers.filter((transfer) => transfer.method === method);
    return some.length ? [{ method, payments: some.length, amount: some.reduce((sum, { amount }) => sum + amount, 0) }] : [];
  });
}

/** Notes and coins that pay each amount by itself, with as few pieces as can be. */
export function denominationsOf(amounts: readonly number[]): Batch['lines'] {
  const pieces = new Map<number, number>();
  for (const amount of amounts) {
    let rest = amount;
    for (const denomination of DENOMINATIONS) {
      const count = Math.floor(rest / denomination);
      if (count) pieces.set(denomination, (pieces.get(denomination) ?? 0) + count);
      rest -= count * denomination;
    }
  }
  return DENOMINATIONS.flatMap((denomination) =>
    pieces.has(denomination) ? [{ denomination, pieces: pieces.get(denomination) as number }] : [],
  );
}

/** Takes a batch that was not released apart again; what was in it waits as before. */
export async function dropBatch(scope: Scope, id: string): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const batch = await batchRow(scope, id, transaction);
    if (batch.releasedAt)
      throw conflict(
        'released-already',
        `Batch ${batch.number} was released, by ${batch.releasedBy ?? 'somebody'}. What is sent cannot be dropped.`,
      );
    if (batch.dropped) return {};
    const freed = { id, employer: scope.employer.id };
    await execute(
      scope.database,
      'update transfers set batch_id = null where batch_id = :id and (replaces is not null or remittance_id is not null) and employer_id = :employer returning id',
      freed,
      transaction,
    );
    await execute(
      scope.database,
      'update net_payments set gathered = false where id in (select net_payment_id from transfers where batch_id = :id) returning id',
      freed,
      transaction,
    );
    await execute(
      scope.database,
      'delete from transfers where batch_id = :id and employer_id = :employer returning id',
      freed,
      transaction,
    );
    await execute(
      scope.database,
      'update payment_batches set dropped_at = now(), version = version + 1 where id = :id',
      { id },
      transaction,
    );
    await record(
      scope,
      { action: 'batch', subject: 'employer', subjectId: scope.employer.id, what: `Batch ${batch.number} dropped before it was released` },
      transaction,
    );
    return {};
  });
}

/** The file of a released batch, the same however often it is fetched. */
export async function batchFile(scope: Scope, id: string): Promise<{ name: string; content: string }> {
  const [row] = await select<{ number: number; format: string | null; sealed: Buffer | null }>(
    scope.database,
    'select number, format, file_sealed as sealed from payment_batches where id = :id and employer_id = :employer',
    { id, employer: scope.employer.id },
  );
  if (!row) throw notFound('batch');
  if (!row.sealed) throw conflict('no-file', 'This batch has no file: it is not released, or nothing of it goes by file.');
  const extension = packFor(scope).bank.files.find(({ code }) => code === row.format)?.extension ?? ISO.extension;
  return { name: `payments-${row.number}.${extension}`, content: theVault().open(row.sealed, `batch:${id}`) };
}
