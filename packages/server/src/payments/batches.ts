import type { Batch, ParsedBodyOf, Transfer } from '@woodruff/contract';
import { counted, written, writtenDate, writtenDay, type BankPayment, type PaymentFile } from '@woodruff/core';
import { createHash } from 'node:crypto';
import { record } from '../audit/audit';
import { execute, select, type Transaction } from '../database/connection';
import { conflict, invalid, notFound, Refusal } from '../errors';
import { accountsOf, sealedNumbers, type Payment } from '../people/payment/accounts';
import { planned } from '../pay-runs/posting/net-payments';
import { packFor, type Scope } from '../scope';
import { changing } from '../users/changing';
import { theVault } from '../vault/vault';
import { remittanceDestinations } from '../remittances/destinations';
import { writePain } from './pain001';
import { happened, transfersWhere } from './transfers';

/** ISO 20022, which banks take everywhere. */
const ISO = { code: 'pain.001', name: 'ISO 20022 (pain.001)', extension: 'xml' };

/** Cents of notes and coins that a cash list is counted into. */
const DENOMINATIONS = [10_000, 5_000, 2_000, 1_000, 500, 100, 25, 10, 5, 1];

/** Payments of approved runs that stand and are in no batch. */
export const WAITING = `from net_payments n join pay_runs r on r.id = n.run_id and r.state = 'approved' join payslips y on y.id = n.payslip_id and y.state = 'posted' join people p on p.id = y.person_id
  where n.employer_id = :employer and n.stopped is null and not n.gathered`;

/** Gathers what leaves on a day. Nothing is paid by it; the batch can be dropped again. */
export async function prepareBatch(scope: Scope, { kind, payDate }: ParsedBodyOf<'prepareBatch'>): Promise<{ id: string }> {
  return changing(scope, async (transaction) => {
    const [employer] = (await execute(
      scope.database,
      'update employers set next_batch = next_batch + 1 where id = :employer returning next_batch - 1 as number',
      { employer: scope.employer.id },
      transaction,
    )) as { number: number }[];
    const [batch] = (await execute(
      scope.database,
      'insert into payment_batches (employer_id, number, pay_date, prepared_by) values (:employer, :number, :payDate, :user) returning id',
      { employer: scope.employer.id, number: employer?.number, payDate, user: scope.user.id },
      transaction,
    )) as { id: string }[];
    if (!batch || !employer) throw new Error('no batch was made');
    const taken =
      kind === 'pay' ? await takePay(scope, batch.id, payDate, transaction) : await takeWaiting(scope, batch.id, kind, transaction);
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

async function takePay(scope: Scope, batch: string, payDate: string, transaction: Transaction): Promise<number> {
  const rows = await execute(
    scope.database,
    `insert into transfers (employer_id, batch_id, net_payment_id, person_id, part, method, purpose, amount, payee, label, cheque_number, user_id)
     select :employer, :batch, n.id, p.id, coalesce(parts.part, 1) - 1, case n.method when 'deposit' then 'file' else n.method end, 'pay',
            coalesce((parts.value->>'amount')::bigint, n.amount), p.given_name || ' ' || p.family_name, coalesce(parts.value->>'label', ''), n.number, :user
     ${WAITING.replace('where n.employer_id', "left join lateral jsonb_array_elements(n.parts) with ordinality as parts(value, part) on n.method = 'deposit' where n.employer_id")}
       and r.pay_date = :payDate and coalesce((parts.value->>'amount')::bigint, n.amount) > 0
     order by p.family_name, p.given_name, p.code, parts.part returning id`,
    { employer: scope.employer.id, batch, payDate, user: scope.user.id },
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

/** Where trial deposits go: the account that is tried, sealed for each. */
async function trialDestinations(scope: Scope, batch: string, transaction: Transaction): Promise<{ id: string; sealed: string }[]> {
  const rows = await select<{ id: string; account: string; personId: string; payment: Payment | null; numbers: Buffer | null }>(
    scope.database,
    `select t.id, t.reason as account, p.id as "personId", p.payment, p.account_sealed as numbers from transfers t join people p on p.id = t.person_id where t.batch_id = :batch and t.purpose = 'trial'`,
    { batch },
    transaction,
  );
  return rows.flatMap(({ id, account, personId, payment, numbers }) => {
    const found = accountsOf(payment).find((one) => one.id === account);
    const number = sealedNumbers(numbers, personId)[account];
    if (!found || !number) return [];
    const destination = { bank: found.bank, account: number, kind: found.kind, amount: 0 };
    return [{ id, sealed: theVault().seal(JSON.stringify(destination), `transfer:${id}`).toString('base64') }];
  });
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
    const plan = method === 'deposit' && rest > 0 ? planned(rest, payment, edits.payment) : null;
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

async function takeWaiting(scope: Scope, batch: string, kind: 'again' | 'remittance', transaction: Transaction): Promise<number> {
  const rows = await execute(
    scope.database,
    `update transfers set batch_id = :batch where employer_id = :employer and batch_id is null and ${kind === 'again' ? 'net_payment_id' : 'remittance_id'} is not null returning id`,
    { employer: scope.employer.id, batch },
    transaction,
  );
  return rows.length;
}

interface BatchRow {
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
}

async function batchRow(scope: Scope, id: string, transaction?: Transaction): Promise<BatchRow> {
  const [row] = await select<BatchRow>(
    scope.database,
    `select b.id, b.number, b.pay_date as "payDate", b.version, p.name as "preparedBy", to_char(b.prepared_at, 'YYYY-MM-DD"T"HH24:MI:SS') as "preparedAt", u.name as "releasedBy",
            to_char(b.released_at, 'YYYY-MM-DD"T"HH24:MI:SS') as "releasedAt", b.dropped_at is not null as dropped, b.delivered_at is not null as delivered, b.refusal as faults, b.format, b.file_hash as hash
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
  const balance = await latestBalance(scope);
  const { dropped, ...shown } = row;
  return {
    ...shown,
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

/** What the latest statement says is there. */
export async function latestBalance(scope: Scope): Promise<{ balance: number; on: string } | null> {
  const [row] = await select<{ balance: number; on: string }>(
    scope.database,
    'select balance, on_day as "on" from account_balances where employer_id = :employer order by on_day desc limit 1',
    { employer: scope.employer.id },
  );
  return row ?? null;
}

interface Destination {
  bank: string;
  account: string;
  kind: string;
  amount: number;
  support?: BankPayment['support'];
}

interface Going {
  id: string;
  transferId: string;
  part: number;
  personId: string;
  name: string;
  net: number;
  replaces: string | null;
  setOff: boolean;
  sealed: Buffer | null;
  approvedAt: Date;
  payment: Payment | null;
  numbers: Buffer | null;
  edits: { payment?: { method?: 'cheque' | 'cash'; without?: string[] } };
}

/** Payments by file of a batch with where they go: as approved, and as on file now. */
async function destinationsIn(
  scope: Scope,
  batch: string,
  transaction?: Transaction,
): Promise<(Going & { approved: Destination[]; now: Destination[] })[]> {
  const rows = await select<Going>(
    scope.database,
    `select n.id, t.id as "transferId", t.part, exists (select 1 from transfers o where o.net_payment_id = n.id and o.method = 'set-off') as "setOff", p.id as "personId", p.given_name || ' ' || p.family_name as name, t.amount as net, t.replaces, n.destination_sealed as sealed, coalesce(r.approved_at, n.entered_at) as "approvedAt", p.payment, p.account_sealed as numbers, y.edits
     from transfers t join net_payments n on n.id = t.net_payment_id join payslips y on y.id = n.payslip_id join pay_runs r on r.id = y.run_id join people p on p.id = y.person_id
     where t.batch_id = :batch and t.method = 'file' and t.employer_id = :employer order by n.id, t.part`,
    { batch, employer: scope.employer.id },
    transaction,
  );
  const nets = new Map<string, number>();
  for (const { id, net, replaces } of rows) if (!replaces) nets.set(id, (nets.get(id) ?? 0) + net);
  return rows.map((row) => {
    const numbers = sealedNumbers(row.numbers, row.personId);
    const onFile = accountsOf(row.payment);
    const of = (id: string, amount: number): Destination => {
      const account = onFile.find((one) => one.id === id);
      return { bank: account?.bank ?? '', account: numbers[id] ?? '', kind: account?.kind ?? '', amount };
    };
    // Paid again, it goes to the account that takes the remainder.
    const main = onFile.find(({ by }) => by === 'remainder');
    const plan = planned(nets.get(row.id) ?? row.net, row.payment, row.edits.payment);
    const now = row.replaces
      ? main
        ? [of(main.id, row.net)]
        : []
      : plan.accounts.map((id, index) => of(id, plan.parts[index]?.amount ?? 0)).filter(({ amount }) => amount > 0);
    const approved =
      row.replaces || row.setOff
        ? now
        : row.sealed
          ? (JSON.parse(theVault().open(row.sealed, `destination:${row.id}`)) as Destination[]).filter(({ amount }) => amount > 0)
          : now;
    return { ...row, approved, now };
  });
}

const same = (one: readonly Destination[], other: readonly Destination[]): boolean =>
  one.length === other.length &&
  one.every(
    (each, index) => each.bank === other[index]?.bank && each.account === other[index]?.account && each.amount === other[index]?.amount,
  );

async function changedAccounts(scope: Scope, batch: string, transaction?: Transaction): Promise<Batch['changed']> {
  const changed = new Map(
    (await destinationsIn(scope, batch, transaction)).filter(({ approved, now }) => !same(approved, now)).map((one) => [one.id, one]),
  );
  const told = [];
  for (const { id, personId, name, net, approvedAt } of changed.values()) {
    const [last] = await select<{ who: string; at: string; what: string }>(
      scope.database,
      `select coalesce(u.name, '') as who, to_char(a.at, 'YYYY-MM-DD"T"HH24:MI:SS') as at, a.what from audit_entries a left join users u on u.id = a.user_id
       where a.subject_id = :personId and a.at >= :approvedAt and a.action in ('payment', 'import') order by a.id desc limit 1`,
      { personId, approvedAt },
      transaction,
    );
    told.push({
      netPaymentId: id,
      personId,
      name,
      amount: net,
      who: last?.who ?? '',
      at: last?.at ?? '',
      what: last?.what ?? 'The account is another one now',
    });
  }
  return told;
}

/** Releases a batch: what is in it is frozen with where it goes, and its file is made, once. The bank gets it after that. */
export async function releaseBatch(scope: Scope, id: string, body: ParsedBodyOf<'releaseBatch'>): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const batch = await batchRow(scope, id, transaction);
    if (batch.releasedAt)
      throw conflict(
        'released-already',
        `Batch ${batch.number} was released already, by ${batch.releasedBy ?? 'somebody'}. Nothing is sent twice.`,
      );
    if (batch.dropped) throw conflict('dropped', `Batch ${batch.number} was dropped. Prepare another.`);
    if (batch.version !== body.version)
      throw conflict('changed-meanwhile', 'This batch changed after you opened it. Look at it again before you release it.');
    await leaveOut(scope, id, transaction);
    await settleAccounts(scope, batch, body.accounts, transaction);
    const format = body.format ?? packFor(scope).bank.files[0]?.code ?? ISO.code;
    const { content, count, amount } = await fileOf(scope, batch, format, body.balanced, transaction);
    await execute(
      scope.database,
      `update payment_batches set released_by = :user, released_at = now(), released_on = :today, version = version + 1, format = :format, file_sealed = :sealed, file_hash = :hash,
              delivered_at = case when cast(:hash as text) is null then now() end where id = :id`,
      {
        id,
        user: scope.user.id,
        today: scope.employer.today,
        format: content ? format : null,
        sealed: content ? theVault().seal(content, `batch:${id}`) : null,
        hash: content ? createHash('sha256').update(content).digest('hex') : null,
      },
      transaction,
    );
    const going = (await transfersWhere(scope, 't.batch_id = :id', { id }, transaction)).filter(({ state }) => state === 'to-send');
    if (!going.length) throw conflict('nothing-to-pay', 'Nothing of this batch stands any more. Drop it.');
    await happened(
      scope,
      going.map((transfer) => transfer.id),
      { step: 'released' },
      transaction,
    );
    const set = going.filter(({ method }) => method === 'set-off').map((transfer) => transfer.id);
    await happened(scope, set, { step: 'cleared', words: 'Set off' }, transaction);
    await record(
      scope,
      {
        action: 'batch',
        subject: 'employer',
        subjectId: scope.employer.id,
        what: `Batch ${batch.number} released for ${writtenDay(batch.payDate)}: ${counted(going.length, 'payment', 'payments')}, ${written(going.reduce((sum, one) => sum + one.amount, 0))}${count ? `, of them ${written(amount)} by file` : ''}`,
      },
      transaction,
    );
    return {};
  });
}

/** What was reversed, withdrawn or stopped since it was gathered does not go out. */
async function leaveOut(scope: Scope, batch: string, transaction: Transaction): Promise<void> {
  const gone = await select<{ id: string }>(
    scope.database,
    `select t.id from transfers t join net_payments n on n.id = t.net_payment_id join payslips y on y.id = n.payslip_id join pay_runs r on r.id = y.run_id
     where t.batch_id = :batch and (n.stopped is not null or y.state <> 'posted' or r.state <> 'approved')
     union all
     select t.id from transfers t join people p on p.id = t.person_id where t.batch_id = :batch and t.purpose = 'trial'
       and not exists (select 1 from jsonb_array_elements(coalesce(p.payment->'accounts', '[]')) a where a->>'id' = t.reason)`,
    { batch },
    transaction,
  );
  await happened(
    scope,
    gone.map(({ id }) => id),
    { step: 'dropped', words: 'Stopped or reversed before it was sent' },
    transaction,
  );
}

/** Where accounts changed since approval it is said to which of them it goes; parts follow the accounts. */
async function settleAccounts(
  scope: Scope,
  batch: BatchRow,
  chosen: 'approved' | 'now' | undefined,
  transaction: Transaction,
): Promise<void> {
  const going = await destinationsIn(scope, batch.id, transaction);
  const changed = going.filter(({ approved, now }) => !same(approved, now));
  if (changed.length && !chosen)
    throw conflict(
      'accounts-changed',
      `${counted(new Set(changed.map(({ id }) => id)).size, 'account', 'accounts')} changed since the run was approved, first that of ${changed[0]?.name}. Say whether it goes to the account of then or of now.`,
    );
  if (chosen === 'now') {
    const plans = new Map(changed.map((one) => [one.id, one]));
    for (const { id, personId, name, now } of plans.values()) {
      if (!now.length)
        throw invalid(
          `${name} has no account on file any more. Pay to the account as approved, or drop the batch and pay by ${packFor(scope).words.cheque}.`,
        );
      await execute(
        scope.database,
        'delete from transfers where batch_id = :batch and net_payment_id = :id returning id',
        { batch: batch.id, id },
        transaction,
      );
      for (const [part, { amount, account, kind }] of now.entries())
        await execute(
          scope.database,
          `insert into transfers (employer_id, batch_id, net_payment_id, person_id, part, method, purpose, amount, payee, label, user_id)
           values (:employer, :batch, :id, :personId, :part, 'file', 'pay', :amount, :name, :label, :user) returning id`,
          {
            employer: scope.employer.id,
            batch: batch.id,
            id,
            personId,
            part,
            amount,
            name,
            label: `${kind} account ending ${account.slice(-4)}`,
            user: scope.user.id,
          },
          transaction,
        );
    }
  }
  const settled = chosen === 'now' ? await destinationsIn(scope, batch.id, transaction) : going;
  const seals = settled.map(({ transferId, part, replaces, approved, now, name }) => {
    const destination = (chosen === 'now' ? now : approved)[replaces ? 0 : part];
    if (!destination?.account)
      throw invalid(`${name} has no account on file that the payment could go to. Enter one, or pay by ${packFor(scope).words.cheque}.`);
    return { id: transferId, sealed: theVault().seal(JSON.stringify(destination), `transfer:${transferId}`).toString('base64') };
  });
  const payees = await remittanceDestinations(scope, batch.id, transaction);
  await execute(
    scope.database,
    `update transfers t set destination_sealed = decode(e.sealed, 'base64') from jsonb_to_recordset(cast(:rows as jsonb)) as e(id uuid, sealed text) where t.id = e.id`,
    { rows: JSON.stringify([...seals, ...payees, ...(await trialDestinations(scope, batch.id, transaction))]) },
    transaction,
  );
}

/** The file of a batch, or none where nothing of it goes by file. */
async function fileOf(
  scope: Scope,
  batch: BatchRow,
  format: string,
  balanced: boolean,
  transaction: Transaction,
): Promise<{ content: string | null; count: number; amount: number }> {
  const rows = await select<
    Pick<BankPayment, 'reference' | 'name' | 'amount' | 'purpose'> & { id: string; sealed: Buffer; about: string | null }
  >(
    scope.database,
    `select t.id, t.reference, t.payee as name, t.amount, t.purpose, t.destination_sealed as sealed, m.about
     from transfers t left join remittances m on m.id = t.remittance_id
     where t.batch_id = :batch and t.method = 'file' and not exists (select 1 from transfer_events e where e.transfer_id = t.id and e.step = 'dropped') order by t.payee, t.part, t.reference`,
    { batch: batch.id },
    transaction,
  );
  if (!rows.length) return { content: null, count: 0, amount: 0 };
  const payments = rows.map(({ id, sealed, about, ...payment }): BankPayment => {
    const { bank, account, kind, support } = JSON.parse(theVault().open(sealed, `transfer:${id}`)) as Destination;
    return {
      ...payment,
      bank,
      account,
      kind: kind === 'savings' ? 'savings' : 'checking',
      ...(support ? { support } : {}),
      ...(about ? { about } : {}),
    };
  });
  const pack = packFor(scope);
  const file: PaymentFile = {
    number: batch.number,
    made: { on: scope.employer.today, at: '12:00' },
    payer: await payerOf(scope, transaction),
    effective: batch.payDate,
    balanced,
    payments,
  };
  const own = pack.bank.files.find(({ code }) => code === format);
  if (!own && format !== ISO.code)
    throw invalid('There is no such format here.', [
      { path: 'format', expected: [...pack.bank.files, ISO].map(({ code }) => code).join(' or ') },
    ]);
  try {
    const content = own ? own.write(file) : writePain(file, { currency: pack.currency, clearing: pack.bank.clearing });
    return { content, count: payments.length, amount: payments.reduce((sum, { amount }) => sum + amount, 0) };
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    throw new Refusal(
      422,
      'does-not-fit',
      `The file cannot hold a payment of this batch: ${error.message}. Correct it, or choose another format.`,
    );
  }
}

/** The employer as its bank knows it. Refused where no paying account is set up. */
export async function payerOf(scope: Scope, transaction?: Transaction): Promise<PaymentFile['payer']> {
  const [row] = await select<{ bank: { name: string; routing: string } | null; sealed: Buffer | null }>(
    scope.database,
    'select bank, account_sealed as sealed from employers where id = :id',
    { id: scope.employer.id },
    transaction,
  );
  if (!row?.bank || !row.sealed)
    throw conflict('no-account', 'No account that pays is set up. Enter it with the employer’s paying account.');
  return {
    name: scope.employer.name,
    number: packFor(scope).employerNumber(scope.employer.facts.country),
    bankName: row.bank.name,
    bank: row.bank.routing,
    account: theVault().open(row.sealed, `bank:${scope.employer.id}`),
  };
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
