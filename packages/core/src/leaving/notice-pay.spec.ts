import type { Rate } from '../payslip/input';
import { Paper } from '../working/reckoning';
import { noticePay } from './notice-pay';

const paper = () => new Paper(true);
const TWO_WEEKS = { from: '2026-11-23', to: '2026-12-04' };
const rate = (per: Rate['per'], amount: string): Rate => ({ id: '1', label: 'Pay', per, amount, primary: true });
const pay = (one: Rate | undefined, hours: string | undefined, notice = TWO_WEEKS, dates = 26) =>
  noticePay(one, hours, dates, notice, paper()).amount.toDecimal(2);

describe('Notice not worked', () => {
  it('of two weeks is two weeks of a yearly salary', () => {
    // 52,000 over 260 weekdays is 200.00; ten of them.
    expect(pay(rate('year', '52000'), undefined)).toBe('2000.00');
  });

  it('by the hour is the standard hours of its weekdays: 80 a fortnight are 8 a day', () => {
    expect(pay(rate('hour', '20.00'), '80')).toBe('1600.00');
    expect(pay(rate('hour', '20.00'), '60')).toBe('1200.00');
  });

  it('of a salary per pay period goes by the pay dates of the year', () => {
    // 2,500.00 twice a month are 60,000 a year: 230.7692 a day.
    expect(pay(rate('period', '2500'), undefined, TWO_WEEKS, 24)).toBe('2307.69');
  });

  it('counts weekdays only, and of a weekend comes to nothing', () => {
    expect(pay(rate('year', '52000'), undefined, { from: '2026-11-27', to: '2026-11-30' })).toBe('400.00');
    expect(pay(rate('year', '52000'), undefined, { from: '2026-11-28', to: '2026-11-29' })).toBe('0.00');
  });

  it('shows its working: the day, and the weekdays', () => {
    const sheet = paper();
    noticePay(rate('hour', '20.00'), '80', 26, TWO_WEEKS, sheet);
    expect(sheet.workings['notice:day']?.amount).toBe('160.00');
    expect(sheet.workings['notice']?.steps.map((step) => step.label)).toContain('Weekdays, 23 Nov – 4 Dec 2026');
  });

  it('without a rate or standard hours says what to enter', () => {
    expect(() => pay(undefined, '80')).toThrowError(/No rate of pay/);
    expect(() => pay(rate('hour', '20.00'), undefined)).toThrowError(/No standard hours/);
  });
});
