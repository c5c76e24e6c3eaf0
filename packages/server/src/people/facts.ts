import type { ParsedBodyOf, Person as PersonView } from '@woodruff/contract';
import { isDate } from '@woodruff/core';
import { isDeepStrictEqual } from 'node:util';
import { select } from '../database/connection';
import { invalid } from '../errors';
import { checkContacts, type Contacts } from '../formats';
import { packFor, type Scope } from '../scope';
import type { Person } from './models';

/** What is entered of a person. */
export type Facts = ParsedBodyOf<'changePerson'>['facts'];

/** Refuses facts that cannot be: dates out of order, a schedule or a manager that does not exist, own fields of another kind. */
export async function checkFacts(scope: Scope, facts: Facts, personId?: string): Promise<void> {
  checkDates(facts);
  checkOwnFields(scope, facts.own);
  await checkSchedule(scope, facts.scheduleId);
  await checkManager(scope, facts.managerId, personId);
  const [stored] = personId
    ? await select<Pick<Facts, 'address' | 'phone' | 'emergency'>>(
        scope.database,
        'select address, phone, emergency from people where id = :personId and employer_id = :employer',
        { personId, employer: scope.employer.id },
      )
    : [];
  checkContacts(packFor(scope), contactsOf(facts), stored && contactsOf(stored));
}

const contactsOf = ({ address, phone, emergency }: Pick<Facts, 'address' | 'phone' | 'emergency'>): Contacts => ({
  address: { path: 'facts.address', state: address.state, postcode: address.postcode },
  phones: { 'facts.phone': phone, 'facts.emergency.phone': emergency.phone },
});

async function checkSchedule(scope: Scope, scheduleId: string | null | undefined): Promise<void> {
  if (!scheduleId) return;
  const found = await select(scope.database, 'select 1 as one from pay_schedules where id = :scheduleId and employer_id = :employer', {
    scheduleId,
    employer: scope.employer.id,
  });
  if (!found.length) throw invalid('There is no such pay schedule.', [{ path: 'scheduleId', expected: 'one of the pay schedules' }]);
}

async function checkManager(scope: Scope, managerId: string | null | undefined, personId: string | undefined): Promise<void> {
  if (!managerId) return;
  if (managerId === personId)
    throw invalid('Nobody reports to themselves. Choose another manager.', [{ path: 'managerId', expected: 'somebody else' }]);
  const found = await select(scope.database, 'select 1 as one from people where id = :managerId and employer_id = :employer', {
    managerId,
    employer: scope.employer.id,
  });
  if (!found.length)
    throw invalid('The manager is not a person of this employer.', [{ path: 'managerId', expected: 'a person of this employer' }]);
}

function checkDates(facts: Facts): void {
  if (facts.absence?.to && facts.absence.to < facts.absence.from)
    throw invalid('The leave of absence ends before it begins. Correct one of the two days.', [
      { path: 'absence.to', expected: 'a day after it begins' },
    ]);
  if (facts.left && facts.hired && facts.left < facts.hired)
    throw invalid('The last day is before the hire date. Correct one of them.', [{ path: 'left', expected: 'a date after the hire date' }]);
  if (facts.born && facts.hired && facts.born > facts.hired)
    throw invalid('The date of birth is after the hire date. Correct one of them.', [
      { path: 'born', expected: 'a date before the hire date' },
    ]);
}

/** Values of the employer's own fields are of the field's kind. */
function checkOwnFields(scope: Scope, own: Record<string, string>): void {
  const fields = new Map((scope.employer.facts.ownFields ?? []).map((field) => [field.key, field]));
  for (const [key, value] of Object.entries(own)) {
    const field = fields.get(key);
    if (!field || value === '') continue;
    const wrong = (expected: string) => invalid(`${field.label}: expected ${expected}.`, [{ path: `own.${key}`, expected }]);
    if (field.kind === 'number' && !/^-?\d{1,12}(\.\d{1,6})?$/.test(value)) throw wrong('a number');
    if (field.kind === 'date' && !isDate(value)) throw wrong('a date such as 2026-11-27');
    if (field.kind === 'choice' && !field.choices.includes(value)) throw wrong(`one of ${field.choices.join(', ')}`);
  }
}

export const columnsOf = (facts: Facts) => ({
  code: facts.code,
  givenName: facts.givenName,
  familyName: facts.familyName,
  born: facts.born ?? null,
  email: facts.email ?? null,
  hired: facts.hired ?? null,
  left: facts.left ?? null,
  leftReason: facts.leftReason ?? null,
  department: facts.department,
  worksite: facts.worksite,
  job: facts.job,
  kind: facts.kind,
  scheduleId: facts.scheduleId ?? null,
  standardHours: facts.standardHours ?? null,
  address: facts.address,
  phone: facts.phone,
  emergency: facts.emergency,
  own: facts.own,
  managerId: facts.managerId ?? null,
  absence: facts.absence ?? null,
  numberRefused: facts.numberRefused ?? null,
});

export const factsOf = (person: Person): PersonView['facts'] => ({
  code: person.code,
  givenName: person.givenName,
  familyName: person.familyName,
  born: person.born,
  email: person.email,
  hired: person.hired,
  left: person.left,
  leftReason: person.leftReason,
  department: person.department,
  worksite: person.worksite,
  job: person.job,
  kind: person.kind,
  scheduleId: person.scheduleId,
  standardHours: person.standardHours,
  address: person.address,
  phone: person.phone ?? '',
  emergency: { ...{ name: '', phone: '', relation: '' }, ...person.emergency },
  own: person.own ?? {},
  managerId: person.managerId,
  absence: person.absence,
  numberRefused: person.numberRefused ?? null,
});

/** Names of the facts that differ; nested facts are compared by value, whatever the order of their keys. */
export const changedKeys = (before: object, after: object): string[] =>
  Object.keys(after).filter(
    (key) => !isDeepStrictEqual((before as Record<string, unknown>)[key] ?? null, (after as Record<string, unknown>)[key] ?? null),
  );
