import { hours, type Changed, type Edits, type ParsedBodyOf } from '@woodruff/contract';
import { computePayslip, Exact, type PayslipInput } from '@woodruff/core';
import { historyOf, record } from '../../audit/audit';
import { execute, select } from '../../database/connection';
import { conflict, invalid, notFound } from '../../errors';
import { changing } from '../../users/changing';
import type { Scope } from '../../scope';
import { calculateOne, mustBeOpen, openRun } from '../../calculation/calculation';
import { readColumn } from '../../payslip-input/input';
import { Payslip } from '../../calculation/models';
import { openPoints } from './points';
import { changedView } from './sheet';

/** Changes one payslip of an open run and works it out at once. The version guards against two people editing it. */
export async function changePayslip(
  scope: Scope,
  runId: string,
  payslipId: string,
  change: ParsedBodyOf<'changePayslip'>,
): Promise<Changed> {
  return changing(
    scope,
    async (transaction) => {
      const run = await openRun(scope, runId, transaction);
      mustBeOpen(run);
      const payslip = await Payslip.findOne({ where: { id: payslipId, runId }, transaction, lock: transaction.LOCK.UPDATE });
      if (!payslip) throw notFound('payslip');
      if (payslip.version !== change.version) {
        throw conflict(
          'changed-meanwhile',
          'Somebody else changed this payslip meanwhile. Their change is shown now; make yours again if it still holds.',
          (await historyOf(scope.database, payslipId)).slice(0, 3),
        );
      }
      const edits = change.edits ? tidy(change.edits) : payslip.edits;
      await checkItems(scope, edits);
      const what = wordsOf(payslip.edits, edits, payslip.included, change.included);
      await record(
        scope,
        { action: 'edit', subject: 'payslip', subjectId: payslipId, what, before: payslip.edits, after: edits },
        transaction,
      );
      await payslip.update({ edits, included: change.included ?? payslip.included, version: payslip.version + 1 }, { transaction });
      refuseUnknownTaxes(edits, await calculateOne(scope, run, payslipId, transaction));
      await run.update({ version: run.version + 1, lastEditedBy: scope.user.id }, { transaction });
      return changedView(scope, run, payslipId, transaction);
    },
    'beside',
  );
}

/** What was changed by hand on the payslips of a run and would be lost by rebuilding them from set-up. */
export async function wouldLose(
  scope: Scope,
  runId: string,
  payslipId?: string,
): Promise<{ payslipId: string; name: string; lost: string[] }[]> {
  await openRun(scope, runId);
  const rows = await select<{ payslipId: string; name: string; edits: Edits; included: boolean }>(
    scope.database,
    `select y.id as "payslipId", p.given_name || ' ' || p.family_name as name, y.edits, y.included from payslips y join people p on p.id = y.person_id
     where y.run_id = :runId and y.state = 'draft' and (y.edits <> '{}'::jsonb or not y.included) ${payslipId ? 'and y.id = :payslipId' : ''} order by p.family_name`,
    { runId, payslipId },
  );
  return rows.map(({ edits, included, ...row }) => ({ ...row, lost: [...lossesOf(edits), ...(included ? [] : ['Left out of this run'])] }));
}

/** Discards the edits of one payslip or of all; the calculation is the caller's. */
export async function discardEdits(scope: Scope, runId: string, payslipId?: string): Promise<void> {
  const lost = await wouldLose(scope, runId, payslipId);
  await changing(scope, async (transaction) => {
    const run = await openRun(scope, runId, transaction);
    mustBeOpen(run);
    await record(
      scope,
      lost.map((entry) => ({
        action: 'rebuild',
        subject: 'payslip',
        subjectId: entry.payslipId,
        what: `Rebuilt from set-up; discarded: ${entry.lost.join('; ')}`,
      })),
      transaction,
    );
    await execute(
      scope.database,
      `update payslips set edits = '{}', included = true, version = version + 1 where run_id = :runId and state = 'draft' ${payslipId ? 'and id = :payslipId' : ''}`,
      { runId, payslipId },
      transaction,
    );
    await run.update({ lastEditedBy: scope.user.id }, { transaction });
  });
}

export const acceptPoint = (scope: Scope, runId: string, key: string, reason: string): Promise<Record<string, never>> =>
  acceptPoints(scope, runId, [key], reason);

/** What needed a person was looked at and is to stay as it is, for a reason that the approver sees. */
export async function acceptPoints(scope: Scope, runId: string, keys: readonly string[], reason: string): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const run = await openRun(scope, runId, transaction);
    mustBeOpen(run);
    const there = new Set((await openPoints(scope, run, transaction)).filter((point) => point.weight === 'look').map((point) => point.key));
    const absent = keys.filter((key) => !there.has(key));
    if (absent.length)
      throw conflict(
        'no-such-point',
        `${absent.length === 1 ? 'This point is' : `${absent.length} of these points are`} not open in the run any more, or cannot be accepted. Look at the run again.`,
      );
    for (const key of keys)
      await execute(
        scope.database,
        'insert into accepted_points (run_id, key, reason, user_id) values (:runId, :key, :reason, :user) on conflict (run_id, key) do update set reason = excluded.reason, user_id = excluded.user_id, accepted_at = now()',
        { runId, key, reason, user: scope.user.id },
        transaction,
      );
    const kinds = [...new Set(keys.map((key) => key.split(':')[0]))].join(', ');
    await record(
      scope,
      {
        action: 'accept',
        subject: 'run',
        subjectId: runId,
        what: `Accepted ${keys.length === 1 ? 'an open point' : `${keys.length} open points`} (${kinds}): ${reason}`,
      },
      transaction,
    );
    return {};
  });
}

/** An override of a tax that the payslip has not would do nothing, and nobody would see it. */
function refuseUnknownTaxes({ overrides }: Edits, input: PayslipInput): void {
  if (!overrides?.length) return;
  // One that is overridden with nothing has no line: what there is, is what there would be without.
  const taxes = computePayslip({ ...input, overrides: [] }).lines.filter((line) => line.kind === 'tax');
  const unknown = overrides.find(({ tax }) => !taxes.some((line) => line.code === tax));
  if (unknown)
    throw invalid(
      `This payslip has no tax “${unknown.tax}” that could be overridden. It has ${taxes.map(({ label, code }) => `${label} (${code})`).join(', ') || 'none'}.`,
      [{ path: 'edits.overrides', expected: 'taxes of this payslip' }],
    );
}

async function checkItems(scope: Scope, edits: Edits): Promise<void> {
  const wanted = new Set([
    ...(edits.oneOffs ?? []).map((oneOff) => oneOff.item),
    ...(edits.amounts ?? []).map(({ item }) => item),
    ...Object.keys(edits.hours ?? {}).map((column) => readColumn(column).item),
  ]);
  if (!wanted.size) return;
  const known = await select<{ code: string; by: string }>(
    scope.database,
    `select code, definition->'method'->>'by' as by from pay_items where employer_id = :employer and code in (:codes)`,
    { employer: scope.employer.id, codes: [...wanted] },
  );
  const unknown = [...wanted].find((code) => !known.some((item) => item.code === code));
  if (unknown) throw invalid(`There is no pay item "${unknown}".`, [{ path: 'edits', expected: 'items of this employer' }]);
  for (const [column, entered] of Object.entries(edits.hours ?? {})) {
    const item = known.find((candidate) => candidate.code === readColumn(column).item);
    if (item && !['hours', 'pieces'].includes(item.by))
      throw invalid(`“${item.code}” is not paid by the hour or the piece. Enter it as a one-off amount.`, [
        { path: 'edits.hours', expected: 'items paid by the hour or the piece' },
      ]);
    if (item?.by === 'hours' && !hours.safeParse(entered).success)
      throw invalid(`${entered} hours are not possible. Hours have at most three figures before the point.`, [
        { path: 'edits.hours', expected: 'hours such as 7.50' },
      ]);
  }
}

/** Without empty parts, so that a payslip as set up has no edits at all. */
function tidy(edits: Edits): Edits {
  const kept: Edits = {};
  if (edits.hours && Object.keys(edits.hours).length) kept.hours = edits.hours;
  if (edits.oneOffs?.length) kept.oneOffs = edits.oneOffs.filter((oneOff) => !Exact.of(oneOff.amount).isZero());
  if (!kept.oneOffs?.length) delete kept.oneOffs;
  if (edits.leftOut?.length) kept.leftOut = edits.leftOut;
  if (edits.amounts?.length) kept.amounts = edits.amounts;
  if (edits.overrides?.length) kept.overrides = edits.overrides;
  if (edits.note) kept.note = edits.note;
  if (edits.ahead) kept.ahead = edits.ahead;
  if (edits.payment?.method ?? edits.payment?.without?.length) kept.payment = edits.payment;
  return kept;
}

const lossesOf = (edits: Edits): string[] => [
  ...Object.entries(edits.hours ?? {}).map(([item, hours]) => `${hours} hours on ${item}`),
  ...(edits.oneOffs ?? []).map((oneOff) => `${oneOff.item} of ${oneOff.amount}`),
  ...(edits.leftOut ?? []).map((code) => `${code} left out`),
  ...(edits.amounts ?? []).map(({ item, amount, note }) => `${item} of ${amount} this once${note ? ` (${note})` : ''}`),
  ...(edits.overrides ?? []).map((override) => `${override.tax} overridden with ${override.amount}`),
  ...(edits.ahead ? [`Paid ${edits.ahead} further pay periods ahead`] : []),
  ...(edits.note ? ['A note'] : []),
  ...(edits.payment?.method ? [`Paid by ${edits.payment.method} this once`] : []),
  ...(edits.payment?.without?.length ? ['Accounts left out this once'] : []),
];

function wordsOf(before: Edits, after: Edits, wasIncluded: boolean, included: boolean | undefined): string {
  const words: string[] = [];
  if (included !== undefined && included !== wasIncluded) words.push(included ? 'Included in this run again' : 'Left out of this run');
  const old = new Set(lossesOf(before));
  const now = lossesOf(after);
  words.push(...now.filter((word) => !old.has(word)), ...[...old].filter((word) => !now.includes(word)).map((word) => `without ${word}`));
  return words.join('; ') || 'Saved without a change';
}
