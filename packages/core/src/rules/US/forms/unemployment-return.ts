import { calendarYear } from './periods';
import { written, type Minor } from '../../../money/amounts';
import { lastOfMonth, quarterOf, writtenDate, yearOf } from '../../../calendar/dates';
import type { Filing, FilingFacts, MadeFiling } from '../../../filings/filing';
import { Lines } from '../../../filings/lines';
import { atPlace } from '../../../ledger/codes';
import { amendUntil } from './limitation';
import { returnFile } from '../files/returns-xml';
import { tables } from '../tables';
import { percentOf, sumOf } from './withheld-taxes';

/** Up to so much in the year no liability by quarter is asked for (Instructions for Form 940, part 5). */
const SMALL: Minor = 50_000;

/** Employer's annual federal unemployment return (Form 940), with Schedule A of several states and of credit reduction. */
export const form940: Filing = {
  code: '940',
  form: 'Form 940',
  name: 'Federal unemployment return',
  agency: 'Internal Revenue Service',
  every: 'year',
  from: 'days',
  /** By 31 January (26 CFR 31.6071(a)-1(c)). */
  periods: calendarYear,
  make: unemploymentReturn,
  file: returnFile('940'),
  owed: 'us.unemployment-deposit',
  along: { of: 'us.futa.wages', places: 'us.unemployment' },
  enters: [
    {
      line: '10',
      label: 'Adjustment where state unemployment tax was paid late or not at all on some wages',
      help: 'From the worksheet of the instructions, as a positive amount',
    },
  ],
  overrides: ['3', '4', '5', '13'],
  amendUntil,
  statement:
    'I have looked at this return. To the best of my knowledge and belief it is true, correct and complete, and no part of a payment to a state fund that is claimed as a credit was deducted from employees’ pay.',
};

function unemploymentReturn({ period, days, gross, byPlace, paid, entered }: FilingFacts): MadeFiling {
  const date = period.to;
  const year = yearOf(date);
  const lines = new Lines(entered, form940.overrides ?? []);
  const rate = tables.value('us.futa.rate', date).value.minus(tables.value('us.futa.credit', date).value);
  const subject = sumOf(days, ['us.futa.pay']);
  const upToBase = sumOf(days, ['us.futa.wages']);
  const payments = lines.money('3', gross, {
    label: 'Total payments to all employees',
    working: 'Earnings and benefits in kind posted in the year, of everybody but contractors.',
  });
  const exempt = lines.money('4', gross - subject, {
    label: 'Payments exempt from federal unemployment tax',
    codes: [],
    working: 'What of line 3 does not count for the tax: cafeteria plans and other pay that is excepted.',
  });
  const over = lines.money('5', subject - upToBase, {
    label: `Payments over ${written(tables.value('us.futa.wage-base', date).value.toMinor())} to each employee`,
    codes: ['us.futa.pay'],
    working: 'Pay that counts, less what of it is under the wage base of each person.',
  });
  const less = lines.money('6', exempt + over, { label: 'Subtotal', working: 'Line 4 + line 5.' });
  const taxable = lines.money('7', payments - less, {
    label: 'Total taxable wages',
    codes: ['us.futa.wages'],
    working: 'Line 3 − line 6.',
  });
  const before = lines.money('8', percentOf(taxable, rate), {
    label: 'Tax before adjustments',
    working: `${written(taxable)} × ${rate.toDecimal()}%, rounded to the cent.`,
  });
  const late = entered['10']?.amount
    ? lines.money('10', entered['10'].amount, { label: form940.enters?.[0]?.label ?? '', working: `Entered: ${entered['10'].reason}` })
    : 0;
  const schedule = creditReduction(byPlace, date);
  for (const { state, wages, percent, amount } of schedule.reduced)
    lines.money(`A ${state}`, amount, {
      label: `Schedule A: credit reduction, ${state}`,
      codes: [],
      working: `Taxable wages of people covered there ${written(wages)} × ${percent}%.${schedule.unconfirmed.includes(state) ? ' The rate is unconfirmed: compare it with the year’s Schedule A.' : ''}`,
    });
  const reduction = schedule.reduced.reduce((all, { amount }) => all + amount, 0);
  if (reduction) lines.money('11', reduction, { label: 'Credit reduction', working: 'Sum of Schedule A.' });
  const total = lines.money('12', before + late + reduction, {
    label: 'Total federal unemployment tax after adjustments',
    codes: ['us.futa'],
    working: reduction || late ? 'Line 8 + lines 10 and 11.' : 'Line 8; there are no adjustments.',
    sum: true,
  });
  const deposits = lines.money('13', paid, { label: 'Deposits for the year', working: 'Deposits recorded for the year.', settles: true });
  lines.money('14', Math.max(0, total - deposits), { label: 'Balance due', working: 'Line 12 − line 13, not below zero.', settles: true });
  lines.money('15', Math.max(0, deposits - total), { label: 'Overpayment', working: 'Line 13 − line 12, not below zero.', settles: true });
  const quarters = [1, 2, 3, 4].map((quarter) =>
    sumOf(
      days.filter(({ payDate }) => quarterOf(payDate) === quarter),
      ['us.futa'],
    ),
  );
  const posted = quarters.reduce((all, amount) => all + amount, 0);
  const rounding = before - posted;
  if (total > SMALL)
    quarters.forEach((amount, index) => {
      const last = index === 3;
      lines.money(`16${'abcd'[index]}`, amount + (last ? total - posted : 0), {
        label: `Liability until ${writtenDate(lastOfMonth(year, index * 3 + 3))}`,
        codes: ['us.futa'],
        working:
          last && total !== posted
            ? 'Posted in the quarter, with credit reduction, adjustments and the rounding of the year.'
            : 'Posted in the quarter.',
      });
    });
  const covered = Object.entries(byPlace).filter(([, wages]) => wages !== 0);
  return {
    lines: lines.all,
    byDay: null,
    copies: [],
    checks: [
      {
        sentence: `Taxable wages ${written(taxable)} equal what the ledger has ${written(upToBase)}`,
        holds: taxable === upToBase,
      },
      {
        sentence: `The year's rounding ${written(rounding)} is no more than that of each payslip can make`,
        holds: Math.abs(rounding) * 2 <= days.reduce((all, day) => all + day.payslips, 0) + 1,
      },
      {
        sentence: `States in which somebody is covered: ${covered.map(([place]) => place.replace('US-', '') || 'none').join(', ') || 'none'}; all taxable wages are in one of them`,
        holds: !covered.some(([place]) => place === ''),
      },
    ],
    source: `IRS, Instructions for Form 940 and Schedule A (${year}); line numbers as on the form of that year`,
  };
}

/** What states that owe the federal fund take of the credit, by the dated tables. */
function creditReduction(byPlace: FilingFacts['byPlace'], date: string) {
  const unconfirmed: string[] = [];
  const reduced = Object.entries(byPlace).flatMap(([place, wages]) => {
    const code = atPlace('us.futa.credit-reduction', place || undefined);
    if (!place || !wages || !tables.has(code, date)) return [];
    const { value, source } = tables.value(code, date);
    const state = place.replace('US-', '');
    if (source.unconfirmed) unconfirmed.push(state);
    return [{ state, wages, percent: value.toDecimal(), amount: percentOf(wages, value) }];
  });
  return { reduced, unconfirmed };
}
