import { Exact } from '../../money/exact';
import { computePayslip } from '../../payslip/compute-payslip';
import { anItem, inputOf, SINGLE } from '../../payslip/testing/inputs';
import type { ParameterEntry } from '../parameters';
import { countOf } from '../country-pack';
import { periodsDue } from '../../filings/filing';
import { packOf } from '../registry';
import uk from '../GB/parameters/rates.json';
import { STATES } from './states';
import { entries as ofTheUnitedStates } from './tables';

const us = packOf('US');
const depositOf = (depositor: 'monthly' | 'semiweekly') => us.moneyOwed({ depositor }).find(({ code }) => code === 'us.deposit')?.due;

describe('Rate tables', () => {
  const entries = [...ofTheUnitedStates, ...(uk.entries as ParameterEntry[])];

  it('name the publication of every figure, and hold either a value or bands', () => {
    for (const entry of entries) {
      expect(entry.publication.length).withContext(entry.code).toBeGreaterThan(8);
      expect(entry.value === undefined)
        .withContext(entry.code)
        .not.toBe(entry.bands === undefined);
    }
  });

  it('never overlap: on any day one entry of a code is in force', () => {
    const byCode = new Map<string, ParameterEntry[]>();
    for (const entry of entries) byCode.set(entry.code, [...(byCode.get(entry.code) ?? []), entry]);
    for (const [code, list] of byCode) {
      list.sort((a, b) => (a.from < b.from ? -1 : 1));
      list.slice(1).forEach((entry, index) =>
        expect((list[index]?.to ?? '0') < entry.from)
          .withContext(`${code} from ${entry.from}`)
          .toBeTrue(),
      );
    }
  });

  it('have rising bands with rising rates', () => {
    // New York takes the gain of its lower brackets back by higher rates in between.
    for (const entry of entries.filter(({ code }) => code !== 'state-income.schedule@US-NY')) {
      entry.bands?.slice(1).forEach((band, index) => {
        const below = entry.bands![index]!;
        expect(Exact.of(band.over).isAbove(Exact.of(below.over)) && Exact.of(band.percent).isAbove(Exact.of(below.percent)))
          .withContext(`${entry.code} over ${band.over}`)
          .toBeTrue();
      });
    }
  });

  it('follow the statute: standard schedules begin at the standard deduction less line 1g, two-jobs schedules at half of it', () => {
    // Rev. Proc. 2025-32 and Public Law 119-21: 16,100 single, 32,200 joint, 24,150 head of household.
    const start = (kind: string, status: string) =>
      entries.find((entry) => entry.code === `us.fit.schedule.${kind}.${status}` && entry.from === '2026-01-01')!.bands![1]!.over;
    expect([start('standard', 'single'), start('standard', 'married-jointly'), start('standard', 'head-of-household')]).toEqual([
      '7500',
      '19300',
      '15550',
    ]);
    expect([start('two-jobs', 'single'), start('two-jobs', 'married-jointly'), start('two-jobs', 'head-of-household')]).toEqual([
      '8050',
      '16100',
      '12075',
    ]);
  });

  it('say in the working what could not be checked', () => {
    const tax = { federal: SINGLE, residentState: 'VA', workState: 'VA' };
    const { workings } = computePayslip(inputOf({ pay: '2000.00', tax }), { workings: true });
    expect(workings['us.state-income@US-VA']?.sources.some((source) => source.unconfirmed)).toBeTrue();
    expect(workings['us.oasdi']?.sources.some((source) => source.unconfirmed)).toBeFalse();
  });
});

describe('Treatments', () => {
  it('count for bases that exist, and every deduction says when it is taken', () => {
    const bases = new Set(us.bases.map((base) => base.code));
    for (const treatment of Object.values(us.treatments)) {
      for (const base of Object.keys(treatment.counts)) expect(bases.has(base)).withContext(`${treatment.code} ${base}`).toBeTrue();
      if (treatment.for.includes('deduction')) expect(treatment.taken).withContext(treatment.code).toBeDefined();
    }
  });

  it('a deferral lowers federal but not social security wages, and Pennsylvania does not follow; a premium lowers all but where a state says so', () => {
    const bases = new Map(us.bases.map((base) => [base.code, base]));
    const counts = (code: string, ...of: string[]) => of.map((base) => countOf(us.treatments[code]!, bases.get(base)!, bases));
    const income = ['us.fit.wages', 'us.oasdi.pay', 'us.state-income.pay@US-PA', 'us.state-income.pay@US-VA', 'us.state-income.pay@US-NJ'];
    expect(counts('deferral', ...income)).toEqual([-1, 0, 0, -1, -1]);
    expect(counts('health-premium', ...income)).toEqual([-1, -1, -1, -1, 0]);
    expect(counts('hsa-family', 'us.state-income.pay@US-CA', 'us.disability.pay@US-CA')).toEqual([0, -1]);
    // Both sides of Pennsylvania unemployment count the same.
    for (const treatment of Object.keys(us.treatments))
      expect(counts(treatment, 'us.unemployment.employee.pay@US-PA'))
        .withContext(treatment)
        .toEqual(counts(treatment, 'us.unemployment.pay@US-PA'));
  });

  it('that do not fit the kind of item stop the payslip and name the item', () => {
    const payslip = computePayslip(
      inputOf({ pay: '1000.00', items: [{ item: anItem('x', 'deduction', 'wages', { name: 'Wrong one' }), amount: '10.00' }] }),
    );
    expect(payslip.problems[0]).toEqual(jasmine.objectContaining({ code: 'treatment-unknown', weight: 'stop' }));
    expect(payslip.problems[0]?.sentence).toContain('Wrong one');
  });
});

describe('Roth and ordinary deferrals', () => {
  it('share one limit', () => {
    const roth = { item: anItem('roth', 'deduction', 'roth-deferral', { order: 20 }), amount: '800.00' };
    const payslip = computePayslip(
      inputOf({ pay: '6000.00', deferral: '800.00', items: [roth], yearToDate: { 'us.elective-deferrals': 2_350_000 } }),
    );
    const line = (code: string) => payslip.lines.find((candidate) => candidate.code === code)?.amount;
    // 24,500.00 less 23,500.00 leaves 1,000.00 for both.
    expect([line('deferral'), line('roth'), line('us.elective-deferrals')]).toEqual([80_000, 20_000, 100_000]);
    expect(payslip.problems.map((problem) => [problem.code, problem.item])).toEqual([['limit-reached', 'roth']]);
  });
});

describe('What is due', () => {
  const due = (payDate: string, depositor: 'monthly' | 'semiweekly') =>
    depositOf(depositor)?.([{ payDate, amount: 100 }]).map((entry) => entry.date);

  // 26 CFR 31.6302-1(c)(2): paid Wednesday to Friday is due the next Wednesday, paid Saturday to Tuesday the next Friday.
  it('semiweekly depositors', () => {
    expect(due('2026-10-16', 'semiweekly')).toEqual(['2026-10-21']); // a Friday
    expect(due('2026-10-14', 'semiweekly')).toEqual(['2026-10-21']); // a Wednesday
    expect(due('2026-10-20', 'semiweekly')).toEqual(['2026-10-23']); // a Tuesday
    expect(due('2026-10-17', 'semiweekly')).toEqual(['2026-10-23']); // a Saturday
  });
  it('a due date on a holiday moves to the next business day', () => {
    expect(due('2026-11-06', 'semiweekly')).withContext('Wednesday 11 November is Veterans Day').toEqual(['2026-11-12']);
  });
  it('monthly depositors: the 15th of the next month', () => {
    expect(due('2026-10-16', 'monthly')).toEqual(['2026-11-16']); // the 15th is a Sunday
    expect(due('2026-11-27', 'monthly')).toEqual(['2026-12-15']);
  });
  it('returns a month after the quarter, statements by the end of January', () => {
    const entries = us
      .filings({})
      .flatMap((filing) => periodsDue(filing, '2026-10-01', '2027-02-28').map(({ due, label }) => `${due} ${filing.form}, ${label}`));
    expect(entries).toEqual([
      '2026-11-02 Form 941, quarter 3 of 2026',
      '2027-02-01 Form 941, quarter 4 of 2026',
      '2027-02-01 Form 940, 2026',
      '2027-02-01 Form W-2, 2026',
      '2027-02-01 Form 1099-NEC, 2026',
      '2027-02-01 Form 945, 2026',
    ]);
  });
  it('deposits of several pay dates due on one day are one deposit', () => {
    const deposits = depositOf('semiweekly')?.([
      { payDate: '2026-10-14', amount: 100 },
      { payDate: '2026-10-16', amount: 50 },
    ]);
    expect(deposits).toEqual([{ date: '2026-10-21', what: 'Federal deposit', amount: 150, upTo: '2026-10-16' }]);
  });

  // 26 CFR 31.6302(c)-3: up to 500 waits for the next quarter; what is left of the year goes with its last.
  it('federal unemployment tax by quarter, over 500', () => {
    const due = us.moneyOwed({}).find(({ code }) => code === 'us.unemployment-deposit')?.due;
    const of = (...amounts: [string, number][]) =>
      due?.(amounts.map(([payDate, amount]) => ({ payDate, amount: amount * 100 }))).map(({ date, amount }) => `${date} ${amount / 100}`);
    expect(of(['2026-01-09', 300], ['2026-03-27', 200], ['2026-04-10', 1])).toEqual(['2026-07-31 501']);
    expect(of(['2026-01-09', 500.01])).toEqual(['2026-04-30 500.01']);
    expect(of(['2026-10-09', 42]))
      .withContext('31 January 2027 is a Sunday')
      .toEqual(['2027-02-01 42']);
  });

  it('names who is paid in every state where the employer is registered, and every code once', () => {
    const states = Object.fromEntries(STATES.map(({ code }) => [code, { unemploymentRate: '2' }]));
    const localities = { '990101': { name: 'Corbel Falls' } };
    const owed = us.moneyOwed({ states, localities });
    const codes = owed.flatMap((one) => one.codes);
    expect(codes.length).toBe(new Set(codes).size);
    for (const state of STATES)
      for (const { code } of state.programmes) expect(codes).withContext(`${state.name} ${code}`).toContain(`${code}@${state.place}`);
    expect(owed.find((one) => one.codes.includes('us.local-services@US-PA/990101'))?.payee).toBe('Tax collector of Corbel Falls');
    expect(owed.find((one) => one.codes.includes('us.family-leave@US-NY'))?.payee).toContain('carrier');
    expect(us.moneyOwed({}).every(({ place }) => place === undefined)).toBeTrue();
  });
});

describe('Federal deposits (26 CFR 31.6302-1)', () => {
  const made = (liabilities: [payDate: string, amount: number][], depositor: 'monthly' | 'semiweekly' = 'semiweekly') =>
    depositOf(depositor)?.(liabilities.map(([payDate, amount]) => ({ payDate, amount: amount * 100 }))).map(
      (entry) => `${entry.date} ${entry.amount / 100}${entry.what.includes('next day') ? ' next day' : ''}`,
    );

  it('each holiday among the three weekdays after a semi-weekly period gives a day more', () => {
    // Paid Friday 22 May 2026; Monday 25 May is Memorial Day: Thursday instead of Wednesday.
    expect(made([['2026-05-22', 1000]])).toEqual(['2026-05-28 1000']);
    // Paid Tuesday 14 April 2026; Thursday 16 April is Emancipation Day in the District of Columbia: Monday instead of Friday.
    expect(made([['2026-04-14', 1000]])).toEqual(['2026-04-20 1000']);
    // Paid Tuesday 30 June 2026: 4 July is a Saturday, kept on Friday 3 July: Monday.
    expect(made([['2026-06-30', 1000]])).toEqual(['2026-07-06 1000']);
    // In 2027 the fourth is a Sunday, kept on Monday; Friday 2 July is a day like others.
    expect(made([['2027-06-29', 1000]])).toEqual(['2027-07-02 1000']);
    // Paid Tuesday 30 December 2025 and, in the next quarter, Friday 2 January 2026: two periods.
    expect(
      made([
        ['2025-12-30', 1000],
        ['2026-01-02', 500],
      ]),
    ).toEqual(['2026-01-05 1000', '2026-01-07 500']);
  });

  it('a period that spans two quarters makes two deposits', () => {
    // Saturday 28 March to Tuesday 31 March; Wednesday 30 September to Friday 2 October 2026.
    expect(
      made([
        ['2026-09-30', 1000],
        ['2026-10-02', 500],
      ]),
    ).toEqual(['2026-10-07 1000', '2026-10-07 500']);
    expect(
      made([
        ['2026-10-02', 500],
        ['2026-10-01', 300],
      ]),
    ).toEqual(['2026-10-07 800']);
  });

  it('100,000 within a period is due the next business day; what was added before in the period goes with it', () => {
    expect(
      made([
        ['2026-10-14', 60_000],
        ['2026-10-15', 40_000],
        ['2026-10-16', 5_000],
      ]),
    ).toEqual(['2026-10-16 100000 next day', '2026-10-21 5000']);
    // A cent less is not.
    expect(
      made([
        ['2026-10-14', 60_000],
        ['2026-10-15', 39_999.99],
      ]),
    ).toEqual(['2026-10-21 99999.99']);
    // Friday's is due on Monday, a holiday's on the day after.
    expect(made([['2026-10-09', 120_000]])).toEqual(['2026-10-13 120000 next day']);
  });

  it('a monthly depositor who reaches it is semi-weekly for the rest of the year and the next', () => {
    expect(
      made(
        [
          ['2025-03-14', 2_000],
          ['2025-05-16', 100_000],
          ['2025-06-13', 2_000],
          ['2026-02-13', 2_000],
          ['2027-02-12', 2_000],
        ],
        'monthly',
      ),
    ).toEqual(['2025-04-15 2000', '2025-05-19 100000 next day', '2025-06-18 2000', '2026-02-19 2000', '2027-03-15 2000']);
  });

  it('the fifteenth moves over a week-end, and over 16 April behind it', () => {
    expect(made([['2026-10-30', 2_000]], 'monthly')).toEqual(['2026-11-16 2000']);
    // 15 April 2028 is a Saturday, Emancipation Day on Sunday is kept on Monday 17 April.
    expect(made([['2028-03-17', 2_000]], 'monthly')).toEqual(['2028-04-18 2000']);
  });
});

describe('Standard items', () => {
  it('carry the law’s limits of the date', () => {
    const limit = (date: string) => us.readyItems(date).find(({ item }) => item.code === 'commuting')?.item.limits?.perMonth;
    // Rev. Proc. 2024-40 and 2025-32, section 132(f).
    expect([limit('2025-12-31'), limit('2026-01-01'), limit('2027-01-01')]).toEqual(['325.00', '340.00', undefined]);
  });
});

describe('Facts of tax', () => {
  it('the certificate’s fields on screen are those of the schema', () => {
    const known = us.taxSchema.safeParse({
      federal: { ...SINGLE, twoJobs: true, dependents: '2200', otherIncome: '1', deductions: '1', extra: '1', exempt: false },
      residentState: 'PA',
      workState: 'PA',
    });
    expect(known.success).toBeTrue();
    for (const group of us.taxForm) for (const field of group.fields) expect(field.label.length).withContext(field.key).toBeGreaterThan(3);
  });
  it('an amount that is none is named by its field', () => {
    const wrong = us.taxSchema.safeParse({ federal: { ...SINGLE, extra: 'ten' }, residentState: 'PA', workState: 'PA' });
    expect(wrong.error?.issues[0]?.path).toEqual(['federal', 'extra']);
  });
  it('a country without rules is refused with the ones there are', () => {
    expect(() => packOf('ZZ')).toThrowError(/Known: US, GB/);
  });
});

// 26 U.S.C. 414(v)(7): catch-up of who earned over 150,000 last year is Roth from 2026 on.
describe('Catch-up that can only be Roth', () => {
  const taken = (rothCatchUp: boolean, yearToDate: Record<string, number>, date = '2026-11-27') => {
    const tax = { federal: SINGLE, residentState: 'TX', workState: 'TX', rothCatchUp };
    const payslip = computePayslip(inputOf({ date, pay: '8000.00', deferral: '2000.00', born: '1974-05-01', tax, yearToDate }));
    return payslip.lines.find((line) => line.code === 'deferral')?.amount ?? 0;
  };
  it('stops deferrals before tax at the limit without catch-up', () => {
    const before = { 'us.elective-deferrals': 2_400_000, 'us.box12.D': 2_400_000 };
    // 24,500 less 24,000; with catch-up of 8,000 all of it.
    expect(taken(true, before)).toBe(50_000);
    expect(taken(false, before)).toBe(200_000);
  });
  it('leaves what was put in as Roth out of that', () =>
    expect(taken(true, { 'us.elective-deferrals': 2_700_000, 'us.box12.D': 2_400_000, 'us.box12.AA': 300_000 })).toBe(50_000));
  it('begins in 2026', () =>
    expect(taken(true, { 'us.elective-deferrals': 2_350_000, 'us.box12.D': 2_350_000 }, '2025-11-28')).toBe(200_000));
});

// 26 U.S.C. 401(a)(17): 360,000 in 2026.
describe('Pay that a plan may count', () => {
  const match = (counted: number) => {
    const item = anItem('match', 'employer-contribution', 'employer-plan', {
      method: { by: 'match', of: 'deferral', tiers: [{ upTo: '4', match: '100' }] },
    });
    const sketch = { pay: '30000.00', deferral: '2000.00', items: [{ item }], yearToDate: { 'us.plan-pay': counted } };
    return computePayslip(inputOf(sketch)).lines.find((line) => line.code === 'match')?.amount ?? 0;
  };
  // 4% of 30,000; of the 10,000 left; of nothing.
  it('is what is left of the year’s', () => expect([match(0), match(35_000_000), match(36_000_000)]).toEqual([120_000, 40_000, 0]));
  it('is posted without what a cafeteria plan takes', () => {
    const lines = computePayslip(inputOf({ pay: '3000.00', health: '100.00' })).lines;
    expect(lines.find((line) => line.code === 'us.plan-pay')?.amount).toBe(300_000);
    expect(lines.find((line) => line.code === 'us.oasdi.pay')?.amount).toBe(290_000);
  });
});

describe('Qualified overtime', () => {
  it('is a third of time and a half, and all of a premium', () => {
    const items = [
      { item: anItem('overtime', 'earning', 'overtime'), amount: '450.00' },
      { item: anItem('premium', 'earning', 'overtime-premium'), amount: '30.00' },
    ];
    const lines = computePayslip(inputOf({ pay: '1000.00', items })).lines;
    expect(lines.find((line) => line.code === 'us.box12.TT')?.amount).toBe(18_000);
    expect(lines.some((line) => line.code === 'us.overtime')).toBeFalse();
    expect(computePayslip(inputOf({ pay: '1000.00' })).lines.some((line) => line.code === 'us.box12.TT')).toBeFalse();
  });
});
