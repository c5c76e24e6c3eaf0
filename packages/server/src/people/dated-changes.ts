import type { Person as PersonView } from '@woodruff/contract';
import { writtenDate } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select, type Database, type Transaction } from '../database/connection';
import { factsChanged } from '../employers/facts-version';
import { conflict, notFound } from '../errors';
import { scopeOf } from '../users/service';
import { changing } from '../users/changing';
import type { Scope } from '../scope';
import { changedKeys, columnsOf, factsOf, type Facts } from './facts';
import { DatedChange, Person } from './models';
import { personOf } from './person';

const LABELS: Record<string, string> = {
  code: 'Code',
  givenName: 'Given names',
  familyName: 'Family name',
  born: 'Date of birth',
  email: 'E-mail',
  hired: 'Hire date',
  left: 'Last day',
  leftReason: 'Reason for leaving',
  department: 'Department',
  worksite: 'Worksite',
  job: 'Job',
  kind: 'Kind',
  scheduleId: 'Pay schedule',
  standardHours: 'Standard hours',
  address: 'Address',
  phone: 'Phone',
  emergency: 'Emergency contact',
  own: 'Custom fields',
  managerId: 'Manager',
  absence: 'Leave of absence',
  numberRefused: 'Number refused from',
};

/** Takes facts over from a day on: at once, with what was before kept; or, for a day to come, when that day is there. */
export async function changeFacts(
  scope: Scope,
  person: Person,
  wanted: Partial<Facts>,
  { from, reason }: { from: string; reason: string },
  transaction: Transaction,
): Promise<void> {
  const before = factsOf(person);
  const keys = changedKeys(before, { ...before, ...wanted });
  const part = (facts: object) => Object.fromEntries(keys.map((key) => [key, (facts as Record<string, unknown>)[key] ?? null]));
  const coming = from > scope.employer.today;
  const what = keys.map((key) => (LABELS[key] ?? key).toLowerCase()).join(', ') || 'nothing';
  if (keys.length) {
    if (!coming) await person.update(columnsOf({ ...before, ...wanted }), { transaction });
    await DatedChange.create(
      {
        personId: person.id,
        fromDate: from,
        facts: part(wanted),
        before: coming ? null : part(before),
        reason,
        userId: scope.user.id,
        countedAt: coming ? null : new Date(),
      },
      { transaction },
    );
  }
  await record(
    scope,
    {
      action: 'change',
      subject: 'person',
      subjectId: person.id,
      what: `${coming ? `From ${writtenDate(from)}: change of` : 'Changed'} ${what}${reason ? ` (${reason})` : ''}`,
      before: part(before),
      after: part(wanted),
    },
    transaction,
  );
}

export async function withdrawChange(scope: Scope, id: string, changeId: string): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const person = await personOf(scope, id, transaction);
    const change = await DatedChange.findOne({ where: { id: changeId, personId: person.id }, transaction, lock: transaction.LOCK.UPDATE });
    if (!change) throw notFound('change');
    if (change.countedAt) throw conflict('counts-already', 'This change counts already. Change details again instead.');
    await change.destroy({ transaction });
    await record(
      scope,
      {
        action: 'withdraw-change',
        subject: 'person',
        subjectId: id,
        what: `Withdrew the change from ${writtenDate(change.fromDate)}`,
        before: change.facts,
      },
      transaction,
    );
    return {};
  });
}

/** Lets changes count whose day is there. Called when the server starts, every hour, and when the demo's date moves. */
export async function letDueChangesCount(database: Database, employerId?: string): Promise<number> {
  const due = await select<{ id: string; personId: string; employerId: string; userId: string }>(
    database,
    `select c.id, c.person_id as "personId", e.id as "employerId", coalesce((select user_id from memberships where employer_id = e.id and user_id = c.user_id), (select user_id from memberships where employer_id = e.id limit 1)) as "userId"
     from dated_changes c join people p on p.id = c.person_id join employers e on e.id = p.employer_id
     where c.counted_at is null and c.from_date <= today_of(e) and ${employerId ? 'e.id = :employerId' : 'not e.being_played'}
     order by c.from_date, c.entered_at`,
    { employerId },
  );
  for (const { id, personId, userId, ...of } of due) {
    const scope = await scopeOf(database, userId, of.employerId);
    await database.transaction(async (transaction) => {
      const person = await personOf(scope, personId, transaction);
      const change = await DatedChange.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE });
      if (!change || change.countedAt) return;
      const before = factsOf(person);
      await person.update(columnsOf({ ...before, ...change.facts }), { transaction });
      const part = Object.fromEntries(Object.keys(change.facts).map((key) => [key, (before as Record<string, unknown>)[key] ?? null]));
      await change.update({ before: part, countedAt: new Date() }, { transaction });
      await execute(
        database,
        `insert into audit_entries (employer_id, action, subject, subject_id, what, before, after) values (:employer, 'change', 'person', :person, :what, :before, :after)`,
        {
          employer: scope.employer.id,
          person: personId,
          what: `Counts from ${writtenDate(change.fromDate)}, as entered: ${Object.keys(change.facts)
            .map((key) => (LABELS[key] ?? key).toLowerCase())
            .join(', ')}`,
          before: JSON.stringify(part),
          after: JSON.stringify(change.facts),
        },
        transaction,
      );
      await factsChanged(scope, transaction);
    });
  }
  return due.length;
}

/** Dated changes in words, latest first. */
export async function datedOf(scope: Scope, personId: string): Promise<PersonView['dated']> {
  const rows = await select<{
    id: string;
    from: string;
    coming: boolean;
    who: string;
    reason: string;
    facts: Record<string, unknown>;
    before: Record<string, unknown> | null;
  }>(
    scope.database,
    `select c.id, c.from_date as "from", c.counted_at is null as coming, u.name as who, c.reason, c.facts, c.before
     from dated_changes c join users u on u.id = c.user_id where c.person_id = :personId order by c.from_date desc, c.entered_at desc limit 100`,
    { personId },
  );
  if (!rows.length) return [];
  const names = await namesOf(scope, rows);
  return rows.map(({ facts, before, ...row }) => ({
    ...row,
    changes: inOrder(facts).map((key) => ({
      key,
      label: LABELS[key] ?? key,
      was: before ? inWords(before[key], names) : '',
      is: inWords(facts[key], names),
    })),
  }));
}

/** Keys in the order of the form; the database keeps its own. */
const inOrder = (facts: object): string[] => Object.keys(LABELS).filter((key) => key in facts);

async function namesOf(
  scope: Scope,
  entries: readonly { facts: Record<string, unknown>; before: Record<string, unknown> | null }[],
): Promise<Map<string, string>> {
  const managers = entries
    .flatMap(({ facts, before }) => [facts['managerId'], before?.['managerId']])
    .filter((id) => typeof id === 'string');
  const rows = await select<{ id: string; name: string }>(
    scope.database,
    `select id, name from pay_schedules where employer_id = :employer union all
     select m.id, m.given_name || ' ' || m.family_name from people m where m.employer_id = :employer and m.id = any(array[:managers]::uuid[])`,
    { employer: scope.employer.id, managers: managers.length ? managers : [null] },
  );
  return new Map(rows.map(({ id, name }) => [id, name]));
}

function inWords(value: unknown, names: ReadonlyMap<string, string>): string {
  if (value === null || value === undefined || value === '') return 'none';
  if (typeof value === 'object')
    return (
      Object.values(value)
        .filter((part) => part !== null && part !== '')
        .map((part) => inWords(part, names))
        .join(', ') || 'none'
    );
  const text = typeof value === 'string' || typeof value === 'number' ? `${value}` : JSON.stringify(value);
  return names.get(text) ?? (/^\d{4}-\d\d-\d\d$/.test(text) ? writtenDate(text) : text);
}
