import type { Cheques, ParsedQueryOf, Transfer } from '@woodruff/contract';
import { addDays, capitalized, decimalOf, inWords, unclaimedBy, written, writtenDate } from '@woodruff/core';
import { LEFT, RIGHT, Sheet } from '../documents/sheet';
import { payerOf } from '../employers/paying-accounts';
import { select } from '../database/connection';
import { conflict } from '../errors';
import { csvOf } from '../files/write';
import { sourceWords } from '../remittances/owed';
import { packFor, type Scope } from '../scope';
import { changing } from '../users/changing';
import { happened, transfersWhere } from './transfers';

/** Cheques that are out: released, and neither cleared nor stopped. */
const isOut = ({ state }: Transfer): boolean => state === 'sent';

/** The register: every number with what became of it. */
export async function chequesOf(scope: Scope, { state }: ParsedQueryOf<'cheques'>): Promise<Cheques> {
  const { staleAfter } = packFor(scope).bank;
  const homes = await homesOf(scope);
  const all = (await transfersWhere(scope, `t.method = 'cheque'`, {})).map((cheque) => {
    const date = cheque.events.find(({ step }) => step === 'released')?.on ?? null;
    const unpaid = date !== null && (isOut(cheque) || cheque.state === 'stopped');
    return {
      ...cheque,
      date,
      stale: isOut(cheque) && date !== null && addDays(date, staleAfter) < scope.employer.today,
      unclaimed: unpaid && cheque.netPaymentId ? unclaimedOf(scope, date, homes.get(cheque.personId ?? '') ?? '') : null,
    };
  });
  const cheques = all.filter(
    (cheque) => state === 'all' || (state === 'out' ? isOut(cheque) : state === 'stale' ? cheque.stale : isUnclaimed(scope, cheque)),
  );
  return { staleAfter, cheques: cheques.sort((a, b) => (b.number ?? 0) - (a.number ?? 0)) };
}

/** Where people live, whose law it is that unclaimed pay follows. */
const homesOf = async (scope: Scope): Promise<Map<string, string>> =>
  new Map(
    (
      await select<{ id: string; state: string }>(
        scope.database,
        `select distinct p.id, coalesce(nullif(p.address->>'state', ''), :own) as state from people p join transfers t on t.person_id = p.id and t.method = 'cheque' where p.employer_id = :employer`,
        { employer: scope.employer.id, own: scope.employer.facts.address.state },
      )
    ).map(({ id, state }) => [id, state]),
  );

/** From when pay that was not taken is handed over, by the law of where its owner lives, else of the employer. */
function unclaimedOf(scope: Scope, date: string, state: string): Cheques['cheques'][number]['unclaimed'] {
  const rule = packFor(scope).bank.unclaimed(state);
  return rule ? { ...unclaimedBy(rule, date), place: state, source: sourceWords(rule.source) } : null;
}

const isUnclaimed = ({ employer }: Scope, { unclaimed }: Cheques['cheques'][number]): boolean =>
  unclaimed !== null && unclaimed.from <= employer.today;

/** What is to be handed over, as the report wants to be filled in: owner, last address, amount, and by when. */
export async function unclaimedCsv(scope: Scope): Promise<string> {
  const { cheques } = await chequesOf(scope, { state: 'unclaimed' });
  const people = new Map(
    (
      await select<{ id: string; address: Record<'line1' | 'line2' | 'city' | 'state' | 'postcode', string> }>(
        scope.database,
        `select id, address from people where id in (:ids)`,
        { ids: [null, ...cheques.map(({ personId }) => personId)] },
      )
    ).map(({ id, address }) => [id, address]),
  );
  const { address: form } = packFor(scope).person;
  return csvOf([
    ['report by', 'place', 'owner', 'last address', 'number', 'payable on', 'unclaimed from', 'amount'],
    ...cheques.map(({ unclaimed, payee, personId, number, date, amount }) => {
      const address = people.get(personId ?? '');
      return [
        unclaimed?.report ?? '',
        unclaimed?.place ?? '',
        payee,
        address ? form.line(address) : '',
        String(number),
        date ?? '',
        unclaimed?.from ?? '',
        decimalOf(amount),
      ];
    }),
  ]);
}

/** What the bank compares with the cheques that are handed in: numbers, amounts, payees, and those that are void. */
export async function positivePayCsv(scope: Scope): Promise<string> {
  const { cheques } = await chequesOf(scope, { state: 'all' });
  const froms = new Map(
    (
      await select<{ id: string; paying: string | null }>(
        scope.database,
        'select id, paying_account_id as paying from payment_batches where employer_id = :employer',
        { employer: scope.employer.id },
      )
    ).map(({ id, paying }) => [id, paying]),
  );
  const numbers = new Map<string | null, string>();
  for (const paying of new Set(froms.values())) numbers.set(paying, (await payerOf(scope, paying)).account);
  const rows = cheques
    .filter(({ date }) => date !== null)
    .map(({ number, date, amount, payee, state, batchId }) => [
      numbers.get(froms.get(batchId ?? '') ?? null) ?? '',
      String(number),
      date ?? '',
      decimalOf(amount),
      payee,
      state === 'stopped' || state === 'paid-again' ? 'void' : 'issued',
    ]);
  return csvOf([['account', 'number', 'date', 'amount', 'payee', 'status'], ...rows]);
}

/** Where the thirds of a page begin. */
const THIRDS = [40, 290, 540] as const;

/**
 * Cheques of a batch on numbered stock: a page each, the cheque in one third of it and stubs in the others. Printing is
 * kept on each cheque; a number that is spoilt in the printer is stopped and paid again under another.
 */
export async function chequesPdf(scope: Scope, batch: string, position: ParsedQueryOf<'chequesPdf'>['position']): Promise<Buffer> {
  const cheques = (await transfersWhere(scope, `t.batch_id = :batch and t.method = 'cheque'`, { batch })).filter(
    ({ state }) => state === 'sent' || state === 'confirmed',
  );
  const { words, paper } = packFor(scope);
  if (!cheques.length)
    throw conflict(
      'no-cheques',
      `This batch has no ${words.cheques} to print: release it first, or nothing of it goes by ${words.cheque}.`,
    );
  const sheet = new Sheet(`${capitalized(words.cheques)}, batch ${cheques[0]?.batch ?? ''}`, paper);
  const at = { top: 0, middle: 1, bottom: 2 }[position];
  for (const cheque of cheques) {
    sheet.page();
    THIRDS.forEach((y, third) => {
      sheet.to(y);
      if (third === at) draw(sheet, scope, cheque);
      else stub(sheet, scope, cheque);
    });
  }
  await changing(scope, (transaction) =>
    happened(
      scope,
      cheques.map(({ id }) => id),
      { step: 'printed' },
      transaction,
    ),
  );
  return sheet.finish('');
}

const dated = ({ payDate, events }: Transfer): string => writtenDate(payDate ?? events[0]?.on ?? '1970-01-01');

function draw(sheet: Sheet, scope: Scope, cheque: Transfer): void {
  sheet
    .title(scope.employer.name, `No. ${cheque.number ?? ''}`)
    .row([{ text: dated(cheque), at: RIGHT, right: true }])
    .space(18)
    .row(
      [
        { text: 'Pay to', at: LEFT },
        { text: cheque.payee, at: LEFT + 60 },
        { text: `**${written(cheque.amount)}**`, at: RIGHT, right: true },
      ],
      'bold',
    )
    .rule()
    .text(`${inWords(cheque.amount)} ${'*'.repeat(12)}`)
    .rule()
    .space(40)
    .row([{ text: scope.employer.facts.signatory.name, at: RIGHT, right: true }])
    .small([{ text: 'Signature', at: RIGHT, right: true }]);
}

function stub(sheet: Sheet, scope: Scope, cheque: Transfer): void {
  sheet
    .title(scope.employer.name, `No. ${cheque.number ?? ''}`)
    .row([
      { text: cheque.payee, at: LEFT },
      { text: dated(cheque), at: LEFT + 280 },
      { text: written(cheque.amount), at: RIGHT, right: true },
    ])
    .small([{ text: [cheque.label, cheque.reference].filter(Boolean).join(', '), at: LEFT }]);
}
