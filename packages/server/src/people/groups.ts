import type { Group, GroupDefaults, GroupEffect, ParsedBodyOf } from '@woodruff/contract';
import { Exact, writtenDate } from '@woodruff/core';
import { record } from '../audit/audit';
import { select, within, type Transaction } from '../database/connection';
import { factsChanged } from '../employers/facts-version';
import { conflict, invalid, notFound } from '../errors';
import { planOf, setLeaveMembers } from '../leave/plans';
import { changeHolders } from '../pay-items/holders';
import { packFor, type Scope } from '../users/scope';
import { changeFacts } from './dated-changes';
import { PayGroup, Person, PersonItem, TaxDetails } from './models';
import { unique } from './service';
import { parsedTax } from './tax-details';

const FACTS = ['scheduleId', 'department', 'worksite', 'job', 'kind', 'standardHours'] as const;
type Fact = (typeof FACTS)[number];
const LABELS: Record<Fact, string> = {
  scheduleId: 'pay schedule',
  department: 'department',
  worksite: 'worksite',
  job: 'job',
  kind: 'kind',
  standardHours: 'standard hours',
};
const NOTHING: GroupDefaults = {
  department: '',
  worksite: '',
  job: '',
  items: [],
  leavePlans: [],
  tax: {},
  accounts: { wages: '', reimbursements: '', employerTaxes: '' },
};

/** A value as it is compared: hours written differently are the same hours. */
const plain = (fact: Fact, value: string | null | undefined): string =>
  value && fact === 'standardHours' ? Exact.of(value).toDecimal() : (value ?? '');

type HeldItem = GroupDefaults['items'][number];
const sameItem = (one: HeldItem | undefined, other: HeldItem | undefined): boolean =>
  !!one && !!other && figure(one.amount) === figure(other.amount) && figure(one.percent) === figure(other.percent);
const figure = (value: string | null | undefined): string => (value ? Exact.of(value).toDecimal() : '');
const itemWords = ({ amount, percent }: HeldItem): string => (percent ? `${figure(percent)}%` : amount ? figure(amount) : 'given');

/** A member with what is compared with the group. */
interface Member {
  person: Person;
  items: Map<string, HeldItem>;
  leavePlans: ReadonlySet<string>;
  /** Tax details in force; null while there are none. */
  tax: Record<string, unknown> | null;
}

/** What one person takes over, and where they keep a value of their own. */
interface Step {
  member: Member;
  facts: Partial<Record<Fact, string | null>>;
  give: HeldItem[];
  end: string[];
  /** Tax details as they are from then on; null where they stay. */
  tax: Record<string, unknown> | null;
  join: string[];
  quit: string[];
  follow: string[];
  keep: string[];
}

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
  return scope.database.transaction(async (transaction) => {
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
  return scope.database.transaction(async (transaction) => {
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
  return scope.database.transaction(async (transaction) => {
    const group = await groupOf(scope, id, transaction);
    const steps = await moveSteps(scope, group, body, transaction);
    if (steps.length < body.personIds.length)
      throw invalid('Somebody in the list is not a person of this employer.', [{ path: 'personIds', expected: 'people of this employer' }]);
    await take(scope, steps, body.from, `Moved to ${group.name}`, transaction);
    for (const { member } of steps) {
      await member.person.update({ groupId: id }, { transaction });
      await record(
        scope,
        { action: 'move-to-group', subject: 'person', subjectId: member.person.id, what: `Moved to the group ${group.name}` },
        transaction,
      );
    }
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
  return scope.database.transaction(async (transaction) => {
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

async function membersOf(
  scope: Scope,
  where: { groupId: string } | { id: string[] },
  from: string,
  transaction?: Transaction,
): Promise<Member[]> {
  const within = transaction ? { transaction } : {};
  const people = (
    await Person.findAll({ where: { employerId: scope.employer.id, ...where }, order: ['familyName', 'givenName'], ...within })
  ).filter((person) => !person.left || person.left >= from);
  const held = people.length ? await PersonItem.findAll({ where: { personId: people.map(({ id }) => id) }, ...within }) : [];
  const inPlans = people.length
    ? await select<{ personId: string; planId: string }>(
        scope.database,
        `select person_id as "personId", plan_id as "planId" from leave_members where person_id in (:people) and from_date <= :from and (to_date is null or to_date >= :from)`,
        { people: people.map(({ id }) => id), from },
        transaction,
      )
    : [];
  const details = people.length
    ? await select<{ personId: string; facts: Record<string, unknown> }>(
        scope.database,
        `select distinct on (person_id) person_id as "personId", facts from tax_details where person_id in (:people) and from_date <= :from order by person_id, from_date desc`,
        { people: people.map(({ id }) => id), from },
        transaction,
      )
    : [];
  const taxOf = new Map(details.map(({ personId, facts }) => [personId, facts]));
  return people.map((person) => ({
    person,
    tax: taxOf.get(person.id) ?? null,
    leavePlans: new Set(inPlans.filter((one) => one.personId === person.id).map((one) => one.planId)),
    items: new Map(
      held
        .filter((item) => item.personId === person.id && item.fromDate <= from && (item.toDate === null || item.toDate >= from))
        .map(({ itemId, amount, percent }) => [itemId, { itemId, amount, percent }]),
    ),
  }));
}

/**
 * What a person takes over when what the group supplies goes from `was` to `is`. Who has what the group had follows;
 * who has something else keeps it, unless `overrule` (joining a group) takes the group's facts in any case.
 */
function stepOf(member: Member, was: GroupDefaults, is: GroupDefaults, names: ReadonlyMap<string, string>, overrule: boolean): Step {
  const step: Step = { member, facts: {}, give: [], end: [], tax: null, join: [], quit: [], follow: [], keep: [] };
  for (const fact of FACTS) {
    const [old, now, own] = [plain(fact, was[fact]), plain(fact, is[fact]), plain(fact, member.person[fact])];
    if (now === '' || now === own || (!overrule && now === old)) continue;
    const words = `${LABELS[fact]} ${names.get(now) ?? now}`;
    if (overrule || own === old || own === '') {
      step.facts[fact] = is[fact] ?? null;
      step.follow.push(own ? `${words} instead of ${names.get(own) ?? own}` : words);
    } else step.keep.push(`${LABELS[fact]} ${names.get(own) ?? own}`);
  }
  takeTax(step, was.tax ?? {}, is.tax ?? {}, names, overrule);
  const before = new Map(was.items.map((item) => [item.itemId, item]));
  for (const item of is.items) {
    const [old, own] = [before.get(item.itemId), member.items.get(item.itemId)];
    const name = names.get(item.itemId) ?? '';
    if (sameItem(own, item) || (!overrule && sameItem(old, item))) continue;
    if (own ? sameItem(own, old) : !old || overrule) {
      step.give.push(item);
      step.follow.push(`${name} ${itemWords(item)}${own ? ` instead of ${itemWords(own)}` : ''}`);
    } else step.keep.push(own ? `${name} ${itemWords(own)}` : `no ${name}`);
  }
  for (const [itemId, item] of before) {
    if (is.items.some((other) => other.itemId === itemId)) continue;
    const own = member.items.get(itemId);
    if (!own) continue;
    const name = names.get(itemId) ?? '';
    if (sameItem(own, item)) {
      step.end.push(itemId);
      step.follow.push(`${name} ends`);
    } else step.keep.push(`${name} ${itemWords(own)}`);
  }
  const [plansBefore, plansNow] = [was.leavePlans ?? [], is.leavePlans ?? []];
  for (const plan of plansNow)
    if (!member.leavePlans.has(plan) && (overrule || !plansBefore.includes(plan))) {
      step.join.push(plan);
      step.follow.push(`leave plan ${names.get(plan) ?? ''}`);
    }
  for (const plan of plansBefore)
    if (member.leavePlans.has(plan) && !plansNow.includes(plan)) {
      step.quit.push(plan);
      step.follow.push(`leave plan ${names.get(plan) ?? ''} ends`);
    }
  return step;
}

/** Where somebody works is a part of their certificate: without one it is the certificate's first entry, made on the person's page. */
function takeTax(
  step: Step,
  was: Record<string, string>,
  is: Record<string, string>,
  names: ReadonlyMap<string, string>,
  overrule: boolean,
): void {
  const { tax } = step.member;
  if (!tax) return;
  for (const [key, now] of Object.entries(is)) {
    const [old, own] = [was[key] ?? '', typeof tax[key] === 'string' ? tax[key] : ''];
    if (!now || now === own || (!overrule && now === old)) continue;
    const words = `${names.get(key) ?? key} ${now}`;
    if (overrule || own === old || own === '') {
      step.tax = { ...(step.tax ?? tax), [key]: now };
      step.follow.push(own ? `${words} instead of ${own}` : words);
    } else step.keep.push(`${names.get(key) ?? key} ${own}`);
  }
}

/** From the day on; certificates that begin later stay as they are. */
async function newTaxDetails(scope: Scope, step: Step, from: string, reason: string, transaction: Transaction): Promise<void> {
  const { person } = step.member;
  const facts = parsedTax(scope, step.tax ?? {});
  const [same] = await TaxDetails.findAll({ where: { personId: person.id, fromDate: from }, transaction });
  if (same) await same.update({ facts }, { transaction });
  else await TaxDetails.create({ personId: person.id, fromDate: from, facts }, { transaction });
  await record(
    scope,
    {
      action: 'add-tax-details',
      subject: 'person',
      subjectId: person.id,
      what: `Tax details from ${writtenDate(from)}: ${reason}`,
      before: step.member.tax ?? undefined,
      after: facts,
    },
    transaction,
  );
}

async function take(scope: Scope, steps: readonly Step[], from: string, reason: string, transaction: Transaction): Promise<void> {
  for (const { member, facts } of steps)
    if (Object.keys(facts).length)
      await changeFacts(scope, member.person, facts as Parameters<typeof changeFacts>[2], { from, reason }, transaction);
  for (const step of steps) if (step.tax) await newTaxDetails(scope, step, from, reason, transaction);
  const entries = new Map<string, ParsedBodyOf<'changeHolders'>['entries']>();
  for (const { member, give, end } of steps) {
    const personId = member.person.id;
    for (const { itemId, amount, percent } of give)
      entries.set(itemId, [...(entries.get(itemId) ?? []), { personId, end: false, amount, percent }]);
    for (const itemId of end) entries.set(itemId, [...(entries.get(itemId) ?? []), { personId, end: true }]);
  }
  const inside = { ...scope, database: within(scope.database, transaction) };
  for (const [itemId, of] of entries) await changeHolders(inside, itemId, { from, entries: of });
  for (const [which, end] of [
    ['join', false],
    ['quit', true],
  ] as const)
    for (const plan of new Set(steps.flatMap((step) => step[which])))
      await setLeaveMembers(inside, plan, {
        personIds: steps.filter((step) => step[which].includes(plan)).map((step) => step.member.person.id),
        from,
        end,
      });
  await factsChanged(scope, transaction);
}

const effectOf = (steps: readonly Step[]): GroupEffect => {
  const of = (which: 'follow' | 'keep') =>
    steps
      .filter((step) => step[which].length)
      .map(({ member, ...step }) => ({
        personId: member.person.id,
        name: `${member.person.familyName}, ${member.person.givenName}`,
        what: step[which],
      }));
  return { follow: of('follow'), keep: of('keep') };
};

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
