import type { Filing, FilingPeriod, Sender, Stated } from '@woodruff/core';
import { filedAttempt } from '@woodruff/core';
import { select } from '../database/connection';
import { payerOf } from '../employers/paying-accounts';
import { packFor, type Scope } from '../scope';
import { theVault } from '../vault/vault';
import { eventsOf } from './events';

const NOWHERE = { line1: '', line2: '', city: '', state: '', postcode: '' };

/** Who files, and everybody that the file names, with their numbers opened: for the file alone, never for a screen. */
export async function senderOf(
  scope: Scope,
  filing: Pick<Filing, 'code' | 'every'>,
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
        leavingKind: string | null;
        frequency: string | null;
        details: Record<string, unknown> | null;
        givenName: string;
        familyName: string;
        address: Partial<Stated['address']> | null;
        sealed: Buffer | null;
      }>(
        scope.database,
        `select id, code, born, hired, "left", (select g.entered->>'kind' from leavings g where g.person_id = people.id and g.undone_at is null) as "leavingKind", (select frequency from pay_schedules s where s.id = people.schedule_id) as frequency, given_name as "givenName", family_name as "familyName", address, number_sealed as sealed,
                (select d.facts from tax_details d where d.person_id = people.id and d.from_date <= :to order by d.from_date desc limit 1) as details
         from people where employer_id = :employer and id in (:people)`,
        { employer: scope.employer.id, people: [...people], to: period.to },
      )
    : [];
  // Only what goes with a pay date says how the pay of the day left.
  const transfers =
    people.length && filing.every === 'pay-date' ? await transfersOf(scope, period.to, people) : new Map<string, Stated['transfer']>();
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
    latest: await isLatest(scope, filing.code, period.key),
    people: new Map(
      rows.map(({ id, sealed, address, born, hired, left, leavingKind, frequency, details, ...person }) => [
        id,
        {
          ...person,
          ...(born ? { born } : {}),
          ...(hired ? { hired } : {}),
          ...(left ? { left } : {}),
          ...(leavingKind ? { leavingKind } : {}),
          ...(frequency ? { frequency } : {}),
          ...(transfers.get(id) ? { transfer: transfers.get(id) } : {}),
          details: details ?? {},
          address: { ...NOWHERE, ...address },
          number: sealed ? (theVault().openIfOf(sealed, `number:${id}`) ?? '') : '',
        },
      ]),
    ),
  };
}

/** Keys of the periods of one filing are in the order of their days. */
async function isLatest(scope: Scope, filing: string, key: string): Promise<boolean> {
  const later = await select<{ one: number }>(
    scope.database,
    `select 1 as one from filing_events where employer_id = :employer and filing = :filing and period > :key and step = 'sent' limit 1`,
    { employer: scope.employer.id, filing, key },
  );
  return later.length === 0;
}

/** The largest credit of each person on a pay date, as it was released: its bank is opened for the file alone. */
async function transfersOf(scope: Scope, payDate: string, people: readonly string[]): Promise<Map<string, Stated['transfer']>> {
  const rows = await select<{
    id: string;
    personId: string;
    reference: string;
    amount: number;
    format: string;
    paying: string | null;
    sealed: Buffer;
  }>(
    scope.database,
    `select distinct on (t.person_id) t.id, t.person_id as "personId", t.reference, t.amount, b.format, b.paying_account_id as paying, t.destination_sealed as sealed
     from transfers t join payment_batches b on b.id = t.batch_id and b.released_at is not null
     where t.employer_id = :employer and b.pay_date = :payDate and t.method = 'file' and t.purpose = 'pay' and t.destination_sealed is not null and t.person_id in (:people)
       and not exists (select 1 from transfer_events e where e.transfer_id = t.id and e.step = 'dropped') order by t.person_id, t.amount desc, t.reference`,
    { employer: scope.employer.id, payDate, people: [...people] },
  );
  const payers = new Map<string | null, string>();
  for (const { paying } of rows) if (!payers.has(paying)) payers.set(paying, (await payerOf(scope, paying)).bank);
  return new Map(
    rows.map(({ id, personId, reference, amount, format, paying, sealed }) => {
      const { bank } = JSON.parse(theVault().open(sealed, `transfer:${id}`)) as { bank: string };
      return [personId, { format, from: payers.get(paying) ?? '', to: bank, amount, reference }];
    }),
  );
}
