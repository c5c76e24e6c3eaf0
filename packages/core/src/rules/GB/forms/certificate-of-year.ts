import { dateOf } from '../../../calendar/dates';
import type { BoxRule } from '../../../filings/boxes';
import type { Box, Copy, CopyCheck, Filing, FilingFacts, FilingPeriod, MadeFiling, PersonSums } from '../../../filings/filing';
import { minorOf, type Minor } from '../../../money/amounts';
import { attachments } from '../attachments';
import { LETTERS } from '../letters';
import { RECOVERED } from '../statutory-codes';
import { taxYearLabel } from '../tax-year';

const PAY = 'gb.paye.pay';
const TAX = 'gb.paye';
const NI = [
  ['to-lower', 'earnings at the lower earnings limit'],
  ['to-primary', 'earnings to the primary threshold'],
  ['to-upper', 'earnings to the upper earnings limit'],
  ['employee', "employee's contributions"],
] as const;

/** In our own order: pay and tax, contributions by category, statutory pay, loans. */
const BOXES: readonly BoxRule[] = [
  { box: 'pay', label: 'Pay in this employment', codes: [PAY], always: true },
  { box: 'tax', label: 'Tax deducted in this employment', codes: [TAX], always: true },
  ...Object.keys(LETTERS).flatMap((letter) =>
    NI.map(([what, label]): BoxRule => ({ box: `NI ${letter}`, label: `${letter}, ${label}`, codes: [`gb.ni.${letter}.${what}`] })),
  ),
  ...Object.entries(RECOVERED).map(([code, name]): BoxRule => ({
    box: code.slice('gb.'.length),
    label: `${name}, in the pay above`,
    codes: [code],
  })),
  { box: 'loan', label: 'Student loan', codes: ['gb.student-loan'] },
  { box: 'pg loan', label: 'Postgraduate loan', codes: ['gb.postgraduate-loan'] },
];

const yearsOf = (year: number): FilingPeriod[] => [
  {
    key: taxYearLabel(dateOf(year, 4, 5)),
    label: `tax year ${taxYearLabel(dateOf(year, 4, 5))}`,
    from: dateOf(year - 1, 4, 6),
    to: dateOf(year, 4, 5),
    due: dateOf(year, 5, 31),
    taxYear: taxYearLabel(dateOf(year, 4, 5)),
  },
];

/** What everybody who is employed on 5 April is given by 31 May (Income Tax (PAYE) Regulations 2003, regulation 67). */
export const certificateOfYear: Filing = {
  code: 'p60',
  form: 'P60',
  name: 'Certificates of pay and tax',
  agency: 'the people themselves',
  every: 'year',
  from: 'people',
  periods: yearsOf,
  make: certificates,
  unanswered: true,
  copies: {
    name: 'P60',
    first: ['pay', 'tax'],
    of: 'employees',
    boxes: BOXES,
    noBox: {
      expenses: 'Expenses paid back are no pay',
      'after-tax': 'Taken after tax: it changes neither pay nor tax',
      'pension-relief-at-source': 'Taken after tax, and the scheme claims the relief: it changes no pay',
      'termination-award': 'Of an award only what is over the exempt sum is pay, and stands in it',
      ...Object.fromEntries(attachments.map(({ code }) => [code, 'Taken by an order after tax: it changes neither pay nor tax'])),
      'employer-plan': "The employer's own contribution is no pay",
    },
    corrected: 'P60, replacement',
  },
  statement: 'I have looked at these certificates. To the best of my knowledge and belief they are correct and complete.',
};

function certificates({ people, period, days }: FilingFacts): MadeFiling {
  const employed = people.filter(({ left, sums }) => (left === undefined || left > period.to) && (sums[PAY] ?? 0) !== 0);
  const copies = employed.map((person): Copy => ({
    personId: person.personId,
    boxes: boxesOf(person, period.taxYear),
    marks: [
      {
        box: 'code',
        label: 'Tax code at the end of the year',
        text: `${text(person, 'taxCode')}${text(person, 'basis') === 'week-1-month-1' ? ' week 1 / month 1' : ''}`,
      },
    ],
    checks: checksOf(person),
  }));
  const posted = (code: string): Minor => days.reduce((all, { sums }) => all + (sums[code] ?? 0), 0);
  const stated = (code: string): Minor => people.reduce((all, { sums }) => all + (sums[code] ?? 0), 0);
  const gone = people.length - employed.length;
  return {
    lines: [
      {
        line: 'certificates',
        label: 'Certificates',
        amount: copies.length,
        unit: 'count',
        codes: [],
        working: 'People employed on 5 April who were paid in the year.',
      },
      ...(
        [
          ['pay', PAY, 'Pay of the year'],
          ['tax', TAX, 'Tax of the year'],
        ] as const
      ).map(([line, code, label]) => ({
        line,
        label,
        amount: posted(code),
        unit: 'money' as const,
        codes: [code],
        working: `Posted in tax year ${period.taxYear}, leavers included.`,
        ...(line === 'tax' ? { sum: true as const } : {}),
      })),
    ],
    byDay: null,
    copies,
    checks: [
      ...([PAY, TAX] as const).map((code) => ({
        sentence: `${code === PAY ? 'Pay' : 'Tax'} of all people equals the ledger`,
        holds: posted(code) === stated(code),
      })),
      {
        sentence: gone ? `${gone} who left within the year or had no pay get none` : 'Everybody who was paid gets one',
        holds: true,
        weight: 'look' as const,
      },
    ],
    source: 'HMRC, RD1 guidance on substitute certificates of pay and tax: what they state; the layout is our own',
  };
}

const text = ({ details }: PersonSums, key: string): string => (typeof details[key] === 'string' ? details[key] : '');

/** Pay and tax of an earlier employment of the year stand beside those of this one. */
function boxesOf(person: PersonSums, taxYear: string): Box[] {
  const { sums } = person;
  const boxes = BOXES.flatMap(({ box, label, codes, always }): Box[] => {
    const amount = codes.reduce((all, code) => all + (sums[code] ?? 0), 0);
    return amount || always ? [{ box, label, amount, codes: [...codes] }] : [];
  });
  if (text(person, 'previousYear') !== taxYear) return boxes;
  const [pay, tax] = [minorOf(text(person, 'previousPay') || '0'), minorOf(text(person, 'previousTax') || '0')];
  const earlier: Box[] = [
    { box: 'before', label: 'Pay in earlier employments', amount: pay, codes: [] },
    { box: 'before', label: 'Tax deducted in earlier employments', amount: tax, codes: [] },
    { box: 'total', label: 'Pay of the year', amount: pay + (sums[PAY] ?? 0), codes: [] },
    { box: 'total', label: 'Tax of the year', amount: tax + (sums[TAX] ?? 0), codes: [] },
  ];
  return [...boxes.slice(0, 2), ...earlier, ...boxes.slice(2)];
}

function checksOf(person: PersonSums): CopyCheck[] {
  const checks: CopyCheck[] = [];
  if (!person.number) checks.push({ code: 'number', weight: 'look', sentence: 'No National Insurance number is on file' });
  if (person.shared) checks.push({ code: 'shared', weight: 'stop', sentence: 'Somebody else has the same National Insurance number' });
  if (!text(person, 'taxCode')) checks.push({ code: 'code', weight: 'stop', sentence: 'No tax code is on file at the end of the year' });
  return checks;
}
