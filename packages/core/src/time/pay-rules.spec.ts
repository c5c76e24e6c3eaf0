import fc from 'fast-check';
import { addDays } from '../calendar/dates';
import { computePayslip } from '../payslip/compute-payslip';
import { anItem, inputOf } from '../payslip/testing/inputs';
import type { PayslipInput } from '../payslip/input';
import { daysWithoutTime } from './pay-rules';
import { hoursBetween, type TimeEntry, type TimeRules } from './time';

const WEEKLY: TimeRules = {
  code: 'weekly',
  label: 'Over 40 hours a week',
  weekBegins: 0,
  weeklyOver: '40',
  items: { ordinary: 'ordinary', overtime: 'overtime', double: 'double', halfPremium: 'half-premium', holiday: 'holiday' },
  source: { publication: '29 U.S.C. 207(a)(1)' },
};
const DAILY: TimeRules = { ...WEEKLY, code: 'daily', dailyOver: '8', dailyDoubleOver: '12', seventhDayDoubleOver: '8' };
/** The fortnight of the payslip: Sunday 8 to Saturday 21 November 2026. */
const SUNDAY = '2026-11-08';

const hourItem = (code: string, multiple: string) => anItem(code, 'earning', 'wages', { method: { by: 'hours', multiple } });
function paid(rules: TimeRules, entries: TimeEntry[], more: Partial<PayslipInput> = {}) {
  const input = inputOf({ date: '2026-11-27' });
  return computePayslip(
    {
      ...input,
      pay: { ...input.pay, from: SUNDAY, to: '2026-11-21' },
      items: [],
      rates: [
        { id: 'primary', label: 'Shop', per: 'hour', amount: '20.00', primary: true },
        { id: '2', label: 'Store', per: 'hour', amount: '15.00' },
      ],
      hourItems: [
        hourItem('ordinary', '1'),
        hourItem('overtime', '1.5'),
        hourItem('double', '2'),
        hourItem('half-premium', '0.5'),
        hourItem('holiday', '1.5'),
        hourItem('leave', '1'),
        hourItem('night', '1'),
      ],
      time: { rules, entries },
      ...more,
    },
    { workings: true },
  );
}
const earned = (payslip: ReturnType<typeof paid>): string[] =>
  payslip.lines.filter((line) => line.kind === 'earning').map((line) => `${line.code} ${line.quantity} ${(line.amount / 100).toFixed(2)}`);
/** So many hours on each day from a Sunday on. */
const week = (from: string, hours: string[], rate?: string): TimeEntry[] =>
  hours.flatMap((each, day) => (each === '0' ? [] : [{ date: addDays(from, day), hours: each, ...(rate ? { rate } : {}) }]));

describe('Time rules', () => {
  it('over 40 hours a week: a fortnight of 50 and 30 hours has 10 of overtime, not none (29 CFR 778.104)', () => {
    const entries = [...week(SUNDAY, ['0', '10', '10', '10', '10', '10']), ...week('2026-11-15', ['0', '6', '6', '6', '6', '6'])];
    expect(earned(paid(WEEKLY, entries))).toEqual(['ordinary 70.00 1400.00', 'overtime 10.00 300.00']);
  });

  it('a premium by shift belongs to the regular rate of a week with overtime (29 CFR 778.207(b))', () => {
    // 50 hours at 20.00 and 8 of them at 2.00 more: 1,016.00 over 50 hours is 20.32; half of it for each of 10 hours.
    const night = { label: 'night', from: '22:00', to: '06:00', perHour: '2.00', item: 'night' };
    const entries = ['1', '2', '3', '4', '5'].map((day) => ({
      date: addDays(SUNDAY, Number(day)),
      hours: '10',
      from: '12:00',
      to: '22:00',
    }));
    const late = { date: addDays(SUNDAY, 5), hours: '10', from: '20:00', to: '06:00' };
    expect(earned(paid({ ...WEEKLY, premiums: [night] }, [...entries.slice(0, 4), late]))).toEqual([
      'ordinary 50.00 1000.00',
      'half-premium 10.00 101.60',
      'night 8.00 16.00',
    ]);
  });

  it('insurance by the hour counts hours that the time rules make, once each, and no leave', () => {
    const employer = {
      federalNumber: '98-7654321',
      states: { WA: { unemploymentRate: '1.0', hourlyEmployer: '0.5', hourlyEmployee: '0.25' } },
    };
    const tax = { federal: { certificate: '2020', status: 'single' }, residentState: 'WA', workState: 'WA' };
    const { lines, problems } = paid(WEEKLY, week(SUNDAY, ['0', '10', '10', '10', '10', '10']), { employer, tax });
    expect(problems.filter((problem) => problem.weight === 'stop')).toEqual([]);
    // 50 hours, 10 of them overtime: 12.50 and 25.00.
    expect(lines.find((line) => line.code === 'us.industrial-insurance@US-WA')?.amount).toBe(1250);
    expect(lines.find((line) => line.code === 'us.industrial-insurance.employer@US-WA')?.amount).toBe(2500);
  });

  it('pieces belong to the regular rate of the week they are made in (29 CFR 778.111)', () => {
    // 40 and 50 hours; 100 pieces at 2.00 in the second week: (1,000.00 + 200.00) ÷ 50 = 24.00, half of it for 10 hours.
    const piece = { item: anItem('pieces', 'earning', 'wages', { method: { by: 'pieces' } }), amount: '2.00', quantity: '100' };
    const entries = [
      ...week(SUNDAY, ['0', '8', '8', '8', '8', '8']),
      ...week('2026-11-15', ['0', '10', '10', '10', '10', '10']),
      { date: '2026-11-17', hours: '0', item: 'pieces', quantity: '100' },
    ];
    expect(earned(paid(WEEKLY, entries, { items: [piece] }))).toEqual(
      jasmine.arrayWithExactContents(['ordinary 90.00 1800.00', 'half-premium 10.00 120.00', 'pieces 100 200.00']),
    );
  });

  it('the minimum wage is looked at week by week: a good week makes no amends for a poor one (29 CFR 776.4)', () => {
    const rates = [
      { id: 'primary', label: 'Shop', per: 'hour' as const, amount: '20.00', primary: true },
      { id: '2', label: 'Store', per: 'hour' as const, amount: '5.00' },
    ];
    const entries = [...week(SUNDAY, ['0', '8', '8', '8', '8', '8']), ...week('2026-11-15', ['0', '8', '8'], '2')];
    const { problems } = paid(WEEKLY, entries, { rates });
    expect(problems.map(({ code, sentence }) => [code, sentence.slice(0, 60)])).toEqual([
      ['below-minimum-wage', '16.00 hours in the week from Sun 15 Nov 2026 are paid 80.00,'],
    ]);
  });

  it('over 8 and 12 a day: an hour is overtime once, by the day or by the week (Labor Code 510)', () => {
    expect(earned(paid(DAILY, week(SUNDAY, ['0', '13', '8', '8', '8', '8'])))).toEqual([
      'ordinary 40.00 800.00',
      'overtime 4.00 120.00',
      'double 1.00 40.00',
    ]);
    expect(earned(paid(DAILY, week(SUNDAY, ['0', '10', '10', '10', '10', '10'])))).toEqual([
      'ordinary 40.00 800.00',
      'overtime 10.00 300.00',
    ]);
    expect(earned(paid(DAILY, week(SUNDAY, ['0', '8', '8', '8', '8', '8', '5'])))).toEqual([
      'ordinary 40.00 800.00',
      'overtime 5.00 150.00',
    ]);
  });

  it('the seventh day in a row of a workweek: overtime, over 8 double', () => {
    expect(earned(paid(DAILY, week(SUNDAY, ['5', '5', '5', '5', '5', '5', '10'])))).toEqual([
      'ordinary 30.00 600.00',
      'overtime 8.00 240.00',
      'double 2.00 80.00',
    ]);
  });

  it('two rates in a week: all hours at their own, and half the regular rate for each of overtime (29 CFR 778.115)', () => {
    // 30 at 20.00 and 20 at 15.00: 900.00 over 50 hours is 18.00; half of it for 10 hours is 90.00.
    const payslip = paid(WEEKLY, [...week(SUNDAY, ['0', '10', '10', '10']), ...week('2026-11-12', ['10', '10'], '2')]);
    expect(earned(payslip)).toEqual(['ordinary 30.00 600.00', 'ordinary 20.00 300.00', 'half-premium 10.00 90.00']);
    expect(payslip.workings['regular:2026-11-08']?.amount).toBe('18.00');
    expect(payslip.workings['half-premium:regular:2026-11-08']?.steps.map((step) => step.opens)).toContain('regular:2026-11-08');
  });

  it('two rates without overtime in the week need no regular rate', () => {
    expect(earned(paid(WEEKLY, [...week(SUNDAY, ['0', '10', '10']), ...week('2026-11-12', ['10'], '2')]))).toEqual([
      'ordinary 20.00 400.00',
      'ordinary 10.00 150.00',
    ]);
  });

  it('a bonus that belongs to the week raises its regular rate (29 CFR 778.209)', () => {
    // 50 hours at 20.00 and a bonus of 100.00: 22.00; half of it for 10 hours is 110.00.
    const rules = { ...WEEKLY, bonuses: { [SUNDAY]: '100.00' } };
    expect(earned(paid(rules, week(SUNDAY, ['0', '10', '10', '10', '10', '10'])))).toEqual([
      'ordinary 50.00 1000.00',
      'half-premium 10.00 110.00',
    ]);
  });

  it('days before the period in its first workweek count towards the forty, and are not paid again', () => {
    const monday = { ...WEEKLY, weekBegins: 1 };
    // Monday to Saturday before the period: 38 hours; Sunday the 8th belongs to that week.
    const entries = [...week('2026-11-02', ['8', '8', '8', '8', '6']), { date: SUNDAY, hours: '5' }];
    expect(earned(paid(monday, entries))).toEqual(['ordinary 2.00 40.00', 'overtime 3.00 90.00']);
  });

  it('leave is paid and does not count as worked; a holiday worked is paid through its own item and counts', () => {
    const rules = { ...WEEKLY, holidays: ['2026-11-11'] };
    const entries = [...week(SUNDAY, ['0', '10', '10', '10', '10', '4']), { date: '2026-11-14', hours: '8', item: 'leave' }];
    expect(earned(paid(rules, entries))).toEqual([
      'ordinary 30.00 600.00',
      'holiday 10.00 300.00',
      'overtime 4.00 120.00',
      'leave 8.00 160.00',
    ]);
  });

  it('a premium by shift is paid for the hours within it, over midnight too, the break in proportion', () => {
    const rules = { ...WEEKLY, premiums: [{ label: 'Night', from: '22:00', to: '06:00', perHour: '1.25', item: 'night' }] };
    // 20:00 to 04:00 with half an hour of break: 6 of 8 hours by the clock, of 7.50 worked.
    const entry = { date: '2026-11-09', from: '20:00', to: '04:00', hours: hoursBetween('20:00', '04:00', 30) };
    expect(entry.hours).toBe('7.50');
    expect(earned(paid(rules, [entry]))).toEqual(['ordinary 7.50 150.00', 'night 5.63 7.04']);
  });

  it('say in the working which rule turned which hours into what', () => {
    const payslip = paid(WEEKLY, week(SUNDAY, ['0', '10', '10', '10', '10', '5']));
    const [first] = payslip.workings['time:overtime:primary']?.steps ?? [];
    expect(`${first?.label}: ${first?.operand}`).toBe('Fri 13 Nov 2026, over 40 in the week: 5.00');
    const line = payslip.lines.find((one) => one.code === 'overtime');
    expect(payslip.workings[line?.id ?? '']?.steps[0]?.opens).toBe('time:overtime:primary');
  });

  it('what is entered for an item and rate on the payslip goes before the time', () => {
    const entries = week(SUNDAY, ['0', '10', '10', '10', '10', '10']);
    const payslip = paid(WEEKLY, entries, { hours: [{ item: 'overtime', rate: 'primary', hours: '3.00' }] });
    expect(earned(payslip)).toEqual(['overtime 3.00 90.00', 'ordinary 40.00 800.00']);
  });

  it('without an item for half the regular rate the payslip stops with what to do', () => {
    const rules = { ...WEEKLY, items: { ordinary: 'ordinary', overtime: 'overtime' } };
    const payslip = paid(rules, [...week(SUNDAY, ['0', '10', '10', '10']), ...week('2026-11-12', ['10', '10'], '2')]);
    expect(payslip.problems[0]?.sentence).toContain('half the regular rate is due');
  });

  it('never lose or invent an hour: what is paid by the clock is what was worked', () => {
    const day = fc.integer({ min: 0, max: 64 }).map((quarters) => (quarters / 4).toFixed(2));
    fc.assert(
      fc.property(fc.array(day, { minLength: 14, maxLength: 14 }), fc.boolean(), (days, daily) => {
        const entries = days.map((hours, index) => ({ date: addDays(SUNDAY, index), hours }));
        const payslip = paid(
          daily ? DAILY : WEEKLY,
          entries.filter((entry) => Number(entry.hours) > 0),
        );
        const sum = payslip.lines.reduce((all, line) => all + Math.round(Number(line.quantity ?? 0) * 100), 0);
        return sum === days.reduce((all, hours) => all + Math.round(Number(hours) * 100), 0);
      }),
    );
  });

  it('tell the workdays of a period without time', () => {
    const weekdays = (date: string) => ![0, 6].includes(new Date(`${date}T00:00:00Z`).getUTCDay());
    const entries = week(SUNDAY, ['0', '8', '8', '0', '8', '8']);
    expect(daysWithoutTime(entries, { from: SUNDAY, to: '2026-11-14' }, weekdays)).toEqual(['2026-11-11']);
  });

  it('a bonus paid once that belongs to the regular rate goes in equal parts to the weeks worked (29 CFR 778.209(b))', () => {
    const input = inputOf({});
    const item = (code: string, multiple: string) => anItem(code, 'earning', 'wages', { method: { by: 'hours', multiple } });
    const payslip = computePayslip({
      ...input,
      rates: [{ id: '1', label: 'Pay', per: 'hour', amount: '20', primary: true }],
      hourItems: [item('ordinary', '1'), item('overtime', '1.5'), item('half-premium', '0.5')],
      items: [],
      time: {
        rules: WEEKLY,
        entries: [...week(SUNDAY, ['0', '10', '10', '10', '10', '10']), ...week('2026-11-15', ['0', '8', '8', '8', '8', '8'])],
      },
      oneOffs: [{ id: 'b', item: anItem('bonus', 'earning', 'supplemental', { name: 'Output bonus', regularRate: true }), amount: '200' }],
    });
    // 100.00 for each week: 1,100.00 over 50 hours is 22.00, half of it for the ten hours of the first week 110.00.
    expect(payslip.lines.filter((line) => line.kind === 'earning').map((line) => [line.code, line.quantity, line.amount])).toEqual([
      ['ordinary', '90.00', 180_000],
      ['half-premium', '10.00', 11_000],
      ['bonus', undefined, 20_000],
    ]);
  });
});
