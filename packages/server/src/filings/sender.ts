import type { Filing, Sender, Stated } from '@woodruff/core';
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
  period: string,
  people: readonly string[],
  { signer, known = new Map() }: Partial<Pick<Sender, 'signer' | 'known'>> = {},
): Promise<Sender> {
  const { name, facts } = scope.employer;
  const rows = people.length
    ? await select<{
        id: string;
        givenName: string;
        familyName: string;
        address: Partial<Stated['address']> | null;
        sealed: Buffer | null;
      }>(
        scope.database,
        'select id, given_name as "givenName", family_name as "familyName", address, number_sealed as sealed from people where employer_id = :employer and id in (:people)',
        { employer: scope.employer.id, people: [...people] },
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
    amends: filedAttempt(await eventsOf(scope, filing.code, period)) !== undefined,
    people: new Map(
      rows.map(({ id, sealed, address, ...person }) => [
        id,
        {
          ...person,
          address: { ...NOWHERE, ...address },
          number: sealed ? (theVault().openIfOf(sealed, `number:${id}`) ?? '') : '',
        },
      ]),
    ),
  };
}
