import { record } from '../../audit/audit';
import { execute, select, type Transaction } from '../../database/connection';
import { factsChanged } from '../../employers/facts-version';
import { conflict } from '../../errors';
import { writtenDate, writtenPeriod } from '@woodruff/core';
import { changing } from '../../users/changing';
import type { Scope } from '../../scope';
import { openRun } from '../../calculation/calculation';
import { PayRun, Payslip } from '../../calculation/models';
import { postReversals } from '../../ledger/posting';
import { hasLeft } from '../posting/net-payments';
import { withdrawUntil } from '../sheet/sheet';

/**
 * Withdraws an approved run before its cut-off: what was posted is reversed on the same pay date, and a draft with the
 * same entries takes its place. Working it out is left to the job.
 */
export async function withdrawRun(scope: Scope, runId: string, reason: string): Promise<{ id: string }> {
  return changing(scope, async (transaction) => {
    const run = await openRun(scope, runId, transaction);
    if (run.state !== 'approved') throw conflict('not-approved', 'Only an approved run is withdrawn. This one can still be changed.');
    if (!withdrawUntil(scope, run))
      throw conflict(
        'cut-off-passed',
        `The cut-off of this run has passed: it is paid ${writtenDate(run.payDate)}. Reverse its payslips, or the run, instead.`,
      );
    if (await hasLeft(scope, runId))
      throw conflict('sent', 'Payments of this run are with the bank, or were handed out. Reverse its payslips, or the run, instead.');
    await refuseLaterPay(scope, run, transaction);
    await reverseAll(scope, run, run.payDate, `Withdrawn: ${reason}`, transaction);
    await run.update({ state: 'withdrawn', version: run.version + 1 }, { transaction });
    const draft = await draftLike(scope, run, { kind: run.kind, payDate: run.payDate, comparedWith: run.comparedWith }, false, transaction);
    await record(
      scope,
      { action: 'withdraw', subject: 'run', subjectId: runId, what: `Withdrawn before the cut-off: ${reason}` },
      transaction,
    );
    await record(
      scope,
      {
        action: 'start',
        subject: 'run',
        subjectId: draft.id,
        what: `Takes the place of the run for ${writtenPeriod(run.periodFrom, run.periodTo)} that was withdrawn`,
      },
      transaction,
    );
    await factsChanged(scope, transaction);
    return { id: draft.id };
  });
}

/** Reverses every payslip of a run that is still as it was posted, dated today; with a replacement run of the same entries. */
export async function reverseRun(
  scope: Scope,
  runId: string,
  reason: string,
  replace: boolean,
): Promise<{ replacementRun: string | null }> {
  return changing(scope, async (transaction) => {
    const run = await openRun(scope, runId, transaction);
    if (run.state !== 'approved' || run.kind === 'opening' || run.kind === 'adjustment')
      throw conflict('not-approved', 'Only an approved run of payslips is reversed.');
    const date = scope.employer.today;
    await reverseAll(scope, run, date, reason, transaction);
    await record(scope, { action: 'reverse', subject: 'run', subjectId: runId, what: `Reversed the whole run: ${reason}` }, transaction);
    await factsChanged(scope, transaction);
    if (!replace) {
      await execute(
        scope.database,
        `update one_offs o set payslip_id = null, take_by = case when o.take_by = 'run' then 'next' else o.take_by end, run_id = null from payslips y where o.payslip_id = y.id and y.run_id = :runId and y.state = 'reversed'`,
        { runId },
        transaction,
      );
      return { replacementRun: null };
    }
    const draft = await draftLike(scope, run, { kind: 'correction', payDate: date, comparedWith: run.id }, true, transaction);
    return { replacementRun: draft.id };
  });
}

/** Somebody paid again since would have sums of the year that count this run; such payslips are reversed one by one. */
async function refuseLaterPay(scope: Scope, run: PayRun, transaction: Transaction): Promise<void> {
  const [later] = await select<{ name: string; payDate: string }>(
    scope.database,
    `select p.given_name || ' ' || p.family_name as name, r2.pay_date as "payDate" from payslips y join payslips y2 on y2.person_id = y.person_id and y2.state = 'posted'
     join pay_runs r2 on r2.id = y2.run_id and r2.approved_at > :approvedAt join people p on p.id = y.person_id where y.run_id = :runId and y.state = 'posted' and r2.id <> :runId limit 1`,
    { runId: run.id, approvedAt: run.approvedAt },
    transaction,
  );
  if (later)
    throw conflict(
      'paid-since',
      `${later.name} has been paid since, on ${writtenDate(later.payDate)}. Reverse what is wrong instead of withdrawing the run.`,
    );
}

/** One run holds the reversals of all posted payslips. */
async function reverseAll(scope: Scope, run: PayRun, date: string, reason: string, transaction: Transaction): Promise<void> {
  const posted = await Payslip.findAll({ where: { runId: run.id, state: 'posted' }, transaction, lock: transaction.LOCK.UPDATE });
  if (!posted.length) throw conflict('nothing-posted', 'No payslip of this run stands any more: all are reversed already.');
  const reversing = await PayRun.create(
    {
      employerId: scope.employer.id,
      scheduleId: run.scheduleId,
      kind: 'correction',
      periodFrom: run.periodFrom,
      periodTo: run.periodTo,
      payDate: date,
      comparedWith: run.id,
      state: 'approved',
      approvedBy: scope.user.id,
      approvedAt: new Date(),
    },
    { transaction },
  );
  const reversals = await Payslip.bulkCreate(
    posted.map((payslip) => ({
      runId: reversing.id,
      personId: payslip.personId,
      state: 'reversal' as const,
      reverses: payslip.id,
      edits: { note: reason },
    })),
    { transaction },
  );
  await postReversals(
    scope,
    reversals.map(({ id }) => id),
    date,
    transaction,
  );
  await Payslip.update({ state: 'reversed' }, { where: { runId: run.id, state: 'posted' }, transaction });
}

/** A draft with the same people and entries; one-offs that were taken go with it. */
async function draftLike(
  scope: Scope,
  run: PayRun,
  { kind, payDate, comparedWith }: { kind: PayRun['kind']; payDate: string; comparedWith: string | null },
  replaces: boolean,
  transaction: Transaction,
): Promise<PayRun> {
  const draft = await PayRun.create(
    {
      employerId: scope.employer.id,
      scheduleId: run.scheduleId,
      kind,
      name: run.name,
      rules: run.rules,
      periodFrom: run.periodFrom,
      periodTo: run.periodTo,
      payDate,
      comparedWith,
      state: 'calculating',
      lastEditedBy: scope.user.id,
    },
    { transaction },
  );
  await execute(
    scope.database,
    `insert into payslips (run_id, person_id, included, edits, replaces)
     select :draft, person_id, included, edits, case when :replaces and state = 'reversed' then id end from payslips where run_id = :run and state in ('reversed', 'draft')
       and not exists (select 1 from payslips n where n.replaces = payslips.id)`,
    { draft: draft.id, run: run.id, replaces },
    transaction,
  );
  await execute(
    scope.database,
    `update one_offs o set payslip_id = n.id from payslips y, payslips n where o.payslip_id = y.id and y.run_id = :run and n.run_id = :draft and n.person_id = y.person_id`,
    { draft: draft.id, run: run.id },
    transaction,
  );
  return draft;
}
