import type { Ladder, Rung, Transfer } from '@woodruff/contract';
import { addDays, capitalized, isBusinessDay, writtenDate } from '@woodruff/core';
import { select } from '../database/connection';
import { obligationsOf } from '../remittances/owed';
import { holidaysOf, type Scope } from '../scope';
import { latestBalance, stateOfBatch, sumsOf, WAITING } from './batches';
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
  const [bank] = await select<{ bank: { name: string; last4: string } | null }>(
    scope.database,
    'select bank from employers where id = :id',
    { id: scope.employer.id },
  );
  const balance = await latestBalance(scope);
  const order = ({ late, date }: Rung) => `${late ? 0 : 1}${date}`;
  return {
    rungs: rungs.sort((a, b) => (order(a) < order(b) ? -1 : order(a) > order(b) ? 1 : 0)),
    account: bank?.bank
      ? { name: bank.bank.name, last4: bank.bank.last4, balance: balance?.balance ?? null, on: balance?.on ?? null }
      : null,
    returned: open.filter(({ state }) => state === 'returned'),
    notices: open.filter(({ events }) => events.some(({ step }) => step === 'notice')),
  };
}

const sums = (rows: readonly { method: string; payments: number; amount: number }[]): Rung['sums'] =>
  rows.map(({ method, ...row }) => ({ method: method === 'deposit' ? 'file' : (method as 'cheque'), ...row }));

/** Net pay of approved runs that is in no batch. */
async function waitingPay(scope: Scope): Promise<Rung[]> {
  const rows = await select<{ date: string; method: string; payments: number; amount: number; runs: string }>(
    scope.database,
    `select r.pay_date as date, n.method, count(*)::int as payments, sum(n.amount)::bigint as amount, '' as runs ${WAITING} group by 1, 2 order by 1, 2`,
    { employer: scope.employer.id },
  );
  const dates = [...new Set(rows.map(({ date }) => date))];
  return dates.map((date) => {
    const some = rows.filter((row) => row.date === date);
    return {
      date,
      kind: 'pay' as const,
      what: 'Net pay',
      amount: some.reduce((sum, { amount }) => sum + amount, 0),
      sums: sums(some),
      batchId: null,
      owed: null,
      state: 'to-prepare' as const,
      late: date < scope.employer.today,
      returned: 0,
    };
  });
}

/** Payments made once more, and remittances, that wait for a batch. */
async function waitingAgain(scope: Scope): Promise<Rung[]> {
  const waiting = await transfersWhere(scope, 't.batch_id is null', {});
  const date = nextBankDay(scope, scope.employer.today);
  return (['again', 'remittance'] as const).flatMap((kind) => {
    const some = waiting.filter(({ remittanceId }) => (kind === 'remittance') === (remittanceId !== null));
    if (!some.length) return [];
    return [
      {
        date,
        kind,
        what: kind === 'again' ? 'Paid again' : 'To payees',
        amount: some.reduce((sum, { amount }) => sum + amount, 0),
        sums: sumsOf(some),
        batchId: null,
        owed: null,
        state: 'to-prepare' as const,
        late: false,
        returned: 0,
      },
    ];
  });
}

export function nextBankDay(scope: Scope, date: string): string {
  const isHoliday = holidaysOf(scope);
  let day = date;
  while (!isBusinessDay(day, isHoliday)) day = addDays(day, 1);
  return day;
}

async function batches(scope: Scope, from: string, open: readonly Transfer[]): Promise<Rung[]> {
  const rows = await select<{ id: string; number: number; payDate: string; releasedAt: string | null; dropped: boolean; faults: unknown }>(
    scope.database,
    `select id, number, pay_date as "payDate", released_at as "releasedAt", dropped_at is not null as dropped, refusal as faults from payment_batches
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
      owed: null,
      state,
      late: state === 'to-send' && row.payDate <= scope.employer.today,
      returned: some.filter((transfer) => transfer.state === 'returned').length,
    };
  });
}

/** What is owed: everything that is late, and what is due or was paid within the range. */
async function owedRungs(scope: Scope, from: string, to: string): Promise<Rung[]> {
  const { today } = scope.employer;
  return (await obligationsOf(scope))
    .filter(({ due, left }) => (left > 0 && due < today) || (due >= from && due <= to))
    .filter(({ amount, paid }) => amount !== 0 || paid !== 0)
    .map(({ owed, payee, what, due, left, amount }) => ({
      date: due,
      kind: 'owed' as const,
      what: `${payee}: ${what}`,
      amount: left > 0 ? left : amount,
      sums: [],
      batchId: null,
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
