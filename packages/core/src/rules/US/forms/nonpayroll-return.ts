import { calendarYear } from './periods';
import { written } from '../../../money/amounts';
import type { Filing, FilingFacts, MadeFiling } from '../../../filings/filing';
import { liabilityByDay } from '../../../filings/earlier';
import { Lines } from '../../../filings/lines';
import { yearOf } from '../../../calendar/dates';
import { BACKUP } from '../federal/backup-withholding';
import { returnFile } from '../files/returns-xml';
import { amendUntil } from './limitation';
import { sumOf } from './withheld-taxes';

/** Annual return of withheld federal income tax of payments that are no wages (Form 945). */
export const form945: Filing = {
  code: '945',
  form: 'Form 945',
  name: 'Withheld from payments that are no wages',
  agency: 'Internal Revenue Service',
  every: 'year',
  from: 'days',
  only: BACKUP,
  periods: calendarYear,
  make: nonpayrollReturn,
  file: returnFile('945'),
  owed: 'us.backup-deposit',
  amendUntil,
  statement:
    'I have looked at this return. To the best of my knowledge and belief it is true, correct and complete, and I may sign it for the employer.',
};

function nonpayrollReturn(facts: FilingFacts): MadeFiling {
  const { period, days, paid, entered } = facts;
  const lines = new Lines(entered, []);
  const withheld = lines.money('2', sumOf(days, [BACKUP]), {
    label: 'Backup withholding',
    codes: [BACKUP],
    working: 'Backup withholding posted in the year.',
  });
  const total = lines.money('3', withheld, {
    label: 'Total taxes',
    working: 'Line 2; nothing is withheld from pensions or gambling here.',
    sum: true,
  });
  const deposits = lines.money('4', paid, { label: 'Deposits for the year', working: 'Deposits recorded for the year.', settles: true });
  lines.money('5', Math.max(0, total - deposits), { label: 'Balance due', working: 'Line 3 − line 4, not below zero.', settles: true });
  lines.money('6', Math.max(0, deposits - total), { label: 'Overpayment', working: 'Line 4 − line 3, not below zero.', settles: true });
  const byDay = liabilityByDay(facts, [BACKUP]);
  const liability = byDay.reduce((all, { amount }) => all + amount, 0);
  return {
    lines: lines.all,
    byDay: { title: 'Liability by pay date', codes: [BACKUP], days: byDay },
    copies: [],
    checks: [{ sentence: `Liability by date ${written(liability)} equals line 3 ${written(total)}`, holds: liability === total }],
    source: `IRS, Instructions for Form 945 (${yearOf(period.to)}); line numbers as on the form of 2024, unconfirmed for later ones`,
  };
}
