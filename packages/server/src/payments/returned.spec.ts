import fc from 'fast-check';
import type { Ladder } from '@woodruff/contract';
import { spawn } from 'node:child_process';
import { select } from '../database/connection';
import { reversePayslip } from '../pay-runs/corrections/corrections';
import { payAgain } from '../pay-runs/posting/net-payments';
import { setPayment } from '../people/payment/payment';
import { personPage } from '../people/service';
import { setBankAccount } from '../standins/bank/books';
import { testDatabaseUrl, testVaultKey } from '../testing/database';
import { PERIOD } from '../testing/workplace';
import type { Bank } from './bank';
import { batchFile, batchView, prepareBatch } from './batches';
import { exchangeWithBank, takeStatement } from './exchange';
import { ladderOf } from './ladder';
import { answerNotice, holdReturned, payReturned } from './returned';
import { House } from '../testing/house-of-payments';
import { refusal } from '../testing/refusal';

describe('A payment that comes back', () => {
  const returned = async (which: 1 | 2 | 3, state: 'closed' | 'unknown' | 'moved' = 'closed') => {
    const house = await House.begin();
    await house.sent();
    await setBankAccount(house.scope, {
      ...(await house.account(which)),
      name: '',
      state,
      newBank: '',
      newAccount: state === 'moved' ? '55667788' : '',
    });
    await house.on('2026-12-02');
    await house.exchange();
    return house;
  };

  it('stands with its reason, is paid again once the account is corrected, and only once', async () => {
    const house = await returned(3);
    const [sol] = await house.to('Sol');
    expect([sol?.state, sol?.events.at(-1)]).toEqual([
      'returned',
      jasmine.objectContaining({ step: 'returned', code: 'R02', words: 'The account is closed', on: '2026-11-30' }),
    ]);
    const ladder = await ladderOf(house.scope);
    expect(ladder.returned.map(({ payee }) => payee)).toEqual(['Sol Salaried']);
    expect(ladder.rungs.find(({ kind }) => kind === 'batch')?.returned).toBe(1);
    const again = () => payReturned(house.scope, sol?.id ?? '', { way: 'account', reason: 'New account' });
    expect(await refusal(again())).toContain('is the one that sent it back');
    await setPayment(house.scope, house.place.people.salaried, { method: 'deposit', bank: '031000040', account: '60606060' });
    await again();
    expect(await refusal(again())).toContain('paid again already');
    expect(await refusal(payAgain(house.scope, sol?.payslipId ?? '', { method: 'cheque', reason: 'And by hand' }))).toContain(
      'paid again already',
    );
    const batch = await house.prepare('again', '2026-12-03');
    await house.release(batch);
    await house.exchange();
    await house.on('2026-12-07');
    await house.exchange();
    expect((await house.to('Sol')).map(({ state, amount }) => [state, amount])).toEqual([
      ['paid-again', sol?.amount ?? 0],
      ['confirmed', sol?.amount ?? 0],
    ]);
  });

  it('of two accounts only the part that came back is paid again', async () => {
    const house = await returned(1, 'unknown');
    const parts = await house.to('Hana');
    expect(parts.map(({ state, amount }) => [state, amount === 20_000])).toEqual([
      ['returned', true],
      ['confirmed', false],
    ]);
    expect(await refusal(payReturned(house.scope, parts[1]?.id ?? '', { way: 'cheque', reason: 'By mistake' }))).toContain(
      'did not come back',
    );
    await payReturned(house.scope, parts[0]?.id ?? '', { way: 'account', reason: 'To the other account' });
  });

  it('goes by cheque, to the estate, or is held', async () => {
    const house = await returned(3);
    const [sol] = await house.to('Sol');
    await holdReturned(house.scope, sol?.id ?? '', 'Waiting for the family');
    expect((await house.to('Sol'))[0]?.state).toBe('held');
    await payReturned(house.scope, sol?.id ?? '', { way: 'estate', reason: 'Letters of administration seen' });
    const batch = await house.prepare('again', '2026-12-03');
    expect((await batchView(house.scope, batch)).transfers.map(({ payee, method, number }) => [payee, method, number !== null])).toEqual([
      ['Estate of Sol Salaried', 'cheque', true],
    ]);
  });

  it('is not paid again while it is on its way, nor once it is reversed', async () => {
    const house = await House.begin();
    await house.sent();
    const [sol] = await house.to('Sol');
    expect(await refusal(payReturned(house.scope, sol?.id ?? '', { way: 'cheque', reason: 'In a hurry' }))).toContain('did not come back');
    expect(await refusal(payAgain(house.scope, sol?.payslipId ?? '', { method: 'cheque', reason: 'In a hurry' }))).toContain(
      'The bank has this payment',
    );
    const other = await returned(3);
    const [back] = await other.to('Sol');
    await reversePayslip(other.scope, back?.payslipId ?? '', 'never worked', false);
    expect(await refusal(payReturned(other.scope, back?.id ?? '', { way: 'cheque', reason: 'As asked' }))).toContain('reversed meanwhile');
  });

  it('a notice of change arrives with the money, and is taken over into the account once', async () => {
    const house = await returned(3, 'moved');
    const [sol] = await house.to('Sol');
    expect([sol?.state, sol?.events.at(-1)?.told]).toEqual(['confirmed', { bank: '031000040', account: '55667788' }]);
    expect((await ladderOf(house.scope)).notices.length).toBe(1);
    await answerNotice(house.scope, sol?.id ?? '', true);
    const { payment } = await personPage(house.scope, house.place.people.salaried);
    expect(JSON.stringify(payment)).toContain('7788');
    expect(await refusal(answerNotice(house.scope, sol?.id ?? '', true))).toContain('answered this notice already');
    expect((await ladderOf(house.scope)).notices).toEqual([]);
  });
});

describe('A process that is killed', () => {
  it('at any step of a release leaves each net pay to arrive exactly once', async () => {
    const house = await House.begin();
    const batch = await house.prepare();
    const { version } = await batchView(house.scope, batch);
    const child = (after: number): Promise<{ code: number | null; signal: string | null }> =>
      new Promise((resolve) => {
        const process_ = spawn(process.execPath, ['--import', 'tsx', new URL('../testing/killed-release.ts', import.meta.url).pathname], {
          env: {
            ...process.env,
            KILLED: JSON.stringify({
              url: testDatabaseUrl(),
              key: testVaultKey(),
              employer: house.place.employerId,
              user: house.scope.user.id,
              batch,
              version,
              after,
            }),
          },
          stdio: ['ignore', 'ignore', 'inherit'],
        });
        process_.on('exit', (code, signal) => resolve({ code, signal }));
      });
    let killed = 0;
    for (let after = 1; ; after += 1 + Math.floor(after / 6)) {
      const { signal } = await child(after);
      if (signal !== 'SIGKILL') break;
      killed += 1;
    }
    expect(killed).toBeGreaterThan(5);
    await house.exchange();
    await house.on('2026-12-01');
    await house.exchange();
    expect((await house.to('', batch)).filter(({ method }) => method === 'file').every(({ state }) => state === 'confirmed')).toBeTrue();
    const twice = await select(
      house.scope.database,
      `select p.reference from bank.payments p join transfers t on t.reference = p.reference where t.employer_id = :id group by 1 having count(*) > 1`,
      { id: house.place.employerId },
    );
    expect(twice).toEqual([]);
  }, 240_000);
});

type Step = {
  do: 'prepare' | 'release' | 'exchange' | 'replay' | 'double' | 'again' | 'day' | 'close' | 'fix' | 'whole' | 'die';
  which: number;
};
const step: fc.Arbitrary<Step> = fc.record({
  do: fc.constantFrom('prepare', 'release', 'exchange', 'replay', 'double', 'again', 'day', 'close', 'fix', 'whole', 'die'),
  which: fc.nat(5),
});

describe('Whatever happens', () => {
  it('each net pay has arrived exactly once, or is open', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 6, maxLength: 24 }), async (steps) => {
        const house = await House.begin();
        const { bank } = house;
        let day = 23;
        let statements: string[] = [];
        const keeping: Bank = {
          submit: bank.submit.bind(bank),
          statements: async (...of) => (statements = await bank.statements(...of)),
        };
        const open = async (): Promise<Ladder> => ladderOf(house.scope);
        const play = async ({ do: what, which }: Step): Promise<unknown> => {
          const ladder = await open();
          const waiting = ladder.rungs.filter(({ state }) => state === 'to-prepare');
          const batches = ladder.rungs.filter(({ state, batchId }) => state === 'to-send' && batchId);
          const back = ladder.returned[which % Math.max(1, ladder.returned.length)];
          switch (what) {
            case 'prepare': {
              const rung = waiting[which % Math.max(1, waiting.length)];
              return (
                rung && prepareBatch(house.scope, { kind: rung.kind as 'pay', payDate: rung.kind === 'pay' ? PERIOD.payDate : rung.date })
              );
            }
            case 'release':
            case 'double': {
              const batch = batches[which % Math.max(1, batches.length)]?.batchId;
              if (!batch) return undefined;
              const once = () => house.release(batch, { accounts: which % 2 ? 'now' : 'approved' });
              return what === 'double' ? Promise.allSettled([once(), once()]) : once();
            }
            case 'exchange':
              return exchangeWithBank(house.scope, keeping);
            case 'replay':
              for (const content of statements) await takeStatement(house.scope, content);
              return undefined;
            case 'die': {
              // The bank gets the file, and nobody notes that it did.
              const [row] = await select<{ id: string }>(
                house.scope.database,
                'select id from payment_batches where employer_id = :id and released_at is not null and file_hash is not null order by number limit 1',
                { id: house.place.employerId },
              );
              return row && bank.submit({ ...(await batchFile(house.scope, row.id)), on: house.scope.employer.today, at: '10:00' });
            }
            case 'again':
              return back && payReturned(house.scope, back.id, { way: which % 2 ? 'cheque' : 'account', reason: 'It came back' });
            case 'whole':
              return back?.payslipId && payAgain(house.scope, back.payslipId, { method: 'cheque', reason: 'It came back' });
            case 'fix':
              return setPayment(house.scope, house.place.people.salaried, {
                method: 'deposit',
                bank: '031000040',
                account: `7${which}00${Date.now() % 1e6}`,
              });
            case 'close':
              return setBankAccount(house.scope, {
                ...(await house.account(((which % 3) + 1) as 1)),
                name: '',
                state: which % 2 ? 'closed' : 'unknown',
                newBank: '',
                newAccount: '',
              });
            case 'day':
              day += 1 + (which % 3);
              return house.on(new Date(Date.UTC(2026, 10, day)).toISOString().slice(0, 10));
          }
        };
        for (const one of steps) {
          await play(one).catch((error: unknown) => {
            if (!(error instanceof Error) || !('code' in error || 'status' in error)) throw error;
          });
          // What has left for each net pay and did not come back is never more than the net; what is live is the net.
          const wrong = await select<{ payslip: string }>(
            house.scope.database,
            `select n.payslip_id as payslip, sum(t.amount) filter (where booked and not back) as gone, sum(t.amount) filter (where not back and not replaced) as live, min(net.amount) as net
             from transfers t join net_payments n on n.id = t.net_payment_id join lateral (select max(x.net) as amount from payslip_results x where x.payslip_id = n.payslip_id) net on true
             cross join lateral (select exists (select 1 from transfer_events e where e.transfer_id = t.id and e.step in ('booked', 'cleared')) as booked,
               exists (select 1 from transfer_events e where e.transfer_id = t.id and e.step in ('returned', 'refused', 'stopped', 'dropped')) as back,
               exists (select 1 from transfers o where o.replaces = t.id) as replaced) s
             where t.employer_id = :id group by n.payslip_id
             having coalesce(sum(t.amount) filter (where booked and not back), 0) > min(net.amount) or coalesce(sum(t.amount) filter (where not back and not replaced), 0) > min(net.amount)`,
            { id: house.place.employerId },
          );
          expect(wrong).withContext(JSON.stringify(steps)).toEqual([]);
          // And the bank has not paid more either.
          const twice = await select<{ name: string }>(
            house.scope.database,
            `select p.name from bank.payments p join transfers t on t.reference = p.reference where t.employer_id = :id and p.returned_on is null group by p.name
             having sum(p.amount) > (select sum(x.net) from payslips y join payslip_results x on x.payslip_id = y.id join people e on e.id = y.person_id where upper(e.given_name || ' ' || e.family_name) = p.name and y.run_id = :run and y.state = 'posted')`,
            { id: house.place.employerId, run: house.run },
          );
          expect(twice).withContext(JSON.stringify(steps)).toEqual([]);
        }
      }),
      { numRuns: 8 },
    );
  }, 240_000);
});
