import { employerFactsSchema, type EmployerPage } from '@woodruff/contract';
import { packOf, writtenDate, type PaySchedule } from '@woodruff/core';
import type { z } from 'zod';
import { record } from '../audit/audit';
import { execute, type Database } from '../database/connection';
import { invalid, Refusal } from '../errors';
import { changing } from '../users/changing';
import { packFor, type Scope } from '../scope';
import { dayMoved } from './events';
import { schedulesOf } from './schedules-on-file';

/** What an employer is set up with; services of later screens add to it. */
export interface NewEmployer {
  name: string;
  country: string;
  today: string;
  demo: boolean;
  /** Closed to everybody until `opened`. */
  beingPlayed?: boolean;
  facts: z.input<typeof employerFactsSchema>;
  schedules: (PaySchedule & { name: string })[];
}

export async function addEmployer(database: Database, employer: NewEmployer): Promise<{ id: string; schedules: Record<string, string> }> {
  const pack = packOf(employer.country);
  const all = employerFactsSchema.parse(employer.facts);
  const facts = pack.employerSchema.safeParse(all.country);
  if (!facts.success)
    throw invalid(
      'The facts of the employer are not complete.',
      facts.error.issues.map((issue) => ({ path: issue.path.join('.'), expected: issue.message })),
    );
  return database.transaction(async (transaction) => {
    const [row] = (await execute(
      database,
      `insert into employers (name, country, currency, business_date, demo, being_played, facts) values (:name, :country, :currency, :today, :demo, :beingPlayed, :facts) returning id`,
      {
        name: employer.name,
        country: employer.country,
        currency: pack.currency,
        today: employer.today,
        demo: employer.demo,
        beingPlayed: employer.beingPlayed ?? false,
        facts: JSON.stringify({ ...all, timeZone: all.timeZone || pack.timeZones[0], country: facts.data }),
      },
      transaction,
    )) as { id: string }[];
    if (!row) throw new Error('no employer was made');
    const schedules: Record<string, string> = {};
    for (const schedule of employer.schedules) {
      const [made] = (await execute(
        database,
        'insert into pay_schedules (employer_id, name, frequency, anchor, pay_date_offset, move) values (:employer, :name, :frequency, :anchor, :payDateOffset, :move) returning id',
        { employer: row.id, ...schedule },
        transaction,
      )) as { id: string }[];
      if (made) schedules[schedule.name] = made.id;
    }
    return { id: row.id, schedules };
  });
}

export async function employerPage(scope: Scope): Promise<EmployerPage> {
  const pack = packFor(scope);
  return {
    id: scope.employer.id,
    name: scope.employer.name,
    country: scope.employer.country,
    today: scope.employer.today,
    schedules: (await schedulesOf(scope)).map(({ id, name, frequency }) => ({ id, name, frequency })),
    departments: scope.employer.facts.departments,
    worksites: scope.employer.facts.worksites.map((site) => site.name),
    jobs: scope.employer.facts.jobs ?? [],
    ownFields: scope.employer.facts.ownFields ?? [],
    taxForm: pack.taxForm.map((group) => ({ title: group.title, fields: group.fields.map((field) => ({ ...field })) })),
    entries: Object.fromEntries(pack.employerForm.lists.map(({ key }) => [key, entriesOf(scope, key)])),
  };
}

/** What is entered in a list of registrations, by its code, with the name where it has one. */
const entriesOf = (scope: Scope, key: string): { code: string; name: string }[] =>
  Object.entries((scope.employer.facts.country[key] ?? {}) as Record<string, { name?: string }>).map(([code, { name }]) => ({
    code,
    name: name ?? code,
  }));

/** What the demo played is whole: people work in it from now on. */
export async function openEmployer(database: Database, employerId: string): Promise<void> {
  await execute(database, 'update employers set being_played = false where id = :employerId and being_played', { employerId });
}

/** Moves the demo's business date forward. It never goes back: what was posted stays in the past. */
export async function moveToday(scope: Scope, date: string): Promise<{ today: string }> {
  if (!scope.employer.demo) throw new Refusal(422, 'no-demo', 'Only the demo employer has a business date that can be moved.');
  if (date < scope.employer.today)
    throw invalid(`The business date is ${writtenDate(scope.employer.today)} and only moves forward.`, [
      { path: 'date', expected: 'a later date' },
    ]);
  await changing(scope, async (transaction) => {
    await execute(
      scope.database,
      'update employers set business_date = :date where id = :id',
      { date, id: scope.employer.id },
      transaction,
    );
    await record(
      scope,
      { action: 'move-today', subject: 'employer', subjectId: scope.employer.id, what: `Business date moved to ${writtenDate(date)}` },
      transaction,
    );
  });
  await dayMoved.tell({ database: scope.database, employerId: scope.employer.id });
  return { today: date };
}
