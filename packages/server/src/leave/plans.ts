import type { LeavePlanView, LeaveTerms, ParsedBodyOf } from '@woodruff/contract';
import { addDays, writtenDate } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select, type Transaction } from '../database/connection';
import { factsChanged } from '../employers/facts-version';
import { conflict, invalid, notFound } from '../errors';
import { changing } from '../users/changing';
import type { Scope } from '../scope';
import { unique } from '../database/unique';

export const plansOf = (scope: Scope, transaction?: Transaction): Promise<LeavePlanView[]> =>
  select<LeavePlanView>(
    scope.database,
    `select l.id, l.code, (select count(distinct m.person_id)::int from leave_members m where m.plan_id = l.id and (m.to_date is null or m.to_date >= :today)) as people,
            (select json_agg(json_build_object('from', t.from_date, 'terms', t.terms) order by t.from_date desc) from leave_terms t where t.plan_id = l.id) as terms
     from leave_plans l where l.employer_id = :employer order by l.code`,
    { employer: scope.employer.id, today: scope.employer.today },
    transaction,
  );

export async function planOf(scope: Scope, id: string, transaction?: Transaction): Promise<LeavePlanView & { name: string }> {
  const plan = (await plansOf(scope, transaction)).find((one) => one.id === id);
  if (!plan) throw notFound('leave plan');
  return { ...plan, name: nameOn(plan, scope.employer.today) };
}

/** What the plan is called on a day. */
export const nameOn = ({ terms }: LeavePlanView, date: string): string =>
  (terms.find((one) => one.from <= date) ?? terms.at(-1))?.terms.name ?? '';

export async function addLeavePlan(scope: Scope, body: ParsedBodyOf<'addLeavePlan'>): Promise<{ id: string }> {
  return changing(scope, async (transaction) => {
    await checkTerms(scope, body.terms, transaction);
    const [made] = await unique(`There is already a leave plan with the code ${body.code}.`, 'code', () =>
      execute(
        scope.database,
        'insert into leave_plans (employer_id, code) values (:employer, :code) returning id',
        { employer: scope.employer.id, code: body.code },
        transaction,
      ),
    );
    const { id } = made as { id: string };
    await saveTerms(scope, id, body, transaction);
    await recorded(scope, 'add-leave-plan', `Added the leave plan ${body.terms.name}`, undefined, body.terms, transaction);
    return { id };
  });
}

/** Terms from a day on; for a day that has terms they are corrected. What was posted stays as it was. */
export async function changeLeavePlan(scope: Scope, id: string, body: ParsedBodyOf<'changeLeavePlan'>): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const plan = await planOf(scope, id, transaction);
    await checkTerms(scope, body.terms, transaction);
    const before = plan.terms.find((one) => one.from === body.from);
    await saveTerms(scope, id, body, transaction);
    await refuseSharedItems(scope, transaction);
    await recorded(
      scope,
      'change-leave-plan',
      `${before ? 'Corrected' : 'Changed'} the leave plan ${body.terms.name}, from ${writtenDate(body.from)}`,
      before?.terms ?? plan.terms[0]?.terms,
      body.terms,
      transaction,
    );
    return {};
  });
}

export async function removeLeavePlan(scope: Scope, id: string): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const plan = await planOf(scope, id, transaction);
    const [used] = await select<{ people: number }>(
      scope.database,
      'select count(distinct person_id)::int as people from leave_members where plan_id = :id',
      { id },
      transaction,
    );
    if (used?.people)
      throw conflict(
        'still-used',
        `${used.people === 1 ? 'One person is or was' : `${used.people} people are or were`} in ${plan.name}. End it for them instead: what was earned stays on record.`,
      );
    await execute(scope.database, 'delete from leave_plans where id = :id', { id }, transaction);
    await recorded(scope, 'remove-leave-plan', `Removed the leave plan ${plan.name}`, plan.terms[0]?.terms, undefined, transaction);
    return {};
  });
}

/** Puts people into a plan from a day on; or takes them out, so that the day before is the last in it. */
export async function setLeaveMembers(scope: Scope, id: string, body: ParsedBodyOf<'setLeaveMembers'>): Promise<{ changed: number }> {
  return changing(scope, async (transaction) => {
    const plan = await planOf(scope, id, transaction);
    const people = await select<{ id: string }>(
      scope.database,
      'select id from people where employer_id = :employer and id in (:ids)',
      { employer: scope.employer.id, ids: body.personIds },
      transaction,
    );
    if (people.length < new Set(body.personIds).size)
      throw invalid('Somebody in the list is not a person of this employer.', [{ path: 'personIds', expected: 'people of this employer' }]);
    const changed = (await (body.end ? endMembers : addMembers)(scope, id, body, transaction)) as { id: string }[];
    await refuseSharedItems(scope, transaction);
    await record(
      scope,
      changed.map((person) => ({
        action: body.end ? 'end-leave' : 'give-leave',
        subject: 'person',
        subjectId: person.id,
        what: `${plan.name}: ${body.end ? 'out of' : 'in'} the plan from ${writtenDate(body.from)}`,
      })),
      transaction,
    );
    await factsChanged(scope, transaction);
    return { changed: changed.length };
  });
}

type Members = ParsedBodyOf<'setLeaveMembers'>;

async function addMembers(scope: Scope, plan: string, { personIds, from }: Members, transaction: Transaction): Promise<unknown[]> {
  // Who was in it until now goes on; who is to be in it later begins earlier.
  const again = (await execute(
    scope.database,
    `update leave_members set to_date = null, from_date = least(from_date, cast(:from as date)) where plan_id = :plan and person_id in (:personIds)
       and ((to_date is not null and to_date >= cast(:yesterday as date)) or (to_date is null and from_date > :from)) returning person_id as id`,
    { plan, personIds, from, yesterday: addDays(from, -1) },
    transaction,
  )) as { id: string }[];
  const fresh = (await execute(
    scope.database,
    `insert into leave_members (plan_id, person_id, from_date) select :plan, id, :from from people p where id in (:personIds)
       and not exists (select 1 from leave_members m where m.plan_id = :plan and m.person_id = p.id and m.to_date is null) returning person_id as id`,
    { plan, personIds, from },
    transaction,
  )) as { id: string }[];
  return [...again, ...fresh];
}

const endMembers = async (scope: Scope, plan: string, { personIds, from }: Members, transaction: Transaction): Promise<unknown[]> => {
  const never = await execute(
    scope.database,
    'delete from leave_members where plan_id = :plan and person_id in (:personIds) and to_date is null and from_date >= :from returning person_id as id',
    { plan, personIds, from },
    transaction,
  );
  const ended = await execute(
    scope.database,
    `update leave_members set to_date = cast(:last as date) where plan_id = :plan and person_id in (:personIds) and from_date < :from and (to_date is null or to_date > :last) returning person_id as id`,
    { plan, personIds, from, last: addDays(from, -1) },
    transaction,
  );
  return [...never, ...ended];
};

async function saveTerms(
  scope: Scope,
  id: string,
  { from, terms }: { from: string; terms: LeaveTerms },
  transaction: Transaction,
): Promise<void> {
  await execute(
    scope.database,
    'insert into leave_terms (plan_id, from_date, terms) values (:id, :from, :terms) on conflict (plan_id, from_date) do update set terms = excluded.terms',
    { id, from, terms: JSON.stringify(terms) },
    transaction,
  );
  await factsChanged(scope, transaction);
}

/** Hours on one item cannot be told apart where somebody is in two plans that it pays. */
async function refuseSharedItems(scope: Scope, transaction: Transaction): Promise<void> {
  const [shared] = await select<{ name: string; item: string; plans: string }>(
    scope.database,
    `select min(p.given_name || ' ' || p.family_name) as name, t.terms->>'item' as item, string_agg(distinct t.terms->>'name', ' and ') as plans
     from leave_members m join leave_plans l on l.id = m.plan_id and l.employer_id = :employer join people p on p.id = m.person_id
     cross join lateral (select terms from leave_terms where plan_id = l.id order by from_date desc limit 1) t
     where (m.to_date is null or m.to_date >= :today) and t.terms->>'item' is not null
     group by m.person_id, t.terms->>'item' having count(distinct m.plan_id) > 1 limit 1`,
    { employer: scope.employer.id, today: scope.employer.today },
    transaction,
  );
  if (shared)
    throw conflict(
      'item-shared',
      `${shared.name} would be in ${shared.plans}, and “${shared.item}” pays both: its hours could not be told apart. Give each plan a pay item of its own.`,
    );
}

async function checkTerms(scope: Scope, terms: LeaveTerms, transaction: Transaction): Promise<void> {
  const wanted = [terms.item, terms.payOutItem, terms.cashOutItem].filter((code) => code !== undefined);
  const items = await select<{ code: string; by: string; kind: string; name: string }>(
    scope.database,
    `select code, definition->'method'->>'by' as by, definition->>'kind' as kind, definition->>'name' as name from pay_items where employer_id = :employer and not retired`,
    { employer: scope.employer.id },
    transaction,
  );
  for (const code of wanted)
    if (!items.some((item) => item.code === code))
      throw invalid(`There is no pay item “${code}”. Choose one, or add it first.`, [{ path: 'terms.item', expected: 'a pay item' }]);
  const paying = items.find((item) => item.code === terms.item);
  if (paying && paying.by !== 'hours')
    throw invalid(`${paying.name} is not paid by the hour, and leave is. Choose an item paid by the hour.`, [
      { path: 'terms.item', expected: 'an item paid by the hour' },
    ]);
  const cashing = items.find((item) => item.code === terms.cashOutItem);
  if (cashing && (cashing.by !== 'hours' || cashing.code === terms.item))
    throw invalid(
      cashing.code === terms.item
        ? `Leave that is taken and leave that is cashed out go through two items, so that their hours can be told apart.`
        : `${cashing.name} is not paid by the hour. Leave is cashed out through an item paid by the hour.`,
      [{ path: 'terms.cashOutItem', expected: 'another item paid by the hour' }],
    );
  const out = items.find((item) => item.code === terms.payOutItem);
  if (out && out.kind !== 'earning')
    throw invalid(`${out.name} is no pay. Unused leave is paid out through an earning.`, [
      { path: 'terms.payOutItem', expected: 'an earning' },
    ]);
}

const recorded = (scope: Scope, action: string, what: string, before: unknown, after: unknown, transaction: Transaction): Promise<void> =>
  record(scope, { action, subject: 'employer', subjectId: scope.employer.id, what, before, after }, transaction);
