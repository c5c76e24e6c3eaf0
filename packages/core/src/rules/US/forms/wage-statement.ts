import { calendarYear } from './periods';
import { efw2 } from '../files/efw2';
import type { Copy, Filing, FilingCheck, FilingFacts, FilingLine, MadeFiling, Mark, PersonSums } from '../../../filings/filing';
import type { Box } from '../../../filings/filing';
import { yearOf } from '../../../calendar/dates';
import { written as writtenAmount, type Minor } from '../../../money/amounts';
import { BOXES, boxesOf, ITEM_BOXES, MARKS, NO_BOX } from './wage-boxes';
import { checksOf } from './wage-checks';

const SICK_PAY_TAX = 'W-3 14';

/** Wage and tax statements of a year (Forms W-2), with their totals (Form W-3). */
export const formW2: Filing = {
  code: 'w-2',
  form: 'Form W-2',
  name: 'Wage statements',
  agency: 'Social Security Administration',
  every: 'year',
  from: 'people',
  /** To the people and to the agency by 31 January (26 U.S.C. 6051(a), 6071(c)). */
  periods: calendarYear,
  make: wageStatements,
  file: efw2,
  against: ['941', '944'],
  enters: [
    {
      line: SICK_PAY_TAX,
      label: 'Income tax withheld by a payer of third-party sick pay',
      help: 'Box 14 of Form W-3: from the statement of the third party',
    },
  ],
  copies: {
    name: 'Form W-2',
    first: ['1', '2', '3', '4', '5', '6'],
    of: 'employees',
    boxes: BOXES,
    itemBoxes: ITEM_BOXES,
    noBox: NO_BOX,
    marks: MARKS,
    corrected: 'Form W-2c',
    sets: [
      'Copy B, with the federal tax return',
      'Copy C, for your records',
      'Copy 2, with the state tax return',
      'Copy 2, with the local tax return',
    ],
    totals: 'Form W-3',
  },
  statement:
    'I have looked at these statements and their totals. To the best of my knowledge and belief they are true, correct and complete.',
};

function wageStatements({ period, people, days, items, filed, entered, employer }: FilingFacts): MadeFiling {
  const year = yearOf(period.to);
  // Who was paid as a contractor only has no wages to state.
  const stated = people
    .map((person) => ({ person, boxes: boxesOf(year, person.sums, items) }))
    .filter(({ boxes }) => boxes.some((box) => box.amount));
  const copies: Copy[] = stated.map(({ person, boxes }) => ({
    personId: person.personId,
    boxes,
    marks: marksOf(year, boxes, person),
    checks: checksOf(year, boxes, person),
  }));
  const posted: Record<string, Minor> = {};
  for (const { sums } of days) for (const [code, amount] of Object.entries(sums)) posted[code] = (posted[code] ?? 0) + amount;
  const lines = boxesOf(year, posted, items).map(({ box, label, codes, amount }): FilingLine => ({
    line: box,
    label,
    amount,
    unit: 'money',
    codes,
    working: 'Posted in the year.',
  }));
  const sickPay = entered[SICK_PAY_TAX];
  return {
    lines: [
      { line: 'c', label: 'Statements', amount: copies.length, unit: 'count', codes: [], working: 'People with anything to state.' },
      ...lines,
      ...(sickPay
        ? [
            {
              line: SICK_PAY_TAX,
              label: 'Income tax withheld by a payer of third-party sick pay',
              amount: sickPay.amount,
              unit: 'money' as const,
              codes: [],
              working: `Entered: ${sickPay.reason}`,
            },
          ]
        : []),
    ],
    byDay: null,
    copies,
    checks: [
      ...lines.map(({ line, amount }) => {
        const sum = copies.reduce((all, { boxes }) => all + (boxes.find(({ box }) => box === line)?.amount ?? 0), 0);
        return {
          sentence: `Box ${line} of all statements ${writtenAmount(sum)}, ledger ${writtenAmount(amount)}`,
          holds: sum === amount,
        };
      }),
      ...againstReturns(lines, filed, employer['federalReturn'] === '944'),
    ],
    source: `IRS, General Instructions for Forms W-2 and W-3 (${year})`,
  };
}

/** Boxes of Form W-3, with the lines of the quarterly and of the yearly return that they must equal (Publication 15, section 12). */
const RECONCILED: readonly { box: string; quarterly: string; yearly: string }[] = [
  { box: '2', quarterly: '3', yearly: '2' },
  { box: '3', quarterly: '5a (1)', yearly: '4a (1)' },
  { box: '7', quarterly: '5b (1)', yearly: '4b (1)' },
  { box: '5', quarterly: '5c (1)', yearly: '4c (1)' },
];

/** The year's statements against its returns as they were filed, once all of them are. */
function againstReturns(lines: readonly FilingLine[], filed: FilingFacts['filed'], byYear: boolean): FilingCheck[] {
  const returns = filed[byYear ? '944' : '941'];
  if (!returns || returns.periods < (byYear ? 1 : 4)) return [];
  return RECONCILED.flatMap(({ box, quarterly, yearly }) => {
    const [stated, reported] = [lines.find(({ line }) => line === box)?.amount ?? 0, returns.lines[byYear ? yearly : quarterly] ?? 0];
    if (!stated && !reported) return [];
    return [
      {
        sentence: `Box ${box} of all statements ${writtenAmount(stated)}, ${byYear ? 'Form 944' : 'the four Forms 941'} as filed ${writtenAmount(reported)}`,
        holds: stated === reported,
        weight: 'look' as const,
      },
    ];
  });
}

/** Boxes that take part in a plan of the employer's. */
const PLAN_BOXES = ['12 D', '12 E', '12 F', '12 S', '12 AA', '12 BB'];

/** What is marked or written and no amount: box 13, and from 2026 the occupation of who receives tips, box 14b. */
function marksOf(year: number, boxes: readonly Box[], { details, marked }: PersonSums): Mark[] {
  const has = (names: readonly string[]) => boxes.some(({ box, amount }) => names.includes(box) && amount !== 0);
  const occupation = details['tippedOccupation'];
  const derived: Record<string, string> = { '13 plan': has(PLAN_BOXES) ? 'X' : '' };
  return [
    ...MARKS.flatMap(({ box, label }) => {
      const text = marked[box]?.text ?? derived[box] ?? '';
      return text ? [{ box, label, text }] : [];
    }),
    ...(year >= 2026 && has(['12 TP']) && typeof occupation === 'string'
      ? [{ box: '14b', label: 'Occupation of who receives tips', text: occupation }]
      : []),
  ];
}
