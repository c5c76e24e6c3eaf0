import { randomUUID } from 'node:crypto';
import type { Edits, NetPayment, ParsedBodyOf } from '@woodruff/contract';
import { accountWords, capitalized, decimalOf, splitNet, writtenDate, type BankForm } from '@woodruff/core';
import { record } from '../../audit/audit';
import { execute, select, type Transaction } from '../../database/connection';
import { conflict, invalid, notFound } from '../../errors';
import { accountsOf, sealedNumbers, type DepositAccount, type Payment } from '../../people/payment/accounts';
import { theVault } from '../../vault/vault';
import { changing } from '../../users/changing';
import { packFor, type Scope } from '../../scope';
import { takeChequeNumbers } from './cheque-numbers';

type Method = NetPayment['method'];

interface Planned {
  method: Method;
  parts: NetPayment['parts'];
  /** Accounts of the parts, in their order. */
  accounts: string[];
}

interface Row {
  id: string;
  runId: string;
  name: string;
  state: string;
  payDate: string;
  net: number;
  edits: Edits;
  payment: Payment | null;
  personId: string;
  sealed: Buffer | null;
}

/** A part of a payment with where it goes, whole; never shown, and kept sealed. */
interface Destination {
  bank: string;
  account: string;
  kind: string;
  amount: number;
}

const ROWS = `select y.id, y.run_id as "runId", p.given_name || ' ' || p.family_name as name, y.state, r.pay_date as "payDate", x.net, y.edits, p.payment, p.id as "personId", p.account_sealed as sealed
  from payslips y join pay_runs r on r.id = y.run_id and r.employer_id = :employer join people p on p.id = y.person_id join payslip_results x on x.payslip_id = y.id`;

/** How the net goes out: as on file, unless this payslip says otherwise once. What a left-out account would get goes to the others, or by cheque. */
export function planned(bank: BankForm, net: number, payment: Payment | null, once: Edits['payment'], otherwise?: Method): Planned {
  const method = otherwise ?? once?.method;
  const accounts = accountsOf(payment).filter((account) => !once?.without?.includes(account.id));
  const [last] = accounts.slice(-1);
  if ((method && method !== 'deposit') || !last)
    return { method: method && method !== 'deposit' ? method : 'cheque', parts: [], accounts: [] };
  // Whatever remains goes to one account: the last, where the one that took the remainder is left out.
  const shares = accounts.some((account) => account.by === 'remainder')
    ? accounts
    : accounts.map((account) => (account === last ? { ...account, by: 'remainder' as const } : account));
  const split = splitNet(
    net,
    shares.map(({ id, by, value }) => ({ id, by, ...(value ? { value } : {}) })),
  );
  return {
    method: 'deposit',
    parts: split.map(({ id, amount }) => ({
      label: labelOf(
        bank,
        accounts.find((account) => account.id === id),
      ),
      amount,
    })),
    accounts: split.map(({ id }) => id),
  };
}

const labelOf = (bank: BankForm, account: Pick<DepositAccount, 'last4' | 'kind'> | undefined): string =>
  account ? accountWords(bank, account.kind, account.last4) : '';

export async function netPaymentOf(scope: Scope, payslipId: string): Promise<NetPayment> {
  const row = await rowOf(scope, payslipId);
  const { bank } = packFor(scope);
  const { method, parts } = planned(bank, row.net, row.payment, row.edits.payment);
  return {
    method,
    parts,
    accounts: accountsOf(row.payment).map((account) => ({ id: account.id, label: labelOf(bank, account) })),
    made: await select<NetPayment['made'][number]>(
      scope.database,
      `select n.id, n.method, n.number, n.amount, n.parts, n.stopped, u.name as by, to_char(n.entered_at, 'YYYY-MM-DD"T"HH24:MI:SS') as at
       from net_payments n join users u on u.id = n.user_id where n.payslip_id = :payslipId order by n.entered_at desc, n.number desc`,
      { payslipId },
    ),
  };
}

/** With the approval of a run, one payment for each payslip that pays something. Cheques are numbered by name. */
export async function payRun(scope: Scope, runId: string, transaction: Transaction): Promise<void> {
  const rows = await select<Row>(
    scope.database,
    `${ROWS} where y.run_id = :runId and y.state = 'posted' and y.included and x.net > 0 order by p.family_name, p.given_name, p.code`,
    { runId, employer: scope.employer.id },
    transaction,
  );
  await insert(
    scope,
    rows.map((row) => ({ row, replaces: null, plan: planned(packFor(scope).bank, row.net, row.payment, row.edits.payment) })),
    transaction,
  );
}

async function insert(
  scope: Scope,
  payments: readonly { row: Row; plan: Planned; replaces: string | null }[],
  transaction: Transaction,
): Promise<void> {
  if (!payments.length) return;
  const cheques = payments.filter(({ plan }) => plan.method === 'cheque').length;
  let number = await takeChequeNumbers(scope, cheques, transaction);
  const rows = payments.map(({ row, plan, replaces }) => {
    const id = randomUUID();
    return {
      id,
      payslipId: row.id,
      runId: row.runId,
      amount: row.net,
      method: plan.method,
      parts: plan.parts,
      replaces,
      number: plan.method === 'cheque' ? number++ : null,
      destination:
        plan.method === 'deposit'
          ? theVault()
              .seal(JSON.stringify(destinationsOf(row, plan)), `destination:${id}`)
              .toString('base64')
          : null,
    };
  });
  await execute(
    scope.database,
    `insert into net_payments (id, employer_id, run_id, payslip_id, amount, method, number, parts, replaces, destination_sealed, user_id)
     select e.id, :employer, e."runId", e."payslipId", e.amount, e.method, e.number, e.parts, e.replaces, decode(e.destination, 'base64'), :user
     from jsonb_to_recordset(cast(:rows as jsonb)) as e(id uuid, destination text, "runId" uuid, "payslipId" uuid, amount bigint, method text, number int, parts jsonb, replaces uuid)`,
    { employer: scope.employer.id, user: scope.user.id, rows: JSON.stringify(rows) },
    transaction,
  );
}

/** The accounts of a plan, with their numbers as they are on file now. */
function destinationsOf(row: Row, { accounts, parts }: Planned): Destination[] {
  const onFile = accountsOf(row.payment);
  const numbers = sealedNumbers(row.sealed, row.personId);
  return accounts.map((id, index) => {
    const account = onFile.find((one) => one.id === id);
    return { bank: account?.bank ?? '', account: numbers[id] ?? '', kind: account?.kind ?? '', amount: parts[index]?.amount ?? 0 };
  });
}

/** Where a payment went, as it stood when it was made: for the bank's file, never for a screen. */
export async function destinationOf(scope: Scope, paymentId: string): Promise<Destination[]> {
  const [row] = await select<{ sealed: Buffer | null }>(
    scope.database,
    'select destination_sealed as sealed from net_payments where id = :paymentId and employer_id = :employer',
    { paymentId, employer: scope.employer.id },
  );
  if (!row) throw notFound('payment');
  return row.sealed ? (JSON.parse(theVault().open(row.sealed, `destination:${paymentId}`)) as Destination[]) : [];
}

/** A cheque is lost, a deposit came back: the payment is stopped and the same net paid again. Nothing is calculated anew, and the ledger is not touched. */
export async function payAgain(scope: Scope, payslipId: string, body: ParsedBodyOf<'payAgain'>): Promise<NetPayment> {
  await changing(scope, async (transaction) => {
    const row = await rowOf(scope, payslipId, transaction);
    if (row.state !== 'posted')
      throw conflict(
        'not-posted',
        'Only what is posted and not reversed is paid again. Before that, choose how it is paid on the payslip.',
      );
    const [last] = await select<{ id: string; method: Method; number: number | null; again: boolean }>(
      scope.database,
      'select id, method, number, replaces is not null as again from net_payments where payslip_id = :payslipId and stopped is null for update',
      { payslipId },
      transaction,
    );
    if (!last) throw conflict('nothing-paid', 'No payment of this payslip is on record that could be stopped.');
    await refuseWhileOut(scope, last.id, transaction);
    const plan = planned(packFor(scope).bank, row.net, row.payment, undefined, body.method);
    if (body.method === 'deposit' && plan.method !== 'deposit')
      throw invalid(`${row.name} has no account on file. Pay by ${packFor(scope).words.cheque} or cash, or enter an account first.`, [
        { path: 'method', expected: 'cheque or cash' },
      ]);
    // Asked twice at once, or again from a page that does not show it yet, it is paid again once.
    if (body.stops ? body.stops !== last.id : last.again)
      throw conflict(
        'paid-again-already',
        `This was paid again already, by ${last.method === 'cheque' ? `${packFor(scope).words.cheque} ${last.number}` : last.method}. Look at the payments of the payslip; if that one did not arrive either, stop it there.`,
      );
    await execute(
      scope.database,
      'update net_payments set stopped = :reason where id = :id',
      { id: last.id, reason: body.reason },
      transaction,
    );
    await insert(scope, [{ row, plan, replaces: last.id }], transaction);
    await record(
      scope,
      {
        action: 'pay-again',
        subject: 'payslip',
        subjectId: payslipId,
        what: `${last.method === 'cheque' ? `${capitalized(packFor(scope).words.cheque)} ${last.number}` : `The ${last.method}`} of ${writtenDate(row.payDate)} stopped, ${decimalOf(row.net)} paid again by ${body.method}: ${body.reason}`,
      },
      transaction,
    );
  });
  return netPaymentOf(scope, payslipId);
}

/** What the bank has is not paid again; what is out as a cheque or in cash is stopped with its payment. */
async function refuseWhileOut(scope: Scope, paymentId: string, transaction: Transaction): Promise<void> {
  const went = await select<{ id: string; method: string; replaced: boolean; steps: string[] }>(
    scope.database,
    `select t.id, t.method, exists (select 1 from transfers o where o.replaces = t.id) as replaced,
            coalesce((select json_agg(e.step) from transfer_events e where e.transfer_id = t.id), '[]') as steps from transfers t where t.net_payment_id = :paymentId`,
    { paymentId },
    transaction,
  );
  if (went.some(({ replaced }) => replaced))
    throw conflict('paid-again-already', 'What came back of this payment was paid again already. Look at its payments.');
  const back = ['returned', 'refused', 'dropped'];
  if (went.some(({ method, steps }) => method === 'file' && steps.includes('released') && !steps.some((step) => back.includes(step))))
    throw conflict('on-its-way', 'The bank has this payment. Should it come back, pay it again under Payments.');
  if (went.some(({ method, steps }) => method !== 'file' && steps.includes('cleared')))
    throw conflict('arrived', 'This payment has arrived: it was marked as cleared.');
  for (const { id, method, steps } of went)
    if (method !== 'file' && steps.includes('released'))
      await execute(
        scope.database,
        `insert into transfer_events (transfer_id, step, on_day, words, user_id) values (:id, 'stopped', :today, 'Paid again', :user) on conflict do nothing returning id`,
        { id, today: scope.employer.today, user: scope.user.id },
        transaction,
      );
}

/** Whether anything of a run has left: released to the bank, or handed out. */
export async function hasLeft(scope: Scope, runId: string): Promise<boolean> {
  const [row] = await select<{ left: boolean }>(
    scope.database,
    `select exists (select 1 from transfers t join net_payments n on n.id = t.net_payment_id join transfer_events e on e.transfer_id = t.id and e.step = 'released' where n.run_id = :runId) as left`,
    { runId },
  );
  return row?.left ?? false;
}

async function rowOf(scope: Scope, payslipId: string, transaction?: Transaction): Promise<Row> {
  const [row] = await select<Row>(
    scope.database,
    `${ROWS} where y.id = :payslipId ${transaction ? 'for update of y' : ''}`,
    { payslipId, employer: scope.employer.id },
    transaction,
  );
  if (!row) throw notFound('payslip');
  return row;
}
