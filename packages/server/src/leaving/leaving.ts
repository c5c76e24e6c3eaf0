import type { Leaving, ParsedBodyOf } from '@woodruff/contract';
import { periodOf, writtenDate, writtenDay, writtenPeriod, type PayPeriod } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select, type Transaction } from '../database/connection';
import { factsChanged } from '../employers/facts-version';
import { conflict, invalid, notFound } from '../errors';
import { termsOn } from '../payslip-input/leave-terms';
import { personLeave } from '../leave/person-leave';
import { enterOneOffs, removeOneOff } from '../one-offs/service';
import { openRun } from '../calculation/calculation';
import { startSpecialRun } from '../pay-runs/making/special';
import { deleteRun } from '../pay-runs/making/start';
import { reverseRun } from '../pay-runs/corrections/whole-run';
import { changing } from '../users/changing';
import { holidaysOf, packFor, type Scope } from '../scope';
import { changeFacts } from '../people/dated-changes';
import { factsOf, type Facts } from '../people/facts';
import { PersonItem } from '../people/models';
import { schedulesOf } from '../employers/schedules-on-file';
import { personOf } from '../people/person';

export interface StoredLeaving {
  id: string;
  lastDay: string;
  reason: string;
  notice: NonNullable<Leaving>['notice'];
  paysLeave: boolean;
  runId: string | null;
  state: string | null;
  ended: { id: string; to: string | null }[];
  factsBefore: Pick<Facts, 'left' | 'leftReason'>;
  /** As it was entered; null for what was entered before that was kept. */
  entered: NonNullable<Leaving>['entered'];
  oneOffs: string[];
  by: string;
  at: string;
}

export async function storedOf(scope: Scope, personId: string, transaction?: Transaction): Promise<StoredLeaving | null> {
  const [stored] = await select<StoredLeaving>(
    scope.database,
    `select l.id, l.last_day as "lastDay", l.reason, l.notice, l.pays_leave as "paysLeave", l.run_id as "runId", r.state, l.ended, l.facts_before as "factsBefore", l.entered, l.one_offs as "oneOffs", u.name as by, to_char(l.entered_at, 'YYYY-MM-DD"T"HH24:MI:SS') as at
     from leavings l join people p on p.id = l.person_id and p.employer_id = :employer left join pay_runs r on r.id = l.run_id join users u on u.id = l.user_id
     where l.person_id = :personId and l.undone_at is null`,
    { personId, employer: scope.employer.id },
    transaction,
  );
  return stored ?? null;
}

export async function leavingOf(scope: Scope, id: string): Promise<Leaving> {
  await personOf(scope, id);
  const stored = await storedOf(scope, id);
  if (!stored) return null;
  const { ended: _ended, factsBefore: _before, paysLeave: _paysLeave, oneOffs: _oneOffs, ...view } = stored;
  return { ...view, certificate: packFor(scope).leaving.certificate?.name ?? null };
}

/** A person leaves: the record gets its end, recurring items end with the final pay, and what is paid beside the last hours is put into a run. */
export async function leave(scope: Scope, id: string, body: ParsedBodyOf<'leave'>): Promise<{ runId: string | null }> {
  return changing(scope, async (transaction) => {
    const person = await personOf(scope, id, transaction);
    if (await storedOf(scope, id, transaction))
      throw conflict('leaving-already', 'A leaving is entered for this person. Undo it first, or change its run.');
    if (person.hired && body.lastDay < person.hired)
      throw invalid('The last day is before the hire date. Correct it.', [{ path: 'lastDay', expected: 'a day after the hire date' }]);
    if (body.notice.until && body.notice.until <= body.lastDay)
      throw invalid('Notice that is not worked goes beyond the last day. Enter until when.', [
        { path: 'notice.until', expected: 'a day after the last day' },
      ]);
    if (body.notice.how === 'worked' && !body.notice.given)
      throw invalid('Notice that is worked was given on a day. Enter it.', [
        { path: 'notice.given', expected: 'the day notice was given' },
      ]);
    const { finalPay } = body;
    const pay = await regularPayOf(scope, person, body.lastDay, transaction);
    const amounts = body.amounts.map(({ note, ...amount }) => ({ ...amount, ...(note ? { note } : {}) }));
    let runId: string | null = null;
    let oneOffs: string[] = [];
    if (finalPay.in === 'own-run') {
      if (!person.scheduleId) throw invalid('Final pay needs a pay schedule. Enter it among the details first.');
      const run = await startSpecialRun(scope, {
        scheduleId: person.scheduleId,
        name: `Final pay, ${person.givenName} ${person.familyName}`,
        payDate: finalPay.payDate,
        rules: {
          items: [],
          ordinaryDeductions: finalPay.ordinaryDeductions,
          taxMethod: finalPay.taxMethod,
          takesWaiting: false,
          ...(body.paysLeave ? { paysOutLeave: true } : {}),
        },
        people: [{ personId: id, amounts }],
      });
      runId = run.id;
    } else {
      await refusePaidAlready(scope, person, body, pay, transaction);
      if (amounts.length)
        oneOffs = await enterOneOffs(
          scope,
          amounts.map(({ item, amount, note }) => ({
            person: person.code,
            item,
            amount,
            note: note ?? '',
            takes: pay ? { by: 'date', date: pay.period.payDate } : { by: 'next' },
          })),
        );
    }
    const ended = await endItems(scope, id, lastPayDate(body, pay), transaction);
    const before = factsOf(person);
    await changeFacts(
      scope,
      person,
      { left: body.lastDay, leftReason: body.reason },
      { from: scope.employer.today, reason: 'leaves' },
      transaction,
    );
    await execute(
      scope.database,
      `insert into leavings (person_id, last_day, reason, notice, run_id, ended, facts_before, pays_leave, entered, one_offs, user_id)
       values (:id, :lastDay, :reason, :notice, :runId, :ended, :before, :paysLeave, :entered, cast(:oneOffs as uuid[]), :user)`,
      {
        id,
        lastDay: body.lastDay,
        reason: body.reason,
        notice: JSON.stringify(body.notice),
        runId,
        paysLeave: body.paysLeave,
        entered: JSON.stringify(body),
        oneOffs: `{${oneOffs.join()}}`,
        ended: JSON.stringify(ended),
        before: JSON.stringify({ left: before.left ?? null, leftReason: before.leftReason ?? null }),
        user: scope.user.id,
      },
      transaction,
    );
    await factsChanged(scope, transaction);
    return { runId };
  });
}

interface RegularPay {
  period: PayPeriod;
  begun: { id: string; state: string } | null;
}

/** The regular pay of the period that holds the last day, and its run for somebody, where there is one. */
export async function regularPayOf(
  scope: Scope,
  person: { id: string; scheduleId: string | null },
  lastDay: string,
  transaction: Transaction,
): Promise<RegularPay | null> {
  const schedule = (await schedulesOf(scope)).find((candidate) => candidate.id === person.scheduleId);
  if (!schedule) return null;
  const period = periodOf(schedule, lastDay, holidaysOf(scope));
  const [begun] = await select<{ id: string; state: string }>(
    scope.database,
    `select r.id, r.state from pay_runs r join payslips y on y.run_id = r.id and y.person_id = :personId
     where r.schedule_id = :scheduleId and r.period_from = :from and r.kind = 'regular' and r.state <> 'withdrawn'`,
    { personId: person.id, scheduleId: schedule.id, from: period.from },
    transaction,
  );
  return { period, begun: begun ?? null };
}

/** After the period of the last day there is no regular pay any more that could take what is left to be paid. */
async function refusePaidAlready(
  scope: Scope,
  person: { id: string },
  { lastDay, amounts, paysLeave }: ParsedBodyOf<'leave'>,
  pay: RegularPay | null,
  transaction: Transaction,
): Promise<void> {
  if (pay?.begun?.state !== 'approved') return;
  const terms = paysLeave ? await termsOn(scope, lastDay, transaction) : new Map<string, { payOutItem?: string }>();
  const { plans } = await personLeave(scope, person.id);
  if (!amounts.length && !plans.some(({ planId, balance }) => balance > 0 && terms.get(planId)?.payOutItem !== undefined)) return;
  throw invalid(
    `${writtenPeriod(pay.period.from, pay.period.to)} is paid already, and no regular run comes after it for somebody who has left. Choose a run of its own for what is left to be paid.`,
    [{ path: 'finalPay.in', expected: 'a run of its own' }],
  );
}

/** The latest day on which anything is paid: the day of an own run, or the pay date of the period that holds the last day. */
const lastPayDate = ({ lastDay, finalPay }: ParsedBodyOf<'leave'>, pay: RegularPay | null): string =>
  [lastDay, pay?.period.payDate ?? '', finalPay.in === 'own-run' ? finalPay.payDate : ''].sort().at(-1) ?? lastDay;

async function endItems(scope: Scope, personId: string, last: string, transaction: Transaction): Promise<StoredLeaving['ended']> {
  const held = await PersonItem.findAll({ where: { personId }, transaction, lock: transaction.LOCK.UPDATE });
  const ended: StoredLeaving['ended'] = [];
  for (const item of held) {
    if (item.toDate !== null && item.toDate <= last) continue;
    ended.push({ id: item.id, to: item.toDate });
    await item.update({ toDate: item.fromDate > last ? item.fromDate : last }, { transaction });
  }
  if (ended.length)
    await record(
      scope,
      {
        action: 'end-item',
        subject: 'person',
        subjectId: personId,
        what: `${ended.length === 1 ? 'One recurring item ends' : `${ended.length} recurring items end`} with the final pay, ${writtenDate(last)}`,
      },
      transaction,
    );
  return ended;
}

/** A leaving entered otherwise, as long as its final pay is not approved: the one before is undone with everything it had done. */
export async function changeLeaving(scope: Scope, id: string, body: ParsedBodyOf<'leave'>): Promise<{ runId: string | null }> {
  return changing(scope, async (transaction) => {
    const stored = await storedOf(scope, id, transaction);
    if (!stored) throw notFound('leaving');
    if (stored.state === 'approved')
      throw conflict(
        'approved',
        'The final pay is approved, so the leaving stands as it is. Undo it, which reverses the final pay, and enter it anew.',
      );
    await undoLeaving(scope, id, 'entered otherwise');
    return leave(scope, id, body);
  });
}

/** What the leaving put before the regular run goes with it, as long as it is not paid. */
async function takeOff(scope: Scope, oneOffs: readonly string[], transaction: Transaction): Promise<void> {
  if (!oneOffs.length) return;
  const still = await select<{ id: string; state: string | null; payDate: string | null }>(
    scope.database,
    `select o.id, y.state, r.pay_date as "payDate" from one_offs o left join payslips y on y.id = o.payslip_id left join pay_runs r on r.id = y.run_id where o.id in (:oneOffs)`,
    { oneOffs },
    transaction,
  );
  const paid = still.find(({ state }) => state === 'posted');
  if (paid)
    throw conflict(
      'paid-already',
      `What is paid beside the last hours was paid on ${writtenDay(paid.payDate ?? '')}. Reverse that payslip first, then undo the leaving.`,
    );
  for (const { id } of still) await removeOneOff(scope, id);
}

/** The final run is deleted, or reversed when it was approved; the record's end and the items are as they were before. */
export async function undoLeaving(scope: Scope, id: string, reason: string): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const person = await personOf(scope, id, transaction);
    const stored = await storedOf(scope, id, transaction);
    if (!stored) throw notFound('leaving');
    if (stored.runId) {
      const run = await openRun(scope, stored.runId, transaction);
      await execute(scope.database, 'update leavings set run_id = null where id = :id', { id: stored.id }, transaction);
      if (run.state === 'approved') await reverseRun(scope, run.id, `Leaving undone: ${reason}`, false);
      else if (run.state !== 'withdrawn') await deleteRun(scope, run.id);
    }
    await takeOff(scope, stored.oneOffs, transaction);
    for (const { id: itemId, to } of stored.ended)
      await PersonItem.update({ toDate: to }, { where: { id: itemId, personId: id }, transaction });
    await person.reload({ transaction });
    await changeFacts(scope, person, stored.factsBefore, { from: scope.employer.today, reason: `leaving undone: ${reason}` }, transaction);
    await execute(scope.database, 'update leavings set undone_at = now() where id = :id', { id: stored.id }, transaction);
    await factsChanged(scope, transaction);
    return {};
  });
}
