import type { TimeLine, TimeRow } from '@woodruff/contract';
import { addDays, nextPeriod, periodOf, type PayPeriod, type PaySchedule, type Rate, type TimeEntry } from '@woodruff/core';
import { select, type Transaction } from '../database/connection';
import { invalid } from '../errors';
import { holidaysOf, type Scope } from '../scope';
import { ratesInForce } from '../payslip-input/rates-in-force';
import { weekOf, type EmployerTimeRules } from '../payslip-input/time-rules';
import { schedulesOf } from '../employers/schedules-on-file';

export type Schedule = PaySchedule & { id: string; name: string; timeCutOff: number | null };

/** A person's time of a period as it is kept, with what is needed to rule it. */
export interface Sheet {
  personId: string;
  name: string;
  code: string;
  department: string;
  groupId: string | null;
  worksite: string;
  hired: string | null;
  standardHours: string | null;
  rates: Rate[] | null;
  /** Held in the period beside the main one. */
  positions: { job: string; rate: string | null }[] | null;
  sheetId: string | null;
  state: TimeRow['state'] | null;
  comment: string | null;
  version: number | null;
  lines: (TimeLine & { hours: string })[] | null;
  /** Days before the period in its first workweek. */
  before: TimeEntry[] | null;
  /** Approved leave. */
  leave: { date: string; hours: string; plan: string }[] | null;
}

export async function periodAsked(
  scope: Scope,
  { scheduleId, from }: { scheduleId?: string | undefined; from?: string | undefined },
): Promise<{ schedule: Schedule; period: PayPeriod }> {
  const schedules = await schedulesOf(scope);
  const schedule = scheduleId ? schedules.find((one) => one.id === scheduleId) : schedules[0];
  if (!schedule)
    throw invalid('There is no such pay schedule. Add one on the employer’s page.', [{ path: 'scheduleId', expected: 'a pay schedule' }]);
  const holiday = holidaysOf(scope);
  if (from) return { schedule, period: periodOf(schedule, from, holiday) };
  // The period whose pay is prepared now: the one before today's, unless it is approved.
  const before = periodOf(schedule, addDays(periodOf(schedule, scope.employer.today, holiday).from, -1), holiday);
  const [done] = await select<{ id: string }>(
    scope.database,
    `select id from pay_runs where schedule_id = :id and period_from = :from and kind = 'regular' and state = 'approved'`,
    { id: schedule.id, from: before.from },
  );
  return { schedule, period: done ? nextPeriod(schedule, before, holiday) : before };
}

export function sheetsOf(
  scope: Scope,
  schedule: Schedule,
  period: PayPeriod,
  rules: EmployerTimeRules | null,
  transaction?: Transaction,
): Promise<Sheet[]> {
  return select<Sheet>(
    scope.database,
    `select p.id as "personId", p.family_name || ', ' || p.given_name as name, p.code, p.department, p.group_id as "groupId", p.worksite, p.hired, trim_scale(p.standard_hours)::text as "standardHours",
            ${ratesInForce('to', 'weekFrom')} as rates,
            (select json_agg(json_build_object('job', o.job, 'rate', o.rate_series) order by o.from_date) from person_positions o where o.person_id = p.id and o.from_date <= :to and (o.to_date is null or o.to_date >= :from)) as positions,
            s.id as "sheetId", s.state, s.comment, s.version,
            (select json_agg(json_build_object('date', t.on_date, 'hours', trim_scale(t.hours)::text, 'begins', t.begins, 'ends', t.ends, 'breakMinutes', t.break_minutes, 'rate', t.rate, 'item', t.item, 'place', t.place, 'quantity', trim_scale(t.quantity)::text) order by t.on_date, t.id)
             from time_entries t where t.timesheet_id = s.id) as lines,
            (select json_agg(json_strip_nulls(json_build_object('date', t.on_date, 'hours', trim_scale(t.hours)::text, 'rate', t.rate, 'item', t.item, 'quantity', trim_scale(t.quantity)::text)) order by t.on_date, t.id)
             from time_entries t where t.person_id = p.id and t.on_date >= :weekFrom and t.on_date < :from) as before,
            (select json_agg(json_build_object('date', d.on_date, 'hours', trim_scale(d.hours)::text, 'plan', q.plan_id) order by d.on_date)
             from leave_days d join leave_requests q on q.id = d.request_id and q.state = 'approved' where d.person_id = p.id and d.on_date between cast(:from as date) and cast(:to as date)) as leave
     from people p left join timesheets s on s.person_id = p.id and s.period_from = :from
     where p.employer_id = :employer and p.schedule_id = :schedule and (p."left" is null or p."left" >= :from) and (p.hired is null or p.hired <= :to)
       and exists (select 1 from pay_rates r where r.person_id = p.id and r.per = 'hour' and r.is_primary)
     order by p.family_name, p.given_name, p.code`,
    {
      employer: scope.employer.id,
      schedule: schedule.id,
      from: period.from,
      to: period.to,
      weekFrom: rules ? weekOf(period.from, rules.base.weekBegins) : period.from,
    },
    transaction,
  );
}
