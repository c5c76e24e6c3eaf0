import { execute, select, type Transaction } from '../database/connection';
import { factsChanged } from '../employers/facts-version';
import type { Scope } from '../scope';
import { calculateOne, openRun } from './calculation';

/** From so many payslips on, an open run is marked as to be recalculated instead of one payslip after another. */
const ONE_BY_ONE = 60;

/** Payslips of open runs recalculated; many of them, or those of a run under way, are left to the run. */
export async function workOutAgain(scope: Scope, payslips: readonly string[], transaction: Transaction): Promise<void> {
  if (!payslips.length) return;
  const runs = await select<{ runId: string; id: string }>(
    scope.database,
    'select run_id as "runId", id from payslips where id in (:payslips)',
    { payslips },
    transaction,
  );
  for (const runId of new Set(runs.map((row) => row.runId))) {
    const run = await openRun(scope, runId, transaction);
    const of = runs.filter((row) => row.runId === runId);
    if (run.state !== 'open' || of.length > ONE_BY_ONE) {
      await factsChanged(scope, transaction);
      continue;
    }
    for (const { id } of of) {
      await execute(scope.database, 'update payslips set version = version + 1 where id = :id', { id }, transaction);
      await calculateOne(scope, run, id, transaction);
    }
    await run.update({ version: run.version + 1, lastEditedBy: scope.user.id }, { transaction });
  }
}
