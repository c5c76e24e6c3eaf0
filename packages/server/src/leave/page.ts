import type { LeavePage } from '@woodruff/contract';
import { addDays, decimalOf, isBusinessDay, lastOfMonth, packOf } from '@woodruff/core';
import { select } from '../database/connection';
import { holidaysOf, type Scope } from '../scope';
import { AHEAD } from './balances';
import { nameOn, plansOf } from './plans';
import { requestsOf } from './requests';
import { csvOf } from '../files/write';

/** Everything about leave in a month: plans, who asks, who is away, and what everybody has left. */
export async function leavePage(scope: Scope, month = scope.employer.today.slice(0, 7)): Promise<LeavePage> {
  const from = `${month}-01`;
  const to = lastOfMonth(Number(month.slice(0, 4)), Number(month.slice(5)));
  const holiday = holidaysOf(scope);
  const own = new Map((scope.employer.facts.holidays ?? []).map(({ date, label }) => [date, label]));
  const off: LeavePage['off'] = [];
  for (let date = from; date <= to; date = addDays(date, 1))
    if (!isBusinessDay(date, holiday))
      off.push({ date, label: own.get(date) ?? (packOf(scope.employer.country).isHoliday(date) ? 'Bank holiday' : '') });
  return {
    from,
    to,
    off,
    plans: await plansOf(scope),
    requests: await requestsOf(scope, { from, to }),
    people: await balancesOf(scope),
  };
}

async function balancesOf(scope: Scope): Promise<LeavePage['people']> {
  const rows = await select<{
    personId: string;
    name: string;
    code: string;
    department: string;
    planId: string;
    balance: number;
    ahead: number;
  }>(
    scope.database,
    `select p.id as "personId", p.family_name || ', ' || p.given_name as name, p.code, p.department, l.id as "planId",
            coalesce((select sum(b.amount) from ledger_lines b where b.person_id = p.id and b.kind = 'leave' and b.code like 'leave:' || l.code || ':%'), 0)::int as balance,
            ${AHEAD.replace('__PERSON__', 'p.id')} as ahead
     from (select distinct person_id, plan_id from leave_members where to_date is null or to_date >= :today) m join people p on p.id = m.person_id and p.employer_id = :employer join leave_plans l on l.id = m.plan_id
     where p."left" is null or p."left" >= :today order by p.family_name, p.given_name, p.code, l.code`,
    { employer: scope.employer.id, today: scope.employer.today },
  );
  const names = new Map((await plansOf(scope)).map((plan) => [plan.id, nameOn(plan, scope.employer.today)]));
  const people = new Map<string, LeavePage['people'][number]>();
  for (const { planId, balance, ahead, ...person } of rows) {
    const entry = people.get(person.personId) ?? { ...person, plans: [] };
    entry.plans.push({ planId, plan: names.get(planId) ?? '', balance, ahead });
    people.set(person.personId, entry);
  }
  return [...people.values()];
}

/** Balances of everybody, one line for each plan. */
export async function leaveCsv(scope: Scope): Promise<string> {
  const people = await balancesOf(scope);
  return csvOf([
    ['person', 'name', 'department', 'plan', 'balance_hours', 'approved_ahead_hours'],
    ...people.flatMap(({ code, name, department, plans }) =>
      plans.map(({ plan, balance, ahead }) => [code, name, department, plan, decimalOf(balance), decimalOf(ahead)]),
    ),
  ]);
}
