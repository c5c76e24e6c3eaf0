import type { AnswerOf, Leaving, ParsedBodyOf, ParsedQueryOf } from '@woodruff/contract';
import {
  addDays,
  CannotCompute,
  leaveCode,
  noticePay,
  Paper,
  payDatesInYear,
  periodOf,
  written,
  writtenDate,
  writtenDay,
  yearOf,
  type Rate,
} from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select, within, type Transaction } from '../database/connection';
import { LEFT, RIGHT, SECOND_INK, Sheet } from '../documents/pdf';
import { logoOf } from '../employers/logo';
import { factsChanged } from '../employers/facts-version';
import { conflict, invalid, notFound } from '../errors';
import { termsOn } from '../leave/facts';
import { personLeave } from '../leave/person-leave';
import { addOneOffs } from '../one-offs/service';
import { openRun } from '../pay-runs/calculation';
import { payslipsOfRun, viewOf } from '../pay-runs/payslips';
import { startSpecialRun } from '../pay-runs/special';
import { deleteRun, schedulesOf } from '../pay-runs/start';
import { reverseRun } from '../pay-runs/whole-run';
import { holidaysOf, type Scope } from '../users/scope';
import { changeFacts } from './dated-changes';
import { factsOf, type Facts } from './facts';
import { PersonItem } from './models';
import { personOf } from './service';

interface Stored {
  id: string;
  lastDay: string;
  reason: string;
  notice: NonNullable<Leaving>['notice'];
  paysLeave: boolean;
  runId: string | null;
  state: string | null;
  ended: { id: string; to: string | null }[];
  factsBefore: Pick<Facts, 'left' | 'leftReason'>;
  by: string;
  at: string;
}

async function storedOf(scope: Scope, personId: string, transaction?: Transaction): Promise<Stored | null> {
  const [stored] = await select<Stored>(
    scope.database,
    `select l.id, l.last_day as "lastDay", l.reason, l.notice, l.pays_leave as "paysLeave", l.run_id as "runId", r.state, l.ended, l.facts_before as "factsBefore", u.name as by, to_char(l.entered_at, 'YYYY-MM-DD"T"HH24:MI:SS') as at
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
  const { ended: _ended, factsBefore: _before, paysLeave: _paysLeave, ...view } = stored;
  return view;
}

/** A person leaves: the record gets its end, recurring items end with the final pay, and what is paid beside the last hours is put into a run. */
export async function leave(scope: Scope, id: string, body: ParsedBodyOf<'leave'>): Promise<{ runId: string | null }> {
  return scope.database.transaction(async (transaction) => {
    const inside = { ...scope, database: within(scope.database, transaction) };
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
    const amounts = body.amounts.map(({ note, ...amount }) => ({ ...amount, ...(note ? { note } : {}) }));
    let runId: string | null = null;
    if (finalPay.in === 'own-run') {
      if (!person.scheduleId) throw invalid('Final pay needs a pay schedule. Enter it among the facts first.');
      const run = await startSpecialRun(inside, {
        scheduleId: person.scheduleId,
        name: `Final pay, ${person.givenName} ${person.familyName}`,
        payDate: finalPay.payDate,
        rules: {
          items: [],
          ordinaryDeductions: finalPay.ordinaryDeductions,
          supplemental: finalPay.supplemental,
          takesWaiting: false,
          ...(body.paysLeave ? { paysOutLeave: true } : {}),
        },
        people: [{ personId: id, amounts }],
      });
      runId = run.id;
    } else if (amounts.length)
      await addOneOffs(inside, {
        entries: amounts.map(({ item, amount, note }) => ({ person: person.code, item, amount, note: note ?? '', takes: { by: 'next' } })),
      });
    const ended = await endItems(scope, id, await lastPayDate(scope, person.scheduleId, body), transaction);
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
      `insert into leavings (person_id, last_day, reason, notice, run_id, ended, facts_before, pays_leave, user_id) values (:id, :lastDay, :reason, :notice, :runId, :ended, :before, :paysLeave, :user)`,
      {
        id,
        lastDay: body.lastDay,
        reason: body.reason,
        notice: JSON.stringify(body.notice),
        runId,
        paysLeave: body.paysLeave,
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

/** What notice from the day after the last one comes to, at the rate of the last day. */
export async function noticePayOf(
  scope: Scope,
  id: string,
  { lastDay, until }: ParsedQueryOf<'noticePay'>,
): Promise<AnswerOf<'noticePay'>> {
  const person = await personOf(scope, id);
  if (until <= lastDay)
    throw invalid('Notice that is not worked goes beyond the last day. Enter until when.', [
      { path: 'until', expected: 'a day after the last day' },
    ]);
  const schedule = (await schedulesOf(scope)).find((candidate) => candidate.id === person.scheduleId);
  if (!schedule) throw invalid('A pay schedule is missing. Enter it among the facts first.');
  const [rate] = await select<Rate>(
    scope.database,
    `select series as id, label, per, trim_scale(amount)::text as amount from pay_rates where person_id = :id and is_primary and from_date <= :lastDay order by from_date desc limit 1`,
    { id, lastDay },
  );
  const paper = new Paper(true);
  const dates = payDatesInYear(schedule, yearOf(lastDay), holidaysOf(scope));
  try {
    const figure = noticePay(rate, person.standardHours ?? undefined, dates, { from: addDays(lastDay, 1), to: until }, paper);
    return { amount: figure.amount.toDecimal(2), workings: paper.workings };
  } catch (error) {
    if (error instanceof CannotCompute) throw invalid(error.message);
    throw error;
  }
}

/** The day of the final pay: its own, or the pay date of the period that holds the last day. */
async function lastPayDate(scope: Scope, scheduleId: string | null, body: ParsedBodyOf<'leave'>): Promise<string> {
  const own = body.finalPay.in === 'own-run' ? body.finalPay.payDate : body.lastDay;
  const schedule = (await schedulesOf(scope)).find((candidate) => candidate.id === scheduleId);
  if (!schedule) return own > body.lastDay ? own : body.lastDay;
  const regular = periodOf(schedule, body.lastDay, holidaysOf(scope)).payDate;
  return [own, regular, body.lastDay].sort().at(-1) ?? body.lastDay;
}

async function endItems(scope: Scope, personId: string, last: string, transaction: Transaction): Promise<Stored['ended']> {
  const held = await PersonItem.findAll({ where: { personId }, transaction, lock: transaction.LOCK.UPDATE });
  const ended: Stored['ended'] = [];
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

/** The final run is deleted, or reversed when it was approved; the record's end and the items are as they were before. */
export async function undoLeaving(scope: Scope, id: string, reason: string): Promise<Record<string, never>> {
  return scope.database.transaction(async (transaction) => {
    const inside = { ...scope, database: within(scope.database, transaction) };
    const person = await personOf(scope, id, transaction);
    const stored = await storedOf(scope, id, transaction);
    if (!stored) throw notFound('leaving');
    if (stored.runId) {
      const run = await openRun(inside, stored.runId, transaction);
      await execute(scope.database, 'update leavings set run_id = null where id = :id', { id: stored.id }, transaction);
      if (run.state === 'approved') await reverseRun(inside, run.id, `Leaving undone: ${reason}`, false);
      else if (run.state !== 'withdrawn') await deleteRun(inside, run.id);
    }
    for (const { id: itemId, to } of stored.ended)
      await PersonItem.update({ toDate: to }, { where: { id: itemId, personId: id }, transaction });
    await person.reload({ transaction });
    await changeFacts(scope, person, stored.factsBefore, { from: scope.employer.today, reason: `leaving undone: ${reason}` }, transaction);
    await execute(scope.database, 'update leavings set undone_at = now() where id = :id', { id: stored.id }, transaction);
    await factsChanged(scope, transaction);
    return {};
  });
}

/** What is left of each plan, and what becomes of it: by itself, beside the final pay. */
async function unusedLeave(scope: Scope, id: string, paysLeave: boolean): Promise<{ plan: string; words: string }[]> {
  const terms = await termsOn(scope, scope.employer.today);
  const { plans } = await personLeave(scope, id);
  return plans.flatMap(({ plan, planId, code, balance, movements }) => {
    const paidOut = -movements.filter((one) => one.figure === leaveCode(code, 'paid-out')).reduce((sum, one) => sum + one.amount, 0);
    if (paidOut > 0) return [{ plan, words: `${written(paidOut)} hours, paid out` }];
    if (balance <= 0) return [];
    const pays = paysLeave && terms.get(planId)?.payOutItem !== undefined;
    return [{ plan, words: `${written(balance)} hours on file, ${pays ? 'paid out with the final pay' : 'not paid out'}` }];
  });
}

const NOTICE = { none: 'none', worked: 'worked', paid: 'paid, not worked', deducted: 'deducted' } as const;

/** For the employee: when and why employment ends, notice, final pay and the year's sums. */
export async function leavingStatement(scope: Scope, id: string): Promise<Buffer> {
  const person = await personOf(scope, id);
  const stored = await storedOf(scope, id);
  if (!stored) throw notFound('leaving');
  const sheet = new Sheet('Statement on leaving').page();
  const logo = await logoOf(scope);
  if (logo) sheet.logo(logo.image);
  const { address } = scope.employer.facts;
  sheet.title(scope.employer.name, logo ? '' : 'Statement on leaving');
  sheet.text(`${address.line1}, ${address.city}, ${address.state} ${address.postcode}`, { color: SECOND_INK });
  sheet.heading('Employment');
  const row = (label: string, value: string) =>
    sheet.row([
      { text: label, at: LEFT, width: 180 },
      { text: value, at: LEFT + 190, width: 300 },
    ]);
  row('Name', `${person.givenName} ${person.familyName}`);
  row('Employed', `${person.hired ? writtenDay(person.hired) : ''} to ${writtenDay(stored.lastDay)}`);
  row('Reason', stored.reason);
  const { how, given, until } = stored.notice;
  row('Notice', `${NOTICE[how]}${given ? `, given ${writtenDay(given)}` : ''}${until ? `, until ${writtenDay(until)}` : ''}`);
  const unused = await unusedLeave(scope, id, stored.paysLeave);
  if (unused.length) {
    sheet.heading('Leave not taken');
    for (const { plan, words } of unused) row(plan, words);
  }
  if (stored.runId) {
    const payslip = (await payslipsOfRun(scope, stored.runId)).map((one) => viewOf(one)).find((one) => one.personId === id);
    if (payslip) {
      sheet.heading(`Final pay, ${writtenDay(payslip.payDate)}${stored.state === 'approved' ? '' : ', not approved yet'}`);
      for (const line of payslip.lines.filter(
        (one) => ['earning', 'reimbursement', 'deduction-before-tax', 'tax', 'deduction-after-tax'].includes(one.kind) && !one.hidden,
      ))
        sheet.row([
          { text: line.label, at: LEFT, width: 300 },
          {
            text: written(['earning', 'reimbursement'].includes(line.kind) ? line.amount : -line.amount),
            at: RIGHT,
            right: true,
            width: 120,
          },
        ]);
      sheet.rule('#1E2730');
      sheet.row(
        [
          { text: 'Net pay', at: LEFT },
          { text: written(payslip.totals.net), at: RIGHT, right: true, width: 120 },
        ],
        'bold',
      );
    }
  } else sheet.text(`Final pay is part of the regular pay on or after ${writtenDay(addDays(stored.lastDay, 1))}.`);
  return sheet.finish(scope.employer.name);
}
