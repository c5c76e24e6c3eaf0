import { dateOf } from '../../../calendar/dates';
import type { BoxRule } from '../../../filings/boxes';
import type { Box, Copy, CopyCheck, Filing, FilingFacts, FilingPeriod, MadeFiling, PersonSums } from '../../../filings/filing';
import { Exact } from '../../../money/exact';
import { round } from '../../../money/roundings';
import { written, type Minor } from '../../../money/amounts';
import { FRINGE, FRINGE_EXEMPT } from '../codes';
import { finalisationFile } from '../files/finalisation-xml';
import { tables } from '../tables';
import { taxYearLabel } from '../tax-year';
import { STATED } from './stated';

/** What an income statement shows, in our own order; each has what the pay events have stated. */
export const BOXES: readonly BoxRule[] = [
  ...STATED.map(({ key, label, codes }): BoxRule => ({
    box: key,
    label,
    codes,
    ...(key === 'gross' || key === 'withheld' ? { always: true as const } : {}),
  })),
  { box: 'fringe T', label: 'Reportable fringe benefits', codes: [FRINGE] },
  { box: 'fringe X', label: 'Reportable fringe benefits, exempt employer', codes: [FRINGE_EXEMPT] },
];

const yearsOf = (year: number): FilingPeriod[] => {
  const to = dateOf(year, 6, 30);
  return [
    {
      key: taxYearLabel(to),
      label: `tax year ${taxYearLabel(to)}`,
      from: dateOf(year - 1, 7, 1),
      to,
      due: dateOf(year, 7, 14),
      taxYear: taxYearLabel(to),
      ahead: true,
    },
  ];
};

/** The finalisation of a year's pay events, by 14 July: with it everybody's income statement is final, and can be amended after. */
export const finalisation: Filing = {
  code: 'finalisation',
  form: 'Finalisation',
  name: 'Pay events of the year, final, and income statements',
  agency: 'Australian Taxation Office',
  every: 'year',
  from: 'people',
  periods: yearsOf,
  make: statements,
  file: finalisationFile,
  copies: {
    name: 'Income statement',
    first: ['gross', 'withheld'],
    of: 'employees',
    boxes: BOXES,
    noBox: {
      'after-tax': 'Taken after tax: it changes neither pay nor tax',
      'super-after-tax': "The member's own contribution out of pay after tax",
      'garnishee-order': 'Taken by an order after tax: it changes neither pay nor tax',
      expenses: 'Expenses paid back are no pay',
      'allowance-reasonable': 'Within the reasonable amount it is neither withheld from nor stated',
      'super-required': 'Super that an award requires is not reportable',
      redundancy: 'Tax-free up to the limit (lump sum D), over it a termination payment with code R: stated as such by the payslip',
      'notice-pay': 'A termination payment with code O, of a genuine redundancy with its tax-free part: stated as such by the payslip',
      etp: 'A termination payment with code O',
      'etp-excluded': 'A termination payment with code R',
      'death-benefit-dependant': 'A termination payment with code D',
      'death-benefit-other': 'A termination payment with code N',
      'death-benefit-estate': 'A termination payment with code T',
      'unused-leave': 'By the reason of leaving lump sum A or unused leave: stated as such by the payslip',
      'unused-service-leave': 'By accrual and reason lump sum A or B, or unused leave: stated as such by the payslip',
    },
    corrected: 'Income statement, amended',
    some: true,
  },
  statement: 'I declare the information finalised is true and correct, and that I am authorised to make this declaration.',
};

function statements({ people, period, days }: FilingFacts): MadeFiling {
  const paid = people.filter(({ sums }) => BOXES.some(({ codes }) => codes.some((code) => sums[code])));
  const copies = paid.map((person): Copy => ({
    personId: person.personId,
    boxes: boxesOf(person, period.to),
    marks: [],
    checks: checksOf(person),
  }));
  const sumOf = (sums: Readonly<Record<string, Minor>>, codes: readonly string[]): Minor =>
    codes.reduce((all, code) => all + (sums[code] ?? 0), 0);
  const posted = (codes: readonly string[]): Minor => days.reduce((all, { sums }) => all + sumOf(sums, codes), 0);
  const stated = (codes: readonly string[]): Minor => people.reduce((all, { sums }) => all + sumOf(sums, codes), 0);
  return {
    lines: [
      {
        line: 'people',
        label: 'Income statements',
        amount: copies.length,
        unit: 'count',
        codes: [],
        working: 'Everybody who was paid in the tax year, whenever it was earned; leavers too.',
      },
      ...STATED.filter(({ key, codes }) => key === 'gross' || key === 'withheld' || posted(codes)).map(({ key, label, codes }) => ({
        line: key,
        label,
        amount: posted(codes),
        unit: 'money' as const,
        codes: [...codes],
        working: `Posted in tax year ${period.taxYear}.`,
        ...(key === 'withheld' ? { sum: true as const } : {}),
      })),
    ],
    byDay: null,
    copies,
    checks: STATED.filter(({ codes }) => posted(codes) || stated(codes)).map(({ label, codes }) => ({
      sentence: `${label} of all people ${written(stated(codes))} equals the ledger's ${written(posted(codes))}`,
      holds: stated(codes) === posted(codes),
    })),
    source: 'ATO, Single Touch Payroll: finalising data of the year; income statements as shown by the agency, the layout is our own',
  };
}

/** Fringe benefits are stated grossed up, and only over the threshold of taxable value. */
function boxesOf({ sums }: PersonSums, on: string): Box[] {
  return BOXES.flatMap(({ box, label, codes, always }): Box[] => {
    const amount = codes.reduce((all, code) => all + (sums[code] ?? 0), 0);
    if (!amount && !always) return [];
    if (box !== 'fringe T' && box !== 'fringe X') return [{ box, label, amount, codes: [...codes] }];
    if (!Exact.minor(amount).isAbove(tables.value('au.fringe.threshold', on).value)) return [];
    // Whole dollars, cents left out, as they are reported.
    const grossed = round(Exact.minor(amount).times(tables.value('au.fringe.gross-up', on).value), 'down', 0).toMinor();
    return [{ box, label: `${label}, grossed up`, amount: grossed, codes: [...codes] }];
  });
}

/** What keeps one person's statement from being final, and not the others'. */
function checksOf({ number, shared, address, sums, details }: PersonSums): CopyCheck[] {
  const checks: CopyCheck[] = [];
  if (!number && details['numberQuoted'] !== 'no' && details['numberQuoted'] !== 'exempt')
    checks.push({
      code: 'number',
      weight: 'stop',
      sentence: 'No tax file number is on file: enter it, or with the tax details that none was quoted',
    });
  if (shared) checks.push({ code: 'shared', weight: 'stop', sentence: 'Somebody else has the same tax file number' });
  if (!address) checks.push({ code: 'address', weight: 'stop', sentence: 'No full address is on file' });
  if (STATED.some(({ codes }) => codes.reduce((all, code) => all + (sums[code] ?? 0), 0) < 0))
    checks.push({
      code: 'below',
      weight: 'stop',
      sentence: 'Something of the year is less than nothing: correct the payslip that made it so',
    });
  return checks;
}
