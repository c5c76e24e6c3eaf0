import {
  batchView,
  copyInto,
  execute,
  journalPreview,
  prepareBatch,
  releaseBatch,
  select,
  setBank,
  tieOutsOf,
  vault,
  type Database,
  type Scope,
} from '@woodruff/server';

type Note = (what: string, value: number, unit: string) => void;
const timed = async (work: () => Promise<unknown>): Promise<number> => {
  const start = performance.now();
  await work();
  return performance.now() - start;
};

/** Everybody is paid by deposit to an account of their own. */
export async function byDeposit(database: Database, scope: Scope): Promise<void> {
  await setBank(scope, { name: 'Bench bank', routing: '123456780', account: '90011226' });
  const people = await select<{ id: string }>(database, 'select id from people where employer_id = :id order by code', {
    id: scope.employer.id,
  });
  const rows = people.map(({ id }, index) => {
    const number = String(4_000_000 + index);
    const accounts = [{ id: 'a', bank: '123456780', last4: number.slice(-4), kind: 'checking', by: 'remainder', value: null, trial: null }];
    return {
      id,
      payment: { method: 'deposit', bank: '123456780', last4: number.slice(-4), accounts },
      sealed: vault()
        .seal(JSON.stringify({ a: number }), `account:${id}`)
        .toString('base64'),
    };
  });
  await execute(
    database,
    `update people p set payment = e.payment, account_sealed = decode(e.sealed, 'base64') from jsonb_to_recordset(cast(:rows as jsonb)) as e(id uuid, payment jsonb, sealed text) where p.id = e.id`,
    { rows: JSON.stringify(rows) },
  );
}

/** The payments of an approved run: gathered and released with their file, beside COPY of the same rows. */
export async function payments(database: Database, scope: Scope, payDate: string, note: Note): Promise<void> {
  let batch = '';
  const gathered = await timed(async () => (batch = (await prepareBatch(scope, { kind: 'pay', payDate })).id));
  const released = await timed(async () => releaseBatch(scope, batch, { version: 1, balanced: true }));
  const shown = await timed(() => batchView(scope, batch));
  const columns = [
    'id',
    'employer_id',
    'reference',
    'batch_id',
    'net_payment_id',
    'person_id',
    'method',
    'purpose',
    'amount',
    'payee',
    'label',
    'destination_sealed',
    'user_id',
  ];
  await execute(database, 'drop table if exists copied_transfers');
  await execute(database, 'create table copied_transfers (like transfers including all)');
  const rows = await select<{ line: string }>(
    database,
    `select array_to_string(array[${columns.map((column) => `${column}::text`).join(', ')}], E'\t') || E'\n' as line from transfers where batch_id = :batch`,
    { batch },
  );
  const copy = await timed(() =>
    database.transaction((transaction) =>
      copyInto(
        transaction,
        'copied_transfers',
        columns,
        rows.map(({ line }) => line.replaceAll('\\', '\\\\')),
      ),
    ),
  );
  const count = rows.length.toLocaleString('en');
  note(`${count} payments gathered`, gathered, 'ms');
  note(`${count} payments released, with their file (gathered and released, wanted: 5,000)`, released, 'ms');
  note(`a batch of ${count} payments, looked at`, shown, 'ms');
  note(`COPY of the same ${count} payments`, copy, 'ms');
  note('gathered and released ÷ COPY', (gathered + released) / copy, 'times');
}

/** What a run of many comes to in the journal. */
export const journalOfRun = async (scope: Scope, runId: string, people: number, note: Note): Promise<void> =>
  note(
    `the journal of a run of ${people.toLocaleString('en')} people (wanted: 5,000)`,
    await timed(() => journalPreview(scope, runId)),
    'ms',
  );

/** All pairs of a year. */
export const tieOuts = async (scope: Scope, runs: number, people: number, note: Note): Promise<void> =>
  note(`tie-outs of ${runs} runs of ${people.toLocaleString('en')} people (wanted: 3,000)`, await timed(() => tieOutsOf(scope)), 'ms');
