import type { GroupDefaults, GroupEffect, ParsedBodyOf } from '@woodruff/contract';
import { Exact, writtenDate } from '@woodruff/core';
import { record } from '../audit/audit';
import { select, type Transaction } from '../database/connection';
import { factsChanged } from '../employers/facts-version';
import { setLeaveMembers } from '../leave/plans';
import { changeHolders } from '../pay-items/holders';
import type { Scope } from '../scope';
import { changeFacts } from '../people/dated-changes';
import { Person, PersonItem, TaxDetails } from '../people/models';
import { parsedTax } from '../people/tax/tax-details';

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
export const NOTHING: GroupDefaults = {
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
export interface Step {
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

export async function membersOf(
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
export function stepOf(member: Member, was: GroupDefaults, is: GroupDefaults, names: ReadonlyMap<string, string>, overrule: boolean): Step {
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

/** What the steps say, from a day on. */
export async function take(scope: Scope, steps: readonly Step[], from: string, reason: string, transaction: Transaction): Promise<void> {
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
  for (const [itemId, of] of entries) await changeHolders(scope, itemId, { from, entries: of });
  for (const [which, end] of [
    ['join', false],
    ['quit', true],
  ] as const)
    for (const plan of new Set(steps.flatMap((step) => step[which])))
      await setLeaveMembers(scope, plan, {
        personIds: steps.filter((step) => step[which].includes(plan)).map((step) => step.member.person.id),
        from,
        end,
      });
  await factsChanged(scope, transaction);
}

export const effectOf = (steps: readonly Step[]): GroupEffect => {
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
