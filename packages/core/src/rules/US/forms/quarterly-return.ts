import { quarters } from './periods';
import { written, type Minor } from '../../../money/amounts';
import { dateOf, lastOfMonth, monthOf, writtenDate, writtenMonth, yearOf, type IsoDate } from '../../../calendar/dates';
import type { Filing, FilingFacts, MadeFiling } from '../../../filings/filing';
import { Lines } from '../../../filings/lines';
import { amendUntil } from './limitation';
import { returnFile } from '../files/returns-xml';
import { FEDERAL_LIABILITY as LIABILITY } from '../federal/liability';
import { fractionsOf, withheldChecks, withheldTaxes } from './withheld-taxes';

const NUMBERS = { wages: '2', withheld: '3', social: '5a', tips: '5b', medicare: '5c', additional: '5d', shares: '5e', before: '6' };

/** Below so much in this quarter no liability by month or date is asked for, unless a next-day deposit was due (Instructions for Form 941, line 16). */
export const SMALL: Minor = 250_000;

/** Employer's quarterly federal tax return (Form 941) with the liability by date (Schedule B). */
export const form941: Filing = {
  code: '941',
  form: 'Form 941',
  name: 'Federal quarterly return',
  agency: 'Internal Revenue Service',
  every: 'quarter',
  from: 'days',
  /** Due at the end of the month after the quarter; a day that is no business day moves to the next one (26 CFR 31.6071(a)-1, 26 U.S.C. 7503). */
  periods: quarters,
  counts: { on: ({ to }) => [dateOf(yearOf(to), monthOf(to), 12)] },
  make: quarterlyReturn,
  file: returnFile('941'),
  owed: 'us.deposit',
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
    {
      line: '11',
      label: 'Small business payroll tax credit for increasing research activities',
      help: 'From Form 8974, as a positive amount',
    },
  ],
  // Taxes are what the rates make of the wages, sums what the form adds up: there the form leaves no room.
  overrides: ['1', '2', '3', '5a (1)', '5b (1)', '5c (1)', '5d (1)', '13'],
  amendUntil,
  statement:
    'I have looked at this return. To the best of my knowledge and belief it is true, correct and complete, and I may sign it for the employer.',
};

/**
 * Lines of the return. Line 7 takes up the fractions of cents between taxes withheld per payslip and the rates applied to
 * the quarter's wages.
 */
function quarterlyReturn(facts: FilingFacts): MadeFiling {
  const { period, headcounts, paid, entered, employer } = facts;
  const [year, quarterMonth] = [yearOf(period.to), monthOf(period.to)];
  const lines = new Lines(entered, form941.overrides ?? []);
  lines.count('1', headcounts[0] ?? 0, {
    label: `Employees paid for the pay period that includes ${writtenDate(dateOf(year, quarterMonth, 12))}`,
    working: 'People with a payslip whose period includes that day.',
  });
  const withheld = withheldTaxes(facts, lines, NUMBERS);
  const others = lines.given('8') + lines.given('9');
  const { amount: fractions, ...words } = fractionsOf(withheld, facts, others);
  lines.money('7', fractions, { label: 'Adjustment for fractions of cents', ...words });
  enteredLine(lines, '8', entered);
  enteredLine(lines, '9', entered);
  const after = lines.money('10', withheld.before + fractions + others, {
    label: 'Taxes after adjustments',
    working: others ? 'Lines 6 to 9.' : 'Line 6 + line 7.',
  });
  const credit = enteredLine(lines, '11', entered);
  const total = lines.money('12', after - credit, {
    label: 'Taxes after adjustments and credits',
    codes: LIABILITY,
    working: credit ? 'Line 10 − line 11.' : 'Line 10; no credits are claimed.',
    sum: true,
  });
  const deposits = lines.money('13', paid, {
    label: 'Deposits for the quarter',
    working: 'Deposits recorded for the quarter.',
    settles: true,
  });
  lines.money('14', Math.max(0, total - deposits), { label: 'Balance due', working: 'Line 12 − line 13, not below zero.', settles: true });
  lines.money('15', Math.max(0, deposits - total), { label: 'Overpayment', working: 'Line 13 − line 12, not below zero.', settles: true });
  const byDay = lessCredit(withheld.byDay, credit);
  const semiweekly = employer['depositor'] === 'semiweekly';
  if (!semiweekly && total >= SMALL)
    for (const month of [quarterMonth - 2, quarterMonth - 1, quarterMonth]) {
      const first = dateOf(year, month, 1);
      lines.money(`16, month ${month - quarterMonth + 3}`, amountIn(byDay, first, lastOfMonth(year, month)), {
        label: `Liability of ${writtenMonth(first)}`,
        working: 'Liability by pay date, of the month; Line 12 in all.',
      });
    }
  const liability = byDay.reduce((all, { amount }) => all + amount, 0);
  return {
    lines: lines.all,
    byDay: { title: semiweekly ? 'Liability by pay date, Schedule B' : 'Liability by pay date', codes: LIABILITY, days: byDay },
    copies: [],
    checks: [
      { sentence: `Liability by date ${written(liability)} equals line 12 ${written(total)}`, holds: liability === total },
      ...withheldChecks(withheld, facts, { line: '7', amount: fractions }),
      {
        sentence: `The credit of line 11, ${written(credit)}, is not more than line 10`,
        holds: credit >= 0 && credit <= Math.max(0, after),
      },
    ],
    source: `IRS, Instructions for Form 941 (${year}); line numbers as on the form of that year`,
  };
}

/** A line that is entered; left out where nothing is. */
function enteredLine(lines: Lines, line: string, entered: FilingFacts['entered']): Minor {
  const one = entered[line];
  const rule = form941.enters?.find((each) => each.line === line);
  if (!one?.amount || !rule) return 0;
  return lines.money(line, one.amount, { label: rule.label, working: `Entered: ${one.reason}` });
}

const amountIn = (days: readonly { date: IsoDate; amount: Minor }[], from: IsoDate, to: IsoDate): Minor =>
  days.filter(({ date }) => date >= from && date <= to).reduce((all, { amount }) => all + amount, 0);

/** A credit lowers the liability of the quarter's first pay dates until it is used up (Instructions for Form 8974). */
function lessCredit(days: readonly { date: IsoDate; amount: Minor }[], credit: Minor): { date: IsoDate; amount: Minor }[] {
  let left = credit;
  return days.map(({ date, amount }) => {
    const used = Math.min(left, Math.max(0, amount));
    left -= used;
    return { date, amount: amount - used };
  });
}
