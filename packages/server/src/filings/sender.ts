import type { Filing, FilingPeriod, Sender, Stated } from '@woodruff/core';
import { filedAttempt } from '@woodruff/core';
import { select } from '../database/connection';
import { packFor, type Scope } from '../scope';
import { theVault } from '../vault/vault';
import { eventsOf } from './events';

const NOWHERE = { line1: '', line2: '', city: '', state: '', postcode: '' };

/** Who files, and everybody that the file names, with their numbers opened: for the file alone, never for a screen. */
export async function senderOf(
  scope: Scope,
  filing: Pick<Filing, 'code'>,
  period: Pick<FilingPeriod, 'key' | 'to'>,
  people: readonly string[],
  { signer, known = new Map() }: Partial<Pick<Sender, 'signer' | 'known'>> = {},
): Promise<Sender> {
  const { name, facts } = scope.employer;
  const rows = people.length
    ? await select<{
        id: string;
        code: string;
        born: string | null;
        hired: string | null;
        left: string | null;
        frequency: string | null;
        details: Record<string, unknown> | null;
        givenName: string;
        familyName: string;
        address: Partial<Stated['address']> | null;
        sealed: Buffer | null;
      }>(
        scope.database,
        `select id, code, born, hired, "left", (select frequency from pay_schedules s where s.id = people.schedule_id) as frequency, given_name as "givenName", family_name as "familyName", address, number_sealed as sealed,
                (select d.facts from tax_details d where d.person_id = people.id and d.from_date <= :to order by d.from_date desc limit 1) as details
         from people where employer_id = :employer and id in (:people)`,
        { employer: scope.employer.id, people: [...people], to: period.to },
      )
    : [];
  return {
    name,
    number: packFor(scope).employerNumber(facts.country),
    address: { ...NOWHERE, ...facts.address },
    contact: facts.contact,
    kind: facts.kind ?? '',
    employer: facts.country,
    known,
    ...(signer ? { signer } : {}),
    amends: filedAttempt(await eventsOf(scope, filing.code, period.key)) !== undefined,
    people: new Map(
      rows.map(({ id, sealed, address, born, hired, left, frequency, details, ...person }) => [
        id,
        {
          ...person,
          ...(born ? { born } : {}),
          ...(hired ? { hired } : {}),
          ...(left ? { left } : {}),
          ...(frequency ? { frequency } : {}),
          details: details ?? {},
          address: { ...NOWHERE, ...address },
          number: sealed ? (theVault().openIfOf(sealed, `number:${id}`) ?? '') : '',
        },
      ]),
    ),
  };
}
