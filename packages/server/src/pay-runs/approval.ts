import type { Run } from '@woodruff/contract';
import { written, writtenDay } from '@woodruff/core';
import { record } from '../audit/audit';
import { factsChanged } from '../employers/facts-version';
import { conflict, Refusal } from '../errors';
import { letGo } from '../one-offs/service';
import type { Scope } from '../users/scope';
import { openRun } from './calculation';
import { postRun } from './posting';
import { openPoints, runView } from './sheet';

/**
 * Approves a run and posts it, in one transaction. The same key again gives the same answer; any other second
 * approval is refused with who was first.
 */
export async function approveRun(scope: Scope, runId: string, version: number, key: string): Promise<Run> {
  return scope.database.transaction(async (transaction) => {
    const run = await openRun(scope, runId, transaction);
    if (run.state === 'approved') {
      const view = await runView(scope, runId, transaction);
      if (run.approvalKey === key) return view;
      throw conflict(
        'already-approved',
        `${view.approvedBy ?? 'Somebody'} approved this run already. It was posted once; nothing was paid twice.`,
      );
    }
    if (run.state !== 'open')
      throw conflict('calculating', 'This run is still being worked out. Wait until it is done, then look at it again.');
    if (run.version !== version)
      throw conflict('changed-meanwhile', 'This run changed after you opened it. Look at it again before you approve.');
    if (scope.employer.facts.secondPersonApproves && run.lastEditedBy === scope.user.id) {
      throw new Refusal(
        403,
        'second-person',
        'You edited this run last, and this employer wants a second pair of eyes. Ask another approver.',
      );
    }
    const open = (await openPoints(scope, run, transaction)).filter((point) => !point.accepted);
    if (open.length)
      throw conflict(
        'open-points',
        `${open.length} open ${open.length === 1 ? 'point keeps' : 'points keep'} this run from being approved: ${open[0]?.who ? `${open[0].who}: ` : ''}${open[0]?.sentence ?? ''}`,
      );
    await letGo(scope, 'y.run_id = :subject and not y.included', runId, transaction);
    await postRun(scope, run, transaction);
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
