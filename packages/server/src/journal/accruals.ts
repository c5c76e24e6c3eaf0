import type { AccrualView } from '@woodruff/contract';
import { addDays, addMonths, counted, nextPeriod, weekdaysBetween, writtenDate } from '@woodruff/core';
import { record } from '../audit/audit';
import { select, type Transaction } from '../database/connection';
import { schedulesOf } from '../employers/schedules-on-file';
import { conflict } from '../errors';
import { holidaysOf, type Scope } from '../scope';
import { changing } from '../users/changing';
import { accountsOf, BOOKS } from './accounts';
import { enter, merged, PLAIN, type Entry, type Line } from './entries';
import { leaveOwedOn } from './leave-owed';
import { previewOf } from './post-pay';

/** The last day of the month of a day. */
export const monthsEnd = (date: string): string => addDays(addMonths(`${date.slice(0, 7)}-01`, 1), -1);

interface Work {
  runId: string;
  from: string;
  to: string;
  payDate: string;
  state: 'approved' | 'open' | 'expected';
}

/** What is accrued on a day: pay that was worked for and not paid, and leave owed where that is wanted. */
interface Accrued {
  parts: AccrualView['parts'];
  pay: Line[];
  leave: Awaited<ReturnType<typeof leaveOwedOn>> | null;
}

async function accruedOn(scope: Scope, end: string): Promise<Accrued> {
  const parts: AccrualView['parts'] = [];
  const lines: Line[] = [];
  for (const { runId, from, to, payDate, state } of await workUntil(scope, end)) {
    const [days, ofDays] = [weekdaysBetween(from, to < end ? to : end), weekdaysBetween(from, to)];
    if (!days) continue;
    const cost =
      state === 'open' ? (await previewOf(scope, runId)).filter(({ side }) => side === 'expense') : await postedCost(scope, runId);
    const share = cost.map((line) => ({
      ...line,
      ...PLAIN,
      department: line.department,
      amount: Math.round((line.amount * days) / ofDays),
    }));
    lines.push(...share);
    parts.push({ runId, from, to, payDate, state, days, ofDays, cost: sumOf(cost), accrued: sumOf(share) });
  }
  const expenses = merged(lines);
  const { account } = (await accountsOf(scope)).find({ side: 'liability', code: BOOKS.accrued }, 'accrued');
  const total = sumOf(expenses);
  return {
    parts,
    pay: total ? [...expenses, { ...PLAIN, account, side: 'liability', words: 'Accrued pay', amount: -total }] : [],
    leave: scope.employer.facts.leaveOwed ? await leaveOwedOn(scope, end) : null,
  };
}

const sumOf = (lines: readonly { amount: number }[]): number => lines.reduce((sum, { amount }) => sum + amount, 0);

/**
 * What was worked until a month's end and is paid after it: of approved runs as they were posted, of open ones as they
 * are calculated now, and of periods without a run as the schedule's last run was. Cost counts by the weekdays of its period.
 */
export async function accrualOf(scope: Scope, end: string): Promise<AccrualView> {
  const { parts, pay, leave } = await accruedOn(scope, end);
  const { facts, today } = scope.employer;
  return {
    end,
    over: end < today,
    accruals: facts.accruals,
    leaveOwed: facts.leaveOwed,
    parts,
    total: sumOf(pay.filter(({ side }) => side === 'expense')),
    leave: leave?.people ?? null,
    lines: [...pay, ...(leave?.lines ?? [])],
    posted: sumOf((await postedLines(scope, end, 'accrual')).filter(({ side }) => side === 'expense')),
    toPost: (await toPost(scope, end, { pay, leave })).some(({ lines }) => lines.length > 0),
  };
}

/** Regular runs whose period reached into the month and that are paid after its end; and the periods that have none yet. */
async function workUntil(scope: Scope, end: string): Promise<Work[]> {
  const runs = await select<Work & { scheduleId: string }>(
    scope.database,
    `select r.id as "runId", r.schedule_id as "scheduleId", r.period_from as "from", r.period_to as "to", r.pay_date as "payDate", case when r.state = 'approved' then 'approved' else 'open' end as state
     from pay_runs r where r.employer_id = :employer and r.kind = 'regular' and r.state in ('approved', 'open', 'submitted', 'calculating') and r.period_from <= :end order by r.period_from`,
    { employer: scope.employer.id, end },
  );
  const work: Work[] = runs.filter(({ payDate }) => payDate > end);
  const isHoliday = holidaysOf(scope);
  for (const schedule of await schedulesOf(scope)) {
    const own = runs.filter(({ scheduleId }) => scheduleId === schedule.id);
    const [latest, model] = [own.at(-1), own.filter(({ state }) => state === 'approved').at(-1)];
    if (!latest || !model) continue;
    for (let period = nextPeriod(schedule, latest, isHoliday); period.from <= end; period = nextPeriod(schedule, period, isHoliday))
      if (period.payDate > end) work.push({ ...period, runId: model.runId, state: 'expected' });
  }
  return work;
}

const postedCost = (scope: Scope, runId: string): Promise<Line[]> =>
  select<Line>(
    scope.database,
    `select n.account, n.side, sum(n.amount)::bigint as amount, n.words, n.department, '' as owed, '[]'::jsonb as codes, null::uuid as "payslipId", null::uuid as "runId"
     from journal_lines n join journal_entries e on e.id = n.entry_id and e.employer_id = :employer and e.kind = 'pay' where n.side = 'expense' and coalesce(n.run_id, e.source_id) = :runId group by 1, 2, 4, 5`,
    { employer: scope.employer.id, runId },
  );

/** What is posted as accrued on a day, or as leave owed until it. */
const postedLines = (scope: Scope, end: string, kind: 'accrual' | 'leave', transaction?: Transaction): Promise<Line[]> =>
  select<Line>(
    scope.database,
    `select n.account, n.side, sum(n.amount)::bigint as amount, n.words, n.department, '' as owed, '[]'::jsonb as codes, null::uuid as "payslipId", null::uuid as "runId"
     from journal_lines n join journal_entries e on e.id = n.entry_id where e.employer_id = :employer and e.kind = :kind and ${kind === 'leave' ? 'e.on_day <= :end' : 'e.on_day = :end'} group by 1, 2, 4, 5`,
    { employer: scope.employer.id, end, kind },
    transaction,
  );

/** What has to be entered so that what is posted becomes what it should be. */
const differing = (wanted: readonly Line[], posted: readonly Line[]): Line[] =>
  merged([...wanted, ...posted.map((line) => ({ ...line, amount: -line.amount }))]);

async function toPost(
  scope: Scope,
  end: string,
  { pay, leave }: Pick<Accrued, 'pay' | 'leave'>,
  transaction?: Transaction,
): Promise<Entry[]> {
  const accrual = differing(pay, await postedLines(scope, end, 'accrual', transaction));
  const change = leave ? differing(leave.lines, await postedLines(scope, end, 'leave', transaction)) : [];
  const entries: Entry[] = [
    { on: end, kind: 'accrual', source: null, words: `Accrued on ${writtenDate(end)}`, lines: accrual },
    {
      on: addDays(end, 1),
      kind: 'accrual-back',
      source: null,
      words: `Taken back: accrued on ${writtenDate(end)}`,
      lines: accrual.map((line) => ({ ...line, amount: -line.amount })),
    },
    { on: end, kind: 'leave', source: null, words: `Leave owed on ${writtenDate(end)}`, lines: change },
  ];
  return entries.filter(({ lines }) => lines.length);
}

/**
 * Posts what is accrued at a month's end, with its reversal on the next day; and leave owed, by what it changed. Posted
 * again it enters only what differs.
 */
export async function accrue(scope: Scope, end: string, byItself = false): Promise<{ entries: number }> {
  if (end !== monthsEnd(end) || end >= scope.employer.today)
    throw conflict('month-runs', `What is accrued is posted at a month's end, once it is over. ${writtenDate(end)} is not.`);
  return changing(scope, async (transaction) => {
    const entries = await toPost(scope, end, await accruedOn(scope, end), transaction);
    await enter(scope, entries, transaction);
    if (entries.length)
      await record(
        scope,
        {
          action: 'accrue',
          subject: 'employer',
          subjectId: scope.employer.id,
          what: `Accrued on ${writtenDate(end)}: ${counted(entries.length, 'entry', 'entries')}${byItself ? ', by itself as set up' : ''}`,
        },
        transaction,
      );
    return { entries: entries.length };
  });
}

/** Where it is wanted, posts what the month before accrued, once it is over. */
export async function accrueWhenDue(scope: Scope): Promise<void> {
  if (scope.employer.facts.accruals !== 'month') return;
  const end = addDays(`${scope.employer.today.slice(0, 7)}-01`, -1);
  const [done] = await select<{ id: number }>(
    scope.database,
    `select id from journal_entries where employer_id = :employer and kind in ('accrual', 'leave') and on_day = :end limit 1`,
    { employer: scope.employer.id, end },
  );
  if (!done) await accrue(scope, end, true);
}
