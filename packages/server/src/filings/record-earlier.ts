import type { ParsedBodyOf } from '@woodruff/contract';
import { minorOf, written, writtenDate } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select } from '../database/connection';
import { conflict, invalid, notFound } from '../errors';
import type { Scope } from '../scope';
import { changing } from '../users/changing';
import { codesOwed, earlierPay } from './earlier';
import { filingOf } from './make';

/** Records a deposit that the earlier system made; only of a period of which its pay was entered. */
export async function recordEarlierDeposit(
  scope: Scope,
  code: string,
  key: string,
  body: ParsedBodyOf<'recordEarlierDeposit'>,
): Promise<void> {
  const { filing, period } = filingOf(scope, code, key);
  const amount = minorOf(body.amount);
  const pay = await earlierPay(scope, filing, period);
  const last = pay.days.at(-1)?.payDate;
  if (!last || !(await codesOwed(scope, code)).length)
    throw conflict(
      'nothing-earlier',
      `Nothing of ${period.label} was paid before this system. What is paid now is recorded with its payee.`,
    );
  if (body.on < period.from || body.on > last)
    throw invalid(`The pay date lies within ${period.label}, up to ${writtenDate(last)}, where the earlier system's pay ends.`, [
      { path: 'on', expected: `a date from ${period.from} to ${last}` },
    ]);
  if (amount <= 0) throw invalid('A deposit is more than nothing.', [{ path: 'amount', expected: 'an amount above nothing' }]);
  await changing(scope, async (transaction) => {
    const [again] = await select<{ id: string }>(
      scope.database,
      'select id from earlier_deposits where employer_id = :employer and filing = :filing and counts_on = :on and amount = :amount and reference = :reference and undone is null',
      { employer: scope.employer.id, filing: code, on: body.on, amount, reference: body.reference },
      transaction,
    );
    if (again)
      throw conflict(
        'recorded-already',
        `A deposit of ${written(amount)} for ${writtenDate(body.on)} with this reference is recorded already.`,
      );
    await execute(
      scope.database,
      `insert into earlier_deposits (employer_id, filing, counts_on, paid_on, amount, reference, user_id) values (:employer, :filing, :on, :paidOn, :amount, :reference, :user) returning id`,
      {
        employer: scope.employer.id,
        filing: code,
        on: body.on,
        paidOn: body.paidOn,
        amount,
        reference: body.reference,
        user: scope.user.id,
      },
      transaction,
    );
    const what = `${filing.form}, ${period.label}: deposit of ${written(amount)} made before this system, for pay of ${writtenDate(body.on)}, number ${body.reference}`;
    await record(scope, { action: 'filing', subject: 'employer', subjectId: scope.employer.id, what }, transaction);
  });
}

/** Takes a recorded deposit back; it stays on record with the reason. */
export async function undoEarlierDeposit(scope: Scope, id: string, { reason }: ParsedBodyOf<'undoEarlierDeposit'>): Promise<void> {
  await changing(scope, async (transaction) => {
    const undone = (await execute(
      scope.database,
      'update earlier_deposits set undone = :reason, undone_by = :user where id = :id and employer_id = :employer and undone is null returning amount, counts_on as "on"',
      { id, employer: scope.employer.id, user: scope.user.id, reason },
      transaction,
    )) as { amount: number; on: string }[];
    if (!undone[0]) throw notFound('deposit');
    const what = `Deposit of ${written(Number(undone[0].amount))} made before this system, for pay of ${writtenDate(undone[0].on)}, taken back: ${reason}`;
    await record(scope, { action: 'filing', subject: 'employer', subjectId: scope.employer.id, what }, transaction);
  });
}
