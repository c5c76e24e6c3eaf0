import { calendarYear } from './periods';
import { yearOf } from '../../../calendar/dates';
import type { CopyCheck, Filing, FilingFacts, MadeFiling } from '../../../filings/filing';
import { Lines } from '../../../filings/lines';
import { written } from '../../../money/amounts';
import { person } from '../identity';
import { tables } from '../tables';
import { sumOf } from './withheld-taxes';

const CODE = 'us.nonemployee';

/** What contractors were paid in a year (Forms 1099-NEC), with their totals (Form 1096). */
export const form1099Nec: Filing = {
  code: '1099-nec',
  form: 'Form 1099-NEC',
  name: 'Nonemployee compensation',
  agency: 'Internal Revenue Service',
  every: 'year',
  from: 'people',
  only: CODE,
  /** To the contractors and to the agency by 31 January (26 U.S.C. 6071(c)). */
  periods: calendarYear,
  make: nonemployeeCompensation,
  copies: { name: 'Form 1099-NEC', first: ['1'] },
  statement:
    'I have looked at these statements and their totals. To the best of my knowledge and belief they are true, correct and complete.',
};

function nonemployeeCompensation({ period, people, days, entered }: FilingFacts): MadeFiling {
  const year = yearOf(period.to);
  const least = tables.value('us.nonemployee.threshold', period.to);
  const paid = people.filter(({ sums }) => (sums[CODE] ?? 0) !== 0);
  const stated = paid.filter(({ sums }) => (sums[CODE] ?? 0) >= least.value.toMinor());
  const copies = stated.map(({ personId, name, number, shared, address, sums }) => {
    const checks: CopyCheck[] = [];
    if (!number)
      checks.push({
        code: 'number-missing',
        weight: 'stop',
        sentence: `${name} has no taxpayer identification number on file. Ask for Form W-9; until it is there, payments are subject to backup withholding.`,
      });
    else if (!person.number.isOne(number))
      checks.push({ code: 'number-invalid', weight: 'stop', sentence: `The number of ${name} cannot exist. Compare it with Form W-9.` });
    if (shared) checks.push({ code: 'number-shared', weight: 'stop', sentence: `The number of ${name} is on file for somebody else too.` });
    if (!address) checks.push({ code: 'address-missing', weight: 'look', sentence: `${name} has no full postal address.` });
    return {
      personId,
      boxes: [{ box: '1', label: 'Nonemployee compensation', amount: sums[CODE] ?? 0, codes: [CODE] }],
      marks: [],
      checks,
    };
  });
  const lines = new Lines(entered, []);
  lines.count('c', copies.length, {
    label: 'Statements',
    working: `Contractors who were paid ${written(least.value.toMinor())} or more in the year.`,
  });
  const total = stated.reduce((sum, { sums }) => sum + (sums[CODE] ?? 0), 0);
  lines.money('1', total, { label: 'Nonemployee compensation', codes: [CODE], working: 'Box 1 of all statements.', sum: true });
  const below = paid.reduce((sum, { sums }) => sum + (sums[CODE] ?? 0), 0) - total;
  if (below) lines.money('less', below, { label: 'Paid to contractors below that', working: 'Paid, and on no statement.' });
  const posted = sumOf(days, [CODE]);
  return {
    lines: lines.all,
    byDay: null,
    copies,
    checks: [
      {
        sentence: `Statements ${written(total)} and what is below ${written(below)} equal the ledger's ${written(posted)}`,
        holds: total + below === posted,
      },
    ],
    source: `${least.source.publication}; IRS, Instructions for Forms 1099-MISC and 1099-NEC (${year})`,
  };
}
