import type { LeaveCheck, LeaveRequest, ParsedBodyOf } from '@woodruff/contract';
import {
  addDays,
  Exact,
  isBusinessDay,
  PAY_DATES_PER_YEAR,
  usableFrom,
  writtenDate,
  writtenDecimal,
  writtenPeriod,
  type Frequency,
} from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select, type Transaction } from '../database/connection';
import { factsChanged } from '../employers/facts-version';
import { conflict, invalid, notFound } from '../errors';
import { workOutAgain } from '../calculation/again';
import { changing } from '../users/changing';
import { holidaysOf, type Scope } from '../scope';
import { expectedBalances } from './balances';
import { nameOn, planOf, plansOf } from './plans';
import { schedulesOf } from '../employers/schedules-on-file';

const WEEKDAYS_IN_YEAR = 260;

interface Row extends Omit<LeaveRequest, 'plan' | 'hours'> {
  days: LeaveRequest['days'];
}

export async function requestsOf(
  scope: Scope,
  which: { person: string } | { from: string; to: string } | { id: string },
  transaction?: Transaction,
): Promise<LeaveRequest[]> {
  const where =
    'person' in which
      ? 'q.person_id = :person'
      : 'id' in which
        ? 'q.id = :id'
        : `(q.state = 'asked' or (q.state = 'approved' and q.from_date <= :to and q.to_date >= :from))`;
  const rows = await select<Row>(
    scope.database,
    `select q.id, q.person_id as "personId", p.given_name || ' ' || p.family_name as name, p.department, q.plan_id as "planId", q.from_date as "from", q.to_date as "to", q.note, q.state, q.comment, q.version, u.name as by,
            (select json_agg(json_build_object('date', d.on_date, 'hours', trim_scale(d.hours)::text) order by d.on_date) from leave_days d where d.request_id = q.id) as days,
            (select count(*)::int from leave_days d where d.request_id = q.id and exists (select 1 from payslips y join pay_runs r on r.id = y.run_id and r.kind in ('regular', 'correction')
               where y.person_id = q.person_id and y.state = 'posted' and d.on_date between r.period_from and r.period_to)) as taken
     from leave_requests q join people p on p.id = q.person_id join users u on u.id = q.user_id where q.employer_id = :employer and ${where} order by q.from_date, p.family_name`,
    { employer: scope.employer.id, ...which },
    transaction,
  );
  const names = new Map((await plansOf(scope, transaction)).map((plan) => [plan.id, nameOn(plan, scope.employer.today)]));
  return rows.map((row) => ({ ...row, plan: names.get(row.planId) ?? '', hours: sumOf(row.days) }));
}

/** What a request comes to, and what the plan, the balance, and other leave say against it. */
export async function checkLeave(scope: Scope, body: ParsedBodyOf<'checkLeave'>, except: string | null = null): Promise<LeaveCheck> {
  const { person, days } = await daysAsked(scope, body);
  const plan = await planOf(scope, body.planId);
  const terms = (plan.terms.find((one) => one.from <= body.from) ?? plan.terms.at(-1))?.terms;
  const against: string[] = [];
  const overlapping = await overlapOf(scope, body, except);
  if (overlapping) against.push(overlapping);
  const usable = terms ? usableFrom({ code: plan.code, ...terms }, person.hired ?? undefined) : null;
  if (usable && usable > body.from) against.push(`${plan.name} may be taken from ${writtenDate(usable)} on.`);
  const expected = await expectedBalances(scope, person, body.planId, body.to, except);
  const hours = sumOf(days);
  const lowest = Exact.of(terms?.mayOwe ?? '0').negated();
  if (!expected.inPlan) against.push(`${person.name} is not in ${plan.name}. Put them into the plan first.`);
  else if (Exact.of(expected.atEnd).minus(Exact.of(hours)).isBelow(lowest))
    against.push(
      `It leaves ${writtenDecimal(Exact.of(expected.atEnd).minus(Exact.of(hours)).toDecimal(2))} hours, and the plan allows ${lowest.isZero() ? 'none below zero' : `down to ${writtenDecimal(lowest.toDecimal(2))}`}.`,
    );
  return {
    days,
    hours,
    balance: expected.now,
    before: expected.atEnd,
    after: Exact.of(expected.atEnd).minus(Exact.of(hours)).toDecimal(2),
    against,
    away: await awayWith(scope, person, body),
  };
}

export async function askLeave(scope: Scope, body: ParsedBodyOf<'askLeave'>): Promise<{ id: string }> {
  const { person, days } = await daysAsked(scope, body);
  const plan = await planOf(scope, body.planId);
  return changing(scope, async (transaction) => {
    // Two requests for the same days cannot be entered at once.
    await execute(scope.database, 'select 1 from people where id = :id for update', { id: person.id }, transaction);
    const overlapping = await overlapOf(scope, body, null, transaction);
    if (overlapping) throw conflict('leave-overlaps', overlapping);
    const [made] = (await execute(
      scope.database,
      `insert into leave_requests (employer_id, person_id, plan_id, from_date, to_date, note, user_id) values (:employer, :person, :plan, :from, :to, :note, :user) returning id`,
      { employer: scope.employer.id, person: person.id, plan: plan.id, from: body.from, to: body.to, note: body.note, user: scope.user.id },
      transaction,
    )) as { id: string }[];
    await execute(
      scope.database,
      `insert into leave_days (request_id, person_id, on_date, hours) select :request, :person, d.date, d.hours from jsonb_to_recordset(cast(:days as jsonb)) as d(date date, hours numeric)`,
      { request: made?.id, person: person.id, days: JSON.stringify(days) },
      transaction,
    );
    await record(
      scope,
      {
        action: 'ask-leave',
        subject: 'person',
        subjectId: person.id,
        what: `Asked for ${plan.name}, ${writtenPeriod(body.from, body.to)}: ${sumOf(days)} hours`,
      },
      transaction,
    );
    return { id: made?.id ?? '' };
  });
}

/** Approved leave is on the payslips of open runs at once. What is against it is overruled only with a comment. */
export async function decideLeave(scope: Scope, id: string, body: ParsedBodyOf<'decideLeave'>): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    await execute(scope.database, 'select 1 from leave_requests where id = :id for update', { id }, transaction);
    const [request] = await requestsOf(scope, { id }, transaction);
    if (!request) throw notFound('leave request');
    if (request.version !== body.version)
      throw conflict('changed-meanwhile', 'Somebody else decided on this leave meanwhile. Look at it again.');
    if (request.state === 'declined' || request.state === 'withdrawn')
      throw conflict('decided', `This leave was ${request.state}. Ask for it anew.`);
    if (request.taken && body.state !== 'approved')
      throw conflict(
        'leave-taken',
        `${request.taken === 1 ? 'One day of it is' : `${request.taken} days of it are`} on a payslip that is posted. Reverse the payslip, or adjust the balance instead.`,
      );
    if (body.state === 'approved' && request.state === 'asked' && body.comment.length < 3) {
      const { against } = await checkLeave(scope, { ...request, hoursPerDay: request.days[0]?.hours, note: '' }, id);
      if (against.length) throw conflict('leave-against', `${against.join(' ')} Approve it with a comment that says why, or decline it.`);
    }
    if (body.state === 'declined' && body.comment.length < 3)
      throw invalid('Say why the leave is declined.', [{ path: 'comment', expected: 'a comment of at least three letters' }]);
    await execute(
      scope.database,
      'update leave_requests set state = :state, comment = :comment, version = version + 1 where id = :id',
      { id, state: body.state, comment: body.comment },
      transaction,
    );
    await record(
      scope,
      {
        action: 'decide-leave',
        subject: 'person',
        subjectId: request.personId,
        what: `${request.plan}, ${writtenPeriod(request.from, request.to)}: ${body.state}${body.comment ? `, ${body.comment}` : ''}`,
      },
      transaction,
    );
    await intoOpenRuns(scope, request, transaction);
    return {};
  });
}

async function intoOpenRuns(scope: Scope, { personId, from, to }: LeaveRequest, transaction: Transaction): Promise<void> {
  const payslips = await select<{ id: string }>(
    scope.database,
    `select y.id from payslips y join pay_runs r on r.id = y.run_id where y.person_id = :personId and y.state = 'draft' and r.state in ('open', 'calculating')
       and r.kind in ('regular', 'correction') and r.period_from <= :to and r.period_to >= :from`,
    { personId, from, to },
    transaction,
  );
  if (payslips.length)
    await workOutAgain(
      scope,
      payslips.map(({ id }) => id),
      transaction,
    );
  const [submitted] = await select<{ id: string }>(
    scope.database,
    `select r.id from payslips y join pay_runs r on r.id = y.run_id where y.person_id = :personId and r.state = 'submitted' and r.period_from <= :to and r.period_to >= :from`,
    { personId, from, to },
    transaction,
  );
  // A run that is frozen says that it was calculated before this.
  if (submitted) await factsChanged(scope, transaction);
}

interface Asked {
  id: string;
  name: string;
  department: string;
  hired: string | null;
  scheduleId: string;
  standardHours: string | null;
}

/** The workdays asked for, each with the person's ordinary hours of a day unless others are given. */
async function daysAsked(
  scope: Scope,
  { personId, from, to, hoursPerDay }: ParsedBodyOf<'askLeave'>,
): Promise<{ person: Asked; days: LeaveRequest['days'] }> {
  if (to < from) throw invalid('The last day is before the first.', [{ path: 'to', expected: 'a day not before the first' }]);
  if (addDays(from, 366) < to)
    throw invalid('Leave of more than a year is a leave of absence. Enter it among the details.', [
      { path: 'to', expected: 'at most a year' },
    ]);
  const [person] = await select<Asked & { left: string | null; scheduleId: string | null; worksite: string }>(
    scope.database,
    `select id, given_name || ' ' || family_name as name, department, worksite, hired, "left", schedule_id as "scheduleId", trim_scale(standard_hours)::text as "standardHours" from people where id = :personId and employer_id = :employer`,
    { personId, employer: scope.employer.id },
  );
  if (!person) throw notFound('person');
  const schedule = (await schedulesOf(scope)).find((one) => one.id === person.scheduleId);
  if (!schedule) throw invalid(`${person.name} has no pay schedule. Enter it among the details first.`);
  if ((person.hired && from < person.hired) || (person.left && to > person.left))
    throw invalid(`${person.name} is not employed on all of these days.`, [{ path: 'from', expected: 'days of employment' }]);
  const holiday = holidaysOf(scope, person.worksite);
  const perDay = hoursPerDay ?? ordinaryDay(person.standardHours, schedule.frequency);
  if (Number(perDay) <= 0 || Number(perDay) > 24)
    throw invalid(`${perDay} hours a day are not possible.`, [{ path: 'hoursPerDay', expected: 'more than none, at most 24' }]);
  const days: LeaveRequest['days'] = [];
  for (let date = from; date <= to; date = addDays(date, 1)) if (isBusinessDay(date, holiday)) days.push({ date, hours: perDay });
  if (!days.length) throw invalid('None of these days is a workday.', [{ path: 'from', expected: 'at least one workday' }]);
  return { person: { ...person, scheduleId: schedule.id }, days };
}

/** A fifth of a week's part of the standard hours; eight where none are on file. */
const ordinaryDay = (standardHours: string | null, frequency: Frequency): string =>
  standardHours === null
    ? '8'
    : Exact.of(standardHours)
        .times(Exact.whole(PAY_DATES_PER_YEAR[frequency]))
        .over(Exact.whole(WEEKDAYS_IN_YEAR))
        .toDecimal(2)
        .replace(/\.?0+$/, '');

async function overlapOf(
  scope: Scope,
  { personId, from, to }: { personId: string; from: string; to: string },
  except: string | null,
  transaction?: Transaction,
): Promise<string | null> {
  const [other] = await select<{ from: string; to: string; state: string }>(
    scope.database,
    `select from_date as "from", to_date as "to", state from leave_requests where employer_id = :employer and person_id = :personId and state in ('asked', 'approved') and from_date <= :to and to_date >= :from and (cast(:except as uuid) is null or id <> cast(:except as uuid)) limit 1`,
    { employer: scope.employer.id, personId, from, to, except },
    transaction,
  );
  return other ? `Leave is ${other.state} already for ${writtenPeriod(other.from, other.to)}. Withdraw that, or choose other days.` : null;
}

const awayWith = (scope: Scope, person: Asked, { from, to }: { from: string; to: string }): Promise<LeaveCheck['away']> =>
  person.department
    ? select(
        scope.database,
        `select p.given_name || ' ' || p.family_name as name, q.from_date as "from", q.to_date as "to", q.state from leave_requests q join people p on p.id = q.person_id
         where q.employer_id = :employer and p.department = :department and p.id <> :id and q.state in ('asked', 'approved') and q.from_date <= :to and q.to_date >= :from order by q.from_date`,
        { employer: scope.employer.id, department: person.department, id: person.id, from, to },
      )
    : Promise.resolve([]);

const sumOf = (days: readonly { hours: string }[]): string =>
  days.reduce((sum, day) => sum.plus(Exact.of(day.hours)), Exact.whole(0)).toDecimal(2);
