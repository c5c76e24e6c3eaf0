import type { EarnedBefore } from '../../payslip/input';
import { addDays } from '../../calendar/dates';
import { computePayslip } from '../../payslip/compute-payslip';
import { anItem, inputOf } from '../../payslip/testing/inputs';
import { Paper } from '../../working/reckoning';
import { averageHour, holidayGranted } from './holiday-pay';

const FROM = '2025-09-01';
const week = (back: number, pay: number, hours: string, more: Partial<EarnedBefore> = {}): EarnedBefore => ({
  from: addDays(FROM, -7 * back),
  to: addDays(FROM, -7 * back + 6),
  pay,
  hours,
  away: false,
  ...more,
});
const weeks = (count: number, pay: number, hours: string, from = 1) =>
  Array.from({ length: count }, (_, index) => week(from + index, pay, hours));
const hour = (before: EarnedBefore[], frequency = 'weekly') => averageHour(new Paper(true), before, frequency, FROM)?.amount.toDecimal(4);

// Working Time Regulations 1998, regulation 16; worked by hand.
describe('Holiday pay', () => {
  it('is the average of 52 weeks, over the hours paid in them', () => {
    // 26 × 400.00 at 32 hours and 26 × 600.00 at 40: 26,000.00 over 1,872 hours.
    expect(hour([...weeks(26, 40_000, '32'), ...weeks(26, 60_000, '40', 27)])).toBe('13.8889');
    // A 53rd week back counts no more.
    expect(hour([...weeks(52, 40_000, '32'), week(53, 900_000, '10')])).toBe('12.50');
  });

  it('leaves out weeks without pay and weeks with statutory pay, and goes further back for them', () => {
    const before = [...weeks(10, 0, '0'), week(11, 9_000, '8', { away: true }), ...weeks(52, 40_000, '32', 12)];
    expect(hour(before)).toBe('12.50');
  });

  it('goes no further back than 104 weeks, and takes what there is of who began since', () => {
    expect(hour([...weeks(4, 50_000, '40'), ...weeks(10, 90_000, '40', 105)])).toBe('12.50');
    expect(hour([])).toBeUndefined();
    expect(hour(weeks(3, 0, '0'))).toBeUndefined();
  });

  it('counts a month as a twelfth of 52 weeks', () => {
    const month = (back: number, pay: number) => ({
      from: addDays(FROM, -30 * back),
      to: addDays(FROM, -30 * back + 29),
      pay,
      hours: '100',
      away: false,
    });
    const twelve = Array.from({ length: 12 }, (_, index) => month(index + 1, 130_000));
    expect(hour([...twelve, month(13, 900_000)], 'monthly')).toBe('13.00');
  });

  it('pays hours of a plan that says so at the average, and at the rate where nothing was earned', () => {
    const leave = anItem('holiday', 'earning', 'pay', { method: { by: 'hours', multiple: '1' } });
    const paid = (earnedBefore: EarnedBefore[]) => {
      const input = inputOf({ country: 'GB', frequency: 'weekly', date: '2025-09-12', hours: { rate: '12.60', by: { holiday: '8' } } });
      const plan = { code: 'holiday', ...holidayGranted(37.5)[1]!.terms, item: 'holiday' };
      const on = { plan, balance: 4000, earnedInYear: 4000, yearBegun: true, taken: [], earns: true };
      const { lines } = computePayslip({ ...input, hourItems: [leave], leave: [on], earnedBefore });
      return lines.find(({ code }) => code === 'holiday')?.amount;
    };
    expect([paid(weeks(52, 60_000, '40')), paid([])]).toEqual([12_000, 10_080]);
  });

  it('is granted for 5.6 weeks of a full week, or 12.07 per cent of the hours worked', () => {
    const [year, irregular] = holidayGranted(40);
    expect(year?.terms.earns).toEqual({ by: 'year', steps: [{ fromMonths: 0, hours: '224.00' }], firstYearByDays: true });
    expect(irregular?.terms.earns).toEqual({ by: 'hours-worked', hours: '12.07', forEvery: '100' });
  });
});
