import type { Ladder, Rung, Transfer } from '@woodruff/contract';
import { addDays, capitalized, isBusinessDay, writtenDate } from '@woodruff/core';
import { select } from '../database/connection';
import { payingAccounts } from '../employers/paying-accounts';
import { obligationsOf } from '../remittances/owed';
import { holidaysOf, type Scope } from '../scope';
import { latestBalance } from './balances';
import { stateOfBatch, sumsOf, WAITING } from './batches';
import { transfersWhere } from './transfers';

/** How far the ladder reaches back and ahead, in days. */
const BACK = 60;
const AHEAD = 60;

/** What leaves which account, when, and has it arrived: what waits, batches, and what is owed. */
export async function ladderOf(scope: Scope): Promise<Ladder> {
  const { today } = scope.employer;
  const [from, to] = [addDays(today, -BACK), addDays(today, AHEAD)];
  const open = await transfersWhere(
    scope,
    `exists (select 1 from transfer_events v where v.transfer_id = t.id and v.step in ('returned', 'refused', 'notice')) and not exists (select 1 from transfer_events v where v.transfer_id = t.id and v.step = 'noted')`,
    {},
  );
  const rungs = [
    ...(await waitingPay(scope)),
    ...(await waitingAgain(scope)),
    ...(await batches(scope, from, open)),
    ...(await owedRungs(scope, from, to)),
  ];
  const accounts = await payingAccounts(scope);
  const order = ({ late, date }: Rung) => `${late ? 0 : 1}${date}`;
  return {
    rungs: rungs.sort((a, b) => (order(a) < order(b) ? -1 : order(a) > order(b) ? 1 : 0)),
    accounts: await Promise.all(
      accounts.map(async ({ id, name, last4 }) => {
        const known = await latestBalance(scope, id);
        return { id, name, last4, balance: known?.balance ?? null, on: known?.on ?? null };
      }),
    ),
    returned: open.filter(({ state }) => state === 'returned'),
    notices: open.filter(({ events }) => events.some(({ step }) => step === 'notice')),
  };
}

const sums = (rows: readonly { method: string; payments: number; amount: number }[]): Rung['sums'] =>
  rows.map(({ method, payments, amount }) => ({ method: method === 'deposit' ? 'file' : (method as 'cheque'), payments, amount }));

/** Net pay of approved runs that is in no batch, by day and account. */
async function waitingPay(scope: Scope): Promise<Rung[]> {
  const rows = await select<{ date: string; paying: string | null; method: string; payments: number; amount: number }>(
    scope.database,
    `select r.pay_date as date, ps.paying_account_id as paying, n.method, count(*)::int as payments, sum(n.amount)::bigint as amount ${WAITING} group by 1, 2, 3 order by 1, 2 nulls first, 3`,
    { employer: scope.employer.id },
  );
  const by = new Map<string, typeof rows>();
  for (const row of rows) by.set(`${row.date} ${row.paying}`, [...(by.get(`${row.date} ${row.paying}`) ?? []), row]);
  return [...by.values()].flatMap((some) => {
    const [first] = some;
    return first
      ? [
          {
            ...waitingRung(first.date, 'pay', 'Net pay', sums(some)),
            payingAccountId: first.paying,
            late: first.date < scope.employer.today,
          },
        ]
      : [];
  });
}

const waitingRung = (date: string, kind: 'pay' | 'again' | 'remittance', what: string, some: Rung['sums']): Rung => ({
  date,
  kind,
  what,
  amount: some.reduce((sum, { amount }) => sum + amount, 0),
  sums: some,
  batchId: null,
  payingAccountId: null,
  owed: null,
  state: 'to-prepare',
  late: false,
  returned: 0,
});

/** Payments made once more, and remittances, that wait for a batch: by account. */
async function waitingAgain(scope: Scope): Promise<Rung[]> {
  const rows = await select<{ kind: 'again' | 'remittance'; paying: string | null; method: string; payments: number; amount: number }>(
    scope.database,
    `select case when remittance_id is null then 'again' else 'remittance' end as kind, paying_account_id as paying, method, count(*)::int as payments, sum(amount)::bigint as amount
     from transfers where employer_id = :employer and batch_id is null group by 1, 2, 3 order by 1, 2 nulls first, 3`,
    { employer: scope.employer.id },
  );
  const date = nextBankDay(scope, scope.employer.today);
  const keys = [...new Set(rows.map(({ kind, paying }) => `${kind} ${paying}`))];
  return keys.flatMap((key) => {
    const some = rows.filter(({ kind, paying }) => `${kind} ${paying}` === key);
    const [first] = some;
    return first
      ? [
          {
            ...waitingRung(date, first.kind, first.kind === 'again' ? 'Paid again' : 'To payees', sums(some)),
            payingAccountId: first.paying,
          },
        ]
      : [];
  });
}

export function nextBankDay(scope: Scope, date: string): string {
  const isHoliday = holidaysOf(scope);
  let day = date;
  while (!isBusinessDay(day, isHoliday)) day = addDays(day, 1);
  return day;
}

async function batches(scope: Scope, from: string, open: readonly Transfer[]): Promise<Rung[]> {
  const rows = await select<{
    id: string;
    number: number;
    payDate: string;
    releasedAt: string | null;
    dropped: boolean;
    faults: unknown;
    paying: string | null;
  }>(
    scope.database,
    `select id, number, pay_date as "payDate", released_at as "releasedAt", dropped_at is not null as dropped, refusal as faults, paying_account_id as paying from payment_batches
     where employer_id = :employer and dropped_at is null and (released_at is null or pay_date >= :from or id in (:open))`,
    { employer: scope.employer.id, from, open: [null, ...open.filter(({ state }) => state === 'returned').map(({ batchId }) => batchId)] },
  );
  if (!rows.length) return [];
  const transfers = await transfersWhere(scope, 't.batch_id in (:ids)', { ids: rows.map(({ id }) => id) });
  const byBatch = new Map<string, Transfer[]>();
  for (const transfer of transfers) byBatch.set(transfer.batchId as string, [...(byBatch.get(transfer.batchId as string) ?? []), transfer]);
  return rows.map((row) => {
    const some = (byBatch.get(row.id) ?? []).filter(({ state }) => state !== 'left-out');
    const state = stateOfBatch(row, some);
    const kinds = new Set(some.map(({ remittanceId, replaces }) => (remittanceId ? 'to payees' : replaces ? 'paid again' : 'net pay')));
    return {
      date: row.payDate,
      kind: 'batch' as const,
      what: `Batch ${row.number}, ${[...kinds].join(', ')}`,
      amount: some.reduce((sum, { amount }) => sum + amount, 0),
      sums: sumsOf(some),
      batchId: row.id,
      payingAccountId: row.paying,
      owed: null,
      state,
      late: state === 'to-send' && row.payDate <= scope.employer.today,
      returned: some.filter((transfer) => transfer.state === 'returned').length,
    };
  });
}

/** What is owed: everything that is late, and what is due or was paid within the range. */
async function owedRungs(scope: Scope, since: string, to: string): Promise<Rung[]> {
  const { today } = scope.employer;
  const from = new Map(
    (
      await select<{ name: string; paying: string }>(
        scope.database,
        'select name, paying_account_id as paying from payees where employer_id = :employer and paying_account_id is not null',
        { employer: scope.employer.id },
      )
    ).map(({ name, paying }) => [name, paying]),
  );
  return (await obligationsOf(scope))
    .filter(({ due, left }) => (left > 0 && due < today) || (due >= since && due <= to))
    .filter(({ amount, paid }) => amount !== 0 || paid !== 0)
    .map(({ owed, payee, what, due, left, amount }) => ({
      date: due,
      kind: 'owed' as const,
      what: `${payee}: ${what}`,
      amount: left > 0 ? left : amount,
      sums: [],
      batchId: null,
      payingAccountId: from.get(payee) ?? null,
      owed,
      state: left > 0 ? ('due' as const) : ('paid' as const),
      late: left > 0 && due < today,
      returned: 0,
    }));
}

/** What is due, as a calendar (RFC 5545): a day each, until it is paid. */
export async function dueCalendar(scope: Scope): Promise<string> {
  const stamp = `${scope.employer.today.replaceAll('-', '')}T000000Z`;
  const escaped = (text: string) => text.replace(/[\\;,]/g, (letter) => `\\${letter}`).replace(/\n/g, '\\n');
  // Lines are folded after 75 octets.
  const folded = (line: string) => line.replace(/(.{60})(?=.)/gu, '$1\r\n ');
  const events = (await obligationsOf(scope))
    .filter(({ left }) => left > 0)
    .flatMap(({ owed, payee, what, due, upTo }) => [
      'BEGIN:VEVENT',
      `UID:${Buffer.from(`${scope.employer.id} ${owed} ${due}`).toString('hex')}@woodruff`,
      `DTSTAMP:${stamp}`,
      `DTSTART;VALUE=DATE:${due.replaceAll('-', '')}`,
      `SUMMARY:${escaped(`${payee}: ${what}`)}`,
      `DESCRIPTION:${escaped(capitalized(`what was withheld or is owed until ${writtenDate(upTo)}`))}`,
      'TRANSP:TRANSPARENT',
      'END:VEVENT',
    ]);
  return `${['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Woodruff//Payments due//EN', ...events, 'END:VCALENDAR'].map(folded).join('\r\n')}\r\n`;
}
