import { computePayslip } from '@woodruff/core';
import { execute, select, type Transaction } from '../database/connection';
import { copyInto } from '../database/copy';
import { notFound } from '../errors';
import { calculateBatch } from '../jobs/threads';
import type { Scope } from '../users/scope';
import { loadPeopleFacts, loadRunFacts } from './facts';
import { PayRun } from './models';
import { prepared } from './payslip-input';
import { keepResults, noteWhatChanged } from './recalculation';
import { RESULT_COLUMNS, resultRow, summaryOf } from './result';

const BATCH = 200;
/** Batches under way at once: enough that facts are read and results written while the threads calculate. */
const UNDER_WAY = 5;

/**
 * Works out every payslip of a run from set-up and edits, on worker threads, and saves all results in one
 * transaction: cut off at any moment, the run is as it was before and can be worked out again.
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
    const [{ version } = { version: 0 }] = await select<{ version: number }>(
      scope.database,
      'select facts_version as version from employers where id = :id',
      { id: scope.employer.id },
    );
    const payslips = await select<{ id: string }>(scope.database, 'select id from payslips where run_id = :runId', { runId });
    const ids = payslips.map(({ id }) => id);
    await keepResults(scope, runId, transaction);
    await execute(scope.database, 'delete from payslip_results where run_id = :runId', { runId }, transaction);
    onProgress(0, ids.length);
    let done = 0;
    const facts = await loadRunFacts(scope, run);
    const rows = inTurn(inBatches(ids, BATCH), UNDER_WAY, async (batch) => {
      const text = await calculateBatch({ runId, facts, people: await loadPeopleFacts(scope, run, batch, facts) });
      onProgress((done += batch.length), ids.length);
      return text;
    });
    await copyInto(transaction, 'payslip_results', RESULT_COLUMNS, rows);
    await noteWhatChanged(scope, runId, transaction);
    await execute(
      scope.database,
      `update pay_runs set state = 'open', facts_version = :version, version = version + 1 where id = :runId`,
      { runId, version },
      transaction,
    );
  });
}

/** Works out one payslip and saves it in the transaction given. */
export async function calculateOne(scope: Scope, run: PayRun, payslipId: string, transaction: Transaction): Promise<void> {
  const facts = await loadRunFacts(scope, run, transaction);
  const [person] = await loadPeopleFacts(scope, run, [payslipId], facts, transaction);
  if (!person) throw notFound('payslip');
  const { input, text, hours } = prepared(facts, person);
  const payslip = computePayslip(input);
  await execute(scope.database, 'delete from payslip_results where payslip_id = :payslipId', { payslipId }, transaction);
  await copyInto(transaction, 'payslip_results', RESULT_COLUMNS, [
    resultRow(payslipId, run.id, payslip, summaryOf(input, hours, payslip), text),
  ]);
}

export async function openRun(scope: Scope, runId: string, transaction?: Transaction): Promise<PayRun> {
  const run = await PayRun.findOne({
    where: { id: runId, employerId: scope.employer.id },
    ...(transaction ? { transaction, lock: transaction.LOCK.UPDATE } : {}),
  });
  if (!run) throw notFound('pay run');
  return run;
}

function inBatches<T>(all: readonly T[], size: number): T[][] {
  const batches: T[][] = [];
  for (let start = 0; start < all.length; start += size) batches.push(all.slice(start, start + size));
  return batches;
}

/** Results of the work on each part, in order, with several under way at once. */
async function* inTurn<T, R>(parts: readonly T[], underWay: number, work: (part: T) => Promise<R>): AsyncGenerator<R> {
  const running: Promise<R>[] = [];
  // A failure is told when its turn comes; until then it must not count as unhandled.
  const begin = (part: T) => {
    const started = work(part);
    started.catch(() => undefined);
    running.push(started);
  };
  parts.slice(0, underWay).forEach(begin);
  for (let next = underWay; running.length; next++) {
    const result = await running.shift()!;
    if (next < parts.length) begin(parts[next]!);
    yield result;
  }
}
