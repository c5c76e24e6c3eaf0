import type { ParsedBodyOf } from '@woodruff/contract';
import { accountWords, counted, written, writtenDay, type BankPayment, type PaymentFile } from '@woodruff/core';
import { createHash } from 'node:crypto';
import { record } from '../audit/audit';
import { execute, select, type Transaction } from '../database/connection';
import { payerOf } from '../employers/paying-accounts';
import { conflict, invalid, Refusal } from '../errors';
import { remittanceDestinations } from '../remittances/destinations';
import { packFor, type Scope } from '../scope';
import { changing } from '../users/changing';
import { theVault } from '../vault/vault';
import { batchRow, ISO, type BatchRow } from './batches';
import { destinationsIn, same, trialDestinations, type Destination } from './destinations';
import { writePain } from './pain001';
import { happened, transfersWhere } from './transfers';

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
            label: accountWords(packFor(scope).bank, kind === 'savings' ? 'savings' : 'checking', account.slice(-4)),
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
    payer: await payerOf(scope, batch.paying, transaction),
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
