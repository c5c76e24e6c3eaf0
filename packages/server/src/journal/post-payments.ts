import { writtenDate } from '@woodruff/core';
import { execute, select, type Transaction } from '../database/connection';
import type { Scope } from '../scope';
import { accountsOf } from './accounts';
import { enter, merged, PLAIN } from './entries';

interface Moved {
  id: number;
  on: string;
  step: string;
  purpose: string;
  owed: string | null;
  payee: string;
  amount: number;
  batchId: string;
  paying: string | null;
}

/** Payments that were booked, cleared or came back since: from net pay owed, or from what a payee is owed, to the bank and back. */
export async function postPayments(scope: Scope, transaction: Transaction): Promise<void> {
  const moved = await select<Moved>(
    scope.database,
    `select e.id, e.on_day as "on", e.step, t.purpose, m.owed, coalesce(m.payee, '') as payee, t.amount, t.batch_id as "batchId", b.paying_account_id as paying
     from transfer_events e join transfers t on t.id = e.transfer_id and t.employer_id = :employer and t.method <> 'set-off' left join remittances m on m.id = t.remittance_id left join payment_batches b on b.id = t.batch_id
     where e.step in ('booked', 'cleared', 'returned') and t.amount > 0
       and e.id > coalesce((select j.event_id from journal_payments j join journal_entries x on x.id = j.entry_id and x.employer_id = :employer order by j.event_id desc limit 1), 0)
       and (e.step <> 'returned' or exists (select 1 from transfer_events b where b.transfer_id = t.id and b.step = 'booked')) order by e.id`,
    { employer: scope.employer.id },
    transaction,
  );
  if (!moved.length) return;
  const accounts = await accountsOf(scope, transaction);
  const bankOf = (paying: string | null) => accounts.find({ side: 'bank', code: paying ?? '' }, 'bank').account;
  const keys = [...new Set(moved.map(({ batchId, on, step }) => [batchId, on, step === 'returned' ? 'return' : 'payment'].join(' ')))];
  for (const key of keys) {
    const some = moved.filter(({ batchId, on, step }) => [batchId, on, step === 'returned' ? 'return' : 'payment'].join(' ') === key);
    const [first] = some;
    if (!first) continue;
    const back = first.step === 'returned' ? -1 : 1;
    const lines = merged(
      some.flatMap(({ owed, payee, amount }) => {
        const { account, words } = owed
          ? { account: accounts.owedTo(owed), words: payee }
          : { account: accounts.find({ side: 'liability', code: 'net' }, 'net').account, words: 'Net pay' };
        return [
          { ...PLAIN, account, side: 'liability' as const, amount: back * amount, words, owed: owed ?? '' },
          {
            ...PLAIN,
            account: bankOf(first.paying),
            side: 'bank' as const,
            amount: -back * amount,
            words: back > 0 ? 'Paid' : 'Came back',
          },
        ];
      }),
    );
    const [entry] = await enter(
      scope,
      [
        {
          on: first.on,
          kind: back > 0 ? 'payment' : 'return',
          source: first.batchId,
          words: `${back > 0 ? 'Payments' : 'Came back'} of ${writtenDate(first.on)}`,
          lines,
        },
      ],
      transaction,
    );
    await execute(
      scope.database,
      `insert into journal_payments (event_id, entry_id) select cast(e.value as bigint), :entry from jsonb_array_elements_text(cast(:events as jsonb)) e`,
      { entry, events: JSON.stringify(some.map(({ id }) => id)) },
      transaction,
    );
  }
}

/** What was paid to a payee outside the batches: recorded, or through its own service; or taken back. */
export async function postRemittance(
  scope: Scope,
  { id, owed, payee, amount, on, undone }: { id: string; owed: string; payee: string; amount: number; on: string; undone?: true },
  transaction: Transaction,
): Promise<void> {
  const accounts = await accountsOf(scope, transaction);
  const [from] = await select<{ paying: string | null }>(
    scope.database,
    'select paying_account_id as paying from payees where employer_id = :employer and name = :payee',
    { employer: scope.employer.id, payee },
    transaction,
  );
  const sign = undone ? -1 : 1;
  await enter(
    scope,
    [
      {
        on,
        kind: undone ? 'undone' : 'remittance',
        source: id,
        words: `${undone ? 'Taken back: to' : 'To'} ${payee}`,
        lines: [
          { ...PLAIN, account: accounts.owedTo(owed), side: 'liability', amount: sign * amount, words: payee, owed },
          {
            ...PLAIN,
            account: accounts.find({ side: 'bank', code: from?.paying ?? '' }, 'bank').account,
            side: 'bank',
            amount: -sign * amount,
            words: 'Paid',
          },
        ],
      },
    ],
    transaction,
  );
}
