import { leaveTermsSchema, payItemSchema } from '@woodruff/contract';
import { execute } from '../database/connection';
import { moveToday } from '../employers/service';
import { addLeavePlan, setLeaveMembers } from '../leave/plans';
import { addPayItem } from '../pay-items/service';
import { reversePayslip } from '../pay-runs/corrections/corrections';
import { sheetOf } from '../pay-runs/sheet/sheet';
import { addPosition } from '../people/employment/positions';
import { addRate } from '../people/employment/rates';
import { adjustBalances } from '../people/history/adjustments';
import { obligationsOf } from '../remittances/owed';
import type { Scope } from '../scope';
import { refusal } from '../testing/refusal';
import { PERIOD, Workplace } from '../testing/workplace';
import { tieOutsOf } from '../tie-outs/tie-outs';
import { accrualOf, accrue, accrueWhenDue } from './accruals';
import { costByDay } from './costs';
import { enterTaxTotal, taxGridOf } from './differences';
import { previewOf } from './post-pay';
import { journalOf, setAccountRule, setJournal } from './service';

const NEXT = { from: '2026-11-22', to: '2026-12-05', payDate: '2026-12-11' };

describe('The books', () => {
  let place: Workplace;
  let scope: Scope;
  const on = async (day: string) => {
    await moveToday(scope, day);
    scope = await place.scope();
  };
  const approved = async (period = PERIOD): Promise<string> => {
    const run = await place.run(period);
    await place.approve(run);
    scope = await place.scope();
    return run;
  };
  const set = (account: string, more: { code?: string; department?: string; worksite?: string; job?: string; group?: string }) =>
    setAccountRule(scope, { side: 'expense', code: '', department: '', worksite: '', job: '', group: '', account, ...more });
  const balance = async (account: string, until?: string): Promise<number> =>
    (await journalOf(scope, { from: '2026-01-01', ...(until ? { to: until } : {}) })).accounts
      .filter((one) => one.account === account)
      .reduce((sum, { debit, credit }) => sum + debit - credit, 0);
  const untied = async () =>
    (await tieOutsOf(scope)).filter(({ agrees }) => !agrees).flatMap(({ differences }) => differences.map(({ what }) => what));

  beforeEach(async () => {
    place = await Workplace.make({ departments: ['Shop', 'Office'], jobs: ['Blower', 'Cutter'] });
    scope = await place.scope();
  });

  /** Hana's approved time: so many hours of each rate and place. */
  async function worked(lines: { date: string; hours: string; rate?: string; place?: string }[], period = PERIOD): Promise<void> {
    const [sheet] = (await execute(
      scope.database,
      `insert into timesheets (employer_id, person_id, period_from, period_to, state) values (:employer, :person, :from, :to, 'approved') returning id`,
      { employer: scope.employer.id, person: place.people.hourly, ...period },
    )) as { id: string }[];
    for (const { date, hours, rate = null, place: where = '' } of lines)
      await execute(
        scope.database,
        'insert into time_entries (timesheet_id, person_id, on_date, hours, rate, place) values (:sheet, :person, :date, :hours, :rate, :where) returning id',
        { sheet: sheet?.id, person: place.people.hourly, date, hours, rate, where },
      );
  }

  describe('Cost', () => {
    const series = async (): Promise<string> => {
      await addRate(scope, place.people.hourly, {
        label: 'Cutting',
        per: 'hour',
        amount: '30.00',
        from: '2026-01-01',
        primary: false,
        reason: '',
      });
      const [row] = (await execute(scope.database, `select series from pay_rates where person_id = :id and label = 'Cutting'`, {
        id: place.people.hourly,
      })) as { series: string }[];
      return row?.series ?? '';
    };

    it('is spread by the hours of the places where they were worked, and by nothing else', async () => {
      const rate = await series();
      await addPosition(scope, place.people.hourly, {
        job: 'Cutter',
        department: 'Office',
        worksite: '',
        rate,
        from: '2026-01-01',
        to: null,
        share: null,
      });
      await set('6800', { department: 'Office' });
      await set('6700', { job: 'Cutter', department: 'Office' });
      // 60 hours at 25.00 for her own place, 20 hours at 30.00 as a cutter: a quarter of the hours is the office's.
      await worked([
        { date: '2026-11-09', hours: '20' },
        { date: '2026-11-10', hours: '20' },
        { date: '2026-11-11', hours: '20' },
        { date: '2026-11-12', hours: '20', rate },
      ]);
      const run = await place.run();
      const before = await previewOf(scope, run);
      await place.approve(run);
      scope = await place.scope();
      const { entries } = await journalOf(scope, {});
      const sum = (lines: { account: string; amount: number }[], account: string) =>
        lines.filter((line) => line.account === account).reduce((all, { amount }) => all + amount, 0);
      const { rows } = await sheetOf(scope, run);
      const cost = rows.find(({ personId }) => personId === place.people.hourly)?.totals?.employerCost ?? 0;
      // The position within a department says more than the department.
      expect(Math.abs(sum(entries[0]?.lines ?? [], '6700') - cost / 4)).toBeLessThan(3);
      expect(sum(entries[0]?.lines ?? [], '6800')).toBe(0);
      expect(sum(before, '6700')).toBe(sum(entries[0]?.lines ?? [], '6700'));
      expect(await untied()).toEqual(jasmine.arrayWithExactContents(['health: owed to nobody that is named']));
    });

    it('is spread by the share of a position where no time is kept', async () => {
      await addPosition(scope, place.people.salaried, {
        job: 'Cutter',
        department: 'Office',
        worksite: '',
        rate: null,
        from: '2026-01-01',
        to: null,
        share: '40',
      });
      await set('6800', { code: 'salary', department: 'Office' });
      await approved();
      // 65,000 a year in 26 parts is 2,500.00: two fifths of it.
      expect(await balance('6800')).toBe(100_000);
    });

    it('is taken back from where it was posted, whatever has changed since', async () => {
      await execute(scope.database, `update people set department = 'Office' where id = :id returning id`, { id: place.people.salaried });
      await set('6800', { department: 'Office' });
      const run = await approved();
      expect(await balance('6800')).toBeGreaterThan(250_000);
      await execute(scope.database, `update people set department = 'Shop' where id = :id returning id`, { id: place.people.salaried });
      await set('6801', { department: 'Office' });
      await set('6900', { department: 'Shop' });
      const row = (await sheetOf(scope, run)).rows.find(({ personId }) => personId === place.people.salaried);
      await reversePayslip(scope, row?.payslipId ?? '', 'never worked', false);
      expect([await balance('6800'), await balance('6801'), await balance('6900')]).toEqual([0, 0, 0]);
    });

    it('by day goes to the days of time by their hours, to weekdays without it, and comes to the cost of the payslips', async () => {
      await worked([
        { date: '2026-11-09', hours: '6' },
        { date: '2026-11-14', hours: '2' },
      ]);
      const run = await approved();
      const { departments, days } = await costByDay(scope, { from: PERIOD.from, to: PERIOD.to });
      const { rows } = await sheetOf(scope, run);
      const costs = rows.map(({ totals }) => totals?.employerCost ?? 0);
      expect(departments.reduce((sum, { total }) => sum + total, 0)).toBe(costs.reduce((sum, cost) => sum + cost, 0));
      const hana = rows.find(({ personId }) => personId === place.people.hourly)?.totals?.employerCost ?? 0;
      const at = (day: string) => departments.reduce((sum, { amounts }) => sum + (amounts[days.indexOf(day)] ?? 0), 0);
      // Saturday the 14th: only Hana worked, a quarter of her hours.
      expect(Math.abs(at('2026-11-14') - hana / 4)).toBeLessThan(2);
      expect(at('2026-11-15')).toBe(0);
      expect(await refusal(costByDay(scope, { from: '2026-01-01', to: '2026-11-30' }))).toContain('at most 62 days');
    });
  });

  describe('Entries', () => {
    it('are one for each payslip where it is wanted so, from then on', async () => {
      await approved();
      expect((await journalOf(scope, {})).entries.length).toBe(1);
      await setJournal(await place.scope('administrator'), { by: 'payslip', accruals: 'none', leaveOwed: false });
      scope = await place.scope();
      await on('2026-12-07');
      const run = await approved(NEXT);
      const { entries } = await journalOf(scope, {});
      const paid = (await sheetOf(scope, run)).rows.filter(({ totals }) => totals?.gross);
      expect(entries.length).toBe(1 + paid.length);
      expect(
        entries
          .filter(({ on: day }) => day === NEXT.payDate)
          .map(({ words }) => words)
          .sort(),
      ).toEqual(['Pay of 11 Dec 2026, Hana Hourly', 'Pay of 11 Dec 2026, Sol Salaried']);
      expect((await untied()).filter((what) => !what.includes('owed to nobody'))).toEqual([]);
    });

    it('are one for each pay date until it has passed', async () => {
      await setJournal(await place.scope('administrator'), { by: 'pay-date', accruals: 'none', leaveOwed: false });
      scope = await place.scope();
      const run = await approved();
      const row = (await sheetOf(scope, run)).rows.find(({ personId }) => personId === place.people.salaried);
      const { replacementRun } = await reversePayslip(scope, row?.payslipId ?? '', 'wrong', true);
      const { entries } = await journalOf(scope, {});
      expect(replacementRun).not.toBeNull();
      // The reversal is dated on the day on which it was made, before the pay date.
      expect(new Set(entries.map(({ on: day }) => day)).size).toBe(entries.length);
      expect((await untied()).filter((what) => !what.includes('owed to nobody'))).toEqual([]);
    });
  });

  describe("A month's end", () => {
    it('accrues what was worked and is paid later, once, and takes it back on the next day', async () => {
      await approved();
      await on('2026-11-30');
      expect(await refusal(accrue(scope, '2026-11-30'))).toContain('once it is over');
      await on('2026-12-01');
      expect(await refusal(accrue(scope, '2026-11-29'))).toContain("at a month's end");
      // Paid on the 27th is paid. Of 22 November to 5 December six of ten weekdays are November's, at the last run's cost.
      const view = await accrualOf(scope, '2026-11-30');
      expect(view.parts.map(({ from, payDate, state, days, ofDays }) => [from, payDate, state, days, ofDays])).toEqual([
        ['2026-11-22', '2026-12-11', 'expected', 6, 10],
      ]);
      const [part] = view.parts;
      expect(Math.abs(view.total - ((part?.cost ?? 0) * 6) / 10)).toBeLessThan(6);
      expect(view.toPost).toBeTrue();
      expect((await accrue(scope, '2026-11-30')).entries).toBe(2);
      expect(await accrue(scope, '2026-11-30')).toEqual({ entries: 0 });
      expect([await balance('Accrued pay (no account)', '2026-11-30'), await balance('Accrued pay (no account)')]).toEqual([
        -view.total,
        0,
      ]);
      // The run was approved with more hours than the last: posted again, only the difference is entered.
      await on('2026-12-07');
      await execute(scope.database, `update pay_rates set amount = 27 where person_id = :id returning id`, { id: place.people.hourly });
      await approved(NEXT);
      const again = await accrualOf(scope, '2026-11-30');
      expect([again.parts[0]?.state, again.total > view.total, again.toPost]).toEqual(['approved', true, true]);
      await accrue(scope, '2026-11-30');
      expect([await balance('Accrued pay (no account)', '2026-11-30'), await balance('Accrued pay (no account)')]).toEqual([
        -again.total,
        0,
      ]);
      expect((await untied()).filter((what) => !what.includes('owed to nobody'))).toEqual([]);
    });

    it('is accrued by itself where it is wanted, with leave that would be paid out', async () => {
      await addPayItem(
        scope,
        payItemSchema.parse({
          code: 'vacation',
          name: 'Vacation pay',
          kind: 'earning',
          treatment: 'wages',
          method: { by: 'hours', multiple: '1' },
          order: 25,
        }),
      );
      const terms = leaveTermsSchema.parse({
        name: 'Vacation',
        item: 'vacation',
        payOutItem: 'bonus',
        earns: { by: 'period', steps: [{ fromMonths: 0, hours: '4' }] },
        yearBegins: '01-01',
      });
      const { id } = await addLeavePlan(scope, { code: 'vacation', from: '2026-01-01', terms });
      await setLeaveMembers(scope, id, { personIds: [place.people.hourly], from: '2026-01-01', end: false });
      await adjustBalances(scope, {
        date: '2026-11-01',
        reason: 'From the earlier system',
        entries: [{ person: 'H1', balance: 'leave:vacation', amount: '12.00' }],
      });
      await approved();
      await accrueWhenDue(scope);
      expect(await balance('Leave owed (no account)')).toBe(0);
      await setJournal(await place.scope('administrator'), { by: 'run', accruals: 'month', leaveOwed: true });
      await on('2026-12-01');
      await accrueWhenDue(scope);
      await accrueWhenDue(scope);
      // Twelve hours, and four earned in November, at 25.00.
      expect(await balance('Leave owed (no account)')).toBe(-40_000);
      expect(await balance('Leave (no account)')).toBe(40_000);
      expect((await journalOf(scope, {})).entries.filter(({ kind }) => kind === 'accrual').length).toBe(1);
    });
  });

  describe('Taxes of the employer', () => {
    it('stand by month and place; what a notice says instead is a difference with its reason, owed and posted', async () => {
      await approved();
      const grid = await taxGridOf(scope, 2026);
      const row = grid.rows.find(({ code }) => code.endsWith('@US-PA'));
      const computed = row?.months[10]?.computed ?? 0;
      expect([row?.place, row?.total, row?.months[9]?.total]).toEqual(['PA', computed, 0]);
      const { code } = row!;
      const administrator = await place.scope('administrator');
      const enterIt = (total: string, month = '2026-11') =>
        enterTaxTotal(administrator, { code, month, total, reason: 'Rate by the notice of 20 November' });
      const owedBefore = (await obligationsOf(scope, 'us.programmes-1@US-PA')).reduce((sum, { amount }) => sum + amount, 0);
      expect(await enterIt(((computed + 125) / 100).toFixed(2))).toEqual({ difference: 125 });
      expect(await refusal(enterIt(((computed + 125) / 100).toFixed(2)))).toContain('already');
      expect(await refusal(enterIt('1.00', '2026-12'))).toContain('still to come');
      expect(await refusal(enterIt('-1.00'))).toContain('less than nothing');
      expect(await refusal(enterTaxTotal(administrator, { code: 'none', month: '2026-11', total: '1.00', reason: 'Why not' }))).toContain(
        'No such tax',
      );
      const after = (await taxGridOf(scope, 2026)).rows.find((one) => one.code === code)?.months[10];
      expect(after).toEqual({ computed, difference: 125, total: computed + 125 });
      expect((await obligationsOf(scope, 'us.programmes-1@US-PA')).reduce((sum, { amount }) => sum + amount, 0)).toBe(owedBefore + 125);
      expect((await journalOf(scope, {})).entries.find(({ kind }) => kind === 'difference')?.debit).toBe(125);
      expect((await untied()).filter((what) => !what.includes('owed to nobody'))).toEqual([]);
    });
  });
});
