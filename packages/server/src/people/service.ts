import type { ParsedBodyOf, Person as PersonView, PersonRow } from '@woodruff/contract';
import { Exact, limitsLeft, packOf, PAY_DATES_PER_YEAR, round, writtenDecimal, type Frequency } from '@woodruff/core';
import { historyOf, record } from '../audit/audit';
import { select } from '../database/connection';
import { factsChanged } from '../employers/facts-version';
import { conflict, invalid, notFound } from '../errors';
import { changing } from '../users/changing';
import { packFor, type Scope } from '../scope';
import { changeFacts, datedOf } from './dated-changes';
import { checkFacts, columnsOf, factsOf } from './facts';
import { personJoins } from './events';
import { inputsOn } from '../payslip-input/ordinary-input';
import { missingFacts } from './missing';
import { PayGroup, PayRate, Person, TaxDetails } from './models';
import { documentsOf, notesOf } from './notes';
import { positionsOf } from './employment/positions';
import { paymentView } from './payment/payment';
import { theVault } from '../vault/vault';
import { unique } from '../database/unique';
import { personOf } from './person';
import { sealedNumbers } from './payment/accounts';

interface ListRow extends Omit<PersonRow, 'pay' | 'payable' | 'missing'> {
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
     where p.employer_id = :employer order by p.family_name, p.given_name, p.code`,
    { employer: scope.employer.id, today: scope.employer.today },
  );
  return rows.map(({ rate, tax, hasNumber, hasPayment, scheduleId, ...row }) => {
    const missing =
      row.left && row.left < scope.employer.today
        ? []
        : missingFacts({ hired: row.hired, kind: row.kind, scheduleId, hasRate: rate !== null, tax, hasNumber, hasPayment }, pack);
    return {
      ...row,
      pay: rate ? rateWords(rate.per, rate.amount) : '',
      payable: !missing.some((fact) => fact.keepsFromPay),
      missing: missing.map((fact) => fact.sentence),
    };
  });
}

export async function addPerson(scope: Scope, { groupId, ...facts }: ParsedBodyOf<'addPerson'>): Promise<{ id: string }> {
  await checkFacts(scope, facts);
  return changing(scope, async (transaction) => {
    const person = await unique(`There is already a person with the code ${facts.code}. Choose another code.`, 'code', () =>
      Person.create({ ...columnsOf(facts), employerId: scope.employer.id }, { transaction }),
    );
    await record(
      scope,
      { action: 'add', subject: 'person', subjectId: person.id, what: `Added ${facts.givenName} ${facts.familyName}`, after: facts },
      transaction,
    );
    if (groupId) await personJoins.tell({ scope, groupId: groupId, person, transaction });
    await factsChanged(scope, transaction);
    return { id: person.id };
  });
}

/** Facts as they are from a day on. The version guards against two people changing them. */
export async function changePerson(
  scope: Scope,
  id: string,
  { version, facts, from, reason }: ParsedBodyOf<'changePerson'>,
): Promise<Record<string, never>> {
  await checkFacts(scope, facts, id);
  return changing(scope, async (transaction) => {
    const person = await personOf(scope, id, transaction);
    if (person.version !== version)
      throw conflict(
        'changed-meanwhile',
        'Somebody else changed this person meanwhile. Look at what changed, then save again.',
        (await historyOf(scope.database, id)).slice(0, 3),
      );
    await unique(`There is already a person with the code ${facts.code}. Choose another code.`, 'code', () =>
      changeFacts(scope, person, facts, { from: from ?? scope.employer.today, reason: reason ?? '' }, transaction),
    );
    await factsChanged(scope, transaction);
    return {};
  });
}

/** A name whose words have capitals keeps them within a sentence. */
const inSentence = (label: string): string => (/ [A-Z]/.test(label) ? label : label.toLowerCase());

export async function setNationalNumber(scope: Scope, id: string, entered: string): Promise<Record<string, never>> {
  const { number } = packFor(scope).person;
  const digits = number.bare(entered);
  if (!number.isOne(digits))
    throw invalid(`This ${inSentence(number.label)} cannot exist. Compare it with the card.`, [
      { path: 'nationalNumber', expected: number.expected },
    ]);
  const fingerprint = theVault().fingerprint(digits);
  return changing(scope, async (transaction) => {
    const person = await personOf(scope, id, transaction);
    const other = await Person.findOne({
      where: { employerId: scope.employer.id, numberFingerprint: theVault().allFingerprints(digits) },
      transaction,
    });
    if (other && other.id !== id)
      throw conflict(
        'number-shared',
        `${other.givenName} ${other.familyName} has this number on file already. One of the two is wrong; compare both with their cards.`,
      );
    await person.update(
      { numberSealed: theVault().seal(digits, `number:${id}`), numberFingerprint: fingerprint, numberLast4: digits.slice(-4) },
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
  return changing(scope, async (transaction) => {
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
    return { value: what === 'account' ? Object.values(sealedNumbers(sealed, id)).join(', ') : theVault().open(sealed, `number:${id}`) };
  });
}

export async function personPage(scope: Scope, id: string): Promise<PersonView> {
  const { database } = scope;
  const person = await personOf(scope, id);
  const pack = packOf(scope.employer.country);
  const year = pack.taxYearOf(scope.employer.today).label;
  const [positions, on, group, manager, dated, notes, documents, rates, taxDetails, items, payslips, changes, sums, frequency] =
    await Promise.all([
      positionsOf(scope, id),
      inputsOn(scope, [id], scope.employer.today).then((inputs) => inputs.get(id)),
      person.groupId ? PayGroup.findByPk(person.groupId) : null,
      person.managerId ? Person.findByPk(person.managerId) : null,
      datedOf(scope, id),
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
      kind: person.kind,
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
    group: group && { id: group.id, name: group.name, tax: group.defaults.tax ?? {} },
    manager: manager && `${manager.givenName} ${manager.familyName}`,
    dated,
    limitsLeft: on ? limitsLeft(on.input) : [],
    nationalNumber: person.numberLast4 ? packFor(scope).person.number.masked(person.numberLast4) : null,
    payment: paymentView(scope, person, payslips.find((payslip) => payslip.net > 0)?.net ?? 0),
    positions,
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
