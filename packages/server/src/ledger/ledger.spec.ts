import fc from 'fast-check';
import { specialRunSchema } from '@woodruff/contract';
import { addDays } from '@woodruff/core';
import { select } from '../database/connection';
import { backPay, takeBackPay } from '../one-offs/back-pay';
import { addOneOffs } from '../one-offs/service';
import { addRate } from '../people/employment/rates';
import { Workplace } from '../testing/workplace';
import type { Scope } from '../scope';
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
  | { do: 'reverse-run' | 'withdraw'; replace: boolean };

const amount = fc.integer({ min: 1, max: 90_000 });
const step: fc.Arbitrary<Step> = fc.oneof(
  { weight: 4, arbitrary: fc.record({ do: fc.constant('run' as const), hours: fc.integer({ min: 0, max: 90 }) }) },
  { weight: 3, arbitrary: fc.record({ do: fc.constantFrom('bonus' as const, 'special' as const, 'raise' as const), amount }) },
  { weight: 3, arbitrary: fc.record({ do: fc.constant('reverse' as const), which: fc.nat(20), replace: fc.boolean() }) },
  { weight: 1, arbitrary: fc.record({ do: fc.constantFrom('reverse-run' as const, 'withdraw' as const), replace: fc.boolean() }) },
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
    return new Year(place, await place.scope());
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
    } else await this.correct(one);
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
        for (const one of steps) await year.play(one);
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
      { numRuns: 8 },
    );
  }, 240_000);
});
