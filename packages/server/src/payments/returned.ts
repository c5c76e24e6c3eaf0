import type { ParsedBodyOf } from '@woodruff/contract';
import { accountWords, CAME_BACK, decimalOf } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select } from '../database/connection';
import { conflict, invalid } from '../errors';
import { Person } from '../people/models';
import { accountsOf, sealedNumbers } from '../people/payment/accounts';
import { setPayment } from '../people/payment/payment';
import { takeChequeNumbers } from '../pay-runs/posting/cheque-numbers';
import { postPayments } from '../journal/post-payments';
import { packFor, type Scope } from '../scope';
import { changing } from '../users/changing';
import { theVault } from '../vault/vault';
import { happened, transferOf } from './transfers';

/** Reasons that lie in the account: sent there again, the payment would come back again. */
const OF_ACCOUNT = ['R02', 'R03', 'R04', 'R16', 'R20', 'AC01', 'AC04', 'AC06', 'BE01'];

/** Pays once more what came back: a payment of its own, which waits for the next batch. */
export async function payReturned(scope: Scope, id: string, { way, reason }: ParsedBodyOf<'payReturned'>): Promise<{ id: string }> {
  return changing(scope, async (transaction) => {
    const transfer = await transferOf(scope, id, transaction);
    const { cheque } = packFor(scope).words;
    if (transfer.replacedBy)
      throw conflict('paid-again-already', `This was paid again already, as ${transfer.replacedBy}. Look at that payment.`);
    if (!transfer.events.some(({ step }) => CAME_BACK.includes(step)))
      throw conflict('not-returned', 'This payment did not come back. What is on its way is not paid again.');
    if (transfer.remittanceId)
      throw conflict('owed-again', 'What came back is owed again. Pay it from the payee’s page, after its account is corrected.');
    const [net] = await select<{ stopped: string | null; state: string }>(
      scope.database,
      'select n.stopped, y.state from net_payments n join payslips y on y.id = n.payslip_id where n.id = :id for share of n, y',
      { id: transfer.netPaymentId },
      transaction,
    );
    if (net?.stopped) throw conflict('paid-again-already', 'The whole net was paid again from the payslip. Look at the payments there.');
    if (net && net.state !== 'posted')
      throw conflict('reversed', 'The payslip was reversed meanwhile. Nothing is owed by this payment any more.');
    const method = way === 'account' ? 'file' : way === 'cash' ? 'cash' : 'cheque';
    let label = '';
    if (way === 'account') {
      if (!transfer.personId)
        throw invalid(`A payee is paid again by ${cheque}, or after its account is corrected.`, [{ path: 'way', expected: cheque }]);
      label = await accountNow(scope, transfer.personId, id, transfer.events.find(({ step }) => step === 'returned')?.code ?? '');
    }
    const [made] = (await execute(
      scope.database,
      `insert into transfers (employer_id, net_payment_id, remittance_id, person_id, part, method, purpose, amount, payee, label, cheque_number, replaces, reason, user_id, paying_account_id)
       select t.employer_id, t.net_payment_id, t.remittance_id, t.person_id, t.part, :method, t.purpose, t.amount, :payee, :label, :number, t.id, :reason, :user, b.paying_account_id from transfers t left join payment_batches b on b.id = t.batch_id where t.id = :id returning id`,
      {
        id,
        method,
        payee: way === 'estate' ? `Estate of ${transfer.payee}` : transfer.payee,
        label,
        number: method === 'cheque' ? await takeChequeNumbers(scope, 1, transaction) : null,
        reason,
        user: scope.user.id,
      },
      transaction,
    )) as { id: string }[];
    if (!made) throw new Error('no payment was made');
    await record(
      scope,
      {
        action: 'pay-returned',
        subject: transfer.personId ? 'person' : 'employer',
        subjectId: transfer.personId ?? scope.employer.id,
        what: `${decimalOf(transfer.amount)} to ${transfer.payee} came back and is paid again ${way === 'account' ? `to the ${label}` : way === 'cash' ? 'in cash' : `by ${cheque}`}${way === 'estate' ? ' to the estate' : ''}: ${reason}`,
      },
      transaction,
    );
    return made;
  });
}

/** The account that the money would go to now; refused while it is the one that sent it back. */
async function accountNow(scope: Scope, personId: string, transferId: string, code: string): Promise<string> {
  const person = await Person.findOne({ where: { id: personId, employerId: scope.employer.id } });
  const account = accountsOf(person?.payment ?? null).find(({ by }) => by === 'remainder');
  if (!person || !account)
    throw invalid('There is no account on file. Enter one first, or choose another way.', [{ path: 'way', expected: 'another way' }]);
  const [sealed] = await select<{ destination: Buffer | null }>(
    scope.database,
    'select destination_sealed as destination from transfers where id = :transferId',
    { transferId },
  );
  const before = sealed?.destination
    ? (JSON.parse(theVault().open(sealed.destination, `transfer:${transferId}`)) as { bank: string; account: string })
    : null;
  const number = sealedNumbers(person.accountSealed, personId)[account.id] ?? '';
  if (before && OF_ACCOUNT.includes(code) && before.bank === account.bank && before.account === number)
    throw conflict(
      'same-account',
      'The account on file is the one that sent it back. Correct it on the person’s page first, or choose another way.',
    );
  return accountWords(packFor(scope).bank, account.kind, account.last4);
}

/** Keeps what came back until it is known what to do with it. */
export async function holdReturned(scope: Scope, id: string, reason: string): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const transfer = await transferOf(scope, id, transaction);
    if (transfer.state !== 'returned') throw conflict('not-returned', 'Only what came back and is not paid again can be held.');
    await happened(scope, [id], { step: 'held', words: reason }, transaction);
    return {};
  });
}

/** Takes a bank's notice over into the person's account, or puts it aside. */
export async function answerNotice(scope: Scope, id: string, take: boolean): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const transfer = await transferOf(scope, id, transaction);
    const notice = transfer.events.find(({ step }) => step === 'notice');
    if (!notice?.told) throw conflict('no-notice', 'The bank has told nothing of this payment’s account.');
    if (transfer.events.some(({ step }) => step === 'noted')) throw conflict('noted-already', 'Somebody has answered this notice already.');
    if (take) {
      if (!transfer.personId) throw invalid('The account of a payee is changed on its page.');
      const person = await Person.findOne({ where: { id: transfer.personId, employerId: scope.employer.id }, transaction });
      const [sealed] = await select<{ destination: Buffer }>(
        scope.database,
        'select destination_sealed as destination from transfers where id = :id',
        { id },
        transaction,
      );
      const before = JSON.parse(theVault().open(sealed!.destination, `transfer:${id}`)) as { bank: string; account: string };
      const numbers = sealedNumbers(person?.accountSealed ?? null, transfer.personId);
      const onFile = accountsOf(person?.payment ?? null);
      const meant = onFile.find((account) => account.bank === before.bank && numbers[account.id] === before.account);
      if (!meant)
        throw conflict('changed-meanwhile', 'The account that the notice is about is not on file any more. Put the notice aside.');
      const { bank, account } = notice.told;
      await setPayment(scope, transfer.personId, {
        method: 'deposit',
        accounts: onFile.map(({ id: accountId, kind, by, value, ...one }) =>
          accountId === meant.id
            ? { bank, account, kind, by, ...(value ? { value } : {}) }
            : { id: accountId, bank: one.bank, kind, by, ...(value ? { value } : {}) },
        ),
      });
    }
    await happened(scope, [id], { step: 'noted', words: take ? 'Taken over into the account on file' : 'Put aside' }, transaction);
    return {};
  });
}

/** A cheque or cash: handed over and cleared, or stopped so that it can be paid again. */
export async function settleByHand(scope: Scope, id: string, step: 'cleared' | 'stopped', reason: string): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const transfer = await transferOf(scope, id, transaction);
    if (transfer.method === 'file') throw conflict('by-file', 'What goes by file is booked and returned by the bank.');
    if (transfer.state !== 'sent')
      throw conflict(
        'not-out',
        transfer.state === 'to-send' ? 'This payment is not released yet.' : `This payment is ${transfer.state.replace('-', ' ')} already.`,
      );
    await happened(scope, [id], { step, words: reason }, transaction);
    await postPayments(scope, transaction);
    await record(
      scope,
      {
        action: 'cheque',
        subject: transfer.personId ? 'person' : 'employer',
        subjectId: transfer.personId ?? scope.employer.id,
        what: `${transfer.number === null ? 'Cash' : `Number ${transfer.number}`} over ${decimalOf(transfer.amount)} to ${transfer.payee}: ${step}${reason ? `, ${reason}` : ''}`,
      },
      transaction,
    );
    return {};
  });
}
