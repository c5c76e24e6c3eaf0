import fc from 'fast-check';
import { specialRunSchema } from '@woodruff/contract';
import { addDays } from '@woodruff/core';
import { execute, select } from '../database/connection';
import { moveToday } from '../employers/service';
import { setBank } from '../employers/paying-accounts';
import { Refusal } from '../errors';
import { batchView, prepareBatch } from '../payments/batches';
import { releaseBatch } from '../payments/release';
import { exchangeWithBank } from '../payments/exchange';
import { ladderOf } from '../payments/ladder';
import { payReturned } from '../payments/returned';
import { setPayment } from '../people/payment/payment';
import { obligationsOf } from '../remittances/owed';
import { remit } from '../remittances/service';
import { agenciesOf } from '../payments/routes';
import { StandInBank } from '../standins/bank/bank';
import { tieOutsOf } from '../tie-outs/tie-outs';
import { backPay, takeBackPay } from '../one-offs/back-pay';
import { addOneOffs } from '../one-offs/service';
import { addRate } from '../people/employment/rates';
import { Workplace } from '../testing/workplace';
import { holidaysOf, type Scope } from '../scope';
import { approveRun } from '../pay-runs/posting/approval';
import { calculateRun, openRun } from '../calculation/calculation';
import { reversePayslip } from '../pay-runs/corrections/corrections';
import { acceptPoint, changePayslip } from '../pay-runs/sheet/edits';
import { balancesOutOfStep } from './posting';
import { openPoints } from '../pay-runs/sheet/points';
import { runView, sheetOf } from '../pay-runs/sheet/sheet';
import { startSpecialRun } from '../pay-runs/making/special';
import { proposals, startRun } from '../pay-runs/making/start';
import { reverseRun, withdrawRun } from '../pay-runs/corrections/whole-run';

type Step =
  | { do: 'run'; hours: number }
  | { do: 'bonus' | 'special' | 'raise'; amount: number }
  | { do: 'reverse'; which: number; replace: boolean }
  | { do: 'reverse-run' | 'withdraw'; replace: boolean }
  | { do: 'send' | 'bank' | 'owed' | 'closed'; which: number };

const amount = fc.integer({ min: 1, max: 90_000 });
const step: fc.Arbitrary<Step> = fc.oneof(
  { weight: 4, arbitrary: fc.record({ do: fc.constant('run' as const), hours: fc.integer({ min: 0, max: 90 }) }) },
  { weight: 3, arbitrary: fc.record({ do: fc.constantFrom('bonus' as const, 'special' as const, 'raise' as const), amount }) },
  { weight: 3, arbitrary: fc.record({ do: fc.constant('reverse' as const), which: fc.nat(20), replace: fc.boolean() }) },
  { weight: 1, arbitrary: fc.record({ do: fc.constantFrom('reverse-run' as const, 'withdraw' as const), replace: fc.boolean() }) },
  {
    weight: 4,
    arbitrary: fc.record({ do: fc.constantFrom('send' as const, 'bank' as const, 'owed' as const, 'closed' as const), which: fc.nat(9) }),
  },
);

/** Plays steps as clerks would: each is really made, or refused with a sentence. */
class Year {
  private raised = 0;

  private constructor(
    readonly place: Workplace,
    readonly scope: Scope,
  ) {}

  static async begin(): Promise<Year> {
    const place = await Workplace.make();
    const scope = await place.scope();
    const own = String(Math.floor(Math.random() * 1e9) + 1e9);
    await setBank(scope, { name: 'Tidewater Savings', routing: '051000017', account: own });
    await setPayment(scope, place.people.hourly, { method: 'deposit', bank: '011000015', account: `${own}1` });
    return new Year(place, await place.scope());
  }

  /** Money out and back: everything that waits is sent, the bank is asked, a day passes, what is owed is paid. */
  private async money({ do: what, which }: Extract<Step, { which: number }>): Promise<void> {
    const { scope } = this;
    const bank = new StandInBank(scope.database, holidaysOf(scope));
    const ladder = await ladderOf(scope);
    if (what === 'send')
      for (const { kind, date } of ladder.rungs.filter(({ state }) => state === 'to-prepare')) {
        const { id } = await prepareBatch(scope, { kind: kind as 'pay', payDate: date });
        await releaseBatch(scope, id, { version: (await batchView(scope, id)).version, balanced: true, accounts: 'now' });
      }
    else if (what === 'bank') {
      await moveToday(scope, addDays(scope.employer.today, 1 + (which % 4)));
      Object.assign(scope, await this.place.scope());
      await exchangeWithBank(scope, bank);
      for (const { id } of (await ladderOf(scope)).returned) await payReturned(scope, id, { way: 'cheque', reason: 'It came back' });
    } else if (what === 'owed') {
      const due = (await obligationsOf(scope)).filter(({ left }) => left > 0);
      const one = due[which % Math.max(1, due.length)];
      if (one)
        await remit(
          scope,
          { payments: [{ owed: one.owed, due: one.due, method: which % 2 ? 'agency' : 'cheque', reference: '' }] },
          agenciesOf(scope),
        );
    } else
      await execute(
        scope.database,
        `insert into bank.accounts (bank, account, state) select p.bank, p.account, 'closed' from bank.payments p where p.payer_account = (select account from bank.payments order by id desc limit 1) and p.booked_on is null on conflict (bank, account) do nothing returning bank`,
      );
  }

  /** Pairs that must agree whatever was done, with what of them does not. */
  async untied(): Promise<unknown[]> {
    const pairs = await tieOutsOf(this.scope);
    return (
      pairs
        // What was paid and is reversed since has to come back, and says so; items of this workplace are owed to nobody.
        .filter(({ code, agrees }) => !agrees && code !== 'payments-transfers')
        .map((pair) => ({ ...pair, differences: pair.differences.filter(({ what }) => !what.includes('owed to nobody')) }))
        .filter(({ code, differences }) => code !== 'obligations-liabilities' || differences.length)
    );
  }

  async play(one: Step): Promise<void> {
    const { scope, place } = this;
    if (one.do === 'run') {
      const [proposal] = await proposals(scope);
      // The tables of the next year are not there yet.
      if (!proposal || proposal.payDate > '2026-12-31') return;
      const { id } = await startRun(scope, proposal);
      await calculateRun(scope, id);
      const row = (await sheetOf(scope, id)).rows.find((each) => each.personId === place.people.hourly);
      if (row) await changePayslip(scope, id, row.payslipId, { version: row.version, edits: { hours: { ordinary: `${one.hours}.00` } } });
      await this.approve(id);
    } else if (one.do === 'bonus') {
      await addOneOffs(scope, { entries: [{ person: 'H1', item: 'bonus', amount: cents(one.amount), note: '', takes: { by: 'next' } }] });
    } else if (one.do === 'special') {
      const people = [{ personId: place.people.salaried, amounts: [{ item: 'bonus', amount: cents(one.amount) }] }];
      const { id } = await startSpecialRun(
        scope,
        specialRunSchema.parse({
          scheduleId: place.scheduleId,
          name: 'Bonus',
          payDate: scope.employer.today,
          rules: { items: ['health'] },
          people,
        }),
      );
      await calculateRun(scope, id);
      await this.approve(id);
    } else if ('amount' in one) {
      const from = addDays('2026-11-08', (this.raised += 1));
      await addRate(scope, place.people.hourly, {
        label: 'Pay',
        per: 'hour',
        amount: cents(2500 + (one.amount % 900)),
        from,
        primary: true,
        reason: '',
      });
      const asked = { from: '2026-11-01', personIds: [place.people.hourly], hours: {} };
      if ((await backPay(scope, asked)).total) await takeBackPay(scope, { ...asked, takes: { by: 'next' } });
    } else if ('which' in one && one.do !== 'reverse') await this.money(one);
    else await this.correct(one);
  }

  private async correct(one: Extract<Step, { replace: boolean }>): Promise<void> {
    const { scope } = this;
    const posted = await select<{ id: string; runId: string; kind: string }>(
      scope.database,
      `select y.id, y.run_id as "runId", r.kind from payslips y join pay_runs r on r.id = y.run_id where r.employer_id = :id and y.state = 'posted' order by r.approved_at, y.id`,
      { id: scope.employer.id },
    );
    const last = posted.at(-1);
    if (!last) return;
    if (one.do === 'reverse') {
      const { replacementRun } = await reversePayslip(scope, posted[one.which % posted.length]!.id, 'wrong', one.replace);
      if (replacementRun) await this.approve(replacementRun);
    } else if (one.do === 'reverse-run') {
      const { replacementRun } = await reverseRun(scope, last.runId, 'wrong', one.replace);
      if (replacementRun) {
        await calculateRun(scope, replacementRun);
        await this.approve(replacementRun);
      }
    } else {
      const withdrawn = await withdrawRun(scope, last.runId, 'wrong').catch(() => null);
      if (!withdrawn) return;
      await calculateRun(scope, withdrawn.id);
      await this.approve(withdrawn.id);
    }
  }

  private async approve(run: string): Promise<void> {
    // Facts may have moved on while others were made: recalculated as the open point asks.
    await calculateRun(this.scope, run);
    const scope = await this.place.scope();
    for (const point of await openPoints(scope, await openRun(scope, run)))
      if (point.weight === 'look' && !point.accepted) await acceptPoint(scope, run, point.key, 'looked at');
    if ((await openPoints(scope, await openRun(scope, run))).some((point) => !point.accepted)) return;
    await approveRun(scope, run, (await runView(scope, run)).version, `key-${run}`);
  }
}

const cents = (value: number): string => `${Math.floor(value / 100)}.${String(value % 100).padStart(2, '0')}`;

describe('The ledger, whatever is done', () => {
  it('is the sum of the payslips that stand; balances are its sums; a one-off is paid once; net is accounted for', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 4, maxLength: 10 }), async (steps) => {
        const year = await Year.begin();
        for (const one of steps) {
          // What is refused says so, and changes nothing.
          await year.play(one).catch((error: unknown) => {
            if (!(error instanceof Refusal)) throw error;
          });
          expect(await year.untied())
            .withContext(JSON.stringify(steps))
            .toEqual([]);
        }
        const { scope } = year;
        const employer = { id: scope.employer.id };
        expect(await balancesOutOfStep(scope)).toEqual([]);
        const differing = await select(
          scope.database,
          `select coalesce(l.person_id, s.person_id) as person, coalesce(l.code, s.code) as code, l.amount as ledger, s.amount as standing
           from (select person_id, code, sum(amount) as amount from ledger_lines where employer_id = :id group by 1, 2 having sum(amount) <> 0) l
           full join (select y.person_id, x.code, sum(x.amount) as amount from payslips y join pay_runs r on r.id = y.run_id and r.employer_id = :id join payslip_results pr on pr.payslip_id = y.id
                      cross join lateral jsonb_to_recordset(pr.lines) as x(code text, amount bigint) where y.state = 'posted' group by 1, 2 having sum(x.amount) <> 0) s
             on s.person_id = l.person_id and s.code = l.code where l.amount is distinct from s.amount`,
          employer,
        );
        expect(differing).toEqual([]);
        const [sums] = await select<{ net: number; parts: number }>(
          scope.database,
          `select coalesce(sum(x.net), 0)::bigint as net, coalesce((select sum(case kind when 'earning' then amount when 'reimbursement' then amount when 'tax' then -amount when 'deduction-before-tax' then -amount when 'deduction-after-tax' then -amount else 0 end)
             from ledger_lines where employer_id = :id), 0)::bigint as parts
           from payslips y join pay_runs r on r.id = y.run_id and r.employer_id = :id join payslip_results x on x.payslip_id = y.id where y.state = 'posted'`,
          employer,
        );
        expect(sums?.net).toBe(sums?.parts ?? -1);
        // A one-off is on one payslip that stands, or waits: never on two.
        const twice = await select(
          scope.database,
          `select o->>'id' as id from payslips y join pay_runs r on r.id = y.run_id and r.employer_id = :id join payslip_results x on x.payslip_id = y.id
           cross join lateral json_array_elements(x.input->'oneOffs') o where y.state = 'posted' and r.kind <> 'special' group by 1 having count(*) > 1`,
          employer,
        );
        expect(twice).toEqual([]);
      }),
      {
        numRuns: 8,
        examples: [
          [
            // Paid, and reversed whole after it: what was paid stays paid.
            [
              { do: 'run', hours: 0 },
              { do: 'bank', which: 3 },
              { do: 'reverse', which: 3, replace: false },
              { do: 'closed', which: 1 },
              { do: 'reverse-run', replace: true },
              { do: 'owed', which: 0 },
              { do: 'bonus', amount: 85_176 },
              { do: 'reverse-run', replace: false },
            ],
          ],
        ],
      },
    );
  }, 240_000);
});
