import type { ParsedBodyOf } from '@woodruff/contract';
import { Exact, writtenDate } from '@woodruff/core';
import { record } from '../../audit/audit';
import { select, type Transaction } from '../../database/connection';
import { factsChanged } from '../../employers/facts-version';
import { conflict, invalid, notFound } from '../../errors';
import { changing } from '../../users/changing';
import type { Scope } from '../../scope';
import { PayRate, type Person } from '../models';
import { rateWords } from '../service';
import { personOf } from '../person';
import { unique } from '../../database/unique';

export async function addRate(scope: Scope, id: string, rate: ParsedBodyOf<'addRate'>): Promise<{ id: string }> {
  if (Exact.of(rate.amount).isZero()) throw invalid('A rate must be more than zero.', [{ path: 'amount', expected: 'more than zero' }]);
  return changing(scope, async (transaction) => {
    const person = await personOf(scope, id, transaction);
    const series = rate.primary ? 'primary' : await seriesOf(person.id, rate.label, transaction);
    const created = await unique(
      `There is already a rate from ${writtenDate(rate.from)}. Choose another date, or correct that one.`,
      'from',
      () =>
        PayRate.create(
          {
            personId: person.id,
            series,
            label: rate.label,
            per: rate.per,
            amount: rate.amount,
            fromDate: rate.from,
            isPrimary: rate.primary,
            reason: rate.reason,
          },
          { transaction },
        ),
    );
    await record(
      scope,
      {
        action: 'add-rate',
        subject: 'person',
        subjectId: id,
        what: `${rate.label}: ${rateWords(rate.per, rate.amount)} from ${writtenDate(rate.from)}${rate.reason ? ` (${rate.reason})` : ''}`,
        after: rate,
      },
      transaction,
    );
    await factsChanged(scope, transaction);
    return { id: created.id };
  });
}

/** Rates beside the primary one are told apart by what they are called: the same name goes on, another begins the next series. */
async function seriesOf(personId: string, label: string, transaction: Transaction): Promise<string> {
  const others = await PayRate.findAll({ where: { personId, isPrimary: false }, transaction });
  const known = others.find((rate) => rate.label.toLowerCase() === label.toLowerCase());
  return known?.series ?? String(Math.max(1, ...others.map((rate) => Number(rate.series))) + 1);
}

/** Payslips paid while an entry was in force, from its day until the next one of the same series. */
async function paidWith(scope: Scope, rate: PayRate, transaction: Transaction): Promise<number> {
  const [row] = await select<{ paid: number }>(
    scope.database,
    `select count(*) as paid from payslips y join pay_runs r on r.id = y.run_id
     where y.person_id = :person and y.state in ('posted', 'reversed') and r.period_to >= :from
       and r.period_to < coalesce((select min(n.from_date) from pay_rates n where n.person_id = :person and n.series = :series and n.from_date > :from), 'infinity')`,
    { person: rate.personId, from: rate.fromDate, series: rate.series },
    transaction,
  );
  return row?.paid ?? 0;
}

async function rateOf(person: Person, rateId: string, transaction: Transaction): Promise<PayRate> {
  const rate = await PayRate.findOne({ where: { id: rateId, personId: person.id }, transaction, lock: transaction.LOCK.UPDATE });
  if (!rate) throw notFound('rate');
  return rate;
}

/** Corrects an entry that was wrong from its first day. What was paid with it stays as it was paid. */
export async function correctRate(
  scope: Scope,
  id: string,
  rateId: string,
  body: ParsedBodyOf<'correctRate'>,
): Promise<Record<string, never>> {
  if (Exact.of(body.amount).isZero()) throw invalid('A rate must be more than zero.', [{ path: 'amount', expected: 'more than zero' }]);
  return changing(scope, async (transaction) => {
    const person = await personOf(scope, id, transaction);
    const rate = await rateOf(person, rateId, transaction);
    const paid = await paidWith(scope, rate, transaction);
    const before = rate.toJSON();
    await unique(`There is already a rate from ${writtenDate(body.from)}. Choose another date, or correct that one.`, 'from', () =>
      rate.update({ label: body.label, per: body.per, amount: body.amount, fromDate: body.from, reason: body.reason }, { transaction }),
    );
    await record(
      scope,
      {
        action: 'correct-rate',
        subject: 'person',
        subjectId: id,
        what: `Corrected the rate from ${writtenDate(before.fromDate)}: ${rateWords(body.per, body.amount)} instead of ${rateWords(before.per, before.amount)}${paid ? `; ${paid} paid payslips stay as they were paid` : ''}`,
        before,
        after: body,
      },
      transaction,
    );
    await factsChanged(scope, transaction);
    return {};
  });
}

/** Takes a rate back that nobody was paid with: a raise that does not come. */
export async function withdrawRate(scope: Scope, id: string, rateId: string): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const person = await personOf(scope, id, transaction);
    const rate = await rateOf(person, rateId, transaction);
    const paid = await paidWith(scope, rate, transaction);
    if (paid)
      throw conflict(
        'rate-paid',
        `${paid === 1 ? 'One payslip was' : `${paid} payslips were`} paid with this rate. Correct it, or enter a new one from a date on.`,
      );
    await rate.destroy({ transaction });
    await record(
      scope,
      {
        action: 'withdraw-rate',
        subject: 'person',
        subjectId: id,
        what: `Withdrew ${rate.label}: ${rateWords(rate.per, rate.amount)} from ${writtenDate(rate.fromDate)}`,
        before: rate.toJSON(),
      },
      transaction,
    );
    await factsChanged(scope, transaction);
    return {};
  });
}
