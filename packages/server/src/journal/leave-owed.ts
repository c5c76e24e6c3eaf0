import { Exact, payDatesInYear, yearOf } from '@woodruff/core';
import { select } from '../database/connection';
import { schedulesOf } from '../employers/schedules-on-file';
import { holidaysOf, type Scope } from '../scope';
import { accountsOf, BOOKS } from './accounts';
import { merged, PLAIN, type Line } from './entries';

interface Owed {
  personId: string;
  name: string;
  department: string;
  plan: string;
  /** Hundredths of hours. */
  balance: number;
  rate: string | null;
  per: 'hour' | 'period' | 'year' | null;
  standardHours: string | null;
  scheduleId: string | null;
}

/**
 * What unused leave would cost if it were paid out on a day: of plans that are paid when somebody leaves, hours by the
 * ledger until then, each at the primary rate in force. A salary's hour is its part of the ordinary hours.
 */
export async function leaveOwedOn(
  scope: Scope,
  day: string,
): Promise<{
  people: { personId: string; name: string; plan: string; hours: number; hourly: number | null; amount: number }[];
  lines: Line[];
}> {
  const rows = await select<Owed>(
    scope.database,
    `select p.id as "personId", p.given_name || ' ' || p.family_name as name, p.department, t.terms->>'name' as plan, s.balance, r.amount::text as rate, r.per, p.standard_hours::text as "standardHours", p.schedule_id as "scheduleId"
     from leave_plans lp join leave_members m on m.plan_id = lp.id and m.from_date <= :day and (m.to_date is null or m.to_date >= :day) join people p on p.id = m.person_id and (p."left" is null or p."left" > :day)
     cross join lateral (select terms from leave_terms where plan_id = lp.id order by (from_date <= :day) desc, from_date desc limit 1) t
     cross join lateral (select coalesce(sum(l.amount), 0)::bigint as balance from ledger_lines l where l.person_id = p.id and l.kind = 'leave' and l.code like 'leave:' || lp.code || ':%' and l.pay_date <= :day) s
     left join lateral (select amount, per from pay_rates where person_id = p.id and is_primary and from_date <= :day order by from_date desc limit 1) r on true
     where lp.employer_id = :employer and coalesce(t.terms->>'payOutItem', '') <> '' and s.balance > 0 order by p.family_name, p.given_name, lp.code`,
    { employer: scope.employer.id, day },
  );
  const dates = new Map(
    (await schedulesOf(scope)).map((schedule) => [schedule.id, payDatesInYear(schedule, yearOf(day), holidaysOf(scope))]),
  );
  const people = rows.map(({ personId, name, plan, balance, rate, per, standardHours, scheduleId }) => {
    const hourly = hourOf(rate, per, standardHours, dates.get(scheduleId ?? '') ?? 0);
    const amount = hourly ? Number(hourly.times(Exact.whole(balance)).toDecimal(0)) : 0;
    return { personId, name, plan, hours: balance, hourly: hourly ? Number(hourly.times(Exact.whole(100)).toDecimal(0)) : null, amount };
  });
  const accounts = await accountsOf(scope);
  const owed = accounts.find({ side: 'liability', code: BOOKS.leave }, 'leave').account;
  const lines = people.flatMap(({ amount }, index): Line[] => {
    const department = rows[index]?.department ?? '';
    const cost = accounts.find({ side: 'expense', code: BOOKS.leave, department }, 'leave-cost').account;
    return [
      { ...PLAIN, account: cost, side: 'expense', amount, words: 'Leave owed', department },
      { ...PLAIN, account: owed, side: 'liability', amount: -amount, words: 'Leave owed' },
    ];
  });
  return { people, lines: merged(lines) };
}

function hourOf(rate: string | null, per: Owed['per'], standardHours: string | null, payDates: number): Exact | null {
  if (!rate || !per) return null;
  if (per === 'hour') return Exact.of(rate);
  if (!standardHours || Number(standardHours) === 0 || (per === 'year' && !payDates)) return null;
  const period = per === 'year' ? Exact.of(rate).over(Exact.whole(payDates)) : Exact.of(rate);
  return Exact.of(period.over(Exact.of(standardHours)).toDecimal(4));
}
