import { loadedTables } from '../tables/loaded';
import { computePayslip, type PayslipInput } from '@woodruff/core';
import { execute, select, type Transaction } from '../database/connection';
import { copyInto } from '../database/copy';
import { conflict, notFound } from '../errors';
import { calculateBatch } from './threads';
import type { Scope } from '../scope';
import { scopeOf } from '../users/service';
import { loadPeopleFacts, loadRunFacts } from '../payslip-input/facts';
import { PayRun } from './models';
import { prepared } from '../payslip-input/input';
import { keepResults, noteWhatChanged } from './recalculation';
import { RESULT_COLUMNS, resultRow, summaryOf } from './result';

const BATCH = 200;
/** Batches under way at once: enough that the threads never wait for the connection, nor the connection for them. */
const UNDER_WAY = 4;

/**
 * Calculates every payslip of a run from set-up and edits, on worker threads, and saves all results in one
 * transaction: cut off at any moment, the run is as it was before and can be calculated again. It holds the run and
 * not the employer: set-up that changes meanwhile makes the run out of date.
 */
export async function calculateRun(
  scope: Scope,
  runId: string,
  onProgress: (done: number, of: number) => void = () => undefined,
): Promise<void> {
  await scope.database.transaction(async (transaction) => {
    // Locked from the start: an entry made meanwhile waits, and counts from the new figures on.
    const run = await openRun(scope, runId, transaction);
    if (run.state !== 'calculating' && run.state !== 'open') return;
    const now = await scopeOf(scope.database, scope.user.id, scope.employer.id);
    const payslips = await select<{ id: string }>(scope.database, 'select id from payslips where run_id = :runId', { runId });
    await keepResults(scope, runId, transaction);
    await execute(scope.database, 'delete from payslip_results where run_id = :runId', { runId });
    onProgress(0, payslips.length);
    const facts = await loadRunFacts(now, run);
    const underWay: { people: number; rows: Promise<string> }[] = [];
    let done = 0;
    const save = async () => {
      const batch = underWay.shift();
      if (!batch) return;
      await copyInto(transaction, 'payslip_results', RESULT_COLUMNS, [await batch.rows]);
      onProgress((done += batch.people), payslips.length);
    };
    for (let first = 0; first < payslips.length; first += BATCH) {
      const ids = payslips.slice(first, first + BATCH).map(({ id }) => id);
      const rows = calculateBatch({
        tables: loadedTables(scope.employer.country),
        runId,
        facts,
        people: await loadPeopleFacts(now, run, ids, facts),
      });
      // A failure is told when its turn comes; until then it must not count as unhandled.
      rows.catch(() => undefined);
      underWay.push({ people: ids.length, rows });
      if (underWay.length === UNDER_WAY) await save();
    }
    while (underWay.length) await save();
    await noteWhatChanged(scope, runId, transaction);
    await execute(scope.database, `update pay_runs set state = 'open', facts_version = :version, version = version + 1 where id = :runId`, {
      runId,
      version: now.employer.factsVersion,
    });
  });
}

/** Calculates one payslip and saves it in the transaction given; gives what it was calculated from. */
export async function calculateOne(scope: Scope, run: PayRun, payslipId: string, transaction: Transaction): Promise<PayslipInput> {
  const facts = await loadRunFacts(scope, run, transaction);
  const [person] = await loadPeopleFacts(scope, run, [payslipId], facts, transaction);
  if (!person) throw notFound('payslip');
  const { input, text, hours } = prepared(facts, person);
  const payslip = computePayslip(input);
  await execute(scope.database, 'delete from payslip_results where payslip_id = :payslipId', { payslipId }, transaction);
  await copyInto(transaction, 'payslip_results', RESULT_COLUMNS, [
    resultRow(payslipId, run.id, payslip, summaryOf(input, hours, payslip), text),
  ]);
  return input;
}

export async function openRun(scope: Scope, runId: string, transaction?: Transaction): Promise<PayRun> {
  const run = await PayRun.findOne({
    where: { id: runId, employerId: scope.employer.id },
    ...(transaction ? { transaction, lock: transaction.LOCK.UPDATE } : {}),
  });
  if (!run) throw notFound('pay run');
  return run;
}

export function mustBeOpen(run: PayRun): void {
  if (run.state === 'submitted')
    throw conflict('submitted', 'This run is submitted for approval. Have it sent back, or fetch it back, before it is changed.');
  if (run.state === 'withdrawn') throw conflict('withdrawn', 'This run was withdrawn. Go on with the one that took its place.');
  if (run.state === 'approved')
    throw conflict(
      'approved',
      'This run is approved. Nothing paid is overwritten: reverse the payslip instead, with a replacement if it was wrong.',
    );
}
