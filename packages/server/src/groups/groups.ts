import type { Group, GroupDefaults, GroupEffect, ParsedBodyOf } from '@woodruff/contract';
import { record } from '../audit/audit';
import { select, type Transaction } from '../database/connection';
import { factsChanged } from '../employers/facts-version';
import { conflict, invalid, notFound } from '../errors';
import { planOf } from '../leave/plans';
import { changing } from '../users/changing';
import { packFor, type Scope } from '../scope';
import { effectOf, membersOf, NOTHING, stepOf, take, type Step } from './steps';
import { PayGroup, Person } from '../people/models';
import { unique } from '../database/unique';

export async function groupsOf(scope: Scope): Promise<Group[]> {
  const groups = await PayGroup.findAll({ where: { employerId: scope.employer.id }, order: [['name', 'ASC']] });
  const names = await itemNames(scope);
  const answer: Group[] = [];
  for (const group of groups) {
    const members = await membersOf(scope, { groupId: group.id }, scope.employer.today);
    answer.push({
      id: group.id,
      name: group.name,
      version: group.version,
      defaults: group.defaults,
      members: members.map((member) => ({
        personId: member.person.id,
        name: `${member.person.familyName}, ${member.person.givenName}`,
        own: stepOf(member, NOTHING, group.defaults, names, true).follow,
      })),
    });
  }
  return answer;
}

export async function addGroup(scope: Scope, body: ParsedBodyOf<'addGroup'>): Promise<{ id: string }> {
  return changing(scope, async (transaction) => {
    await checkDefaults(scope, body.defaults, transaction);
    const group = await unique(`There is already a group called ${body.name}.`, 'name', () =>
      PayGroup.create({ employerId: scope.employer.id, ...body }, { transaction }),
    );
    await recorded(scope, 'add-group', `Added the group ${body.name}`, undefined, body.defaults, transaction);
    return { id: group.id };
  });
}

/** Who follows a change of the group, and who keeps a value of their own. */
export async function checkGroupChange(scope: Scope, id: string, body: ParsedBodyOf<'changeGroup'>): Promise<GroupEffect> {
  const group = await groupOf(scope, id);
  const names = await itemNames(scope);
  const members = await membersOf(scope, { groupId: id }, body.passOnFrom ?? scope.employer.today);
  return effectOf(members.map((member) => stepOf(member, group.defaults, body.defaults, names, false)));
}

/** Changes a group; passed on, people who have what the group had get what it has now. Who differs keeps their own. */
export async function changeGroup(scope: Scope, id: string, body: ParsedBodyOf<'changeGroup'>): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const group = await groupOf(scope, id, transaction);
    if (group.version !== body.version)
      throw conflict('changed-meanwhile', `Somebody else changed ${group.name} meanwhile. Look at it again, then make your change.`);
    await checkDefaults(scope, body.defaults, transaction);
    const before = group.defaults;
    let steps: Step[] = [];
    if (body.passOnFrom) {
      const names = await itemNames(scope);
      const members = await membersOf(scope, { groupId: id }, body.passOnFrom, transaction);
      steps = members.map((member) => stepOf(member, before, body.defaults, names, false));
      await take(scope, steps, body.passOnFrom, `Group ${body.name}`, transaction);
    }
    await unique(`There is already a group called ${body.name}.`, 'name', () =>
      group.update({ name: body.name, defaults: body.defaults }, { transaction }),
    );
    const followers = steps.filter((step) => step.follow.length).length;
    await recorded(
      scope,
      'change-group',
      `Changed the group ${body.name}${body.passOnFrom ? `, passed on to ${followers}` : ', for those who join later'}`,
      before,
      body.defaults,
      transaction,
    );
    return {};
  });
}

export async function checkMove(scope: Scope, id: string, body: ParsedBodyOf<'moveToGroup'>): Promise<GroupEffect> {
  return effectOf(await moveSteps(scope, await groupOf(scope, id), body));
}

/** Moves people into a group: they take over its facts and items; items that the earlier group had given end. */
export async function moveToGroup(scope: Scope, id: string, body: ParsedBodyOf<'moveToGroup'>): Promise<GroupEffect> {
  return changing(scope, async (transaction) => {
    const group = await groupOf(scope, id, transaction);
    const steps = await moveSteps(scope, group, body, transaction);
    if (steps.length < body.personIds.length)
      throw invalid('Somebody in the list is not a person of this employer.', [{ path: 'personIds', expected: 'people of this employer' }]);
    await take(scope, steps, body.from, `Moved to ${group.name}`, transaction);
    const moved = steps.map(({ member }) => member.person.id);
    await Person.update({ groupId: id }, { where: { id: moved }, transaction });
    await record(
      scope,
      moved.map((person) => ({ action: 'move-to-group', subject: 'person', subjectId: person, what: `Moved to the group ${group.name}` })),
      transaction,
    );
    await factsChanged(scope, transaction);
    return effectOf(steps);
  });
}

/** A new person takes the group's items; facts that were entered stay as entered. */
export async function joinGroup(scope: Scope, groupId: string, person: Person, transaction: Transaction): Promise<void> {
  const group = await groupOf(scope, groupId, transaction);
  await person.reload({ transaction });
  await person.update({ groupId }, { transaction });
  const from = person.hired ?? scope.employer.today;
  const step = stepOf(
    { person, items: new Map(), leavePlans: new Set(), tax: null },
    NOTHING,
    group.defaults,
    await itemNames(scope),
    true,
  );
  await take(scope, [{ ...step, facts: {} }], from, `Group ${group.name}`, transaction);
}

export async function removeGroup(scope: Scope, id: string): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const group = await groupOf(scope, id, transaction);
    const people = await Person.count({ where: { groupId: id }, transaction });
    if (people)
      throw conflict(
        'still-used',
        `${people === 1 ? 'One person is' : `${people} people are`} in ${group.name}. Move them to another group first.`,
      );
    await group.destroy({ transaction });
    await recorded(scope, 'remove-group', `Removed the group ${group.name}`, group.defaults, undefined, transaction);
    return {};
  });
}

async function groupOf(scope: Scope, id: string, transaction?: Transaction): Promise<PayGroup> {
  const group = await PayGroup.findOne({
    where: { id, employerId: scope.employer.id },
    ...(transaction ? { transaction, lock: transaction.LOCK.UPDATE } : {}),
  });
  if (!group) throw notFound('group');
  return group;
}

async function moveSteps(
  scope: Scope,
  group: PayGroup,
  { personIds, from }: ParsedBodyOf<'moveToGroup'>,
  transaction?: Transaction,
): Promise<Step[]> {
  const members = await membersOf(scope, { id: personIds }, from, transaction);
  const earlier = await PayGroup.findAll({ where: { employerId: scope.employer.id }, ...(transaction ? { transaction } : {}) });
  const defaultsOf = new Map(earlier.map((one) => [one.id, one.defaults]));
  const names = await itemNames(scope);
  return members.map((member) => stepOf(member, suppliedBy(defaultsOf.get(member.person.groupId ?? '')), group.defaults, names, true));
}

/** Of an earlier group, its items and leave plans end where the new one has none of them; its facts do not matter. */
const suppliedBy = (defaults: GroupDefaults | undefined): GroupDefaults => ({
  ...NOTHING,
  items: defaults?.items ?? [],
  leavePlans: defaults?.leavePlans ?? [],
});

/** Fields of the certificate that a group can supply. */
const taxOfGroups = (scope: Scope) =>
  packFor(scope)
    .taxForm.flatMap((group) => group.fields)
    .filter((field) => field.ofGroup);

/** Names of schedules, items and leave plans by id, and of tax details by key. */
async function itemNames(scope: Scope): Promise<Map<string, string>> {
  const rows = await select<{ id: string; name: string }>(
    scope.database,
    `select id, name from pay_schedules where employer_id = :employer union all select id, definition->>'name' from pay_items where employer_id = :employer
     union all select l.id, (select t.terms->>'name' from leave_terms t where t.plan_id = l.id order by t.from_date desc limit 1) from leave_plans l where l.employer_id = :employer`,
    { employer: scope.employer.id },
  );
  const places = taxOfGroups(scope).map(({ key, label }) => [key, label.toLowerCase()] as const);
  return new Map([...rows.map(({ id, name }) => [id, name] as const), ...places]);
}

async function checkDefaults(scope: Scope, defaults: GroupDefaults, transaction: Transaction): Promise<void> {
  const ids = defaults.items.map((item) => item.itemId);
  if (new Set(ids).size < ids.length)
    throw invalid('An item is listed twice. Keep one line for it.', [{ path: 'defaults.items', expected: 'each item once' }]);
  const items = await select<{ id: string; retired: boolean; name: string }>(
    scope.database,
    `select id, retired, definition->>'name' as name from pay_items where employer_id = :employer`,
    { employer: scope.employer.id },
    transaction,
  );
  for (const itemId of ids) {
    const item = items.find((candidate) => candidate.id === itemId);
    if (!item) throw invalid('There is no such pay item.', [{ path: 'defaults.items', expected: 'pay items of this employer' }]);
    if (item.retired) throw conflict('retired', `${item.name} is retired. Bring it back first, or choose another item.`);
  }
  for (const [key, value] of Object.entries(defaults.tax)) {
    const field = taxOfGroups(scope).find((one) => one.key === key);
    if (!field)
      throw invalid(`A group cannot supply ${key}: it is each person's own.`, [{ path: 'defaults.tax', expected: 'the place of work' }]);
    if (value && field.choices && !field.choices.some((choice) => choice.value === value))
      throw invalid(`${field.label}: ${value} is not known.`, [{ path: `defaults.tax.${key}`, expected: 'one of the choices' }]);
  }
  for (const plan of defaults.leavePlans) await planOf(scope, plan, transaction);
  if (!defaults.scheduleId) return;
  const found = await select(
    scope.database,
    'select 1 as one from pay_schedules where id = :id and employer_id = :employer',
    { id: defaults.scheduleId, employer: scope.employer.id },
    transaction,
  );
  if (!found.length)
    throw invalid('There is no such pay schedule.', [{ path: 'defaults.scheduleId', expected: 'one of the pay schedules' }]);
}

const recorded = (scope: Scope, action: string, what: string, before: unknown, after: unknown, transaction: Transaction): Promise<void> =>
  record(scope, { action, subject: 'employer', subjectId: scope.employer.id, what, before, after }, transaction);
