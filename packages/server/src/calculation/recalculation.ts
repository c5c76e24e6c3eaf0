import type { Recalculation } from '@woodruff/contract';
import type { Problem } from '@woodruff/core';
import { execute, select, type Transaction } from '../database/connection';
import type { Scope } from '../scope';
import { byWeight, effectOn } from './effect';

/** As many differences as are kept to be looked at; the rest is counted. */
const KEPT = 500;

/** Keeps the results of a run aside while they are recalculated; the transaction forgets them. */
export async function keepResults(scope: Scope, runId: string, transaction: Transaction): Promise<void> {
  await execute(
    scope.database,
    `create temporary table results_before on commit drop as
     select payslip_id, net, employer_cost, problems from payslip_results where run_id = :runId`,
    { runId },
    transaction,
  );
}

/** Notes what is other than before; nothing when the run was calculated for the first time. */
export async function noteWhatChanged(scope: Scope, runId: string, transaction: Transaction): Promise<void> {
  const [{ before, now } = { before: 0, now: 0 }] = await select<{ before: number; now: number }>(
    scope.database,
    `select (select count(*)::int from results_before) as before, (select count(*)::int from payslips where run_id = :runId and included) as now`,
    { runId },
    transaction,
  );
  if (!before) return;
  const rows = await select<{
    name: string;
    net: number;
    employerCost: number;
    problems: Problem[];
    netBefore: number | null;
    costBefore: number | null;
    problemsBefore: Problem[] | null;
  }>(
    scope.database,
    `select p.given_name || ' ' || p.family_name as name, x.net, x.employer_cost as "employerCost", x.problems,
            b.net as "netBefore", b.employer_cost as "costBefore", b.problems as "problemsBefore"
     from payslip_results x join payslips y on y.id = x.payslip_id join people p on p.id = y.person_id left join results_before b on b.payslip_id = x.payslip_id
     where x.run_id = :runId and y.included and (b.net, b.employer_cost, b.problems) is distinct from (x.net, x.employer_cost, x.problems)
     order by p.family_name, p.given_name, p.code`,
    { runId },
    transaction,
  );
  const people = rows
    .flatMap(({ name, net, employerCost, problems, netBefore, costBefore, problemsBefore }) => {
      const was = { net: netBefore ?? 0, employerCost: costBefore ?? 0, problems: problemsBefore ?? [] };
      return effectOn(name, was, { net, employerCost, problems }) ?? [];
    })
    .sort(byWeight);
  await execute(
    scope.database,
    `insert into recalculations (run_id, changed, unchanged, people) values (:runId, :changed, :unchanged, :people)
     on conflict (run_id) do update set at = now(), changed = excluded.changed, unchanged = excluded.unchanged, people = excluded.people`,
    { runId, changed: people.length, unchanged: now - people.length, people: JSON.stringify(people.slice(0, KEPT)) },
    transaction,
  );
}

/** What working a run out again changed the last time. */
export async function recalculationOf(scope: Scope, runId: string): Promise<Recalculation> {
  const [row] = await select<NonNullable<Recalculation>>(
    scope.database,
    `select c.at, c.changed, c.unchanged, c.people from recalculations c join pay_runs r on r.id = c.run_id where c.run_id = :runId and r.employer_id = :employer`,
    { runId, employer: scope.employer.id },
  );
  return row ? { ...row, at: new Date(row.at).toISOString() } : null;
}
