import type { ParsedBodyOf, TimeLine, TimePage } from '@woodruff/contract';
import { Exact, hoursBetween, writtenDay, type PayPeriod } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select, type Transaction } from '../database/connection';
import { conflict, invalid } from '../errors';
import { workOutAgain } from '../calculation/again';
import { changing } from '../users/changing';
import type { Scope } from '../scope';
import { timeRulesOf } from '../payslip-input/time-rules';
import { periodAsked, sheetsOf, type Schedule, type Sheet } from './sheets';

/** Saves sheets whole. An approved one is open again, and its payslip goes back to what holds without it. */
export async function saveTime(scope: Scope, body: ParsedBodyOf<'saveTime'>): Promise<Record<string, never>> {
  const { schedule, period } = await periodAsked(scope, body);
  return changing(scope, async (transaction) => {
    await refuseLocked(scope, schedule.id, period, transaction);
    await saveSheets(scope, schedule, period, body.sheets, transaction);
    return {};
  });
}

export async function saveSheets(
  scope: Scope,
  schedule: Schedule,
  period: PayPeriod,
  wanted: ParsedBodyOf<'saveTime'>['sheets'],
  transaction: Transaction,
): Promise<void> {
  const rules = timeRulesOf(scope, period.from, period.to);
  const sheets = new Map((await sheetsOf(scope, schedule, period, rules, transaction)).map((sheet) => [sheet.personId, sheet]));
  const reopened: string[] = [];
  const rows: object[] = [];
  for (const { personId, version, lines } of wanted) {
    const sheet = sheets.get(personId);
    if (!sheet)
      throw invalid('Somebody in the list is not paid by the hour on this schedule in the period.', [
        { path: 'sheets', expected: 'hourly people of the schedule' },
      ]);
    if ((sheet.version ?? 0) !== version)
      throw conflict(
        'changed-meanwhile',
        `Somebody else changed the time of ${sheet.name} meanwhile. Look at it again, then enter yours if it still holds.`,
      );
    const [saved] = (await execute(
      scope.database,
      `insert into timesheets (employer_id, person_id, period_from, period_to) values (:employer, :personId, :from, :to)
       on conflict (person_id, period_from) do update set state = 'open', version = timesheets.version + 1 returning id`,
      { employer: scope.employer.id, personId, from: period.from, to: period.to },
      transaction,
    )) as { id: string }[];
    await execute(scope.database, 'delete from time_entries where timesheet_id = :id', { id: saved?.id }, transaction);
    rows.push(...lines.map((line) => rowOf(line, sheet, saved?.id ?? '', period)));
    if (sheet.state === 'approved') reopened.push(personId);
    await record(
      scope,
      {
        action: 'time',
        subject: 'person',
        subjectId: personId,
        what: `Time of the period from ${writtenDay(period.from)}: ${totalOf(rows, saved?.id ?? '')} hours`,
        before: sheet.lines ?? undefined,
        after: lines,
      },
      transaction,
    );
  }
  if (rows.length)
    await execute(
      scope.database,
      `insert into time_entries (timesheet_id, person_id, on_date, hours, rate, item, begins, ends, break_minutes, place, quantity)
       select e.sheet, e.person, e.date, e.hours, e.rate, e.item, e.begins, e.ends, e."breakMinutes", e.place, e.quantity
       from jsonb_to_recordset(cast(:rows as jsonb)) as e(sheet uuid, person uuid, date date, hours numeric, rate text, item text, begins text, ends text, "breakMinutes" int, place text, quantity numeric)`,
      { rows: JSON.stringify(rows) },
      transaction,
    );
  await intoOpenRun(scope, schedule.id, period, reopened, transaction);
}

const totalOf = (rows: object[], sheet: string): string =>
  (rows as { sheet: string; hours: string }[])
    .filter((row) => row.sheet === sheet)
    .reduce((sum, row) => sum.plus(Exact.of(row.hours)), Exact.whole(0))
    .toDecimal(2);

function rowOf(line: TimeLine, sheet: Sheet, id: string, period: PayPeriod) {
  if (line.date < period.from || line.date > period.to)
    throw invalid(`${writtenDay(line.date)} is not in the period.`, [{ path: 'lines', expected: 'days of the period' }]);
  const hours = line.begins && line.ends ? hoursBetween(line.begins, line.ends, line.breakMinutes) : (line.hours ?? '0');
  const counted = !!line.item && !!line.quantity;
  if ((!counted && !Exact.of(hours).isAbove(Exact.whole(0))) || Exact.of(hours).isAbove(Exact.whole(24)))
    throw invalid(`${sheet.name}, ${writtenDay(line.date)}: ${hours} hours are not possible.`, [
      { path: 'lines', expected: 'more than none, at most 24' },
    ]);
  if (line.rate && !sheet.rates?.some((rate) => rate.id === line.rate && rate.per === 'hour'))
    throw invalid(`${sheet.name} has no such hourly rate.`, [{ path: 'lines', expected: 'a rate of the person' }]);
  return {
    sheet: id,
    person: sheet.personId,
    date: line.date,
    hours: counted ? '0' : hours,
    quantity: counted ? line.quantity : null,
    rate: line.rate ?? null,
    item: line.item ?? null,
    begins: line.begins ?? null,
    ends: line.ends ?? null,
    breakMinutes: line.breakMinutes,
    place: line.place,
  };
}

/** Submitted, approved or returned; approved time is in the payslip of an open run at once. */
export async function setTimeState(scope: Scope, body: ParsedBodyOf<'setTimeState'>): Promise<{ changed: number }> {
  const { schedule, period } = await periodAsked(scope, body);
  if (body.state === 'returned' && body.comment.trim().length < 3)
    throw invalid('Say why the sheet is returned, so that it can be fixed.', [
      { path: 'comment', expected: 'a comment of at least three letters' },
    ]);
  return changing(scope, async (transaction) => {
    await refuseLocked(scope, schedule.id, period, transaction);
    const changed = (await execute(
      scope.database,
      `update timesheets set state = :state, comment = :comment, version = version + 1
       where employer_id = :employer and person_id in (:people) and period_from = :from and state <> :state returning person_id as id`,
      { employer: scope.employer.id, people: body.personIds, from: period.from, state: body.state, comment: body.comment },
      transaction,
    )) as { id: string }[];
    await record(
      scope,
      changed.map(({ id }) => ({
        action: 'time-state',
        subject: 'person',
        subjectId: id,
        what: `Time of the period from ${writtenDay(period.from)} ${body.state}${body.comment ? `: ${body.comment}` : ''}`,
      })),
      transaction,
    );
    await intoOpenRun(
      scope,
      schedule.id,
      period,
      changed.map(({ id }) => id),
      transaction,
    );
    return { changed: changed.length };
  });
}

/** Only the payslips of those whose time changed are recalculated. */
async function intoOpenRun(
  scope: Scope,
  scheduleId: string,
  period: PayPeriod,
  people: readonly string[],
  transaction: Transaction,
): Promise<void> {
  if (!people.length) return;
  const payslips = await select<{ id: string }>(
    scope.database,
    `select y.id from payslips y join pay_runs r on r.id = y.run_id where r.schedule_id = :scheduleId and r.period_from = :from and r.kind = 'regular' and r.state in ('open', 'calculating') and y.state = 'draft' and y.person_id in (:people)`,
    { scheduleId, from: period.from, people },
    transaction,
  );
  await workOutAgain(
    scope,
    payslips.map(({ id }) => id),
    transaction,
  );
}

export async function lockOf(scope: Scope, scheduleId: string, from: string, transaction?: Transaction): Promise<TimePage['locked']> {
  const [lock] = await select<{ by: string; at: string }>(
    scope.database,
    `select u.name as by, to_char(l.locked_at, 'YYYY-MM-DD"T"HH24:MI:SS') as at from time_locks l join users u on u.id = l.user_id where l.schedule_id = :scheduleId and l.period_from = :from`,
    { scheduleId, from },
    transaction,
  );
  return lock ?? null;
}

export async function refuseLocked(scope: Scope, scheduleId: string, period: PayPeriod, transaction: Transaction): Promise<void> {
  const lock = await lockOf(scope, scheduleId, period.from, transaction);
  if (lock) throw conflict('time-locked', `The time of this period was locked by ${lock.by}. Unlock it first; the reason is recorded.`);
}

export async function lockTime(scope: Scope, body: ParsedBodyOf<'lockTime'>): Promise<Record<string, never>> {
  const { schedule, period } = await periodAsked(scope, body);
  return changing(scope, async (transaction) => {
    const [open] = await select<{ name: string; people: number }>(
      scope.database,
      `select min(p.given_name || ' ' || p.family_name) as name, count(*) as people from timesheets s join people p on p.id = s.person_id
       where s.employer_id = :employer and p.schedule_id = :schedule and s.period_from = :from and s.state <> 'approved'`,
      { employer: scope.employer.id, schedule: schedule.id, from: period.from },
      transaction,
    );
    if (open?.people)
      throw conflict(
        'not-approved',
        `${open.people === 1 ? `The sheet of ${open.name} is` : `${open.people} sheets are`} not approved yet. Approve or return them first.`,
      );
    await execute(
      scope.database,
      'insert into time_locks (schedule_id, period_from, user_id) values (:schedule, :from, :user) on conflict do nothing',
      { schedule: schedule.id, from: period.from, user: scope.user.id },
      transaction,
    );
    await recorded(scope, 'lock-time', `Locked the time from ${writtenDay(period.from)}, ${schedule.name}`, transaction);
    return {};
  });
}

export async function unlockTime(scope: Scope, body: ParsedBodyOf<'unlockTime'>): Promise<Record<string, never>> {
  const { schedule, period } = await periodAsked(scope, body);
  return changing(scope, async (transaction) => {
    await execute(
      scope.database,
      'delete from time_locks where schedule_id = :schedule and period_from = :from',
      { schedule: schedule.id, from: period.from },
      transaction,
    );
    await recorded(
      scope,
      'unlock-time',
      `Unlocked the time from ${writtenDay(period.from)}, ${schedule.name}: ${body.reason}`,
      transaction,
    );
    return {};
  });
}

const recorded = (scope: Scope, action: string, what: string, transaction: Transaction): Promise<void> =>
  record(scope, { action, subject: 'employer', subjectId: scope.employer.id, what }, transaction);
