import { periodOfFiling, type FilingFacts } from '../../../filings/filing';
import { packOf } from '../../registry';
import { EMPLOYER, filing, NOTHING, SOMEBODY, sumsOf } from './testing/facts';

const form941 = filing('941');

describe('The quarterly return', () => {
  const days = ['2026-07-10', '2026-07-24', '2026-08-07'].map((payDate) => ({ payDate, payslips: 7, sums: sumsOf('1234.57', 7) }));
  const period = periodOfFiling(form941, '2026-Q3')!;
  const make = (of: typeof days, paid = 0, entered: FilingFacts['entered'] = {}) =>
    form941.make({ ...NOTHING, period, days: of, headcounts: [7], paid, entered });
  const made = make(days);
  const line = (name: string) => made.lines.find((candidate) => candidate.line === name)!.amount;

  it('is for a quarter, due a month after it', () => {
    expect(period).toEqual({
      key: '2026-Q3',
      label: 'quarter 3 of 2026',
      from: '2026-07-01',
      to: '2026-09-30',
      due: '2026-11-02',
      taxYear: '2026',
    });
    expect(form941.counts?.on(period)).toEqual(['2026-09-12']);
    expect(periodOfFiling(form941, '2026-Q5')).toBeUndefined();
    expect(periodOfFiling(form941, 'soon')).toBeUndefined();
  });

  it('takes fractions of cents into line 7, so that line 12 is the liability by date', () => {
    expect(line('2')).toBe(21 * 123457);
    // 7,654 cents withheld on each payslip; 12.4% of the quarter's wages is not 42 times that.
    expect(line('5a (2)')).toBe(Math.round(21 * 123457 * 0.124));
    expect(line('7')).not.toBe(0);
    expect(line('12')).toBe(made.byDay?.days.reduce((sum, day) => sum + day.amount, 0) ?? 0);
    expect(made.checks.every((check) => check.holds)).toBeTrue();
  });

  it('says when line 7 is more than rounding can make', () => {
    const wrong = days.map((day) => ({ ...day, sums: { ...day.sums, 'us.oasdi': (day.sums['us.oasdi'] ?? 0) + 500 } }));
    expect(
      make(wrong)
        .checks.filter((check) => !check.holds)
        .map((check) => check.sentence),
    ).toEqual([jasmine.stringContaining('Line 7')]);
  });

  it('takes sick pay, tips and group-term life from what is entered, so that line 7 is fractions of cents again', () => {
    // Of 7,654 cents of social security on one payslip only 3,654 could be collected: 40.00 are missing from the liability.
    const short = days.map((day, index) => ({
      ...day,
      sums: { ...day.sums, 'us.oasdi': (day.sums['us.oasdi'] ?? 0) - (index === 0 ? 4_000 : 0) },
    }));
    expect(make(short).checks.find(({ sentence }) => sentence.startsWith('Line 7'))?.holds).toBeFalse();
    const made9 = make(short, 0, { '9': { amount: -4_000, reason: 'Uncollected on tips of July' } });
    const now = (name: string) => made9.lines.find((candidate) => candidate.line === name)!;
    expect(now('9')).toEqual(jasmine.objectContaining({ amount: -4_000, working: 'Entered: Uncollected on tips of July' }));
    expect(now('7').amount).toBe(line('7'));
    expect(now('12').amount).toBe(line('12') - 4_000);
    expect(made9.checks.every(({ holds }) => holds)).toBeTrue();
    expect(made9.lines.some((candidate) => candidate.line === '8')).toBeFalse();
  });

  it('shows the balance, or the overpayment, against deposits', () => {
    expect(line('14')).toBe(line('12'));
    const over = make(days, line('12') + 500);
    expect(over.lines.find((candidate) => candidate.line === '15')?.amount).toBe(500);
    expect(over.lines.find((candidate) => candidate.line === '14')?.amount).toBe(0);
  });
});

describe('A line that is overridden', () => {
  const days = [{ payDate: '2026-07-10', payslips: 7, sums: sumsOf('1000.00', 7) }];
  const period = periodOfFiling(form941, '2026-Q3')!;
  const make = (entered: FilingFacts['entered']) => form941.make({ ...NOTHING, period, days, headcounts: [7], entered });
  const of = (made: ReturnType<typeof make>, name: string) => made.lines.find(({ line }) => line === name);

  it('counts for the lines that are made of it, and keeps what it replaces', () => {
    const made = make({ '1': { amount: 9, reason: 'Two were paid by the agent' } });
    expect(of(made, '1')).toEqual(jasmine.objectContaining({ amount: 9, replaced: { amount: 7, reason: 'Two were paid by the agent' } }));
    // 7,000.00 of wages at 12.4 per cent are 868.00; 7,100.00 would be 880.40.
    const more = make({ '5a (1)': { amount: 710_000, reason: 'Cash wages of July' } });
    expect([of(more, '5a (2)')?.amount, of(more, '5e')?.amount, of(more, '6')?.amount]).toEqual([
      88_040,
      88_040 + Math.round(700_000 * 0.029),
      (of(more, '3')?.amount ?? 0) + 88_040 + 20_300,
    ]);
    // What the ledger has not withheld is no rounding: the return is not prepared so.
    expect(more.checks.filter(({ holds }) => !holds).map(({ sentence }) => sentence.slice(0, 6))).toEqual(['Line 7', 'Social']);
  });

  it('is none where the form leaves no room', () => {
    const made = make({ '12': { amount: 1, reason: 'Less' }, '5a (2)': { amount: 1, reason: 'Less' } });
    expect(made.lines.some(({ replaced }) => replaced)).toBeFalse();
    expect(form941.overrides).not.toContain('12');
  });
});

describe('The credit for research', () => {
  it('lowers line 12 and the liability of the first pay dates until it is used up', () => {
    const day = (payDate: string) => ({
      payDate,
      payslips: 1,
      sums: {
        'us.oasdi': 6_200,
        'us.oasdi.employer': 6_200,
        'us.oasdi.wages': 100_000,
        'us.medicare.wages': 100_000,
        'us.medicare': 1_450,
        'us.medicare.employer': 1_450,
        'us.fit.wages': 100_000,
      },
    });
    const made = form941.make({
      ...NOTHING,
      period: periodOfFiling(form941, '2026-Q3')!,
      days: [day('2026-07-10'), day('2026-07-24')],
      entered: { '11': { amount: 20_000, reason: 'Form 8974' } },
    });
    // Two pay dates of 153.00 each, 200.00 of credit: the first is nothing, the second 106.00.
    expect(made.byDay?.days.map(({ amount }) => amount)).toEqual([0, 10_600]);
    expect(made.lines.find(({ line }) => line === '12')?.amount).toBe(10_600);
    expect(made.checks.every(({ holds }) => holds)).toBeTrue();
  });
});

describe('Liability by month', () => {
  const big = (payDate: string, amount: number) => ({ payDate, payslips: 1, sums: { 'us.fit': amount, 'us.fit.wages': amount * 5 } });
  const days = [big('2026-07-10', 100_000), big('2026-08-07', 120_000), big('2026-09-04', 40_000)];
  const months = (employer: object, of = days) =>
    form941
      .make({ ...NOTHING, period: periodOfFiling(form941, '2026-Q3')!, days: of, employer: { ...EMPLOYER, ...employer } })
      .lines.filter(({ line }) => line.startsWith('16'))
      .map(({ amount }) => amount);

  it('is on the return of a monthly depositor from 2,500.00 on, and on Schedule B of a semi-weekly one', () => {
    expect(months({})).toEqual([100_000, 120_000, 40_000]);
    expect(months({ depositor: 'semiweekly' })).toEqual([]);
    expect(months({}, days.slice(0, 2))).toEqual([]);
  });
});

describe('The annual return', () => {
  it('is filed in place of the quarterly one by who is notified, and comes to the same as four of them', () => {
    const federal = packOf('US').filings({ ...EMPLOYER, federalReturn: '944' });
    const form944 = federal.find(({ code }) => code === '944')!;
    expect(federal.some(({ code }) => code === '941')).toBeFalse();
    const dates = ['2026-02-13', '2026-05-15', '2026-08-14', '2026-11-13'];
    const days = dates.map((payDate) => ({ payDate, payslips: 7, sums: sumsOf('1234.57', 7) }));
    const year = form944.make({ ...NOTHING, period: periodOfFiling(form944, '2026')!, days });
    const total = year.lines.find(({ line }) => line === '9')?.amount ?? 0;
    const quarters = [1, 2, 3, 4].map((quarter, index) =>
      form941.make({ ...NOTHING, period: periodOfFiling(form941, `2026-Q${quarter}`)!, days: days.slice(index, index + 1) }),
    );
    const of = (name: string) => quarters.reduce((sum, { lines }) => sum + (lines.find(({ line }) => line === name)?.amount ?? 0), 0);
    expect(total).toBe(of('12'));
    expect(year.lines.find(({ line }) => line === '13e')?.amount).toBe(quarters[1]!.lines.find(({ line }) => line === '12')?.amount ?? -1);
    expect(year.checks.every(({ holds }) => holds)).toBeTrue();
  });
});

describe('The federal unemployment return', () => {
  const form940 = filing('940');
  const period = periodOfFiling(form940, '2025')!;
  const day = (payDate: string, pay: number, wages: number) => ({
    payDate,
    payslips: 1,
    sums: { 'us.futa.pay': pay, 'us.futa.wages': wages, 'us.futa': Math.round(wages * 0.006) },
  });
  /** Three people of 20,000.00 in the year, 500.00 of it through a cafeteria plan: 7,000.00 of each is taxed. */
  const days = [day('2025-02-14', 1_950_000, 1_950_000), day('2025-05-16', 1_950_000, 150_000), day('2025-11-14', 1_950_000, 0)];
  const make = (more: Partial<FilingFacts> = {}) =>
    form940.make({ ...NOTHING, period, days, gross: 6_000_000, byPlace: { 'US-PA': 2_100_000 }, ...more });
  const of = (made: ReturnType<typeof make>, name: string) => made.lines.find(({ line }) => line === name)?.amount;

  it('comes from all payments down to taxable wages, by the form’s own steps', () => {
    const made = make({ paid: 11_700 });
    // 60,000.00 − (1,500.00 exempt + 37,500.00 over 7,000.00) = 21,000.00, of which 0.6 per cent is 126.00.
    expect(['3', '4', '5', '6', '7', '8', '12', '13', '14', '15'].map((line) => of(made, line))).toEqual([
      6_000_000, 150_000, 3_750_000, 3_900_000, 2_100_000, 12_600, 12_600, 11_700, 900, 0,
    ]);
    expect(made.checks.every(({ holds }) => holds)).toBeTrue();
    // 500.00 is not reached: no liability by quarter.
    expect(of(made, '16a')).toBeUndefined();
  });

  it('adds what a state that owes the federal fund takes of the credit, of the wages covered there', () => {
    const made = make({ byPlace: { 'US-PA': 1_400_000, 'US-CA': 700_000 } });
    // California 2025: 1.2 per cent of 7,000.00.
    expect([of(made, 'A CA'), of(made, '11'), of(made, '12')]).toEqual([8_400, 8_400, 21_000]);
    expect(made.lines.find(({ line }) => line === 'A CA')?.working).toContain('unconfirmed');
  });

  it('has the liability by quarter over 500.00, which comes to line 12 with the rounding of the year', () => {
    const many = [day('2025-02-14', 9_000_049, 9_000_049), day('2025-11-14', 900_000, 900_000)];
    const made = make({ days: many, gross: 9_900_049, byPlace: { 'US-PA': 9_900_049 } });
    expect([of(made, '16a'), of(made, '16b'), of(made, '16c'), of(made, '16d'), of(made, '12')]).toEqual([54_000, 0, 0, 5_400, 59_400]);
  });

  it('does not hold where somebody is covered in no state, or an override breaks its arithmetic', () => {
    expect(make({ byPlace: { '': 700_000, 'US-PA': 1_400_000 } }).checks.some(({ holds }) => !holds)).toBeTrue();
    const over = make({ entered: { '3': { amount: 6_100_000, reason: 'Pay through an agent' } } });
    expect(over.checks.filter(({ holds }) => !holds).map(({ sentence }) => sentence)).toEqual([
      jasmine.stringContaining('Taxable wages 22,000.00'),
      jasmine.stringContaining('rounding 6.00'),
    ]);
  });
});

describe('Reports of states', () => {
  const wages = filing('pa-1');
  const period = periodOfFiling(wages, '2026-Q3')!;
  const sums = {
    'us.unemployment.pay@US-PA': 3_000_000,
    'us.unemployment.wages@US-PA': 1_000_000,
    'us.unemployment@US-PA': 21_001,
    'us.unemployment.employee@US-PA': 2_100,
    'us.state-income.wages@US-PA': 3_000_000,
    'us.state-income@US-PA': 92_100,
    'us.local-income.wages@US-PA/990101': 3_000_000,
    'us.local-income@US-PA/990101': 30_000,
    'us.local-services@US-PA/990101': 1_300,
  };
  const person = { ...SOMEBODY, sums };
  const days = [{ payDate: '2026-08-14', payslips: 3, sums }];
  const line = (code: string, name: string, more: Partial<FilingFacts> = {}) =>
    filing(code)
      .make({
        ...NOTHING,
        period: periodOfFiling(filing(code), '2026-Q3') ?? periodOfFiling(filing(code), '2026')!,
        days,
        people: [person],
        ...more,
      })
      .lines.find((one) => one.line === name)?.amount;

  it('are of the states and places where the employer is registered', () => {
    const codes = (employer: object) =>
      packOf('US')
        .filings(employer as never)
        .map(({ code }) => code);
    expect(codes(EMPLOYER)).toEqual([
      '941',
      '940',
      'w-2',
      '1099-nec',
      '1099-misc',
      '945',
      'ca-1',
      'ca-income',
      'ca-year',
      'pa-1',
      'pa-income',
      'pa-year',
      'local-990101',
    ]);
    expect(codes({})).toEqual(['941', '940', 'w-2', '1099-nec', '1099-misc', '945']);
  });

  it('have wages by person, the ceiling, and contributions by the rate of the notice', () => {
    const made = wages.make({ ...NOTHING, period, days, people: [person], headcounts: [1, 2, 2], paid: 20_000 });
    const at = (name: string) => made.lines.find((one) => one.line === name)?.amount;
    expect([at('month 1'), at('month 3'), at('wages')]).toEqual([1, 2, 3_000_000]);
    const contribution = made.lines.find(({ label }) => label === 'Pennsylvania unemployment');
    // 10,000.00 up to the ceiling at 2.1 per cent is 210.00; a cent of rounding was posted beside.
    expect(contribution?.amount).toBe(21_000);
    expect([at('due'), at('left')]).toEqual([23_100, 3_100]);
    expect(made.detail?.rows).toEqual([{ personId: 'one', values: [3_000_000, 1_000_000] }]);
    expect(made.checks.every(({ holds }) => holds)).toBeTrue();
    const { number: _number, ...nameless } = person;
    expect(
      wages
        .make({ ...NOTHING, period, days, people: [nameless] })
        .checks.some(({ holds, sentence }) => !holds && sentence.includes('Ines')),
    ).toBeTrue();
  });

  it('have income tax by quarter, and the year against its quarters', () => {
    expect([line('pa-income', 'wages'), line('pa-income', 'withheld'), line('pa-income', 'left', { paid: 92_000 })]).toEqual([
      3_000_000, 92_100, 100,
    ]);
    expect([
      line('pa-year', 'statements'),
      line('pa-year', 'quarter 3'),
      line('pa-year', 'quarter 4'),
      line('pa-year', 'withheld'),
    ]).toEqual([1, 92_100, 0, 92_100]);
  });

  it('have local taxes of each place', () => {
    expect([line('local-990101', 'income'), line('local-990101', 'due')]).toEqual([30_000, 31_300]);
  });
});
