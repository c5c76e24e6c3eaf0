import type { ParsedQueryOf } from '@woodruff/contract';
import { decimalOf, writtenDate, type EnrolmentLetter } from '@woodruff/core';
import { select } from '../database/connection';
import { SECOND_INK, Sheet } from '../documents/sheet';
import { invalid, notFound } from '../errors';
import { csvOf } from '../files/write';
import { packFor, type Scope } from '../scope';
import { theVault } from '../vault/vault';
import { lawOf, schemesOf, type Scheme } from './schemes';
import { enrolledOf, inWords, type Enrolled } from './standing';

/** A letter for one person, or for everybody who is still to be given it; a page for each. */
export async function enrolmentLetters(scope: Scope, { letter: code, person }: ParsedQueryOf<'enrolmentLetters'>): Promise<Buffer> {
  const law = lawOf(scope);
  const letter = law.letters.find((one) => one.code === code);
  if (!letter) throw notFound('letter');
  const all = await enrolledOf(scope, law, person ? { people: [person] } : {});
  const wanted = person ? all : all.filter(({ duty }) => duty?.letter === code);
  if (!wanted.length)
    throw invalid('Nobody is still to be given this letter. Choose a person for a copy.', [
      { path: 'letter', expected: 'a letter that waits' },
    ]);
  return printed(scope, letter, wanted);
}

async function printed(scope: Scope, letter: EnrolmentLetter, people: readonly Enrolled[]): Promise<Buffer> {
  const pack = packFor(scope);
  const schemes = await schemesOf(scope);
  const addresses = new Map(
    (
      await select<{ id: string; address: Parameters<typeof pack.person.address.line>[0] | null }>(
        scope.database,
        'select id, address from people where employer_id = :employer and id = any(cast(:people as uuid[]))',
        { employer: scope.employer.id, people: `{${people.map(({ personId }) => personId).join()}}` },
      )
    ).map(({ id, address }) => [id, address]),
  );
  const sheet = new Sheet(letter.title, pack.paper);
  for (const one of people) {
    const name = one.name.split(', ').reverse().join(' ');
    const address = addresses.get(one.personId);
    sheet.page().title(scope.employer.name, writtenDate(scope.employer.today));
    sheet.text(pack.person.address.line(scope.employer.facts.address), { color: SECOND_INK });
    sheet.space(18).text(name);
    if (address?.line1) sheet.text(pack.person.address.line(address), { color: SECOND_INK });
    sheet.heading(letter.title);
    for (const paragraph of letter.paragraphs({
      name,
      employer: scope.employer.name,
      signedBy: scope.employer.facts.contact.name,
      category: one.assessed?.category.label ?? '',
      standing: one.standing,
      ...schemeOf(schemes, one),
    }))
      sheet.text(paragraph).space(6);
    sheet.space(12).text(scope.employer.facts.contact.name);
    sheet.text([scope.employer.facts.contact.email, scope.employer.facts.contact.phone].filter(Boolean).join(', '), { color: SECOND_INK });
  }
  return sheet.finish(scope.employer.name);
}

/** The scheme that somebody is in, else the employer's first, which they would come into. */
function schemeOf(schemes: readonly Scheme[], { standing }: Enrolled) {
  const scheme = schemes.find(({ id }) => id === standing.scheme) ?? schemes[0];
  const tier = scheme?.tiers.find(({ code }) => code === standing.tier) ?? scheme?.tiers[0];
  return scheme && tier ? { scheme: { ...scheme, employee: tier.employee, employer: tier.employer } } : {};
}

/** A letter that was given to the own view of an employee. */
export async function ownLetterPdf(scope: Scope, personId: string, id: string): Promise<Buffer> {
  const law = packFor(scope).enrolment;
  const [given] = await ownLetters(scope, personId, id);
  const letter = law?.letters.find(({ code }) => code === given?.letter);
  const [one] = law && letter ? await enrolledOf(scope, law, { people: [personId] }) : [];
  if (!one || !letter) throw notFound('letter');
  return printed(scope, letter, [one]);
}

export const ownLetters = (scope: Scope, personId: string, id?: string): Promise<{ id: string; letter: string; on: string }[]> =>
  select(
    scope.database,
    `select s.id, s.about->>'letter' as letter, s.on_day as "on" from enrolment_steps s where s.person_id = :personId and s.employer_id = :employer and s.step = 'letter' and s.about->>'how' = 'inbox'
       and not exists (select 1 from enrolment_steps b where b.undoes = s.id) ${id ? 'and s.id = :id' : ''} order by s.number desc`,
    { personId, employer: scope.employer.id, id: id ?? null },
  );

/** Headings after the open standard for data between payroll and pensions; those that the standard names otherwise are to be confirmed. */
const CONTRIBUTION_COLUMNS = [
  'EmployerReference',
  'Group',
  'FrequencyCode',
  'PayPeriodStart',
  'PayPeriodEnd',
  'PayDate',
  'WorkerUniqueId',
  'NINO',
  'Surname',
  'Forename',
  'BirthDate',
  'PensionableEarnings',
  'EmployeeContribution',
  'EmployerContribution',
  'AutoEnrolmentStatus',
  'AutoEnrolmentDate',
  'OptOutDate',
] as const;

const FREQUENCY_CODES: Readonly<Record<string, string>> = {
  weekly: 'W1',
  fortnightly: 'W2',
  'four-weekly': 'W4',
  monthly: 'M1',
  quarterly: 'M3',
};

/** What was posted through a scheme's items in a range of pay dates, by payslip period and person; refunds are negative. */
export async function contributionsFile(scope: Scope, id: string, { from, to }: ParsedQueryOf<'contributionsFile'>): Promise<string> {
  const law = lawOf(scope);
  const scheme = (await schemesOf(scope)).find((one) => one.id === id);
  if (!scheme) throw notFound('scheme');
  const rows = await select<{
    personId: string;
    code: string;
    givenName: string;
    familyName: string;
    born: string | null;
    sealed: Buffer | null;
    frequency: string;
    from: string;
    to: string;
    payDate: string;
    earnings: number;
    employee: number;
    employer: number;
  }>(
    scope.database,
    `select p.id as "personId", p.code, p.given_name as "givenName", p.family_name as "familyName", p.born, p.number_sealed as sealed, s.frequency, r.period_from as "from", r.period_to as "to", l.pay_date as "payDate",
            coalesce(sum(l.amount) filter (where l.code = :earnings), 0)::bigint as earnings, coalesce(sum(l.amount) filter (where l.code = :employee), 0)::bigint as employee, coalesce(sum(l.amount) filter (where l.code = :employerItem), 0)::bigint as employer
     from ledger_lines l join people p on p.id = l.person_id join pay_runs r on r.id = l.run_id join pay_schedules s on s.id = r.schedule_id
     where l.employer_id = :scope and l.pay_date between :from and :to and l.code in (:earnings, :employee, :employerItem)
     group by p.id, s.frequency, r.period_from, r.period_to, l.pay_date having bool_or(l.code <> :earnings) order by l.pay_date, p.family_name, p.given_name, p.code`,
    { scope: scope.employer.id, from, to, earnings: law.earnings, employee: scheme.employeeItem, employerItem: scheme.employerItem },
  );
  const enrolled = new Map((await enrolledOf(scope, law)).map((one) => [one.personId, one]));
  return csvOf([
    [...CONTRIBUTION_COLUMNS],
    ...rows.map((row) => {
      const standing = enrolled.get(row.personId)?.standing;
      return [
        scheme.reference,
        scheme.group,
        FREQUENCY_CODES[row.frequency] ?? row.frequency,
        row.from,
        row.to,
        row.payDate,
        row.code,
        row.sealed ? (theVault().openIfOf(row.sealed, `number:${row.personId}`) ?? '') : '',
        row.familyName,
        row.givenName,
        row.born ?? '',
        decimalOf(row.earnings),
        decimalOf(row.employee),
        decimalOf(row.employer),
        enrolled.get(row.personId)?.assessed?.category.label ?? '',
        standing?.state === 'in' ? (standing.since ?? '') : '',
        standing?.state === 'opted-out' ? (standing.since ?? '') : '',
      ];
    }),
  ]);
}

/** Who stands where, by which assessment, with the day of each letter. */
export async function enrolmentReport(scope: Scope, { state, letter }: ParsedQueryOf<'enrolmentReport'>): Promise<string> {
  const law = lawOf(scope);
  const schemes = await schemesOf(scope);
  const all = (await enrolledOf(scope, law)).filter(
    (one) => (state === undefined || one.standing.state === state) && (letter === undefined || one.duty?.letter === letter),
  );
  return csvOf([
    ['Person', 'Department', 'Status', 'Assessed as', 'Pay date', 'Earnings', 'To be done', 'By', ...law.letters.map(({ title }) => title)],
    ...all.map((one) => [
      one.name,
      one.department,
      inWords(law, schemes, one.standing),
      one.assessed?.category.label ?? '',
      one.period?.payDate ?? '',
      one.period ? decimalOf(one.period.earnings) : '',
      one.duty?.sentence ?? '',
      one.duty?.by ?? '',
      ...law.letters.map(({ code }) => one.standing.letters[code] ?? ''),
    ]),
  ]);
}
