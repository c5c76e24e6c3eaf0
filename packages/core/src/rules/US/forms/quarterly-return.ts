import { decimalOf, written, type Minor } from '../../../money/amounts';
import { Exact } from '../../../money/exact';
import { round } from '../../../money/roundings';
import { dateOf, lastOfMonth, monthOf, writtenDate, yearOf } from '../../../calendar/dates';
import type { Filing, FilingFacts, FilingLine, MadeFiling } from '../../../filings/filing';
import { nextBusinessDay } from '../holidays';
import { FEDERAL_LIABILITY as LIABILITY } from '../owed';
import { tables } from '../tables';

const EMPLOYEE_SHARE = ['us.oasdi', 'us.medicare', 'us.medicare.additional'];

/** Employer's quarterly federal tax return (Form 941) with the liability by date (Schedule B). */
export const form941: Filing = {
  code: '941',
  form: 'Form 941',
  name: 'Federal quarterly return',
  agency: 'Internal Revenue Service',
  every: 'quarter',
  from: 'days',
  /** Due at the end of the month after the quarter; a day that is no business day moves to the next one (26 CFR 31.6071(a)-1, 26 U.S.C. 7503). */
  periods: (year) =>
    [1, 2, 3, 4].map((quarter) => ({
      key: `${year}-Q${quarter}`,
      label: `quarter ${quarter} of ${year}`,
      from: dateOf(year, quarter * 3 - 2, 1),
      to: lastOfMonth(year, quarter * 3),
      due: nextBusinessDay(quarter === 4 ? lastOfMonth(year + 1, 1) : lastOfMonth(year, quarter * 3 + 1)),
      taxYear: String(year),
    })),
  headcountOn: ({ to }) => dateOf(yearOf(to), monthOf(to), 12),
  make: quarterlyReturn,
  enters: [
    {
      line: '8',
      label: 'Adjustment for sick pay',
      help: 'The employee share that a third-party payer of sick pay withheld and paid over, as a negative amount, from its notice',
    },
    {
      line: '9',
      label: 'Adjustments for tips and group-term life insurance',
      help: 'The employee share on tips, and on cover of former employees, that could not be collected, as a negative amount',
    },
  ],
  statement:
    'I have looked at this return. To the best of my knowledge and belief it is true, correct and complete, and I may sign it for the employer.',
};

/**
 * Lines of the return. Line 7 takes up the fractions of cents between taxes withheld per payslip and the rates applied to
 * the quarter's wages.
 */
function quarterlyReturn({ period, days, headcount, paid: deposits, entered }: FilingFacts): MadeFiling {
  const year = yearOf(period.to);
  const date = period.to;
  const sum = (codes: readonly string[]): Minor =>
    days.reduce((all, day) => all + codes.reduce((part, code) => part + (day.sums[code] ?? 0), 0), 0);
  const social = tables.value('us.oasdi.rate', date).value.times(Exact.whole(2));
  const medicare = tables.value('us.medicare.rate', date).value.times(Exact.whole(2));
  const additional = tables.value('us.medicare.additional.rate', date).value;

  const wages = sum(['us.fit.wages', 'us.fit.not-withheld']);
  const withheld = sum(['us.fit']);
  const socialWages = sum(['us.oasdi.wages']);
  const socialTips = sum(['us.oasdi.tips']);
  const medicareWages = sum(['us.medicare.wages']);
  const additionalWages = sum(['us.medicare.additional.wages']);
  const line5a = percentOf(socialWages, social);
  const line5b = percentOf(socialTips, social);
  const line5c = percentOf(medicareWages, medicare);
  const line5d = percentOf(additionalWages, additional);
  const line5e = line5a + line5b + line5c + line5d;
  const line6 = withheld + line5e;
  const liability = days
    .map((day) => ({ date: day.payDate, amount: LIABILITY.reduce((all, code) => all + (day.sums[code] ?? 0), 0) }))
    .filter((day) => day.amount !== 0);
  const total = liability.reduce((all, day) => all + day.amount, 0);
  const line8 = entered['8']?.amount ?? 0;
  const line9 = entered['9']?.amount ?? 0;
  const line7 = total - line6 - line8 - line9;
  const line10 = line6 + line7 + line8 + line9;
  const employeeShare = sum(EMPLOYEE_SHARE);

  const lines: FilingLine[] = [
    {
      line: '1',
      label: `Employees paid for the pay period that includes ${writtenDate(dateOf(year, monthOf(date), 12))}`,
      amount: headcount,
      unit: 'count',
      codes: [],
      working: 'People with a payslip whose period includes that day.',
    },
    money(
      '2',
      'Wages, tips and other compensation',
      wages,
      ['us.fit.wages', 'us.fit.not-withheld'],
      'Federal income-tax wages posted in the quarter.',
    ),
    money('3', 'Federal income tax withheld', withheld, ['us.fit'], 'Federal income tax posted in the quarter.'),
    money('5a (1)', 'Taxable social security wages', socialWages, ['us.oasdi.wages'], 'Posted up to the wage base of each person.'),
    money(
      '5a (2)',
      'Tax on social security wages',
      line5a,
      ['us.oasdi', 'us.oasdi.employer'],
      `${written(socialWages)} × ${social.toDecimal()}%, rounded to the cent.`,
    ),
    ...(socialTips
      ? [
          money(
            '5b (1)',
            'Taxable social security tips',
            socialTips,
            ['us.oasdi.tips'],
            'Tips posted, after wages, up to the wage base of each person.',
          ),
          money(
            '5b (2)',
            'Tax on social security tips',
            line5b,
            [],
            `${written(socialTips)} × ${social.toDecimal()}%, rounded to the cent.`,
          ),
        ]
      : []),
    money('5c (1)', 'Taxable Medicare wages', medicareWages, ['us.medicare.wages'], 'Medicare wages posted in the quarter.'),
    money(
      '5c (2)',
      'Tax on Medicare wages',
      line5c,
      ['us.medicare', 'us.medicare.employer'],
      `${written(medicareWages)} × ${medicare.toDecimal()}%, rounded to the cent.`,
    ),
    money(
      '5d (1)',
      'Wages subject to Additional Medicare Tax withholding',
      additionalWages,
      ['us.medicare.additional.wages'],
      'Medicare wages over 200,000 in the year.',
    ),
    money(
      '5d (2)',
      'Additional Medicare Tax withheld',
      line5d,
      ['us.medicare.additional'],
      `${written(additionalWages)} × ${additional.toDecimal()}%, rounded to the cent.`,
    ),
    money(
      '5e',
      'Social security and Medicare taxes',
      line5e,
      [],
      socialTips ? '5a (2) + 5b (2) + 5c (2) + 5d (2).' : '5a (2) + 5c (2) + 5d (2).',
    ),
    money('6', 'Taxes before adjustments', line6, [], 'Line 3 + line 5e.'),
    money(
      '7',
      'Adjustment for fractions of cents',
      line7,
      EMPLOYEE_SHARE,
      `Liability by date ${written(total)} − line 6 ${written(line6)}${line8 || line9 ? ' − lines 8 and 9' : ''}. Withheld from employees ${written(employeeShare)}, each payslip rounded by itself.`,
    ),
    ...(form941.enters ?? []).flatMap(({ line, label }) => {
      const one = entered[line];
      return one?.amount ? [money(line, label, one.amount, [], `Entered: ${one.reason}`)] : [];
    }),
    money('10', 'Taxes after adjustments', line10, [], line8 || line9 ? 'Lines 6 to 9.' : 'Line 6 + line 7.'),
    { ...money('12', 'Taxes after adjustments and credits', line10, LIABILITY, 'Line 10; no credits are claimed.'), sum: true },
    money('13', 'Deposits for the quarter', deposits, [], 'Deposits recorded for the quarter.'),
    money('14', 'Balance due', Math.max(0, line10 - deposits), [], 'Line 12 − line 13, not below zero.'),
    money('15', 'Overpayment', Math.max(0, deposits - line10), [], 'Line 13 − line 12, not below zero.'),
  ];
  return {
    lines,
    byDay: { title: 'Liability by pay date, Schedule B', codes: LIABILITY, days: liability },
    copies: [],
    checks: [
      { sentence: `Liability by date ${written(total)} equals line 12 ${written(line10)}`, holds: total === line10 },
      {
        sentence: `Line 7, ${decimalOf(line7)}, is no more than rounding on each payslip can make`,
        // Five taxes on each payslip, each off by half a cent at most.
        holds: Math.abs(line7) * 2 <= 5 * days.reduce((all, day) => all + day.payslips, 0) + 5,
      },
      {
        sentence: `Social security wages ${written(socialWages)} are not more than Medicare wages ${written(medicareWages)}`,
        holds: socialWages <= medicareWages,
      },
    ],
    source: `IRS, Instructions for Form 941 (${year}); line numbers as on the form of that year`,
  };
}

const money = (line: string, label: string, amount: Minor, codes: string[], working: string): FilingLine => ({
  line,
  label,
  amount,
  unit: 'money',
  codes,
  working,
});

const percentOf = (amount: Minor, percent: Exact): Minor =>
  round(Exact.minor(amount).times(percent).over(Exact.whole(100)), 'half-up', 2).toMinor();
