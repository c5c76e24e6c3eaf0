import type { EmployerFacts, ParsedBodyOf, SetUp } from '@woodruff/contract';
import { employerFactsSchema } from '@woodruff/contract';
import { packOf, type CountryPack } from '@woodruff/core';
import { isDeepStrictEqual } from 'node:util';
import { historyOf, record } from '../audit/audit';
import { execute, select, type Database, type Transaction } from '../database/connection';
import { conflict, invalid, Refusal } from '../errors';
import { checkContacts, type Contacts } from '../formats';
import { Membership } from '../users/models';
import { changing } from '../users/changing';
import { packFor, type Scope } from '../scope';
import { registered } from './events';
import { factsChanged } from './facts-version';
import { payingAccounts } from './paying-accounts';

const EMPTY: EmployerFacts = employerFactsSchema.parse({
  address: {},
  signatory: { name: '', title: '' },
  departments: [],
  worksites: [],
  secondPersonApproves: false,
});

/** A new employer from its name alone. Beside a demo it is one too, with the demo's business date. */
export async function beginEmployer(database: Database, userId: string, body: ParsedBodyOf<'addEmployer'>): Promise<{ id: string }> {
  let pack: CountryPack;
  try {
    pack = packOf(body.country);
  } catch {
    throw invalid('There are no rules for this country yet.', [{ path: 'country', expected: 'a country with rules' }]);
  }
  if (!pack.whole)
    throw invalid(`${pack.name} cannot be set up on screen yet.`, [{ path: 'country', expected: 'a country whose forms are in' }]);
  const rights = await Membership.findAll({ where: { userId } });
  if (rights.length && rights.every((right) => right.role === 'employee'))
    throw new Refusal(403, 'not-allowed', 'Employees see what is their own. Ask somebody who prepares pay to begin an employer.');
  return database.transaction(async (transaction) => {
    const [demo] = await select<{ today: string }>(
      database,
      'select max(e.business_date) as today from memberships m join employers e on e.id = m.employer_id where m.user_id = :userId and e.demo having count(*) > 0',
      { userId },
      transaction,
    );
    const [row] = (await execute(
      database,
      `insert into employers (name, country, currency, business_date, demo, facts) values (:name, :country, :currency, coalesce(:today, current_date), :demo, :facts) returning id`,
      {
        name: body.name,
        country: body.country,
        currency: pack.currency,
        today: demo?.today ?? null,
        demo: !!demo,
        facts: JSON.stringify({ ...EMPTY, timeZone: pack.timeZones[0] }),
      },
      transaction,
    )) as { id: string }[];
    if (!row) throw new Error('no employer was made');
    await Membership.create({ userId, employerId: row.id, role: 'administrator' }, { transaction });
    await execute(
      database,
      `insert into audit_entries (employer_id, user_id, action, subject, subject_id, what) values (:id, :userId, 'add', 'employer', :id, :what)`,
      { id: row.id, userId, what: `Began ${body.name}` },
      transaction,
    );
    return { id: row.id };
  });
}

export async function setUpView(scope: Scope): Promise<SetUp> {
  const { database, employer } = scope;
  const pack = packFor(scope);
  const [row] = await select<{ version: number; hasLogo: boolean }>(
    database,
    'select version, logo is not null as "hasLogo" from employers where id = :id',
    { id: employer.id },
  );
  const schedules = await select<SetUp['schedules'][number]>(
    database,
    `select s.id, s.name, s.frequency, s.anchor, s.pay_date_offset as "payDateOffset", s.move, s.time_cut_off as "timeCutOff", s.paying_account_id as "payingAccountId",
            (select count(*) from people p where p.schedule_id = s.id and (p."left" is null or p."left" >= :today)) as people,
            (select count(*) from pay_runs r where r.schedule_id = s.id) as runs
     from pay_schedules s where s.employer_id = :id order by s.name`,
    { id: employer.id, today: employer.today },
  );
  const members = await select<SetUp['members'][number]>(
    database,
    `select u.id, u.name, u.email, m.role, m.rights, m.accepted_at is not null as accepted, (u.totp_confirmed_at is not null or exists (select 1 from passkeys k where k.user_id = u.id)) as "secondFactor" from memberships m join users u on u.id = m.user_id where m.employer_id = :id and m.role <> 'employee' order by u.name`,
    { id: employer.id },
  );
  const facts = employerFactsSchema.parse(employer.facts);
  const banks = await payingAccounts(scope);
  return {
    id: employer.id,
    name: employer.name,
    facts,
    version: row?.version ?? 0,
    hasLogo: row?.hasLogo ?? false,
    banks: banks.map(({ id, name, bank, last4 }) => ({ id, name, routing: bank, shown: `••••${last4}` })),
    schedules,
    members,
    form: {
      fields: pack.employerForm.fields.map((field) => ({ ...field })),
      lists: pack.employerForm.lists.map((list) => ({ ...list })),
      overtimeRules: [...pack.employerForm.overtimeRules],
      kinds: [...pack.employerForm.kinds],
    },
    missing: await missingOf(scope, facts, pack, { bank: banks.length > 0, schedules: schedules.length, members }),
    changes: await historyOf(database, employer.id),
  };
}

/** What is still missing before the first run, from facts. */
async function missingOf(
  scope: Scope,
  facts: EmployerFacts,
  pack: CountryPack,
  has: { bank: boolean; schedules: number; members: SetUp['members'] },
): Promise<SetUp['missing']> {
  const missing: SetUp['missing'] = [];
  const add = (sentence: string, part: string, keepsFromPay: boolean) => missing.push({ sentence, part, keepsFromPay });
  const [counted] = await select<{ pay: number; items: number; people: number }>(
    scope.database,
    `select (select count(*) from pay_items where employer_id = :id and not retired and definition->'method'->>'by' in ('salary', 'hours')) as pay,
            (select count(*) from pay_items where employer_id = :id and not retired) as items,
            (select count(*) from people where employer_id = :id) as people`,
    { id: scope.employer.id },
  );
  const registrations = pack.employerSchema.safeParse(facts.country);
  if (!registrations.success) {
    const issue = registrations.error.issues[0];
    const field = pack.employerForm.fields.find((candidate) => candidate.key === issue?.path.join('.'));
    add(`${field?.label ?? `Registrations (${issue?.path.join(', ') ?? ''})`} missing or not complete`, 'registrations', true);
  } else if (pack.employerForm.noPlaces && !pack.placesOf(facts.country).length) add(pack.employerForm.noPlaces, 'registrations', true);
  // Pay can begin before the agency has given its number; nothing can be reported without it.
  else if (!pack.employerNumber(facts.country)) {
    const field = pack.employerForm.fields.find(({ key }) => key === pack.employerForm.number);
    add(`${field?.label ?? 'Number with the tax agency'} missing`, 'registrations', false);
  }
  if (!facts.address.line1 || !facts.address.city) add('No address', 'legal', false);
  if (!facts.signatory.name) add('Nobody who signs returns', 'legal', false);
  if (!has.schedules) add('No pay schedule', 'schedules', true);
  if (!has.bank) add('No account that pays', 'bank', false);
  if (!counted?.items) add('No pay items', 'items', true);
  else if (!counted.pay) add('No pay item for salary or hours', 'items', true);
  if (!counted?.people) add('Nobody to pay', 'people', true);
  if (facts.secondPersonApproves && has.members.filter((member) => member.role !== 'viewer').length < 2)
    add('No second person who approves', 'people-here', true);
  return missing;
}

const PLACES = ['departments', 'worksites', 'jobs'] as const;
const COLUMNS: Record<(typeof PLACES)[number], { column: string; one: string }> = {
  departments: { column: 'department', one: 'the department' },
  worksites: { column: 'worksite', one: 'the worksite' },
  jobs: { column: 'job', one: 'the job' },
};
/** Parts of the set-up, as the trail names them. */
const PARTS_IN_WORDS: Record<string, string> = {
  country: 'registrations',
  signatory: 'who signs returns',
  secondPersonApproves: 'who approves runs',
  secondPersonFor: 'what waits for a second person',
  secondFactor: 'the second factor',
  accounts: 'accounts for posting',
  overtimeRules: 'overtime rules',
  kind: 'kind of employer',
  timeZone: 'the time zone',
  time: 'rules of time',
  ownFields: 'custom fields',
};

const namesOf = (facts: EmployerFacts, place: (typeof PLACES)[number]): string[] =>
  place === 'worksites' ? facts.worksites.map((site) => site.name) : facts[place];

/** Changes the set-up. People follow a renamed department, worksite or job; one that people are in does not go. */
export async function changeSetUp(scope: Scope, body: ParsedBodyOf<'changeSetUp'>): Promise<Record<string, never>> {
  const { renamed } = body;
  const facts = withPlacesOfRules(body.facts, renamed.worksites);
  return changing(scope, async (transaction) => {
    const { before, name } = await lockedSetUp(scope, body.version, transaction);
    checkRegistrations(packFor(scope), facts);
    checkTimeZone(packFor(scope), facts);
    checkContacts(packFor(scope), contactsOf(facts), contactsOf(before));
    for (const place of PLACES) {
      const now = namesOf(facts, place);
      const doubled = now.find((one, index) => now.indexOf(one) !== index);
      if (doubled) throw invalid(`${doubled} is listed twice.`, [{ path: `facts.${place}`, expected: 'each name once' }]);
      await followRenames(scope, place, renamed[place], transaction);
      await refuseUsed(
        scope,
        place,
        namesOf(before, place).filter((old) => !now.includes(old) && !renamed[place][old]),
        transaction,
      );
    }
    await execute(
      scope.database,
      'update employers set name = :name, facts = :facts, version = version + 1 where id = :id',
      { id: scope.employer.id, name: body.name, facts: JSON.stringify(facts) },
      transaction,
    );
    const changed = [
      ...(name === body.name ? [] : ['name']),
      ...Object.keys(facts).filter((key) => !isDeepStrictEqual(facts[key as keyof EmployerFacts], before[key as keyof EmployerFacts])),
    ];
    await record(
      scope,
      {
        action: 'change',
        subject: 'employer',
        subjectId: scope.employer.id,
        what: `Changed ${changed.map((key) => PARTS_IN_WORDS[key] ?? key).join(', ') || 'nothing'}`,
        before,
        after: facts,
      },
      transaction,
    );
    await factsChanged(scope, transaction);
    if (changed.includes('country')) await registered.tell({ scope: { ...scope, employer: { ...scope.employer, facts } }, transaction });
    return {};
  });
}

/** Minimum wages of places follow a renamed worksite; one of a place that is not there would never hold. */
function withPlacesOfRules(facts: EmployerFacts, renamed: Record<string, string>): EmployerFacts {
  const minimumWages = facts.time.minimumWages.map((own) => ({ ...own, worksite: renamed[own.worksite] ?? own.worksite }));
  const unknown = minimumWages.find((own) => !facts.worksites.some((site) => site.name === own.worksite));
  if (unknown)
    throw invalid(`A minimum wage is entered for ${unknown.worksite}, which is no worksite. Remove it, or choose another place.`, [
      { path: 'facts.time.minimumWages', expected: 'a worksite' },
    ]);
  return { ...facts, time: { ...facts.time, minimumWages } };
}

async function lockedSetUp(scope: Scope, version: number, transaction: Transaction): Promise<{ before: EmployerFacts; name: string }> {
  const [row] = await select<{ version: number; facts: unknown; name: string }>(
    scope.database,
    'select version, facts, name from employers where id = :id for update',
    { id: scope.employer.id },
    transaction,
  );
  if (row?.version !== version)
    throw conflict(
      'changed-meanwhile',
      'Somebody else changed the set-up meanwhile. Look at what changed, then save again.',
      (await historyOf(scope.database, scope.employer.id)).slice(0, 3),
    );
  return { before: employerFactsSchema.parse(row.facts), name: row.name };
}

/** Registrations may be missing, but what is entered is right: only issues other than an absent field are told. */
function checkRegistrations(pack: CountryPack, facts: EmployerFacts): void {
  const parsed = pack.employerSchema.safeParse(facts.country);
  if (parsed.success) return;
  const wrong = parsed.error.issues.filter((issue) =>
    issue.path.reduce<unknown>((here, key) => (here as Record<PropertyKey, unknown> | undefined)?.[key], facts.country),
  );
  if (wrong.length)
    throw invalid(
      'A registration is not as it is written on its notice.',
      wrong.map((issue) => ({ path: issue.path.join('.'), expected: issue.message })),
    );
}

const contactsOf = ({ address, contact }: EmployerFacts): Contacts => ({
  address: { path: 'facts.address', state: address.state, postcode: address.postcode },
  phones: { 'facts.contact.phone': contact.phone },
});

function checkTimeZone({ timeZones }: CountryPack, { timeZone }: EmployerFacts): void {
  if (timeZone && !timeZones.includes(timeZone))
    throw invalid(`${timeZone} is not among the time zones of the employer's country.`, [
      { path: 'facts.timeZone', expected: timeZones.join(', ') },
    ]);
}

async function followRenames(
  scope: Scope,
  place: (typeof PLACES)[number],
  renamed: Record<string, string>,
  transaction: Transaction,
): Promise<void> {
  for (const [was, is] of Object.entries(renamed))
    await execute(
      scope.database,
      `update people set ${COLUMNS[place].column} = :is, version = version + 1 where employer_id = :employer and ${COLUMNS[place].column} = :was`,
      { employer: scope.employer.id, was, is },
      transaction,
    );
  for (const [was, is] of Object.entries(renamed))
    await execute(
      scope.database,
      `update person_positions s set ${COLUMNS[place].column} = :is from people p where p.id = s.person_id and p.employer_id = :employer and s.${COLUMNS[place].column} = :was`,
      { employer: scope.employer.id, was, is },
      transaction,
    );
  for (const [was, is] of Object.entries(renamed))
    await execute(
      scope.database,
      `update pay_groups set defaults = jsonb_set(defaults, '{${COLUMNS[place].column}}', to_jsonb(cast(:is as text))), version = version + 1
       where employer_id = :employer and defaults->>'${COLUMNS[place].column}' = :was`,
      { employer: scope.employer.id, was, is },
      transaction,
    );
}

async function refuseUsed(scope: Scope, place: (typeof PLACES)[number], gone: string[], transaction: Transaction): Promise<void> {
  if (!gone.length) return;
  const { column, one } = COLUMNS[place];
  const [used] = await select<{ name: string; people: number }>(
    scope.database,
    `select name, count(distinct person_id) as people from (
       select p.${column} as name, p.id as person_id from people p where p.employer_id = :employer
       union all select s.${column}, s.person_id from person_positions s join people p on p.id = s.person_id where p.employer_id = :employer) used
     where name in (:gone) group by 1 order by 2 desc limit 1`,
    { employer: scope.employer.id, gone },
    transaction,
  );
  const [supplied] = await select<{ name: string; value: string }>(
    scope.database,
    `select name, defaults->>'${column}' as value from pay_groups where employer_id = :employer and defaults->>'${column}' in (:gone) limit 1`,
    { employer: scope.employer.id, gone },
    transaction,
  );
  if (supplied) throw conflict('still-used', `The group ${supplied.name} supplies ${one} ${supplied.value}. Change the group first.`);
  if (used)
    throw conflict(
      'still-used',
      `${used.people === 1 ? 'One person is' : `${used.people} people are`} in ${one} ${used.name}. Move them first, or rename it.`,
    );
}
