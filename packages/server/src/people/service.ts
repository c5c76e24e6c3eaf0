import type { ParsedBodyOf, Person as PersonView, PersonRow } from '@woodruff/contract';
import { Exact, isDate, packOf, PAY_DATES_PER_YEAR, round, writtenDecimal, type Frequency } from '@woodruff/core';
import { isDeepStrictEqual } from 'node:util';
import { UniqueConstraintError } from 'sequelize';
import { historyOf, record } from '../audit/audit';
import { select, type Transaction } from '../database/connection';
import { factsChanged } from '../employers/facts-version';
import { conflict, invalid, notFound } from '../errors';
import { packFor, type Scope } from '../users/scope';
import { missingFacts } from './missing';
import { PayRate, Person, TaxDetails } from './models';
import { documentsOf, notesOf } from './notes';
import { paymentView, sealedNumbers } from './payment';
import { theVault } from './secrets';

type Facts = ParsedBodyOf<'addPerson'>;

interface ListRow extends Omit<PersonRow, 'pay' | 'missing'> {
  rate: { per: 'hour' | 'period' | 'year'; amount: string } | null;
  tax: unknown;
  hasNumber: boolean;
  hasPayment: boolean;
  scheduleId: string | null;
}

/** Everyone of the employer, leavers too. */
export async function listPeople(scope: Scope): Promise<PersonRow[]> {
  const pack = packFor(scope);
  const rows = await select<ListRow>(
    scope.database,
    `select p.id, p.code, p.family_name || ', ' || p.given_name as name, p.department, p.worksite, p.job, p.kind,
            coalesce(s.name, '') as schedule, p.schedule_id as "scheduleId", p.hired, p."left",
            (select json_build_object('per', r.per, 'amount', r.amount::text) from pay_rates r
              where r.person_id = p.id and r.is_primary order by (r.from_date <= :today) desc, r.from_date desc limit 1) as rate,
            (select t.facts from tax_details t where t.person_id = p.id order by t.from_date desc limit 1) as tax,
            p.number_sealed is not null as "hasNumber", p.payment is not null as "hasPayment"
     from people p left join pay_schedules s on s.id = p.schedule_id
     where p.employer_id = :employer order by p.family_name, p.given_name`,
    { employer: scope.employer.id, today: scope.employer.today },
  );
  return rows.map(({ rate, tax, hasNumber, hasPayment, scheduleId, ...row }) => ({
    ...row,
    pay: rate ? rateWords(rate.per, rate.amount) : '',
    missing:
      row.left && row.left < scope.employer.today
        ? []
        : missingFacts({ hired: row.hired, scheduleId, hasRate: rate !== null, tax, hasNumber, hasPayment }, pack).map(
            (fact) => fact.sentence,
          ),
  }));
}

export async function addPerson(scope: Scope, facts: Facts): Promise<{ id: string }> {
  checkDates(facts);
  checkOwnFields(scope, facts.own);
  await checkSchedule(scope, facts.scheduleId);
  return scope.database.transaction(async (transaction) => {
    const person = await unique(`There is already a person with the code ${facts.code}. Choose another code.`, 'code', () =>
      Person.create({ ...columnsOf(facts), employerId: scope.employer.id }, { transaction }),
    );
    await record(
      scope,
      { action: 'add', subject: 'person', subjectId: person.id, what: `Added ${facts.givenName} ${facts.familyName}`, after: facts },
      transaction,
    );
    await factsChanged(scope, transaction);
    return { id: person.id };
  });
}

export async function changePerson(
  scope: Scope,
  id: string,
  { version, facts }: ParsedBodyOf<'changePerson'>,
): Promise<Record<string, never>> {
  checkDates(facts);
  checkOwnFields(scope, facts.own);
  await checkSchedule(scope, facts.scheduleId);
  return scope.database.transaction(async (transaction) => {
    const person = await personOf(scope, id, transaction);
    if (person.version !== version)
      throw conflict(
        'changed-meanwhile',
        'Somebody else changed this person meanwhile. Look at what changed, then save again.',
        (await historyOf(scope.database, id)).slice(0, 3),
      );
    const before = factsOf(person);
    await unique(`There is already a person with the code ${facts.code}. Choose another code.`, 'code', () =>
      person.update(columnsOf(facts), { transaction }),
    );
    await record(
      scope,
      {
        action: 'change',
        subject: 'person',
        subjectId: id,
        what: `Changed ${changedKeys(before, facts).join(', ') || 'nothing'}`,
        before,
        after: facts,
      },
      transaction,
    );
    await factsChanged(scope, transaction);
    return {};
  });
}

export async function setNationalNumber(scope: Scope, id: string, entered: string): Promise<Record<string, never>> {
  const digits = entered.replace(/\D/g, '');
  if (packFor(scope).filings?.isPersonalNumber(digits) === false)
    throw invalid('This social security number cannot exist. Compare it with the card.', [
      { path: 'nationalNumber', expected: 'a number that the agency can have given' },
    ]);
  const fingerprint = theVault().fingerprint(digits);
  return scope.database.transaction(async (transaction) => {
    const person = await personOf(scope, id, transaction);
    const other = await Person.findOne({ where: { employerId: scope.employer.id, numberFingerprint: fingerprint }, transaction });
    if (other && other.id !== id)
      throw conflict(
        'number-shared',
        `${other.givenName} ${other.familyName} has this number on file already. One of the two is wrong; compare both with their cards.`,
      );
    await person.update(
      { numberSealed: theVault().seal(digits), numberFingerprint: fingerprint, numberLast4: digits.slice(-4) },
      { transaction },
    );
    await record(
      scope,
      { action: 'national-number', subject: 'person', subjectId: id, what: `National number ending ${digits.slice(-4)}` },
      transaction,
    );
    return {};
  });
}

/** Shows a protected number in full, and records that it was shown. */
export async function reveal(scope: Scope, id: string, what: 'national-number' | 'account'): Promise<{ value: string }> {
  return scope.database.transaction(async (transaction) => {
    const person = await personOf(scope, id, transaction);
    const sealed = what === 'account' ? person.accountSealed : person.numberSealed;
    if (!sealed) throw notFound('number on file');
    await record(
      scope,
      {
        action: 'reveal',
        subject: 'person',
        subjectId: id,
        what: what === 'account' ? 'Account number shown in full' : 'National number shown in full',
      },
      transaction,
    );
    return { value: what === 'account' ? Object.values(sealedNumbers(sealed)).join(', ') : theVault().open(sealed) };
  });
}

export async function personPage(scope: Scope, id: string): Promise<PersonView> {
  const { database } = scope;
  const person = await personOf(scope, id);
  const pack = packOf(scope.employer.country);
  const year = pack.taxYearOf(scope.employer.today).label;
  const [notes, documents, rates, taxDetails, items, payslips, changes, sums, frequency] = await Promise.all([
    notesOf(scope, id),
    documentsOf(scope, id),
    PayRate.findAll({
      where: { personId: id },
      order: [
        ['isPrimary', 'DESC'],
        ['fromDate', 'DESC'],
      ],
    }),
    TaxDetails.findAll({ where: { personId: id }, order: [['fromDate', 'DESC']] }),
    select<PersonView['items'][number]>(
      database,
      `select pi.id, pi.version, pi.item_id as "itemId", i.code, i.definition->>'name' as name, i.definition->>'kind' as kind, pi.amount::text, trim_scale(pi.percent)::text as percent,
              pi.limits, pi.order_facts as "orderFacts", pi.from_date as "from", pi.to_date as "to",
              coalesce((select b.amount from balances b where b.person_id = pi.person_id and b.code = i.code and b.tax_year = :year), 0) as taken
       from person_items pi join pay_items i on i.id = pi.item_id where pi.person_id = :id order by (i.definition->>'order')::int, pi.from_date desc`,
      { id, year },
    ),
    select<PersonView['payslips'][number]>(
      database,
      `select p.id, p.run_id as "runId", r.pay_date as "payDate", r.period_from as "from", r.period_to as "to", p.state,
              case when p.state = 'reversal' then -x.gross else x.gross end as gross, case when p.state = 'reversal' then -x.taxes else x.taxes end as taxes,
              case when p.state = 'reversal' then -x.deductions else x.deductions end as deductions, case when p.state = 'reversal' then -x.net else x.net end as net
       from payslips p join pay_runs r on r.id = p.run_id join payslip_results x on x.payslip_id = coalesce(p.reverses, p.id)
       where p.person_id = :id and p.included order by r.pay_date desc, p.id limit 120`,
      { id },
    ),
    historyOf(database, id),
    select<{ kind: string; amount: number }>(
      database,
      'select kind, sum(amount)::bigint as amount from ledger_lines where person_id = :id and tax_year = :year group by kind',
      { id, year },
    ),
    select<{ frequency: Frequency }>(database, 'select frequency from pay_schedules where id = :id', { id: person.scheduleId }),
  ]);
  const sum = (...kinds: string[]) => sums.filter((row) => kinds.includes(row.kind)).reduce((all, row) => all + row.amount, 0);
  const gross = sum('earning');
  const taxes = sum('tax');
  const deductions = sum('deduction-before-tax', 'deduction-after-tax');
  const missing = missingFacts(
    {
      hired: person.hired,
      scheduleId: person.scheduleId,
      hasRate: rates.length > 0,
      tax: taxDetails[0]?.facts,
      hasNumber: person.numberLast4 !== null,
      hasPayment: person.payment !== null,
    },
    pack,
  );
  return {
    id,
    version: person.version,
    facts: factsOf(person),
    nationalNumber: person.numberLast4 ? `•••-••-${person.numberLast4}` : null,
    payment: paymentView(person, payslips.find((payslip) => payslip.net > 0)?.net ?? 0),
    rates: rates.map((rate) => ({
      id: rate.id,
      series: rate.series,
      label: rate.label,
      per: rate.per,
      amount: shortDecimal(rate.amount),
      from: rate.fromDate,
      primary: rate.isPrimary,
      reason: rate.reason,
      yearly: yearlyEquivalent(rate.per, rate.amount, frequency[0]?.frequency, person.standardHours),
    })),
    taxDetails: taxDetails.map((details) => ({ id: details.id, from: details.fromDate, facts: details.facts })),
    items,
    missing: missing.map(({ sentence, part }) => ({ sentence, part })),
    payslips,
    yearToDate: { year, gross, taxes, deductions, net: gross + sum('reimbursement') - taxes - deductions },
    notes,
    documents,
    changes,
  };
}

export async function personOf(scope: Scope, id: string, transaction?: Transaction): Promise<Person> {
  const person = await Person.findOne({
    where: { id, employerId: scope.employer.id },
    ...(transaction ? { transaction, lock: transaction.LOCK.UPDATE } : {}),
  });
  if (!person) throw notFound('person');
  return person;
}

async function checkSchedule(scope: Scope, scheduleId: string | null | undefined): Promise<void> {
  if (!scheduleId) return;
  const found = await select(scope.database, 'select 1 as one from pay_schedules where id = :scheduleId and employer_id = :employer', {
    scheduleId,
    employer: scope.employer.id,
  });
  if (!found.length) throw invalid('There is no such pay schedule.', [{ path: 'scheduleId', expected: 'one of the pay schedules' }]);
}

function checkDates(facts: Facts): void {
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

export async function unique<T>(sentence: string, path: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof UniqueConstraintError) throw invalid(sentence, [{ path, expected: 'one not used yet' }]);
    throw error;
  }
}

const columnsOf = (facts: Facts) => ({
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
});

const factsOf = (person: Person): PersonView['facts'] => ({
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
});

/** Names of the facts that differ; nested facts are compared by value, whatever the order of their keys. */
const changedKeys = (before: object, after: object): string[] =>
  Object.keys(after).filter(
    (key) => !isDeepStrictEqual((before as Record<string, unknown>)[key] ?? null, (after as Record<string, unknown>)[key] ?? null),
  );

const shortDecimal = (amount: string): string => Exact.of(amount).toDecimal();

export const rateWords = (per: 'hour' | 'period' | 'year', amount: string): string =>
  `${writtenDecimal(shortDecimal(amount))} ${per === 'hour' ? 'an hour' : per === 'period' ? 'a pay period' : 'a year'}`;

function yearlyEquivalent(per: string, amount: string, frequency: Frequency | undefined, standardHours: string | null): string | null {
  const periods = frequency && Exact.whole(PAY_DATES_PER_YEAR[frequency]);
  if (per === 'year') return shortDecimal(amount);
  if (!periods || (per === 'hour' && standardHours === null)) return null;
  const perPeriod = per === 'hour' ? Exact.of(amount).times(Exact.of(standardHours ?? '0')) : Exact.of(amount);
  return round(perPeriod.times(periods), 'half-up', 2).toDecimal();
}
