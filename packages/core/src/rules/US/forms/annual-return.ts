import { calendarYear } from './periods';
import { written } from '../../../money/amounts';
import { dateOf, lastOfMonth, writtenMonth, yearOf } from '../../../calendar/dates';
import type { Filing, FilingFacts, MadeFiling } from '../../../filings/filing';
import { Lines } from '../../../filings/lines';
import { amendUntil } from './limitation';
import { returnFile } from '../files/returns-xml';
import { FEDERAL_LIABILITY as LIABILITY } from '../federal/liability';
import { SMALL } from './quarterly-return';
import { fractionsOf, withheldChecks, withheldTaxes } from './withheld-taxes';

const NUMBERS = { wages: '1', withheld: '2', social: '4a', tips: '4b', medicare: '4c', additional: '4d', shares: '4e', before: '5' };

/** Employer's annual federal tax return (Form 944), in place of the quarterly ones for whom the agency has notified. */
export const form944: Filing = {
  code: '944',
  form: 'Form 944',
  name: 'Federal annual return',
  agency: 'Internal Revenue Service',
  every: 'year',
  from: 'days',
  periods: calendarYear,
  make: annualReturn,
  file: returnFile('944'),
  owed: 'us.deposit',
  overrides: ['1', '2', '4a (1)', '4b (1)', '4c (1)', '4d (1)', '10'],
  amendUntil,
  statement:
    'I have looked at this return. To the best of my knowledge and belief it is true, correct and complete, and I may sign it for the employer.',
};

function annualReturn(facts: FilingFacts): MadeFiling {
  const year = yearOf(facts.period.to);
  const lines = new Lines(facts.entered, form944.overrides ?? []);
  const withheld = withheldTaxes(facts, lines, NUMBERS);
  const { amount: fractions, ...words } = fractionsOf(withheld, facts, 0);
  lines.money('6', fractions, { label: "Current year's adjustments", ...words });
  const after = lines.money('7', withheld.before + fractions, { label: 'Taxes after adjustments', working: 'Line 5 + line 6.' });
  const total = lines.money('9', after, {
    label: 'Taxes after adjustments and credits',
    codes: LIABILITY,
    working: 'Line 7; no credits are claimed.',
    sum: true,
  });
  const deposits = lines.money('10', facts.paid, {
    label: 'Deposits for the year',
    working: 'Deposits recorded for the year.',
    settles: true,
  });
  lines.money('11', Math.max(0, total - deposits), { label: 'Balance due', working: 'Line 9 − line 10, not below zero.', settles: true });
  lines.money('12', Math.max(0, deposits - total), { label: 'Overpayment', working: 'Line 10 − line 9, not below zero.', settles: true });
  if (total >= SMALL)
    for (let month = 1; month <= 12; month++) {
      const [from, to] = [dateOf(year, month, 1), lastOfMonth(year, month)];
      lines.money(
        `13${String.fromCharCode(96 + month)}`,
        withheld.byDay.filter(({ date }) => date >= from && date <= to).reduce((all, { amount }) => all + amount, 0),
        {
          label: `Liability of ${writtenMonth(from)}`,
          working: 'Liability by pay date, of the month; line 9 in all.',
        },
      );
    }
  return {
    lines: lines.all,
    byDay: { title: 'Liability by pay date', codes: LIABILITY, days: withheld.byDay },
    copies: [],
    checks: [
      { sentence: `Liability by date ${written(withheld.total)} equals line 9 ${written(total)}`, holds: withheld.total === total },
      ...withheldChecks(withheld, facts, { line: '6', amount: fractions }),
    ],
    source: `IRS, Instructions for Form 944 (${year}); line numbers as on the form of 2024, unconfirmed for later ones`,
  };
}
