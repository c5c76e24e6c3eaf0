import { writtenDate } from '@woodruff/core';
import { LEFT, SECOND_INK, Sheet } from '../documents/sheet';
import { select } from '../database/connection';
import { notFound } from '../errors';
import { personOf } from '../people/person';
import { packFor, type Scope } from '../scope';
import { theVault } from '../vault/vault';
import { storedOf } from './leaving';

/** The paper that the law of some countries wants who leaves to be given: what was paid and withheld, by what is posted now. */
export async function leavingCertificate(scope: Scope, id: string): Promise<Buffer> {
  const pack = packFor(scope);
  const person = await personOf(scope, id);
  const stored = await storedOf(scope, id);
  const { certificate } = pack.leaving;
  if (!certificate || !stored) throw notFound('certificate of leaving');
  const [paid] = await select<{
    last: string | null;
    frequency: string | null;
    sealed: Buffer | null;
    tax: Record<string, unknown> | null;
  }>(
    scope.database,
    `select (select max(r.pay_date) from payslips y join pay_runs r on r.id = y.run_id where y.person_id = p.id and y.state = 'posted') as last,
            (select frequency from pay_schedules where id = p.schedule_id) as frequency, p.number_sealed as sealed,
            (select facts from tax_details where person_id = p.id order by from_date desc limit 1) as tax
     from people p where p.id = :id`,
    { id },
  );
  const year = pack.taxYearOf(paid?.last ?? stored.lastDay).label;
  const sums = await select<{ code: string; amount: number }>(
    scope.database,
    'select code, amount from balances where employer_id = :employer and person_id = :id and tax_year = :year',
    { employer: scope.employer.id, id, year },
  );
  const name = `${person.givenName} ${person.familyName}`;
  const parts = certificate.of({
    name,
    number: paid?.sealed ? (theVault().openIfOf(paid.sealed, `number:${id}`) ?? '') : '',
    ...(person.born ? { born: person.born } : {}),
    code: person.code,
    lastDay: stored.lastDay,
    ...(paid?.last ? { lastPaid: paid.last } : {}),
    frequency: paid?.frequency ?? '',
    employer: scope.employer.facts.country,
    tax: paid?.tax ?? {},
    sums: Object.fromEntries(sums.map(({ code, amount }) => [code, amount])),
  });
  const sheet = new Sheet(`${certificate.name}, ${name}`, pack.paper).page();
  sheet.title(scope.employer.name, certificate.name);
  sheet.text(certificate.title, { color: SECOND_INK });
  for (const { heading, rows } of parts) {
    sheet.heading(heading);
    for (const [label, value] of rows)
      sheet.row([
        { text: label, at: LEFT, width: 220 },
        { text: value, at: LEFT + 230, width: 260 },
      ]);
  }
  sheet.space(12);
  sheet.text(certificate.note);
  const { publication } = certificate.source;
  return sheet.finish(`By what was posted until ${writtenDate(scope.employer.today)}. ${publication}`);
}
