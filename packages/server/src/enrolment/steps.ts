import type { ParsedBodyOf } from '@woodruff/contract';
import { addDays, decimalOf, writtenDate, type EnrolmentLaw } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select, type Transaction } from '../database/connection';
import { factsChanged } from '../employers/facts-version';
import { conflict, invalid, notFound } from '../errors';
import { insert, type NewOneOff } from '../one-offs/service';
import { addPersonItem } from '../people/employment/recurring-items';
import type { Scope } from '../scope';
import { changing } from '../users/changing';
import { lawOf, schemesOf, type Scheme } from './schemes';
import { enrolledOf, roundsOf, type Enrolled } from './standing';

type Asked = ParsedBodyOf<'recordEnrolment'>['what'];

/** All or none: somebody who does not fit is named, and nothing is recorded. */
export async function recordEnrolment(scope: Scope, { people, what }: ParsedBodyOf<'recordEnrolment'>): Promise<{ changed: number }> {
  const law = lawOf(scope);
  return changing(scope, async (transaction) => {
    const schemes = await schemesOf(scope, transaction);
    const all = await enrolledOf(scope, law, { people }, transaction);
    if (all.length !== new Set(people).size) throw notFound('person');
    for (const one of all) checkStep(scope, law, schemes, one, what);
    const { step, on, ...about } = what;
    await execute(
      scope.database,
      `insert into enrolment_steps (employer_id, person_id, step, on_day, about, user_id) select :employer, p, :step, :on, :about, :user from unnest(cast(:people as uuid[])) p returning id`,
      {
        employer: scope.employer.id,
        people: `{${all.map(({ personId }) => personId).join()}}`,
        step,
        on,
        about: JSON.stringify(about),
        user: scope.user.id,
      },
      transaction,
    );
    for (const one of all) {
      if (what.step === 'enrolled') await take(scope, schemes, one, what);
      if (what.step === 'opted-out') await giveBack(scope, schemes, one, what, transaction);
      if (what.step === 'ceased') await end(scope, schemes, one, what.on, transaction);
    }
    await record(
      scope,
      all.map(({ personId }) => ({ action: 'enrolment', subject: 'person', subjectId: personId, what: saidOf(law, schemes, what) })),
      transaction,
    );
    if (what.step !== 'letter') await factsChanged(scope, transaction);
    return { changed: all.length };
  });
}

const SAID = {
  postponed: 'Enrolment postponed',
  'opted-out': 'Opted out of the scheme',
  ceased: 'Membership of the scheme ended',
  exempt: 'Exempt from enrolment',
  'exempt-no-more': 'Exempt from enrolment no more',
} as const;

function saidOf(law: EnrolmentLaw, schemes: readonly Scheme[], what: Asked): string {
  if (what.step === 'enrolled')
    return `Enrolled into ${schemes.find(({ id }) => id === what.scheme)?.name ?? ''} from ${writtenDate(what.on)}`;
  if (what.step === 'letter') return `Letter given: ${law.letters.find(({ code }) => code === what.letter)?.title ?? ''}`;
  return `${SAID[what.step]} on ${writtenDate(what.on)}`;
}

/** Refuses what the law does not allow, with who it is about and what to do instead. */
function checkStep(scope: Scope, law: EnrolmentLaw, schemes: readonly Scheme[], one: Enrolled, what: Asked): void {
  const { name, standing, assessed } = one;
  const refuse = (sentence: string, path: string, expected: string) => {
    throw invalid(`${name}: ${sentence}`, [{ path: `what.${path}`, expected }]);
  };
  const isIn = standing.state === 'in';
  if (one.hired && what.on < one.hired) refuse(`the day is before the first day of work, ${writtenDate(one.hired)}.`, 'on', 'a later day');
  switch (what.step) {
    case 'enrolled': {
      const scheme = schemes.find(({ id }) => id === what.scheme);
      if (!scheme) throw notFound('scheme');
      if (!scheme.tiers.some(({ code }) => code === what.tier)) refuse('the scheme has no such group.', 'tier', 'a group of the scheme');
      if (isIn) throw conflict('in-already', `${name} is a member already. End that membership first.`);
      if (what.because === 'agreed') break;
      const category = assessed?.category;
      const byLaw = what.because === 'enrolled' || what.because === 're-enrolled';
      if (category && byLaw && category.duty !== 'enrol')
        refuse(
          `not enrolled by law (${category.label.toLowerCase()}). Record it as asked for, or as agreed.`,
          'because',
          category.asks ?? 'agreed',
        );
      break;
    }
    case 'postponed': {
      if (isIn) throw conflict('in-already', `${name} is a member already: nothing is left to be postponed.`);
      const kind = law.postponements.find(({ code }) => code === what.kind);
      if (!kind) refuse('there is no such postponement.', 'kind', law.postponements.map(({ code }) => code).join(', '));
      const atMost = law.postponedAtMost(what.on);
      if (what.until <= what.on) refuse('the last day is not after the first.', 'until', 'a later day');
      if (what.until > atMost) refuse(`it can be put off until ${writtenDate(atMost)} at most.`, 'until', `a day up to ${atMost}`);
      if (one.steps.some(({ step, about, undone }) => undone === null && step === 'postponed' && about['kind'] === what.kind))
        throw conflict('postponed-before', `${name}: enrolment was postponed ${kind?.label ?? ''} before. Each kind is allowed once.`);
      break;
    }
    case 'opted-out': {
      if (!isIn) throw conflict('not-in', `${name} is not a member.`);
      const last = law.optOutUntil(standing);
      if (last === undefined)
        throw conflict(
          'letter-first',
          `${name}: the time for opting out has not begun, as no letter about the enrolment is marked as given; or the membership was asked for. Mark the letter as given with its day, or end the membership.`,
        );
      if (what.on > last)
        throw conflict(
          'too-late',
          `${name}: the time for opting out ended on ${writtenDate(last)}. End the membership instead: contributions stop, and what was paid in stays in the scheme.`,
        );
      if (what.on < (standing.since ?? what.on)) refuse('opted out before the membership began.', 'on', `a day from ${standing.since} on`);
      break;
    }
    case 'ceased':
      if (!isIn) throw conflict('not-in', `${name} is not a member.`);
      break;
    case 'exempt':
      if (isIn) throw conflict('in-already', `${name} is a member. End the membership first.`);
      if (!law.exemptions.some(({ code }) => code === what.reason))
        refuse('there is no such reason.', 'reason', law.exemptions.map(({ code }) => code).join(', '));
      break;
    case 'exempt-no-more':
      if (standing.state !== 'exempt') throw conflict('not-exempt', `${name} is not exempt.`);
      break;
    case 'letter':
      if (!law.letters.some(({ code }) => code === what.letter)) refuse('there is no such letter.', 'letter', 'a letter of the list');
      if (what.on > scope.employer.today) refuse('the letter cannot have been given after today.', 'on', 'today or before');
  }
}

/** The items of the scheme from the day on; those that are held already stay as they are. */
async function take(scope: Scope, schemes: readonly Scheme[], { personId }: Enrolled, what: Asked & { step: 'enrolled' }): Promise<void> {
  const scheme = schemes.find(({ id }) => id === what.scheme);
  const tier = scheme?.tiers.find(({ code }) => code === what.tier);
  if (!scheme || !tier) return;
  for (const [itemId, percent] of [
    [scheme.employeeItemId, tier.employee],
    [scheme.employerItemId, tier.employer],
  ] as const) {
    const [held] = await select<{ id: string }>(
      scope.database,
      `select id from person_items where person_id = :personId and item_id = :itemId and coalesce(to_date, 'infinity') >= cast(:on as date) limit 1`,
      { personId, itemId, on: what.on },
    );
    if (!held && Number(percent) > 0) await addPersonItem(scope, personId, { itemId, amount: percent, from: what.on });
  }
}

const itemsOf = (schemes: readonly Scheme[], { standing }: Enrolled): string[] => {
  const scheme = schemes.find(({ id }) => id === standing.scheme);
  return scheme ? [scheme.employeeItemId, scheme.employerItemId] : [];
};

/** Nothing more is taken from pay dates after a day on. */
async function end(scope: Scope, schemes: readonly Scheme[], one: Enrolled, day: string, transaction: Transaction): Promise<void> {
  const held = { personId: one.personId, items: `{${itemsOf(schemes, one).join()}}`, day };
  await execute(
    scope.database,
    'delete from person_items where person_id = :personId and item_id = any(cast(:items as uuid[])) and from_date > cast(:day as date) returning id',
    held,
    transaction,
  );
  await execute(
    scope.database,
    `update person_items set to_date = :day, version = version + 1 where person_id = :personId and item_id = any(cast(:items as uuid[])) and coalesce(to_date, 'infinity') > cast(:day as date) returning id`,
    held,
    transaction,
  );
}

/** As if there had been no membership: nothing more is taken, and what was taken and put in comes back with the next pay. */
async function giveBack(
  scope: Scope,
  schemes: readonly Scheme[],
  one: Enrolled,
  { reference }: Asked & { step: 'opted-out' },
  transaction: Transaction,
): Promise<void> {
  const items = itemsOf(schemes, one);
  const since = one.standing.since ?? scope.employer.today;
  const paid = await select<{ itemId: string; kind: string; amount: number; last: string }>(
    scope.database,
    `select i.id as "itemId", i.definition->>'kind' as kind, sum(l.amount)::bigint as amount, max(l.pay_date) as last from ledger_lines l join pay_items i on i.id = any(cast(:items as uuid[])) and i.code = l.code
     where l.person_id = :personId and l.pay_date >= :since group by 1, 2`,
    { personId: one.personId, items: `{${items.join()}}`, since },
    transaction,
  );
  const last = paid
    .map((of) => of.last)
    .sort()
    .at(-1);
  // Held up to the last pay date by which anything was taken; an open run takes nothing any more.
  await end(scope, schemes, one, last ?? addDays(since, -1), transaction);
  const refunds = paid
    .filter(({ amount }) => amount > 0)
    .map(({ itemId, kind, amount }): NewOneOff => ({
      personId: one.personId,
      itemId,
      amount: decimalOf(-amount),
      note: `Opted out, reference ${reference}: given back`,
      takes: { by: 'next' },
      back: null,
      ...(kind === 'deduction' ? { refunds: true as const } : {}),
    }));
  if (refunds.length) await insert(scope, refunds, transaction);
}

/** The last step of somebody, as long as nothing was paid by it. */
export async function undoEnrolment(scope: Scope, id: string, { reason }: ParsedBodyOf<'undoEnrolment'>): Promise<Record<string, never>> {
  const law = lawOf(scope);
  return changing(scope, async (transaction) => {
    const [found] = await select<{ personId: string }>(
      scope.database,
      'select person_id as "personId" from enrolment_steps where id = :id and employer_id = :employer and undoes is null',
      { id, employer: scope.employer.id },
      transaction,
    );
    const [one] = found ? await enrolledOf(scope, law, { people: [found.personId] }, transaction) : [];
    if (!one) throw notFound('step');
    const last = one.steps.filter(({ undone }) => undone === null).at(-1);
    if (last?.id !== id) throw conflict('not-last', `${one.name}: only the last step can be taken back, and each once.`);
    if (last.step === 'opted-out' || last.step === 'ceased')
      throw conflict('paid-by-it', `${one.name}: contributions ended by it. Enrol again instead, as opted in or as agreed.`);
    if (last.step === 'enrolled') {
      const schemes = await schemesOf(scope, transaction);
      const items = `{${itemsOf(schemes, one).join()}}`;
      const [paid] = await select<{ any: boolean }>(
        scope.database,
        `select exists (select 1 from ledger_lines l join pay_items i on i.id = any(cast(:items as uuid[])) and i.code = l.code where l.person_id = :person and l.pay_date >= :since) as any`,
        { items, person: one.personId, since: last.on },
        transaction,
      );
      if (paid?.any)
        throw conflict('paid-by-it', `${one.name}: contributions were paid by this membership. Record that it was opted out of, or ended.`);
      await execute(
        scope.database,
        'delete from person_items where person_id = :person and item_id = any(cast(:items as uuid[])) and from_date >= cast(:since as date) returning id',
        { person: one.personId, items, since: last.on },
        transaction,
      );
    }
    await execute(
      scope.database,
      `insert into enrolment_steps (employer_id, person_id, step, on_day, about, undoes, user_id) values (:employer, :person, 'undone', :today, :about, :id, :user) returning id`,
      {
        employer: scope.employer.id,
        person: one.personId,
        today: scope.employer.today,
        about: JSON.stringify({ reason }),
        id,
        user: scope.user.id,
      },
      transaction,
    );
    await record(
      scope,
      { action: 'enrolment', subject: 'person', subjectId: one.personId, what: `A step of the enrolment was taken back: ${reason}` },
      transaction,
    );
    await factsChanged(scope, transaction);
    return {};
  });
}

/** The day on which those who left are enrolled again; another day can be chosen as long as it has not come. */
export async function chooseRound(scope: Scope, { on }: ParsedBodyOf<'chooseRound'>): Promise<Record<string, never>> {
  const law = lawOf(scope);
  const dutiesFrom = law.dutiesFrom(scope.employer.facts.country);
  if (!dutiesFrom)
    throw invalid('No day is on file since which the duties hold. Enter it with the registrations of the employer first.', [
      { path: 'on', expected: 'a day of the duties on file' },
    ]);
  return changing(scope, async (transaction) => {
    const { today } = scope.employer;
    const before = (await roundsOf(scope, transaction)).filter((day) => day < today);
    const round = law.round(dutiesFrom, before, today);
    if (on < round.from || on > round.to)
      throw invalid(
        `People are enrolled again on a day from ${writtenDate(round.from)} to ${writtenDate(round.to)}, three months around ${writtenDate(round.anniversary)}.`,
        [{ path: 'on', expected: `a day from ${round.from} to ${round.to}` }],
      );
    if (before.includes(on) || before.some((day) => day >= round.from))
      throw conflict('round-over', `The day of this round was ${writtenDate(before.at(-1) ?? on)} and has passed.`);
    await execute(
      scope.database,
      'delete from enrolment_rounds where employer_id = :employer and on_day >= :today returning id',
      { employer: scope.employer.id, today },
      transaction,
    );
    await execute(
      scope.database,
      'insert into enrolment_rounds (employer_id, on_day, user_id) values (:employer, :on, :user) returning id',
      { employer: scope.employer.id, on, user: scope.user.id },
      transaction,
    );
    await record(
      scope,
      {
        action: 'enrolment',
        subject: 'employer',
        subjectId: scope.employer.id,
        what: `Those who left are enrolled again on ${writtenDate(on)}`,
      },
      transaction,
    );
    await factsChanged(scope, transaction);
    return {};
  });
}
