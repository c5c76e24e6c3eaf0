import type { Run } from '@woodruff/contract';
import { written, writtenDay } from '@woodruff/core';
import { record } from '../../audit/audit';
import { factsChanged } from '../../employers/facts-version';
import { conflict, invalid, Refusal } from '../../errors';
import { may } from '../../users/permissions';
import type { Transaction } from '../../database/connection';
import { edited } from '../sheet/editors';
import type { PayRun } from '../../calculation/models';
import { letGo } from '../../one-offs/service';
import { changing } from '../../users/changing';
import type { Scope } from '../../scope';
import { openRun } from '../../calculation/calculation';
import { payRun } from './net-payments';
import { postRun } from '../../ledger/posting';
import { openPoints } from '../sheet/points';
import { runView } from '../sheet/sheet';
import { mustBeOpen } from '../../calculation/calculation';

/**
 * Approves a run and posts it, in one transaction. The same key again gives the same answer; any other second
 * approval is refused with who was first.
 */
export async function approveRun(scope: Scope, runId: string, version: number, key: string): Promise<Run> {
  return changing(scope, async (transaction) => {
    const run = await openRun(scope, runId, transaction);
    if (run.state === 'approved') {
      const view = await runView(scope, runId, transaction);
      if (run.approvalKey === key && run.approvedBy === scope.user.id) return view;
      throw conflict(
        'already-approved',
        `${view.approvedBy ?? 'Somebody'} approved this run already. It was posted once; nothing was paid twice.`,
      );
    }
    if (run.state === 'withdrawn') throw conflict('withdrawn', 'This run was withdrawn. Go on with the one that took its place.');
    if (run.state === 'calculating')
      throw conflict('calculating', 'This run is still being calculated. Wait until it is done, then look at it again.');
    if (run.version !== version)
      throw conflict('changed-meanwhile', 'This run changed after you opened it. Look at it again before you approve.');
    if (scope.employer.facts.secondPersonApproves && (await edited(scope, run))) {
      throw new Refusal(
        403,
        'second-person',
        'You edited something in this run, and this employer wants a second pair of eyes. Ask somebody who did not.',
      );
    }
    await refuseOpenPoints(scope, run, 'approved', transaction);
    await letGo(scope, 'y.run_id = :subject and not y.included', runId, transaction);
    await postRun(scope, run, transaction);
    await payRun(scope, runId, transaction);
    await run.update(
      { state: 'approved', approvedBy: scope.user.id, approvedAt: new Date(), approvalKey: key, version: run.version + 1 },
      { transaction },
    );
    const view = await runView(scope, runId, transaction);
    await record(
      scope,
      {
        action: 'approve',
        subject: 'run',
        subjectId: runId,
        what: `Approved: ${view.people} people, net ${written(view.totals.net)}, paid ${writtenDay(view.payDate)}`,
      },
      transaction,
    );
    await factsChanged(scope, transaction);
    return view;
  });
}

async function refuseOpenPoints(scope: Scope, run: PayRun, what: 'approved' | 'submitted', transaction: Transaction): Promise<void> {
  const open = (await openPoints(scope, run, transaction)).filter((point) => !point.accepted);
  if (open.length)
    throw conflict(
      'open-points',
      `${open.length} open ${open.length === 1 ? 'point keeps' : 'points keep'} this run from being ${what}: ${open[0]?.who ? `${open[0].who}: ` : ''}${open[0]?.sentence ?? ''}`,
    );
}

/** Hands a run to the approver; it is not edited any more until it is sent or fetched back. */
export async function submitRun(scope: Scope, runId: string, version: number): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const run = await openRun(scope, runId, transaction);
    mustBeOpen(run);
    if (run.state !== 'open') throw conflict('calculating', 'This run is still being calculated. Wait until it is done.');
    if (run.version !== version)
      throw conflict('changed-meanwhile', 'This run changed after you opened it. Look at it again before you submit it.');
    await refuseOpenPoints(scope, run, 'submitted', transaction);
    await run.update(
      { state: 'submitted', submittedBy: scope.user.id, submittedAt: new Date(), sentBack: null, version: run.version + 1 },
      { transaction },
    );
    await record(scope, { action: 'submit', subject: 'run', subjectId: runId, what: 'Submitted for approval' }, transaction);
    return {};
  });
}

/** Back into preparation: by the approver with a comment, or fetched back by who prepares pay. */
export async function sendBackRun(scope: Scope, runId: string, comment: string): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const run = await openRun(scope, runId, transaction);
    if (run.state !== 'submitted') throw conflict('not-submitted', 'This run is not submitted for approval.');
    const fetched = run.submittedBy === scope.user.id;
    if (!fetched && !may(scope.role, 'approve', scope.rights))
      throw new Refusal(403, 'not-allowed', 'Only who may approve sends a run back.');
    if (!fetched && comment.length < 3)
      throw invalid('Say what is to be changed, so that it can be.', [
        { path: 'comment', expected: 'a comment of at least three letters' },
      ]);
    await run.update(
      {
        state: 'open',
        submittedBy: null,
        submittedAt: null,
        sentBack: fetched ? null : `${scope.user.name}: ${comment}`,
        version: run.version + 1,
      },
      { transaction },
    );
    await record(
      scope,
      { action: 'send-back', subject: 'run', subjectId: runId, what: fetched ? 'Fetched back before approval' : `Sent back: ${comment}` },
      transaction,
    );
    return {};
  });
}
