import type { LeaveTerms } from '@woodruff/contract';
import type { LeavePlan } from '@woodruff/core';
import { select, type Transaction } from '../database/connection';
import type { Scope } from '../scope';

/** Terms of every plan in force on a day, by the plan's identifier. */
export async function termsOn(scope: Scope, date: string, transaction?: Transaction): Promise<Map<string, LeavePlan>> {
  const rows = await select<{ id: string; code: string; terms: LeaveTerms }>(
    scope.database,
    `select distinct on (l.id) l.id, l.code, t.terms from leave_plans l join leave_terms t on t.plan_id = l.id
     where l.employer_id = :employer order by l.id, (t.from_date <= :date) desc, case when t.from_date <= :date then t.from_date end desc, t.from_date`,
    { employer: scope.employer.id, date },
    transaction,
  );
  return new Map(rows.map(({ id, code, terms }) => [id, { code, ...terms }]));
}

/** The first day of the plan year that holds a day, in SQL; as `planYearOf` of the core. */
const YEAR_FROM = `(select case when coalesce(t.terms->>'yearBegins', '01-01') = 'hire'
                 then (p.hired + make_interval(years => extract(year from age(cast(:periodTo as date), p.hired))::int))::date
                 else (select case when d > cast(:periodTo as date) then (d - interval '1 year')::date else d end
                       from (select make_date(extract(year from cast(:periodTo as date))::int, split_part(coalesce(t.terms->>'yearBegins', '01-01'), '-', 1)::int, least(split_part(coalesce(t.terms->>'yearBegins', '01-01'), '-', 2)::int, 28)) as d) s) end)`;

/** The plans of a person `p` in a period, with what the ledger says and the days approved in the period. */
export const LEAVE = `(select json_agg(json_build_object('plan', m.plan_id, 'balance', coalesce(s.balance, 0), 'earnedInYear', coalesce(s.earned, 0), 'paidOutBefore', coalesce(s.out, 0), 'yearBegun', coalesce(s.begun, false),
                'days', (select json_agg(json_build_object('date', d.on_date, 'hours', trim_scale(d.hours)::text) order by d.on_date)
                         from leave_days d join leave_requests q on q.id = d.request_id and q.state = 'approved' and q.plan_id = m.plan_id
                         where d.person_id = p.id and d.on_date between cast(:periodFrom as date) and cast(:periodTo as date)),
                'paysOut', exists (select 1 from leavings g where g.person_id = p.id and g.undone_at is null and g.pays_leave)) order by lp.code)
              from leave_members m join leave_plans lp on lp.id = m.plan_id
              cross join lateral (select terms from leave_terms where plan_id = lp.id order by (from_date <= cast(:periodTo as date)) desc, case when from_date <= cast(:periodTo as date) then from_date end desc, from_date limit 1) t
              cross join lateral (select ${YEAR_FROM} as from_date) yr
              left join lateral (
                select sum(l.amount) as balance,
                       sum(l.amount) filter (where l.code in ('leave:' || lp.code || ':earned', 'leave:' || lp.code || ':granted') and r.period_to >= yr.from_date and r.period_to < yr.from_date + interval '1 year') as earned,
                       -sum(l.amount) filter (where l.code = 'leave:' || lp.code || ':paid-out' and r.period_to > cast(:periodTo as date) - interval '1 year') as out,
                       bool_or(lx.state = 'posted' and r.kind in ('regular', 'correction') and r.period_to >= yr.from_date and r.period_to < yr.from_date + interval '1 year') as begun
                from ledger_lines l join pay_runs r on r.id = l.run_id join payslips lx on lx.id = l.payslip_id
                where l.person_id = p.id and l.kind = 'leave' and l.code like 'leave:' || lp.code || ':%') s on true
              where m.person_id = p.id and m.from_date <= :periodTo and (m.to_date is null or m.to_date >= :periodFrom))`;
