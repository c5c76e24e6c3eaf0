import { Exact, HUNDRED, ZERO } from '../../money/exact';
import type { PublishedTable, TableContext, Treatment } from '../country-pack';
import type { Figure, Reckoning } from '../../working/reckoning';
import type { SchemeItems } from '../enrolment';
import type { FormField } from '../form-field';
import { progressOf } from './progress';
import { tables } from './tables';

/** Earnings of a pay reference period that count for workplace pensions: pay and statutory pay, before anything is taken. */
export const QUALIFYING = 'gb.pension.earnings';
/** Of them what belongs to basic pay, for schemes that are certified by it. */
export const BASIC = 'gb.pension.basic';
const LAW = { publication: 'Pensions Act 2008, sections 13 to 15', section: 'Qualifying earnings of the pay reference period' };
const RELIEF = {
  publication: 'Finance Act 2004, section 192',
  section: 'Relief at source: the scheme claims tax at the basic rate of the whole Kingdom, so that so much less is deducted',
};

/** By how many weeks or months are paid: the bands that the law sets for each pay reference period. */
const PERIODS: Readonly<Record<string, string>> = {
  '52 1': 'weekly',
  '52 2': 'fortnightly',
  '52 4': 'four-weekly',
  '12 1': 'monthly',
  '12 3': 'quarterly',
  '12 6': 'half-yearly',
  '12 12': 'annual',
};

/** The pay reference period of the tables, by how somebody is paid. */
export const periodOfPension = (frequency: string): string =>
  ({
    weekly: 'weekly',
    fortnightly: 'fortnightly',
    'four-weekly': 'four-weekly',
    quarterly: 'quarterly',
    'half-yearly': 'half-yearly',
    yearly: 'annual',
  })[frequency] ?? 'monthly';

const REMITTED = {
  rule: { by: 'month', day: 22 },
  purpose: 'payee',
  source: {
    publication: 'Occupational Pension Schemes (Scheme Administration) Regulations 1996, regulation 16',
    section: 'By the 22nd of the month after it was taken, electronically; by the 19th otherwise',
  },
} as const;

export const pensionTreatments: Treatment[] = [
  {
    code: 'pension-net-pay',
    label: 'Pension contribution (net pay arrangement)',
    for: ['deduction'],
    taken: 'before-tax',
    counts: { 'gb.paye.pay': -1 },
    remitted: REMITTED,
  },
  {
    code: 'pension-relief-at-source',
    label: 'Pension contribution (relief at source)',
    for: ['deduction'],
    taken: 'after-tax',
    counts: {},
    remitted: REMITTED,
  },
  {
    // Contributions go on being reckoned of the pay as agreed, so that it lowers no pensionable earnings.
    code: 'pension-sacrifice',
    label: 'Pension contribution (salary sacrifice)',
    givesUpPay: true,
    for: ['deduction'],
    taken: 'before-tax',
    counts: { 'gb.paye.pay': -1, 'gb.ni.earnings': -1 },
    remitted: REMITTED,
  },
  { code: 'employer-plan', label: "Employer's pension contribution", for: ['employer-contribution'], counts: {}, remitted: REMITTED },
];

function qualifyingOf(context: TableContext): Figure {
  const { ofYear, unit, times } = progressOf(context);
  const period = PERIODS[`${ofYear} ${unit}`] ?? 'monthly';
  const { date } = context.input.pay;
  const limit = (name: string) => {
    const { value, source } = tables.value(`gb.pension.${name}.${period}`, date);
    return { value: value.times(Exact.whole(times)), source };
  };
  const [lower, upper] = [limit('lower'), limit('upper')];
  const earnings = context.base(QUALIFYING);
  const earlier = context.earlierInPeriod(QUALIFYING, '');
  const between = (key: string, label: string, before: Figure | undefined) => {
    const reckoning = context.paper.reckon(key, label);
    if (before) reckoning.start('Earned earlier in the pay reference period', before);
    if (!before) reckoning.start(earnings.label, earnings);
    else if (key !== 'gb.pension.earlier') reckoning.plus(earnings.label, earnings);
    return reckoning
      .atMost('Upper limit of the period', upper.value)
      .less('Lower limit of the period', lower.value)
      .atLeast('Not below zero', ZERO)
      .source(lower.source, LAW)
      .done();
  };
  if (earlier.amount.isZero()) return between('gb.pension.qualifying', 'Qualifying earnings', undefined);
  const all = between('gb.pension.period', 'Qualifying earnings of the pay reference period', earlier);
  const before = between('gb.pension.earlier', 'Qualifying earnings of what was paid earlier in it', earlier);
  return context.paper.reckon('gb.pension.qualifying', 'Qualifying earnings').start(all.label, all).less(before.label, before).done();
}

const CERTIFIED = {
  publication: 'Automatic Enrolment Regulations 2010, regulation 32E',
  section: 'Certified by sets 1 to 3 of requirements',
};

/** What contributions are a per cent of. */
const PAID_ON = {
  qualifying: { label: 'Qualifying earnings', of: qualifyingOf },
  basic: { label: 'Basic pay', of: (context: TableContext) => context.base(BASIC) },
  all: { label: 'All earnings', of: (context: TableContext) => context.base(QUALIFYING) },
} as const;

const tablesOf = Object.entries(PAID_ON).flatMap(([code, { label, of }]): [string, PublishedTable][] => {
  const table = `gb.pension.${code}`;
  const contribution = (reckoning: Reckoning, percent: Exact, context: TableContext) => {
    const earnings = of(context);
    if (code !== 'qualifying') reckoning.source(CERTIFIED);
    return reckoning.start(earnings.label, earnings).percent('Rate of the contribution', percent).round('half-up');
  };
  return [
    [table, { label, asks: `Per cent of ${label.toLowerCase()}`, lookUp: contribution }],
    [
      code === 'qualifying' ? 'gb.pension.relief-at-source' : `${table}.relief-at-source`,
      {
        label: `${label}, relief at source`,
        asks: `Per cent of ${label.toLowerCase()}, with the tax that the scheme claims`,
        lookUp(reckoning, percent, context) {
          const basic = tables.schedule('gb.paye.bands', context.input.pay.date);
          return contribution(reckoning, percent, context)
            .percent('Without tax at the basic rate', HUNDRED.minus(basic.bands[0]?.percent ?? HUNDRED))
            .round('half-up')
            .source(basic.source, RELIEF);
        },
      },
    ],
  ];
});

/** Tables in which contributions are looked up. */
export const pensionTables: Readonly<Record<string, PublishedTable>> = Object.fromEntries(tablesOf);

/** What a scheme asks beside its name, provider and rates. */
export const schemeFields: readonly FormField[] = [
  {
    key: 'basis',
    label: 'Contributions are a per cent of',
    kind: 'choice',
    choices: [
      { value: 'qualifying', label: 'qualifying earnings' },
      { value: 'basic', label: 'basic pay (set 1; set 2 where it is 85 per cent of all pay)' },
      { value: 'all', label: 'all earnings (set 3)' },
    ],
  },
  {
    key: 'tax',
    label: 'Tax relief',
    kind: 'choice',
    choices: [
      { value: 'net-pay', label: 'net pay arrangement' },
      { value: 'relief-at-source', label: 'relief at source' },
      { value: 'sacrifice', label: 'salary sacrifice' },
    ],
  },
  {
    key: 'set',
    label: 'Certified by',
    kind: 'choice',
    choices: [
      { value: '', label: 'qualifying earnings need no certificate' },
      { value: '1', label: 'set 1: 9 per cent of basic pay, the employer 4' },
      { value: '2', label: 'set 2: 8 per cent of basic pay, the employer 3' },
      { value: '3', label: 'set 3: 7 per cent of all earnings, the employer 3' },
    ],
  },
];

/** The items of a scheme: what is taken of the pay, and what the employer puts in. */
export function schemeItems(choices: Readonly<Record<string, string>>): SchemeItems {
  const basis = choices['basis'] || 'qualifying';
  const tax = choices['tax'] || 'net-pay';
  const set = choices['set'] ?? '';
  if (!(basis in PAID_ON)) throw new RangeError('what contributions are a per cent of');
  if ((basis === 'basic' && set !== '1' && set !== '2') || (basis === 'all' && set !== '3') || (basis === 'qualifying' && set !== ''))
    throw new RangeError('a set that fits: 1 or 2 with basic pay, 3 with all earnings, none with qualifying earnings');
  const table = `gb.pension.${basis}`;
  const relief = basis === 'qualifying' ? 'gb.pension.relief-at-source' : `${table}.relief-at-source`;
  return {
    employee: {
      treatment: tax === 'sacrifice' ? 'pension-sacrifice' : tax === 'relief-at-source' ? 'pension-relief-at-source' : 'pension-net-pay',
      method: { by: 'published-table', table: tax === 'relief-at-source' ? relief : table },
    },
    employer: { treatment: 'employer-plan', method: { by: 'published-table', table } },
  };
}
