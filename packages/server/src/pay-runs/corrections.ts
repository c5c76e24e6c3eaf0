import type { ReversalPreview } from '@woodruff/contract';
import { packOf, quarterOf, written, writtenDate, yearOf, type Totals } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select, type Transaction } from '../database/connection';
import { factsChanged } from '../employers/facts-version';
import { conflict, notFound } from '../errors';
import { letGo } from '../one-offs/service';
import type { Scope } from '../users/scope';
import { calculateOne } from './calculation';
import { PayRun, Payslip } from './models';
import { postReversals } from './posting';

interface Posted {
  id: string;
  runId: string;
  personId: string;
  name: string;
  state: string;
  payDate: string;
  net: number;
  edits: Payslip['edits'];
}

/** What reversing a posted payslip would touch, before anything is done. */
export async function reversalPreview(scope: Scope, payslipId: string): Promise<ReversalPreview> {
  const posted = await postedPayslip(scope, payslipId);
  const date = scope.employer.today;
  const year = packOf(scope.employer.country).taxYearOf(date).label;
  const sums = await select<{ kind: string; here: number; year: number }>(
    scope.database,
    `select kind, coalesce(sum(amount) filter (where payslip_id = :payslipId), 0)::bigint as here, coalesce(sum(amount) filter (where tax_year = :year), 0)::bigint as year
     from ledger_lines where person_id = :person group by kind`,
    { payslipId, person: posted.personId, year },
  );
  const touch = (what: string, ...kinds: string[]) => {
    const of = sums.filter((sum) => kinds.includes(sum.kind));
    const before = of.reduce((all, sum) => all + sum.year, 0);
    return { what, before, after: before - of.reduce((all, sum) => all + sum.here, 0) };
  };
  const notes = [`Posted with the pay date ${writtenDate(date)}: the return of quarter ${quarterOf(date)} of ${yearOf(date)} follows.`];
  if (quarterOf(date) !== quarterOf(posted.payDate) || yearOf(date) !== yearOf(posted.payDate)) {
    notes.push(
      `It was paid on ${writtenDate(posted.payDate)}, in another quarter: if the return of quarter ${quarterOf(posted.payDate)} of ${yearOf(posted.payDate)} has been filed, look whether it needs an amendment.`,
    );
  }
  if (yearOf(date) !== yearOf(posted.payDate))
    notes.push(`The wage statement for ${yearOf(posted.payDate)} is touched and needs a correction if it was given out.`);
  const [payment] = await select<{ method: string; number: number | null; amount: number }>(
    scope.database,
    'select method, number, amount from net_payments where payslip_id = :payslipId and stopped is null',
    { payslipId },
  );
  if (payment)
    notes.unshift(
      payment.method === 'cheque'
        ? `Cheque ${payment.number} over ${written(payment.amount)} was made out: stop it, or have it returned.`
        : `${written(payment.amount)} went out by ${payment.method}: it has to come back, or be set off against the replacement.`,
    );
  return {
    name: posted.name,
    payDate: posted.payDate,
    reversalDate: date,
    net: posted.net,
    touches: [
      touch(`Gross pay in ${year}`, 'earning'),
      touch(`Taxes in ${year}`, 'tax'),
      touch(`Deductions in ${year}`, 'deduction-before-tax', 'deduction-after-tax'),
      touch(`Employer's taxes in ${year}`, 'employer-tax'),
    ],
    notes,
  };
}

/**
 * Reverses a posted payslip: posts its lines negated, dated today. With a replacement, a correction run with the same
 * entries is opened for the person, to be mended and approved.
 */
export async function reversePayslip(
  scope: Scope,
  payslipId: string,
  reason: string,
  replace: boolean,
): Promise<{ replacementRun: string | null }> {
  return scope.database.transaction(async (transaction) => {
    const posted = await postedPayslip(scope, payslipId, transaction);
    const run = await PayRun.findByPk(posted.runId, { transaction });
    if (!run) throw notFound('pay run');
    const date = scope.employer.today;
    const corrected = {
      employerId: scope.employer.id,
      scheduleId: run.scheduleId,
      kind: 'correction' as const,
      periodFrom: run.periodFrom,
      periodTo: run.periodTo,
      payDate: date,
      comparedWith: run.id,
    };
    const reversing = await PayRun.create(
      { ...corrected, state: 'approved', approvedBy: scope.user.id, approvedAt: new Date() },
      { transaction },
    );
    const reversal = await Payslip.create(
      { runId: reversing.id, personId: posted.personId, state: 'reversal', reverses: payslipId, edits: { note: reason } },
      { transaction },
    );
    await postReversals(scope, [reversal.id], date, transaction);
    await Payslip.update({ state: 'reversed' }, { where: { id: payslipId }, transaction });
    await record(scope, { action: 'reverse', subject: 'payslip', subjectId: payslipId, what: `Reversed: ${reason}` }, transaction);
    await factsChanged(scope, transaction);
    if (!replace) {
      await letGo(scope, 'y.id = :subject', payslipId, transaction);
      return { replacementRun: null };
    }

    const [{ version } = { version: 0 }] = await select<{ version: number }>(
      scope.database,
      'select facts_version as version from employers where id = :id',
      { id: scope.employer.id },
      transaction,
    );
    const correction = await PayRun.create(
      { ...corrected, state: 'open', lastEditedBy: scope.user.id, factsVersion: version },
      { transaction },
    );
    const replacement = await Payslip.create(
      { runId: correction.id, personId: posted.personId, edits: posted.edits, replaces: payslipId },
      { transaction },
    );
    await execute(
      scope.database,
      'update one_offs set payslip_id = :replacement where payslip_id = :payslipId',
      { replacement: replacement.id, payslipId },
      transaction,
    );
    await calculateOne(scope, correction, replacement.id, transaction);
    await record(
      scope,
      {
        action: 'start',
        subject: 'run',
        subjectId: correction.id,
        what: `Opened a replacement for the payslip of ${posted.name} paid ${writtenDate(posted.payDate)}`,
      },
      transaction,
    );
    return { replacementRun: correction.id };
  });
}

async function postedPayslip(scope: Scope, payslipId: string, transaction?: Transaction): Promise<Posted> {
  const [posted] = await select<Posted & Totals>(
    scope.database,
    `select y.id, y.run_id as "runId", y.person_id as "personId", p.given_name || ' ' || p.family_name as name, y.state, r.pay_date as "payDate", x.net, y.edits
     from payslips y join pay_runs r on r.id = y.run_id join people p on p.id = y.person_id join payslip_results x on x.payslip_id = y.id
     where y.id = :payslipId and r.employer_id = :employer ${transaction ? 'for update of y' : ''}`,
    { payslipId, employer: scope.employer.id },
    transaction,
  );
  if (!posted) throw notFound('payslip');
  if (posted.state === 'reversed') throw conflict('already-reversed', 'This payslip is reversed already.');
  if (posted.state !== 'posted') throw conflict('not-posted', 'Only a posted payslip can be reversed. This one can still be edited.');
  return posted;
}
