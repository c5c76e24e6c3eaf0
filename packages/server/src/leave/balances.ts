import { balancesAhead, decimalOf, nextPeriod, periodOf, type LeaveOnPayslip, type LeavePlan, type PayPeriod } from '@woodruff/core';
import { select } from '../database/connection';
import { loadPeopleFacts, loadRunFacts } from '../payslip-input/facts';
import { inputOf } from '../payslip-input/input';
import { holidaysOf, type Scope } from '../scope';
import { termsOn } from '../payslip-input/leave-terms';
import { schedulesOf } from '../employers/schedules-on-file';

/** Leave is not asked for further ahead than this many periods. */
const MOST_PERIODS = 110;

/** The balance of a plan now, and as it will be at the end of the period that holds a day, with all leave approved or asked before. */
export async function expectedBalances(
  scope: Scope,
  person: { id: string; scheduleId: string; standardHours: string | null },
  planId: string,
  until: string,
  /** A request that is being decided on, and so not counted. */
  except: string | null = null,
): Promise<{ inPlan: boolean; now: string; atEnd: string }> {
  const holiday = holidaysOf(scope);
  const schedule = (await schedulesOf(scope)).find((one) => one.id === person.scheduleId);
  const plan = (await termsOn(scope, until)).get(planId);
  const none = { inPlan: false, now: '0.00', atEnd: '0.00' };
  if (!schedule || !plan) return none;
  const [paid] = await select<{ posted: string | null; open: string | null }>(
    scope.database,
    `select max(r.period_to) filter (where y.state = 'posted') as posted, min(r.period_from) filter (where y.state = 'draft' and r.kind = 'regular') as open
     from payslips y join pay_runs r on r.id = y.run_id and r.kind in ('regular', 'correction') where y.person_id = :id`,
    { id: person.id },
  );
  const first = paid?.posted
    ? nextPeriod(schedule, { from: paid.posted, to: paid.posted, payDate: paid.posted }, holiday)
    : periodOf(schedule, paid?.open ?? scope.employer.today, holiday);
  const periods: PayPeriod[] = [first];
  for (let last = first; last.to < until && periods.length < MOST_PERIODS; periods.push(last)) last = nextPeriod(schedule, last, holiday);
  const entry = await entryFor(scope, person, plan, periods[0]!);
  if (!entry) return none;
  const booked = await select<{ date: string; hours: string }>(
    scope.database,
    `select d.on_date as date, d.hours::text as hours from leave_days d join leave_requests q on q.id = d.request_id
     where d.person_id = :id and q.plan_id = :planId and q.state in ('asked', 'approved') and d.on_date >= :from and d.on_date < :until and (cast(:except as uuid) is null or q.id <> cast(:except as uuid))`,
    { id: person.id, planId, from: first.from, until, except },
  );
  const ahead = balancesAhead(entry, periods, person.standardHours ?? '0', booked);
  return { inPlan: true, now: decimalOf(entry.balance), atEnd: decimalOf(ahead.at(-1) ?? entry.balance) };
}

/** The plan as it would stand on the payslip of a period. */
async function entryFor(
  scope: Scope,
  person: { id: string; scheduleId: string; standardHours: string | null },
  plan: LeavePlan,
  period: { from: string; to: string; payDate: string },
): Promise<LeaveOnPayslip | undefined> {
  const run = { kind: 'regular', scheduleId: person.scheduleId, periodFrom: period.from, periodTo: period.to, payDate: period.payDate };
  const facts = await loadRunFacts(scope, run);
  const [loaded] = await loadPeopleFacts(scope, run, { people: [person.id] }, { ...facts, timeRules: null });
  const entry = loaded && inputOf(facts, loaded).leave?.find((one) => one.plan.code === plan.code);
  return entry && { ...entry, plan };
}

/** Hours approved and not on a posted payslip yet, in hundredths. */
export const AHEAD = `coalesce((select round(sum(d.hours) * 100)::int from leave_days d join leave_requests q on q.id = d.request_id and q.state = 'approved' and q.plan_id = l.id
         where d.person_id = __PERSON__ and not exists (select 1 from payslips y join pay_runs r on r.id = y.run_id and r.kind in ('regular', 'correction')
           where y.person_id = d.person_id and y.state = 'posted' and d.on_date between r.period_from and r.period_to)), 0)`;
