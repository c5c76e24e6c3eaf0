import type { TimeEntry, TimeRules } from '../time/time';
import { computePayslip } from './compute-payslip';
import type { PayslipInput, Rate } from './input';
import { changedAfter, inForce, rateOn } from './rates-in-time';
import { anItem, inputOf } from './testing/inputs';

const RULES: TimeRules = {
  code: 'weekly',
  label: 'Over 40 hours a week',
  weekBegins: 0,
  weeklyOver: '40',
  items: { ordinary: 'ordinary', overtime: 'overtime', halfPremium: 'half-premium' },
  source: { publication: '29 U.S.C. 207(a)(1)' },
};
const byHour = (code: string, multiple: string) => anItem(code, 'earning', 'wages', { method: { by: 'hours', multiple } });
const RAISED: Rate = {
  id: '1',
  label: 'Shop',
  per: 'hour',
  amount: '20.00',
  from: '2026-11-15',
  primary: true,
  earlier: [{ amount: '18.00', from: '2025-01-01' }],
};
/** Sunday 8 to Saturday 21 November 2026. */
const PERIOD = { from: '2026-11-08', to: '2026-11-21' };
const inPeriod = (more: Partial<PayslipInput>): PayslipInput => {
  const input = inputOf({ date: '2026-11-27' });
  return {
    ...input,
    pay: { ...input.pay, ...PERIOD },
    items: [],
    hourItems: [byHour('ordinary', '1'), byHour('overtime', '1.5'), byHour('half-premium', '0.5')],
    ...more,
  };
};
const earned = (input: PayslipInput): string[] =>
  computePayslip(input)
    .lines.filter((line) => line.kind === 'earning')
    .map((line) => `${line.label} ${line.quantity ?? ''} ${(line.amount / 100).toFixed(2)}`);
const day = (date: string, hours: string): TimeEntry => ({ date, hours });
const week = (...days: string[]): TimeEntry[] => days.map((date) => day(`2026-11-${date}`, '10'));

describe('A rate that changed within the period', () => {
  it('is what it was on each day: the day before the raise still at the old amount', () => {
    expect(inForce(RAISED).map(({ id, amount, to }) => [id, amount, to])).toEqual([
      ['1@2026-11-14', '18.00', '2026-11-14'],
      ['1', '20.00', undefined],
    ]);
    expect([rateOn(RAISED, '2026-11-14').amount, rateOn(RAISED, '2026-11-15').amount]).toEqual(['18.00', '20.00']);
    expect([changedAfter(RAISED, '2026-11-08'), changedAfter(RAISED, '2026-11-15')]).toEqual([true, false]);
  });

  it('twice in a period is three amounts', () => {
    const twice: Rate = { ...RAISED, from: '2026-11-18', earlier: [{ amount: '17.00' }, { amount: '18.00', from: '2026-11-12' }] };
    expect(['2026-11-11', '2026-11-12', '2026-11-17', '2026-11-18'].map((date) => rateOn(twice, date).amount)).toEqual([
      '17.00',
      '18.00',
      '18.00',
      '20.00',
    ]);
  });

  it('pays time kept by day at the rate of the day', () => {
    const entries = week('09', '10', '11', '12', '16', '17', '18', '19');
    expect(earned(inPeriod({ rates: [RAISED], time: { rules: RULES, entries } }))).toEqual([
      'ordinary, Shop until 14 Nov 2026 40.00 720.00',
      'ordinary, Shop 40.00 800.00',
    ]);
  });

  it('in the middle of a week with overtime makes two rates of it (29 CFR 778.115)', () => {
    // From Wednesday the 18th: 20 hours at 18.00 and 30 at 20.00 are 960.00 over 50 hours, 19.20; half of it for 10 hours.
    const rate = { ...RAISED, from: '2026-11-18' };
    expect(earned(inPeriod({ rates: [rate], time: { rules: RULES, entries: week('16', '17', '18', '19', '20') } }))).toEqual([
      'ordinary, Shop until 17 Nov 2026 20.00 360.00',
      'ordinary, Shop 30.00 600.00',
      'half-premium, Regular rate, week from Sun 15 Nov 2026 10.00 96.00',
    ]);
  });

  it('pays leave of a day at the rate of that day', () => {
    const entries = [{ date: '2026-11-13', hours: '8', item: 'ordinary' }];
    expect(earned(inPeriod({ rates: [RAISED], time: { rules: RULES, entries } }))).toEqual([
      'ordinary, Shop until 14 Nov 2026 8.00 144.00',
    ]);
  });

  it('says so where hours are one sum, which can only be paid at one rate', () => {
    const input = inPeriod({ rates: [RAISED], hours: [{ item: 'ordinary', rate: '1', hours: '80.00' }] });
    expect(earned(input)).toEqual(['ordinary 80.00 1600.00']);
    const [problem] = computePayslip(input).problems;
    expect([problem?.code, problem?.weight]).toEqual(['rate-changed-within-period', 'look']);
    expect(problem?.sentence).toContain('18.00 until 14 Nov 2026');
  });

  it('says nothing where the change came with the first day of the period', () => {
    const rate = { ...RAISED, from: PERIOD.from };
    expect(computePayslip(inPeriod({ rates: [rate], hours: [{ item: 'ordinary', rate: '1', hours: '80.00' }] })).problems).toEqual([]);
  });
});

describe('A salary that changed within the period', () => {
  const salary = (more: Partial<Rate>, rest: Partial<PayslipInput> = {}) => {
    const rate: Rate = { ...RAISED, per: 'year', amount: '57200', earlier: [{ amount: '52000', from: '2025-01-01' }], ...more };
    return inPeriod({
      rates: [rate],
      items: [{ item: anItem('salary', 'earning', 'wages', { name: 'Salary', method: { by: 'salary' } }) }],
      ...rest,
    });
  };

  it('is paid by weekdays: five of ten at each', () => {
    // 52,000 over 26 is 2,000.00, half of it 1,000.00; 57,200 over 26 is 2,200.00, half of it 1,100.00.
    const payslip = computePayslip(salary({}), { workings: true });
    expect(payslip.lines.find((line) => line.code === 'salary')?.amount).toBe(210_000);
    const opens = payslip.workings['salary']?.steps.map((step) => step.opens);
    expect(opens?.length).toBe(2);
    expect(payslip.workings[opens?.[0] ?? '']?.amount).toBe('1000.00');
  });

  it('on a Saturday counts from the Monday, and on the first weekday for all of it', () => {
    const amount = (from: string) => computePayslip(salary({ from })).lines.find((line) => line.code === 'salary')?.amount;
    expect(amount('2026-11-14')).toBe(210_000);
    expect(amount('2026-11-09')).toBe(220_000);
    expect(amount('2026-11-21')).toBe(200_000);
  });

  it('and employment that ended within it: only the weekdays employed', () => {
    // To Wednesday the 18th: five weekdays at the old, three at the new.
    const payslip = computePayslip(salary({}, { employed: { to: '2026-11-18' } }));
    expect(payslip.lines.find((line) => line.code === 'salary')?.amount).toBe(100_000 + 66_000);
  });
});
