import { computePayslip } from '@woodruff/core';
import { execute, select, type Transaction } from '../database/connection';
import { copyInto } from '../database/copy';
import { notFound } from '../errors';
import { calculateBatch } from '../jobs/threads';
import type { Scope } from '../users/scope';
import { hoursByColumn, inputOf, loadPeopleFacts, loadRunFacts, type RunFacts, type PersonFacts } from './facts';
import { PayRun } from './models';
import { RESULT_COLUMNS, resultRow, summaryOf } from './result';

const BATCH = 200;

/**
 * Works out every payslip of a run from set-up and edits, on worker threads, and saves all results in one
 * transaction: cut off at any moment, the run is as it was before and can be worked out again.
 */
export async function calculateRun(
  scope: Scope,
  runId: string,
  onProgress: (done: number, of: number) => void = () => undefined,
): Promise<void> {
  const run = await openRun(scope, runId);
  const [{ version } = { version: 0 }] = await select<{ version: number }>(
    scope.database,
    'select facts_version as version from employers where id = :id',
    { id: scope.employer.id },
  );
  const facts = await loadRunFacts(scope, run);
  const people = await loadPeopleFacts(scope, run, undefined);
  const batches = inBatches(people, BATCH);
  let done = 0;
  onProgress(0, people.length);
  const rows = await Promise.all(
    batches.map(async (batch) => {
      const text = await calculateBatch({ runId, payslips: batch.map((person) => prepared(facts, person)) });
      onProgress((done += batch.length), people.length);
      return text;
    }),
  );
  await scope.database.transaction(async (transaction) => {
    const [locked] = await select<{ state: string; edits: number }>(
      scope.database,
      'select state from pay_runs where id = :runId for update',
      { runId },
      transaction,
    );
    if (!locked || locked.state === 'approved') return;
    await execute(scope.database, 'delete from payslip_results where run_id = :runId', { runId }, transaction);
    await copyInto(transaction, 'payslip_results', RESULT_COLUMNS, rows);
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
  const [person] = await loadPeopleFacts(scope, run, [payslipId], transaction);
  if (!person) throw notFound('payslip');
  const { hours, input: text } = prepared(facts, person);
  const input = inputOf(facts, person);
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

function prepared(facts: RunFacts, person: PersonFacts): { id: string; input: string; hours: Record<string, string> } {
  const hourly = person.rates?.find((rate) => rate.primary)?.per === 'hour';
  return { id: person.payslipId, input: JSON.stringify(inputOf(facts, person)), hours: hoursByColumn(facts, person, hourly) };
}

function inBatches<T>(all: readonly T[], size: number): T[][] {
  const batches: T[][] = [];
  for (let start = 0; start < all.length; start += size) batches.push(all.slice(start, start + size));
  return batches;
}
