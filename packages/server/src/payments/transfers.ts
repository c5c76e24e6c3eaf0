import { stateOfTransfer, type TransferStep } from '@woodruff/core';
import type { Transfer } from '@woodruff/contract';
import { execute, select, type Transaction } from '../database/connection';
import { notFound } from '../errors';
import type { Scope } from '../scope';

/** A payment that goes out, with what happened to it. */
const TRANSFERS = `select t.id, t.reference, t.batch_id as "batchId", b.number as batch, b.pay_date as "payDate", t.net_payment_id as "netPaymentId", t.remittance_id as "remittanceId", n.payslip_id as "payslipId", n.run_id as "runId",
    t.person_id as "personId", t.method, t.purpose, t.amount, t.payee, t.label, t.cheque_number as number, t.replaces, t.reason, o.reference as "replacedBy",
    coalesce(e.events, '[]') as events
  from transfers t left join payment_batches b on b.id = t.batch_id left join net_payments n on n.id = t.net_payment_id left join transfers o on o.replaces = t.id
  left join lateral (select json_agg(json_build_object('step', v.step, 'on', v.on_day, 'code', v.code, 'words', v.words, 'told', v.told, 'who', coalesce(u.name, 'The bank')) order by v.id) as events
    from transfer_events v left join users u on u.id = v.user_id where v.transfer_id = t.id) e on true
  where t.employer_id = :employer`;

type Row = Omit<Transfer, 'state'>;

const withState = (row: Row): Transfer => ({
  ...row,
  state: stateOfTransfer(
    row.events.map(({ step }) => step),
    row.replacedBy !== null,
  ),
});

/** Transfers by a condition, in the order of their batches and payees. */
export async function transfersWhere(
  scope: Scope,
  where: string,
  values: Record<string, unknown>,
  transaction?: Transaction,
): Promise<Transfer[]> {
  const rows = await select<Row>(
    scope.database,
    `${TRANSFERS} and ${where} order by b.number, t.method, t.payee, t.part, t.reference`,
    { employer: scope.employer.id, ...values },
    transaction,
  );
  return rows.map(withState);
}

/** The latest payments to somebody; what is open first. */
export async function personPayments(scope: Scope, id: string): Promise<Transfer[]> {
  const [person] = await select<{ id: string }>(scope.database, 'select id from people where id = :id and employer_id = :employer', {
    id,
    employer: scope.employer.id,
  });
  if (!person) throw notFound('person');
  const all = await transfersWhere(scope, 't.person_id = :id and t.net_payment_id is not null', { id });
  return [...all.filter(({ state }) => state === 'returned'), ...all.filter(({ state }) => state !== 'returned').reverse()].slice(0, 8);
}

/** One transfer, held until the use case ends. */
export async function transferOf(scope: Scope, id: string, transaction: Transaction): Promise<Transfer> {
  await execute(
    scope.database,
    'select id from transfers where id = :id and employer_id = :employer for update',
    { id, employer: scope.employer.id },
    transaction,
  );
  const [transfer] = await transfersWhere(scope, 't.id = :id', { id }, transaction);
  if (!transfer) throw notFound('payment');
  return transfer;
}

export interface Told {
  step: TransferStep;
  on?: string;
  code?: string;
  words?: string;
  told?: object;
  /** What the bank tells is nobody's doing. */
  byBank?: true;
}

/** Adds what happened to transfers; each step once, however often it is told. */
export async function happened(scope: Scope, transfers: readonly string[], told: Told, transaction: Transaction): Promise<void> {
  if (!transfers.length) return;
  await execute(
    scope.database,
    `insert into transfer_events (transfer_id, step, on_day, code, words, told, user_id)
     select cast(t.value as uuid), :step, :on, :code, :words, cast(:told as jsonb), :user from jsonb_array_elements_text(cast(:transfers as jsonb)) t
     on conflict (transfer_id, step) do nothing`,
    {
      transfers: JSON.stringify(transfers),
      step: told.step,
      on: told.on ?? scope.employer.today,
      code: told.code ?? '',
      words: told.words ?? '',
      told: told.told ? JSON.stringify(told.told) : null,
      user: told.byBank ? null : scope.user.id,
    },
    transaction,
  );
}
