import { balancesOutOfStep } from '../../ledger/posting';
import { select } from '../../database/connection';
import { prepareFiling } from '../../filings/life';
import { recordEarlierDeposit, undoEarlierDeposit } from '../../filings/record-earlier';
import { viewOf } from '../../filings/service';
import { Workplace } from '../../testing/workplace';
import type { Scope } from '../../scope';
import { checkOpening, openingBalances, postOpening } from './opening';
import { refusal } from '../../testing/refusal';

/** A quarter of 26,000.00 with 300.00 of premiums: 25,700.00 counts for social security and Medicare. */
const QUARTER = {
  ordinary: '26000.00',
  health: '300.00',
  'us.fit': '2610.00',
  'us.oasdi': '1593.40',
  'us.medicare': '372.65',
  'us.state-income@US-PA': '788.99',
};

describe('Opening balances from an earlier system', () => {
  let place: Workplace;
  let scope: Scope;
  let person: string;
  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
    person = place.people.hourly;
  }, 60_000);
  const post = (paidUntil: string, amounts: Record<string, string>, acceptDifferences = false) =>
    postOpening(scope, person, { paidUntil, amounts, acceptDifferences });
  const sum = async (code: string) =>
    (
      await select<{ amount: number }>(
        scope.database,
        'select coalesce(sum(amount), 0)::bigint as amount from ledger_lines where person_id = :person and code = :code',
        { person, code },
      )
    )[0]?.amount;

  it('offer the items of the employer and the taxes that the person pays', async () => {
    const { items, taxes, entered } = await openingBalances(scope, person);
    expect(items.map((item) => item.code)).toContain('health');
    expect(taxes.map((tax) => tax.code)).toEqual([
      'us.fit',
      'us.oasdi',
      'us.medicare',
      'us.state-income@US-PA',
      'us.unemployment.employee@US-PA',
      'us.local-income@US-PA/990101',
      'us.local-services@US-PA/990101',
    ]);
    expect(entered).toEqual([]);
  });

  it('are posted with what they count for, quarter by quarter, and tie out with the rates', async () => {
    const check = await checkOpening(scope, person, { paidUntil: '2026-03-31', amounts: QUARTER });
    expect(check.checks).toEqual([]);
    expect(check.totals).toEqual(jasmine.objectContaining({ gross: 2_600_000, deductions: 30_000, taxes: 536_504 }));
    expect(check.bases.find((base) => base.code === 'us.oasdi.wages')?.amount).toBe(2_570_000);
    await post('2026-03-31', QUARTER);
    await post('2026-06-30', QUARTER);
    expect([await sum('us.oasdi.wages'), await sum('us.fit'), await sum('ordinary')]).toEqual([5_140_000, 522_000, 5_200_000]);
    expect((await openingBalances(scope, person)).entered.map((entry) => [entry.paidUntil, entry.amounts['us.fit']])).toEqual([
      ['2026-03-31', 261_000],
      ['2026-06-30', 261_000],
    ]);
    expect(await balancesOutOfStep(scope)).toEqual([]);
  });

  it('reach the wage statement, and the ceilings of the next payslip', async () => {
    const high = { ordinary: '184000.00', 'us.fit': '40000.00', 'us.oasdi': '11408.00', 'us.medicare': '2668.00' };
    await post('2026-09-30', high);
    const statement = (await viewOf(scope, 'w-2', '2026')).copies.find((entry) => entry.personId === person)!;
    expect(statement.boxes.filter((box) => ['1', '2', '3'].includes(box.box)).map((box) => box.amount)).toEqual([
      18_400_000, 4_000_000, 18_400_000,
    ]);
    const run = await place.run();
    const [row] = await select<{ lines: { code: string; amount: number }[] }>(
      scope.database,
      'select x.lines from payslip_results x join payslips y on y.id = x.payslip_id where y.run_id = :run and y.person_id = :person',
      { run, person },
    );
    // The year's wage base of 184,500.00 leaves 500.00 of the 1,950.00 that count.
    expect(row?.lines.find((line) => line.code === 'us.oasdi')?.amount).toBe(3_100);
  });

  describe('with the deposits that were made of them', () => {
    const record = (on: string, amount: string, reference: string) =>
      recordEarlierDeposit(scope, '941', '2026-Q1', { on, paidOn: on, amount, reference });
    const returned = async () => {
      const { lines, byDay, checks, earlier } = await viewOf(scope, '941', '2026-Q1');
      const of = (line: string) => lines.find((one) => one.line === line)?.amount;
      return { total: of('12'), deposits: of('13'), due: of('14'), days: byDay?.days ?? [], checks, earlier };
    };
    // Income tax, and both shares: 2,610.00 + 2 × 1,593.40 + 2 × 372.65.
    beforeEach(() => post('2026-03-31', QUARTER));

    it('give a return its liability by date and its deposits, and both stand side by side where they differ', async () => {
      expect((await returned()).days).toEqual([{ date: '2026-03-31', amount: 654_210 }]);
      await record('2026-01-16', '2200.00', 'D-1');
      await record('2026-02-13', '2200.00', 'D-2');
      await record('2026-03-13', '2100.00', 'D-3');
      const { total, deposits, due, days, checks, earlier } = await returned();
      expect([total, deposits, due]).toEqual([654_210, 650_000, 4_210]);
      expect(days).toEqual([
        { date: '2026-01-16', amount: 220_000 },
        { date: '2026-02-13', amount: 220_000 },
        { date: '2026-03-13', amount: 210_000 },
        { date: '2026-03-31', amount: 4_210 },
      ]);
      expect(earlier?.months.map(({ entered, deposited }) => [entered, deposited])).toEqual([
        [0, 220_000],
        [0, 220_000],
        [654_210, 210_000],
      ]);
      const open = checks.find(({ sentence }) => sentence.startsWith('Deposits recorded'));
      expect([open?.holds, open?.weight]).toEqual([false, 'look']);
      await prepareFiling(scope, '941', '2026-Q1', { reason: '' });
    });

    it('taken back stay on record; twice the same, of another quarter or of pay of here they are refused', async () => {
      await record('2026-01-16', '2200.00', 'D-1');
      expect(await refusal(record('2026-01-16', '2200.00', 'D-1'))).toContain('is recorded already');
      expect(await refusal(record('2026-04-17', '10.00', 'D-2'))).toContain('The pay date lies within quarter 1 of 2026');
      const of = recordEarlierDeposit(scope, '941', '2026-Q2', {
        on: '2026-05-01',
        paidOn: '2026-05-06',
        amount: '10.00',
        reference: 'D-3',
      });
      expect(await refusal(of)).toContain('was paid before this system');
      const [deposit] = (await returned()).earlier?.deposits ?? [];
      await undoEarlierDeposit(scope, deposit!.id, { reason: 'It was of last year' });
      const { deposits, earlier } = await returned();
      expect([deposits, earlier?.deposits.map(({ undone }) => undone)]).toEqual([0, ['It was of last year']]);
      expect(await refusal(undoEarlierDeposit(scope, deposit!.id, { reason: 'Once more' }))).toContain('no such deposit');
    });
  });

  it('that do not tie out are told, and posted only when accepted', async () => {
    const wrong = { ...QUARTER, 'us.oasdi': '1539.40' };
    expect((await checkOpening(scope, person, { paidUntil: '2026-03-31', amounts: wrong })).checks).toEqual([
      'Social security was 1539.40, and the rate on the pay entered gives 1593.40.',
    ]);
    expect(await refusal(post('2026-03-31', wrong))).toContain('does not tie out');
    expect(await sum('us.oasdi')).toBe(0);
    await post('2026-03-31', wrong, true);
    expect(await sum('us.oasdi')).toBe(153_940);
  });

  it('entered again for the same day are reversed first: the sums are those of the last entry, and both stay in the ledger', async () => {
    await post('2026-03-31', QUARTER);
    await post('2026-03-31', { ...QUARTER, ordinary: '26100.00', 'us.oasdi': '1599.60', 'us.medicare': '374.10' });
    expect([await sum('ordinary'), await sum('us.oasdi')]).toEqual([2_610_000, 159_960]);
    const rows = await select<{ amount: number }>(
      scope.database,
      `select amount from ledger_lines where person_id = :person and code = 'ordinary' order by id`,
      { person },
    );
    expect(rows.map((row) => row.amount)).toEqual([2_600_000, -2_600_000, 2_610_000]);
    expect(await balancesOutOfStep(scope)).toEqual([]);
  });

  it('are refused in the future, for what the person does not have, and without tax details in force', async () => {
    expect(await refusal(post('2026-12-31', QUARTER))).toContain('lies in the past');
    expect(await refusal(post('2026-03-31', { nothing: '1.00' }))).toContain('no pay item or tax');
    expect(await refusal(post('2025-12-31', QUARTER))).toContain('no tax details in force');
  });
});
