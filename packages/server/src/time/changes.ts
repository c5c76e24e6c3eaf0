import type { ParsedBodyOf, TimeChange } from '@woodruff/contract';
import { addDays, Exact, hoursBetween, periodOf, writtenDay } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select, type Transaction } from '../database/connection';
import { conflict, invalid, notFound } from '../errors';
import { changing } from '../users/changing';
import { holidaysOf, type Scope } from '../scope';
import { timeRulesOf } from '../payslip-input/time-rules';
import { refuseLocked, saveSheets } from './service';
import { sheetsOf } from './sheets';
import { schedulesOf } from '../employers/schedules-on-file';

/** So far back a day can be asked about. */
const DAYS_BACK = 120;
/** What the place of a line says that came from an answer. */
export const AS_ASKED = 'as asked by the employee';

const CHANGE = `c.id, c.on_date as date, trim_scale(c.hours)::text as hours, c.begins, c.ends, c.break_minutes as "breakMinutes", c.reason, c.state, c.answer`;

/** Changes that people asked for: all of one person, or those of a period that nobody answered yet, by person. */
export function changesOfPerson(scope: Scope, personId: string): Promise<TimeChange[]> {
  return select<TimeChange>(
    scope.database,
    `select ${CHANGE} from time_changes c where c.employer_id = :employer and c.person_id = :personId order by c.asked_at desc limit 30`,
    { employer: scope.employer.id, personId },
  );
}

export async function changesAsked(scope: Scope, period: { from: string; to: string }): Promise<Map<string, TimeChange[]>> {
  const rows = await select<TimeChange & { personId: string }>(
    scope.database,
    `select c.person_id as "personId", ${CHANGE} from time_changes c where c.employer_id = :employer and c.state = 'asked' and c.on_date between :from and :to order by c.on_date`,
    { employer: scope.employer.id, from: period.from, to: period.to },
  );
  const byPerson = new Map<string, TimeChange[]>();
  for (const { personId, ...change } of rows) byPerson.set(personId, [...(byPerson.get(personId) ?? []), change]);
  return byPerson;
}

/** Changes that nobody answered yet, counted by the period that they belong to. */
export async function periodsAsked(scope: Scope): Promise<{ scheduleId: string; from: string; to: string; changes: number }[]> {
  const rows = await select<{ scheduleId: string | null; date: string }>(
    scope.database,
    `select p.schedule_id as "scheduleId", c.on_date as date from time_changes c join people p on p.id = c.person_id where c.employer_id = :employer and c.state = 'asked' order by c.on_date`,
    { employer: scope.employer.id },
  );
  const schedules = new Map((await schedulesOf(scope)).map((schedule) => [schedule.id, schedule]));
  const found = new Map<string, { scheduleId: string; from: string; to: string; changes: number }>();
  for (const { scheduleId, date } of rows) {
    const schedule = schedules.get(scheduleId ?? '');
    if (!schedule) continue;
    const { from, to } = periodOf(schedule, date, holidaysOf(scope));
    const key = `${schedule.id} ${from}`;
    found.set(key, { scheduleId: schedule.id, from, to, changes: (found.get(key)?.changes ?? 0) + 1 });
  }
  return [...found.values()];
}

export async function askTimeChange(scope: Scope, personId: string, ask: ParsedBodyOf<'askTimeChange'>): Promise<{ id: string }> {
  const { today } = scope.employer;
  if (ask.date > today || ask.date < addDays(today, -DAYS_BACK))
    throw invalid(`A day from ${writtenDay(addDays(today, -DAYS_BACK))} to today can be changed.`, [
      { path: 'date', expected: 'a day of the last months' },
    ]);
  const hours = ask.begins && ask.ends ? hoursBetween(ask.begins, ask.ends, ask.breakMinutes) : (ask.hours ?? '0');
  if (Exact.of(hours).isAbove(Exact.whole(24))) throw invalid('A day has 24 hours.', [{ path: 'hours', expected: 'at most 24' }]);
  const [waiting] = await select<{ id: string }>(
    scope.database,
    `select id from time_changes where person_id = :personId and on_date = :date and state = 'asked'`,
    { personId, date: ask.date },
  );
  if (waiting) throw conflict('asked-already', `A change of ${writtenDay(ask.date)} was asked for already. Take it back first.`);
  const [made] = (await execute(
    scope.database,
    `insert into time_changes (employer_id, person_id, on_date, hours, begins, ends, break_minutes, reason)
     values (:employer, :personId, :date, :hours, :begins, :ends, :breakMinutes, :reason) returning id`,
    {
      employer: scope.employer.id,
      personId,
      date: ask.date,
      hours,
      begins: ask.begins && ask.ends ? ask.begins : null,
      ends: ask.begins && ask.ends ? ask.ends : null,
      breakMinutes: ask.breakMinutes,
      reason: ask.reason,
    },
  )) as { id: string }[];
  return { id: made?.id ?? '' };
}

export async function withdrawTimeChange(scope: Scope, personId: string, id: string): Promise<Record<string, never>> {
  const gone = (await execute(
    scope.database,
    `update time_changes set state = 'withdrawn' where id = :id and person_id = :personId and employer_id = :employer and state = 'asked' returning id`,
    { id, personId, employer: scope.employer.id },
  )) as object[];
  if (!gone.length) throw conflict('answered', 'This change was answered meanwhile.');
  return {};
}

/** Puts the day as it was asked into the sheet, or declines it. The sheet then waits for approval as after any change. */
export async function answerTimeChange(
  scope: Scope,
  id: string,
  { accept, answer }: ParsedBodyOf<'answerTimeChange'>,
): Promise<{ paid: boolean }> {
  if (!accept && answer.length < 3)
    throw invalid('Say why the change is declined: the employee reads it.', [
      { path: 'answer', expected: 'a reason of at least three letters' },
    ]);
  return changing(scope, async (transaction) => {
    const [change] = await select<TimeChange & { personId: string; scheduleId: string }>(
      scope.database,
      `select c.person_id as "personId", p.schedule_id as "scheduleId", ${CHANGE} from time_changes c join people p on p.id = c.person_id
       where c.id = :id and c.employer_id = :employer for update of c`,
      { id, employer: scope.employer.id },
      transaction,
    );
    if (!change) throw notFound('change of time');
    if (change.state !== 'asked') throw conflict('answered', `This change was ${change.state} meanwhile.`);
    const paid = accept ? await putIntoSheet(scope, change, transaction) : false;
    await execute(
      scope.database,
      'update time_changes set state = :state, answer = :answer, answered_by = :user, answered_at = now() where id = :id',
      { id, state: accept ? 'accepted' : 'declined', answer, user: scope.user.id },
      transaction,
    );
    await record(
      scope,
      {
        action: 'time-change',
        subject: 'person',
        subjectId: change.personId,
        what: `${accept ? 'Accepted' : 'Declined'} a change of ${writtenDay(change.date)} to ${change.hours} hours${answer ? `: ${answer}` : ''}`,
      },
      transaction,
    );
    return { paid };
  });
}

/** @returns whether the period was paid already: then the difference is for back pay */
async function putIntoSheet(
  scope: Scope,
  change: TimeChange & { personId: string; scheduleId: string },
  transaction: Transaction,
): Promise<boolean> {
  const schedule = (await schedulesOf(scope)).find((one) => one.id === change.scheduleId);
  if (!schedule) throw notFound('pay schedule');
  const period = periodOf(schedule, change.date, holidaysOf(scope));
  await refuseLocked(scope, schedule.id, period, transaction);
  const sheet = (await sheetsOf(scope, schedule, period, timeRulesOf(scope, period.from, period.to), transaction)).find(
    (one) => one.personId === change.personId,
  );
  if (!sheet) throw conflict('not-hourly', 'The employee is not paid by the hour on this schedule in that period.');
  const kept = (sheet.lines ?? []).filter((line) => line.date !== change.date || line.item);
  const { date, hours, begins, ends, breakMinutes } = change;
  const day = Exact.of(hours).isZero() ? [] : [{ date, hours: begins ? null : hours, begins, ends, breakMinutes, place: AS_ASKED }];
  await saveSheets(
    scope,
    schedule,
    period,
    [{ personId: change.personId, version: sheet.version ?? 0, lines: [...kept, ...day] }],
    transaction,
  );
  const [paid] = await select<{ id: string }>(
    scope.database,
    `select y.id from payslips y join pay_runs r on r.id = y.run_id where y.person_id = :person and y.state = 'posted' and r.kind in ('regular', 'correction') and r.period_from = :from`,
    { person: change.personId, from: period.from },
    transaction,
  );
  return !!paid;
}

/** The time of somebody's latest periods, day by day; null for who is not paid by the hour. */
export async function timeOfPerson(
  scope: Scope,
  personId: string,
): Promise<{
  periods: {
    from: string;
    to: string;
    state: 'none' | 'open' | 'submitted' | 'approved' | 'returned';
    days: { date: string; hours: string }[];
  }[];
} | null> {
  const [person] = await select<{ scheduleId: string }>(
    scope.database,
    `select p.schedule_id as "scheduleId" from people p where p.id = :personId and p.employer_id = :employer
       and (select r.per from pay_rates r where r.person_id = p.id and r.is_primary and r.from_date <= :today order by r.from_date desc limit 1) = 'hour'`,
    { personId, employer: scope.employer.id, today: scope.employer.today },
  );
  const schedule = person && (await schedulesOf(scope)).find((one) => one.id === person.scheduleId);
  if (!schedule) return null;
  const holiday = holidaysOf(scope);
  const now = periodOf(schedule, scope.employer.today, holiday);
  const before = periodOf(schedule, addDays(now.from, -1), holiday);
  const periods = [];
  for (const { from, to } of [now, before]) {
    const days = await select<{ date: string; hours: string }>(
      scope.database,
      `select t.on_date as date, trim_scale(sum(t.hours))::text as hours from time_entries t where t.person_id = :personId and t.on_date between :from and :to group by 1 order by 1`,
      { personId, from, to },
    );
    const [sheet] = await select<{ state: 'open' | 'submitted' | 'approved' | 'returned' }>(
      scope.database,
      'select state from timesheets where person_id = :personId and period_from = :from',
      { personId, from },
    );
    periods.push({ from, to, state: sheet?.state ?? ('none' as const), days });
  }
  return { periods };
}
