import fc from 'fast-check';
import { Exact } from '../money/exact';
import { computePayslip } from '../payslip/compute-payslip';
import type { PayslipInput } from '../payslip/input';
import { anItem, inputOf } from '../payslip/testing/inputs';
import { Paper } from '../working/reckoning';
import { planYearOf, type LeaveOnPayslip, type LeavePlan } from './leave';
import { leaveOnPayslip } from './leave-on-payslip';

const PERIOD = { from: '2026-11-08', to: '2026-11-21' };
const VACATION: LeavePlan = {
  code: 'vacation',
  name: 'Vacation',
  item: 'vacation',
  earns: {
    by: 'period',
    steps: [
      { fromMonths: 0, hours: '3.08' },
      { fromMonths: 60, hours: '4.62' },
    ],
  },
  yearBegins: '01-01',
};
/** One hour for every 30 worked, a balance of at most 80: California Labor Code 246(b)(1) and (j). */
const SICK: LeavePlan = {
  code: 'sick',
  name: 'Sick leave',
  item: 'sick',
  earns: { by: 'hours-worked', hours: '1', forEvery: '30' },
  atMostBalance: '80',
  usableAfterDays: 90,
  yearBegins: '01-01',
};
const of = (plan: LeavePlan, more: Partial<LeaveOnPayslip> = {}): LeaveOnPayslip => ({
  plan,
  hired: '2020-03-02',
  balance: 2000,
  earnedInYear: 0,
  yearBegun: true,
  taken: [],
  earns: true,
  ...more,
});
const moved = (entry: LeaveOnPayslip, { worked = '0', paid = '0', period = PERIOD } = {}) => {
  const paper = new Paper(true);
  const result = leaveOnPayslip(entry, period, Exact.of(worked), Exact.of(paid), paper);
  return {
    ...result,
    paper,
    by: Object.fromEntries(result.movements.map(({ movement, figure }) => [movement, figure.amount.toDecimal(2)])),
    balance: result.left.amount.toDecimal(2),
  };
};

describe('Leave', () => {
  it('is earned with every period, more after years of service', () => {
    expect(moved(of(VACATION)).by).toEqual({ earned: '4.62' });
    expect(moved(of(VACATION, { hired: '2021-11-22' })).by).toEqual({ earned: '3.08' });
    expect(moved(of(VACATION, { hired: '2021-11-21' })).by).toEqual({ earned: '4.62' });
  });

  it('is earned for hours worked, up to the most the balance may be (Labor Code 246(j): 80 hours)', () => {
    expect(moved(of(SICK), { worked: '77.25' }).by).toEqual({ earned: '2.58' });
    expect(moved(of(SICK, { balance: 7900 }), { worked: '77.25' }).by).toEqual({ earned: '1.00' });
    expect(moved(of(SICK, { balance: 8400 }), { worked: '77.25' }).by).toEqual({});
  });

  it('stops at the most of a plan year', () => {
    const plan = { ...SICK, atMostInYear: '48' };
    expect(moved(of(plan, { earnedInYear: 4700 }), { worked: '60' }).by).toEqual({ earned: '1.00' });
  });

  it('begins to be earned only after a waiting time', () => {
    const plan = { ...VACATION, earnsAfterDays: 90 };
    expect(moved(of(plan, { hired: '2026-10-01' })).by).toEqual({});
    expect(moved(of(plan, { hired: '2026-08-01' })).by).toEqual({ earned: '3.08' });
  });

  it('in a new plan year carries over so much, lets the rest lapse, then grants the year', () => {
    const plan: LeavePlan = {
      ...VACATION,
      carryOver: '40',
      earns: {
        by: 'year',
        firstYearByDays: true,
        steps: [
          { fromMonths: 0, hours: '80' },
          { fromMonths: 60, hours: '120' },
        ],
      },
    };
    const january = { from: '2026-12-20', to: '2027-01-02' };
    const { by, balance } = moved(of(plan, { balance: 5275, yearBegun: false }), { period: january, paid: '8' });
    expect(by).toEqual({ lapsed: '-12.75', granted: '120.00', taken: '-8.00' });
    expect(balance).toBe('152.00');
    // Hired within the year: by the days left, 160 of 365 for 25 Jul 2026.
    expect(moved(of(plan, { hired: '2026-07-25', balance: 0, yearBegun: false })).by).toEqual({ granted: '35.07' });
    // The year has begun already: nothing twice.
    expect(moved(of(plan, { balance: 5275 })).by).toEqual({});
  });

  it('says when more is taken than the plan allows, and when it is taken too early', () => {
    const taken = [{ date: '2026-11-10', hours: '8' }];
    expect(moved(of(VACATION, { balance: 300, taken })).problems.map(({ code }) => code)).toEqual(['leave-exceeded']);
    expect(moved(of({ ...VACATION, mayOwe: '16' }, { balance: 300, taken })).problems).toEqual([]);
    expect(moved(of(SICK, { hired: '2026-09-01', taken })).problems.map(({ code }) => code)).toEqual(['leave-too-early']);
    expect(moved(of(SICK, { hired: '2026-08-01', taken })).problems).toEqual([]);
  });

  it('has a plan year from a day of the year or from the day of hire, in leap years too', () => {
    expect(planYearOf({ yearBegins: '07-01' }, '2026-03-15')).toEqual({ from: '2025-07-01', to: '2026-06-30' });
    expect(planYearOf({ yearBegins: 'hire' }, '2026-11-21', '2020-03-02')).toEqual({ from: '2026-03-02', to: '2027-03-01' });
    expect(planYearOf({ yearBegins: 'hire' }, '2026-11-21', '2024-02-29')).toEqual({ from: '2026-02-28', to: '2027-02-27' });
    expect(planYearOf({ yearBegins: 'hire' }, '2028-02-29', '2024-02-29')).toEqual({ from: '2028-02-29', to: '2029-02-27' });
  });

  it('never earns beyond its limits, and the balance is what was there and all movements', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -1600, max: 12_000 }),
        fc.integer({ min: 0, max: 160 }),
        fc.integer({ min: 0, max: 40 }),
        (balance, worked, paid) => {
          const { movements, left } = moved(of({ ...SICK, mayOwe: '16' }, { balance }), { worked: `${worked}`, paid: `${paid}` });
          const sum = movements.reduce((all, { figure }) => all.plus(figure.amount), Exact.minor(balance));
          expect(left.amount.equals(sum)).toBeTrue();
          const earned = movements.find(({ movement }) => movement === 'earned');
          if (earned) expect(left.amount.isAbove(Exact.of('80'))).toBeFalse();
        },
      ),
    );
  });
});

describe('Leave on a payslip', () => {
  const hourly = (leave: LeaveOnPayslip[], by: Record<string, string>): PayslipInput => {
    const input = inputOf({ hours: { rate: '20', by } });
    return { ...input, rates: [{ id: 'hourly', label: 'Hourly', per: 'hour', amount: '20', primary: true }], items: [], leave };
  };

  it('takes the hours paid as leave, and does not count them as worked', () => {
    const payslip = computePayslip(hourly([of(VACATION), of(SICK)], { regular: '64', vacation: '16' }), { workings: true });
    const amounts = Object.fromEntries(payslip.lines.filter((line) => line.kind === 'leave').map((line) => [line.code, line.amount]));
    expect(amounts).toEqual({ 'leave:vacation:taken': -1600, 'leave:vacation:earned': 462, 'leave:sick:earned': 213 });
    expect(payslip.totals.gross).toBe(160_000);
    expect(payslip.workings['leave:vacation']?.amount).toBe('8.62');
  });

  it('of people with a salary is taken within it, and unpaid leave lowers it', () => {
    const unpaid: LeavePlan = { ...VACATION, code: 'unpaid', name: 'Unpaid leave', earns: { by: 'period', steps: [] }, mayOwe: '500' };
    delete unpaid.item;
    const input = inputOf({ pay: '2000' });
    const taken = [{ date: '2026-11-10', hours: '8' }];
    const paid = computePayslip({ ...input, leave: [of(VACATION, { taken, standardHours: '80' })] });
    expect(paid.totals.gross).toBe(200_000);
    expect(paid.lines.find((line) => line.code === 'leave:vacation:taken')?.amount).toBe(-800);
    const without = computePayslip({ ...input, leave: [of(unpaid, { balance: 0, taken, standardHours: '80' })] });
    expect(without.totals.gross).toBe(180_000);
  });

  it('not taken is paid out at the end of employment, at the hourly part of a salary', () => {
    const plan = { ...VACATION, payOutItem: 'unused' };
    const input = inputOf({ pay: '2000' });
    const payOutItems = [anItem('unused', 'earning', 'supplemental', { name: 'Unused vacation' })];
    const { lines, workings } = computePayslip(
      { ...input, payOutItems, leave: [of(plan, { payOut: true, standardHours: '80' })] },
      { workings: true },
    );
    // (20.00 + 4.62) hours at 2,000.00 ÷ 80
    expect(lines.find((line) => line.code === 'unused')).toEqual(jasmine.objectContaining({ amount: 61_550, quantity: '24.62' }));
    expect(lines.find((line) => line.code === 'leave:vacation:paid-out')?.amount).toBe(-2462);
    expect(workings['leave:vacation:hour']?.amount).toBe('25.00');
  });

  describe('cashed out in service', () => {
    const plan: LeavePlan = { ...VACATION, cashOutItem: 'cashed-out', cashOutKeeps: '152', cashOutAtMost: '76' };
    const cashing = (hours: string, more: Partial<LeaveOnPayslip>) =>
      computePayslip(hourly([of(plan, more)], { regular: '76', 'cashed-out': hours }), { workings: true });
    const points = (hours: string, more: Partial<LeaveOnPayslip>) =>
      cashing(hours, more)
        .problems.map(({ code }) => code)
        .filter((code) => code.startsWith('leave-'));

    it('takes the hours off, is no work, and wants the agreement each time', () => {
      const { lines, problems } = cashing('38', { balance: 20_000 });
      const amounts = Object.fromEntries(lines.filter(({ kind }) => kind === 'leave').map(({ code, amount }) => [code, amount]));
      expect(amounts).toEqual({ 'leave:vacation:earned': 462, 'leave:vacation:paid-out': -3800 });
      expect(lines.find(({ code }) => code === 'cashed-out')?.amount).toBe(76_000);
      expect(problems.map(({ sentence }) => sentence)).toContain(
        'Vacation: 38.00 hours are cashed out, which takes a written agreement each time. Accept it with the date of the agreement.',
      );
    });

    it('leaves four weeks, to the hundredth of an hour (Fair Work Act, section 94)', () => {
      // 4.62 are earned with the payslip: of 185.38 and these 38 leave 152.
      expect(points('38', { balance: 18_538 })).toEqual(['leave-cashed-out']);
      expect(points('38', { balance: 18_537 })).toEqual(['leave-cash-out-keeps', 'leave-cashed-out']);
    });

    it('is two weeks in twelve months at most', () => {
      expect(points('38', { balance: 40_000, paidOutBefore: 3800 })).toEqual(['leave-cashed-out']);
      expect(points('38', { balance: 40_000, paidOutBefore: 3801 })).toEqual(['leave-cash-out-limit', 'leave-cashed-out']);
    });

    it('is paid at the hourly part of a salary', () => {
      const input = inputOf({ pay: '2000' });
      const item = anItem('cashed-out', 'earning', 'wages', { method: { by: 'hours', multiple: '1' } });
      const rates = [{ id: 'salary', label: 'Salary', per: 'period' as const, amount: '2000', primary: true }];
      const { lines } = computePayslip({
        ...input,
        rates,
        hourItems: [item],
        hours: [{ item: 'cashed-out', rate: 'salary', hours: '16' }],
        leave: [of(plan, { balance: 20_000, standardHours: '80' })],
      });
      expect(lines.find(({ code }) => code === 'cashed-out')?.amount).toBe(40_000);
    });
  });

  it('of a salary in the period of hire or leaving is paid for the weekdays employed', () => {
    const input = inputOf({ pay: '2000' });
    const { gross } = computePayslip({ ...input, employed: { to: '2026-11-13' } }).totals;
    // 8 to 21 Nov has ten weekdays; five of them are up to Fri 13 Nov.
    expect(gross).toBe(100_000);
  });

  it('a balance adjusted without payment moves nothing but the balance', () => {
    const adjustments = [
      { code: 'leave:vacation:adjusted', label: 'Vacation, adjusted', kind: 'leave' as const, amount: '-4.5', reason: 'Booked twice' },
    ];
    const payslip = computePayslip({ ...inputOf({ pay: '2000' }), adjustments }, { workings: true });
    expect(payslip.lines.map(({ code, amount }) => [code, amount])).toEqual([['leave:vacation:adjusted', -450]]);
    expect(payslip.totals.net).toBe(0);
    expect(payslip.workings['adjusted:0']?.notes).toEqual(['Reason: Booked twice']);
  });
});
