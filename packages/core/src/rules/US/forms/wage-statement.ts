import { calendarYear } from './periods';
import { Exact } from '../../../money/exact';
import { person } from '../identity';
import { tables } from '../tables';
import type { Box, Copy, CopyCheck, Filing, FilingFacts, FilingLine, MadeFiling, Mark, PersonSums } from '../../../filings/filing';
import { dateOf, yearOf } from '../../../calendar/dates';
import { written as writtenAmount, type Minor } from '../../../money/amounts';
import { efw2 } from '../files/efw2';
import { placeOfCode, whatOf } from '../../../ledger/codes';

interface BoxRule {
  box: string;
  label: string;
  codes: string[];
  /** Always printed, even when zero. */
  always?: true;
  /** The first year whose form has it. */
  since?: number;
}

const BOXES: readonly BoxRule[] = [
  { box: '1', label: 'Wages, tips, other compensation', codes: ['us.fit.wages', 'us.fit.not-withheld'], always: true },
  { box: '2', label: 'Federal income tax withheld', codes: ['us.fit'], always: true },
  { box: '3', label: 'Social security wages', codes: ['us.oasdi.wages'], always: true },
  { box: '4', label: 'Social security tax withheld', codes: ['us.oasdi'], always: true },
  { box: '5', label: 'Medicare wages and tips', codes: ['us.medicare.wages'], always: true },
  { box: '6', label: 'Medicare tax withheld', codes: ['us.medicare', 'us.medicare.additional'], always: true },
  { box: '7', label: 'Social security tips', codes: ['us.oasdi.tips'] },
  { box: '10', label: 'Dependent care benefits', codes: ['us.dependent-care'] },
  { box: '12 C', label: 'Cost of group term life insurance over 50,000', codes: ['us.box12.C'] },
  { box: '12 D', label: 'Deferrals to a 401(k) plan', codes: ['us.box12.D'] },
  { box: '12 E', label: 'Deferrals to a 403(b) plan', codes: ['us.box12.E'] },
  { box: '12 S', label: 'Deferrals to a SIMPLE plan', codes: ['us.simple-deferrals'] },
  { box: '12 W', label: 'Contributions to a health savings account', codes: ['us.hsa'] },
  { box: '12 AA', label: 'Roth contributions to a 401(k) plan', codes: ['us.box12.AA'] },
  { box: '12 BB', label: 'Roth contributions to a 403(b) plan', codes: ['us.box12.BB'] },
  { box: '12 DD', label: 'Cost of employer-sponsored health coverage', codes: ['us.box12.DD'] },
  // Public Law 119-21, sections 70201 and 70202; codes of the form of 2026.
  { box: '12 TP', label: 'Cash tips reported', codes: ['us.tips'], since: 2026 },
  { box: '12 TT', label: 'Qualified overtime', codes: ['us.box12.TT'], since: 2026 },
  { box: '14 vehicle', label: 'Use of a company vehicle', codes: ['us.box14.vehicle'] },
  { box: '14 dues', label: 'Union dues', codes: ['us.box14.dues'] },
];

/** Boxes that each state and locality has of its own: 14 for programmes withheld, 16 and 17, 18 and 19. */
const PLACED: readonly { box: string; label: string; what: string }[] = [
  { box: '14', label: 'Unemployment withheld', what: 'us.unemployment.employee' },
  { box: '14', label: 'Workforce development withheld', what: 'us.workforce' },
  { box: '14', label: 'Disability insurance withheld', what: 'us.disability' },
  { box: '14', label: 'Family leave withheld', what: 'us.family-leave' },
  { box: '14', label: 'Long-term care withheld', what: 'us.long-term-care' },
  { box: '14', label: 'Local services tax', what: 'us.local-services' },
  { box: '16', label: 'State wages', what: 'us.state-income.wages' },
  { box: '17', label: 'State income tax', what: 'us.state-income' },
  { box: '18', label: 'Local wages', what: 'us.local-income.wages' },
  { box: '19', label: 'Local income tax', what: 'us.local-income' },
];

/** A place as a box names it: the state's letters, and the locality's code or name. */
const written = (place: string): string => place.replace(/^US-/, '').replace('/', ' ');

/** Boxes of one person's wage statement (Form W-2) from the sums of the year's posted lines by code. */
const boxesOf = (year: number, sums: Readonly<Record<string, Minor>>): Box[] => [
  ...BOXES.filter(({ since }) => since === undefined || year >= since)
    .map((rule) => ({
      box: rule.box,
      label: rule.label,
      codes: rule.codes,
      amount: rule.codes.reduce((sum, code) => sum + (sums[code] ?? 0), 0),
      always: rule.always,
    }))
    .filter((box) => box.always || box.amount !== 0)
    .map(({ box, label, codes, amount }) => ({ box, label, codes, amount })),
  ...PLACED.flatMap(({ box, label, what }) =>
    Object.keys(sums)
      .filter((code) => whatOf(code) === what && sums[code] !== 0)
      .sort()
      .map((code) => ({
        box: `${box} ${written(placeOfCode(code))}`,
        label: `${label}, ${written(placeOfCode(code))}`,
        codes: [code],
        amount: sums[code] ?? 0,
      })),
  ),
];

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
  copies: { name: 'Form W-2', first: ['1', '2', '3', '4', '5', '6'] },
  statement:
    'I have looked at these statements and their totals. To the best of my knowledge and belief they are true, correct and complete.',
};

function wageStatements({ period, people, days }: FilingFacts): MadeFiling {
  const year = yearOf(period.to);
  // Who was paid as a contractor only has no wages to state.
  const stated = people
    .map((person) => ({ person, boxes: boxesOf(year, person.sums) }))
    .filter(({ boxes }) => boxes.some((box) => box.amount));
  const copies: Copy[] = stated.map(({ person, boxes }) => ({
    personId: person.personId,
    boxes,
    marks: marksOf(year, boxes, person.details),
    checks: checksOf(year, boxes, person),
  }));
  const posted: Record<string, Minor> = {};
  for (const { sums } of days) for (const [code, amount] of Object.entries(sums)) posted[code] = (posted[code] ?? 0) + amount;
  const lines = boxesOf(year, posted).map(({ box, label, codes, amount }): FilingLine => ({
    line: box,
    label,
    amount,
    unit: 'money',
    codes,
    working: 'Posted in the year.',
  }));
  return {
    lines: [
      { line: 'c', label: 'Statements', amount: copies.length, unit: 'count', codes: [], working: 'People with anything to state.' },
      ...lines,
    ],
    byDay: null,
    copies,
    checks: lines.map(({ line, amount }) => {
      const stated = copies.reduce((sum, { boxes }) => sum + (boxes.find(({ box }) => box === line)?.amount ?? 0), 0);
      return {
        sentence: `Box ${line} of all statements ${writtenAmount(stated)}, ledger ${writtenAmount(amount)}`,
        holds: stated === amount,
      };
    }),
    source: `IRS, General Instructions for Forms W-2 and W-3 (${year})`,
  };
}

/** Boxes that take part in a plan of the employer's. */
const PLAN_BOXES = ['12 D', '12 E', '12 S', '12 AA', '12 BB'];

/** What is marked or written and no amount: box 13, and from 2026 the occupation of who receives tips, box 14b. */
function marksOf(year: number, boxes: readonly Box[], details: Readonly<Record<string, unknown>>): Mark[] {
  const has = (names: readonly string[]) => boxes.some(({ box, amount }) => names.includes(box) && amount !== 0);
  const occupation = details['tippedOccupation'];
  return [
    ...(has(PLAN_BOXES) ? [{ box: '13', label: 'Retirement plan', text: 'X' }] : []),
    ...(year >= 2026 && has(['12 TP']) && typeof occupation === 'string'
      ? [{ box: '14b', label: 'Occupation of who receives tips', text: occupation }]
      : []),
  ];
}

/** Checks of one person's boxes and facts. */
function checksOf(year: number, boxes: readonly Box[], facts: Omit<PersonSums, 'sums' | 'personId'>): CopyCheck[] {
  const amount = (box: string): Minor => boxes.find((candidate) => candidate.box === box)?.amount ?? 0;
  const checks: CopyCheck[] = [];
  const stop = (code: string, sentence: string) => checks.push({ code, weight: 'stop', sentence });
  if (!facts.number)
    stop('number-missing', `${facts.name} has no social security number on file. Ask for it and enter it on the person's page.`);
  else if (!person.number.isOne(facts.number))
    stop('number-invalid', `The social security number of ${facts.name} cannot exist. Compare it with the card.`);
  if (facts.shared)
    stop('number-shared', `The social security number of ${facts.name} is on file for somebody else too. Correct one of them.`);
  if (boxes.some(({ box, amount: tips }) => box === '12 TP' && tips) && !facts.details['tippedOccupation'])
    checks.push({
      code: 'occupation-missing',
      weight: 'look',
      sentence: `${facts.name} was paid tips and has no occupation code (box 14b). Enter it with the tax details.`,
    });
  if (!facts.address) checks.push({ code: 'address-missing', weight: 'look', sentence: `${facts.name} has no full postal address.` });
  const base = tables.value('us.oasdi.wage-base', dateOf(year, 12, 31)).value.toMinor();
  const social = amount('3') + amount('7');
  if (social > base) stop('wage-base-exceeded', `Boxes 3 and 7 of ${facts.name} are over the year's wage base.`);
  if (social > amount('5')) stop('boxes-disagree', `Boxes 3 and 7 of ${facts.name} are larger than box 5.`);
  // Each payslip rounds its tax by itself: at most half a cent on each of up to 53 of them.
  const expected = Exact.minor(social)
    .times(tables.value('us.oasdi.rate', dateOf(year, 12, 31)).value)
    .over(Exact.whole(100));
  const gap = Exact.minor(amount('4')).minus(expected);
  if (gap.isAbove(Exact.of('0.27')) || gap.isBelow(Exact.of('-0.27')))
    stop('box-4', `Box 4 of ${facts.name} is not 6.2% of boxes 3 and 7. A tax overridden, or a wrong opening balance, would explain it.`);
  for (const box of boxes) if (box.amount < 0) stop('box-negative', `Box ${box.box} of ${facts.name} is negative.`);
  return checks;
}
