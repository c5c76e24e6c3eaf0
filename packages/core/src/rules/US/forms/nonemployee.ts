import { calendarYear } from './periods';
import { dateOf, yearOf } from '../../../calendar/dates';
import type { BoxRule, ItemBox } from '../../../filings/boxes';
import type { Box, Copy, CopyCheck, Filing, FilingFacts, FilingPeriod, MadeFiling, PersonSums } from '../../../filings/filing';
import { Lines } from '../../../filings/lines';
import { written, type Minor } from '../../../money/amounts';
import { BACKUP } from '../federal/backup-withholding';
import { informationFile } from '../files/information-csv';
import { nextBusinessDay } from '../holidays';
import { person } from '../identity';
import { tables } from '../tables';
import { sumOf } from './withheld-taxes';

const PAID = 'us.nonemployee';
const NEC = '1099-nec';
const MISC = '1099-misc';
const AGREED =
  'I have looked at these statements and their totals. To the best of my knowledge and belief they are true, correct and complete.';
const PAY = ['earning', 'benefit-in-kind'] as const;
const WITHHELD = 'Federal income tax withheld';

const NEC_BOXES: readonly BoxRule[] = [
  { box: '1', label: 'Nonemployee compensation', codes: [PAID], kinds: ['earning'] },
  { box: '4', label: WITHHELD, codes: [BACKUP] },
];
/** Form 1099-MISC, as far as an employer pays so by payroll. */
const MISC_ITEMS: readonly ItemBox[] = [
  { box: '1', label: 'Rents', for: PAY },
  { box: '2', label: 'Royalties', for: PAY },
  { box: '3', label: 'Other income', for: PAY },
  { box: '6', label: 'Medical and health care payments', for: PAY },
  { box: '10', label: 'Gross proceeds paid to an attorney', for: PAY },
];
const NEC_FILE = informationFile('1099-NEC', { '1': 'Nonemployee compensation', '4': WITHHELD });
const MISC_FILE = informationFile('1099-MISC', { ...Object.fromEntries(MISC_ITEMS.map(({ box, label }) => [box, label])), '4': WITHHELD });
const NO_BOX = { expenses: 'Repaid under an accountable plan: no compensation' };

/** What contractors were paid in a year for their work (Forms 1099-NEC), with their totals (Form 1096). */
export const form1099Nec: Filing = {
  code: NEC,
  form: 'Form 1099-NEC',
  name: 'Nonemployee compensation',
  agency: 'Internal Revenue Service',
  every: 'year',
  from: 'people',
  only: PAID,
  /** To the contractors and to the agency by 31 January (26 U.S.C. 6071(c)). */
  periods: calendarYear,
  make: (facts) => informationReturn(facts, NEC),
  file: NEC_FILE,
  copies: {
    name: 'Form 1099-NEC',
    first: ['1', '4'],
    of: 'contractors',
    boxes: NEC_BOXES,
    noBox: NO_BOX,
    sets: ['Copy B, for the recipient', 'Copy 2, with the state tax return'],
    corrected: 'Form 1099-NEC, corrected',
    totals: 'Form 1096',
  },
  statement: AGREED,
};

/** To the payees by 31 January, to the agency by 31 March where it goes by file (26 CFR 1.6041-6, 26 U.S.C. 6071(b)). */
const byMarch = (year: number): FilingPeriod[] =>
  calendarYear(year).map((period) => ({ ...period, due: nextBusinessDay(dateOf(year + 1, 3, 31)) }));

/** Rents, royalties and other income of those who are paid by contract (Forms 1099-MISC). */
export const form1099Misc: Filing = {
  ...form1099Nec,
  code: MISC,
  form: 'Form 1099-MISC',
  name: 'Miscellaneous income',
  onlyBoxed: true,
  periods: byMarch,
  make: (facts) => informationReturn(facts, MISC),
  file: MISC_FILE,
  copies: {
    name: 'Form 1099-MISC',
    first: ['1', '2', '3', '4'],
    of: 'contractors',
    boxes: [{ box: '4', label: WITHHELD, codes: [BACKUP] }],
    itemBoxes: MISC_ITEMS,
    noBox: NO_BOX,
    corrected: 'Form 1099-MISC, corrected',
    totals: 'Form 1096',
  },
};

/** Boxes of one payee on one of the two forms: what an item was put into a box of the one is not in the other. */
function boxesOf(form: string, { sums }: PersonSums, items: FilingFacts['items']): Box[] {
  const amount = (codes: readonly string[]): Minor => codes.reduce((sum, code) => sum + (sums[code] ?? 0), 0);
  const elsewhere = items.filter(({ filing }) => filing === MISC).map(({ code }) => code);
  const work = (sums[PAID] ?? 0) - amount(elsewhere);
  const named: Box[] =
    form === NEC
      ? [{ box: '1', label: 'Nonemployee compensation', amount: work, codes: [PAID] }]
      : MISC_ITEMS.map(({ box, label }) => {
          const codes = items.filter((one) => one.filing === MISC && one.box === box).map(({ code }) => code);
          return { box, label, amount: amount(codes), codes };
        });
  // Withheld from work and from other income alike, it is stated with the work, where there is any.
  const withheld = (form === NEC) === (work !== 0) ? (sums[BACKUP] ?? 0) : 0;
  return [...named, { box: '4', label: WITHHELD, amount: withheld, codes: [BACKUP] }]
    .filter((one) => one.amount !== 0)
    .sort((a, b) => Number(a.box) - Number(b.box));
}

function informationReturn(facts: FilingFacts, form: string): MadeFiling {
  const { period, people, days, entered, items } = facts;
  const year = yearOf(period.to);
  const least = tables.value('us.nonemployee.threshold', period.to);
  const royalties = tables.value('us.royalties.threshold', period.to).value.toMinor();
  // Withheld from, somebody gets a statement whatever they were paid.
  const isStated = (boxes: readonly Box[]): boolean =>
    boxes.some(({ box, amount }) => box === '4' || amount >= (form === MISC && box === '2' ? royalties : least.value.toMinor()));
  const paid = people.map((one) => ({ one, boxes: boxesOf(form, one, items) })).filter(({ boxes }) => boxes.length);
  const stated = paid.filter(({ boxes }) => isStated(boxes));
  const copies = stated.map(({ one, boxes }): Copy => ({ personId: one.personId, boxes, marks: [], checks: checksOf(one) }));
  const sumIn = (some: typeof paid, wanted?: string): Minor =>
    some.reduce(
      (all, { boxes }) =>
        all + boxes.filter(({ box }) => (wanted === undefined ? box !== '4' : box === wanted)).reduce((sum, { amount }) => sum + amount, 0),
      0,
    );
  const lines = new Lines(entered, []);
  lines.count('c', copies.length, {
    label: 'Statements',
    working: `Payees who were paid ${written(least.value.toMinor())} or more in the year, or from whom tax was withheld.`,
  });
  const labels = new Map(paid.flatMap(({ boxes }) => boxes.map(({ box, label, codes }) => [box, { label, codes }] as const)));
  for (const [box, { label, codes }] of [...labels].sort(([a], [b]) => Number(a) - Number(b)))
    lines.money(box, sumIn(stated, box), { label, codes, working: `Box ${box} of all statements.`, ...(box === '1' ? { sum: true } : {}) });
  const total = sumIn(stated);
  const below = sumIn(paid) - total;
  if (below) lines.money('less', below, { label: 'Paid below that', working: 'Paid, and on no statement.' });
  const elsewhere = items.filter(({ filing }) => filing === MISC).map(({ code }) => code);
  // Of the whole employer an item can be on payslips of employees too; what is stated is of those who are paid by contract.
  const others = people.reduce(
    (all, { sums }) => all + ((sums[PAID] ?? 0) ? elsewhere.reduce((sum, code) => sum + (sums[code] ?? 0), 0) : 0),
    0,
  );
  const posted = form === NEC ? sumOf(days, [PAID]) - others : others;
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

function checksOf({ name, number, shared, address }: PersonSums): CopyCheck[] {
  const checks: CopyCheck[] = [];
  const stop = (code: string, sentence: string) => checks.push({ code, weight: 'stop', sentence });
  if (!number)
    stop(
      'number-missing',
      `${name} has no taxpayer identification number on file. Ask for Form W-9; until it is there, payments are subject to backup withholding.`,
    );
  else if (!person.number.isOne(number) && !/^9\d{8}$/.test(number))
    stop('number-invalid', `The number of ${name} cannot exist. Compare it with Form W-9.`);
  if (shared) stop('number-shared', `The number of ${name} is on file for somebody else too.`);
  if (!address) checks.push({ code: 'address-missing', weight: 'look', sentence: `${name} has no full postal address.` });
  return checks;
}
