import type { BodyOf, PayItemRow } from '@woodruff/contract';

type Item = BodyOf<'addPayItem'>;
type Method = Item['method'];
type Limits = NonNullable<Item['limits']>;

/** A pay item as it stands in the form: texts and ticks, with what the other methods would need kept while one is chosen. */
export interface ItemDraft {
  code: string;
  name: string;
  kind: PayItemRow['kind'];
  treatment: string;
  order: string;
  by: Method['by'];
  multiple: string;
  /** Base of a per cent, or of a match's per cents of pay. */
  of: 'gross' | 'taxable' | 'disposable' | 'net' | 'items';
  /** Items of which the per cent is taken, or whose hours count. */
  items: string[];
  matchOf: string;
  tiersIn: 'percent' | 'amount';
  over: 'age' | 'gross';
  /** Tiers of a match (up to, matched at) or rows of a table (from, amount). */
  rows: { from: string; value: string }[];
  table: string;
  limits: Record<keyof Limits, string>;
  shortfall: NonNullable<Item['shortfall']>;
  pays: Record<'1' | '2' | '3' | '4' | 'last', boolean>;
  months: boolean[];
  everyPays: string;
  everyFirst: string;
  regularRunsOnly: boolean;
  payee: string;
  reference: string;
  liabilityAccount: string;
  expenseAccount: string;
  hidden: boolean;
  countsInstead: NonNullable<Item['countsInstead']>;
  regularRate: boolean;
}

const NO_LIMITS: ItemDraft['limits'] = { perPayslip: '', perPeriod: '', perMonth: '', perQuarter: '', perYear: '', inAll: '' };

/** The form of an item; without one, of a new deduction. */
export function draftOf(item?: Item): ItemDraft {
  const method: Method = item?.method ?? { by: 'amount' };
  const base = method.by === 'percent' ? method.of : method.by === 'match' ? (method.on ?? 'gross') : 'gross';
  const tiersIn = method.by === 'match' && method.tiers[0]?.upTo === undefined ? 'amount' : 'percent';
  return {
    code: item?.code ?? '',
    name: item?.name ?? '',
    kind: item?.kind ?? 'deduction',
    treatment: item?.treatment ?? '',
    order: String(item?.order ?? 350),
    by: method.by,
    multiple: method.by === 'hours' ? method.multiple : '1',
    of: typeof base === 'object' ? 'items' : base,
    items: typeof base === 'object' ? base.items : method.by === 'per-hour' ? (method.items ?? []) : [],
    matchOf: method.by === 'match' ? method.of : '',
    tiersIn,
    over: method.by === 'table' ? method.over : 'age',
    rows:
      method.by === 'match'
        ? method.tiers.map((tier) => ({ from: tier.upTo ?? tier.upToAmount ?? '', value: tier.match }))
        : method.by === 'table'
          ? method.rows.map((row) => ({ from: row.from, value: row.amount }))
          : [{ from: '', value: '' }],
    table: method.by === 'published-table' ? method.table : '',
    limits: { ...NO_LIMITS, ...item?.limits },
    shortfall: item?.shortfall ?? 'take-part',
    pays: {
      1: item?.when?.paysOfMonth?.includes(1) ?? false,
      2: item?.when?.paysOfMonth?.includes(2) ?? false,
      3: item?.when?.paysOfMonth?.includes(3) ?? false,
      4: item?.when?.paysOfMonth?.includes(4) ?? false,
      last: item?.when?.paysOfMonth?.includes('last') ?? false,
    },
    months: Array.from({ length: 12 }, (_, index) => item?.when?.months?.includes(index + 1) ?? false),
    everyPays: String(item?.when?.every?.pays ?? ''),
    everyFirst: String(item?.when?.every?.first ?? '1'),
    regularRunsOnly: item?.when?.regularRunsOnly ?? false,
    payee: item?.goes?.payee ?? '',
    reference: item?.goes?.reference ?? '',
    liabilityAccount: item?.goes?.liabilityAccount ?? '',
    expenseAccount: item?.goes?.expenseAccount ?? '',
    hidden: item?.goes?.hidden ?? false,
    countsInstead: { ...item?.countsInstead },
    regularRate: item?.regularRate ?? false,
  };
}

/** What the form says, without empty parts. */
export function itemOf(draft: ItemDraft): Item {
  const limits = filled(draft.limits);
  const goes = {
    ...filled({
      payee: draft.payee.trim(),
      reference: draft.reference.trim(),
      liabilityAccount: draft.liabilityAccount.trim(),
      expenseAccount: draft.expenseAccount.trim(),
    }),
    ...(draft.hidden && (draft.kind === 'employer-contribution' || draft.kind === 'benefit-in-kind') ? { hidden: true } : {}),
  };
  const when = whenOf(draft);
  return {
    code: draft.code.trim(),
    name: draft.name.trim(),
    kind: draft.kind,
    treatment: draft.treatment,
    method: methodOf(draft),
    order: Number(draft.order),
    ...(any(limits) ? { limits } : {}),
    ...(draft.kind === 'deduction' ? { shortfall: draft.shortfall } : {}),
    ...(any(when) ? { when } : {}),
    ...(any(goes) ? { goes } : {}),
    ...(any(draft.countsInstead) ? { countsInstead: draft.countsInstead } : {}),
    ...(draft.regularRate && draft.kind === 'earning' ? { regularRate: true } : {}),
  };
}

function methodOf(draft: ItemDraft): Method {
  const base = draft.of === 'items' ? { items: draft.items } : draft.of;
  const rows = draft.rows.filter((row) => row.from.trim() || row.value.trim());
  switch (draft.by) {
    case 'hours':
      return { by: 'hours', multiple: draft.multiple };
    case 'percent':
      return { by: 'percent', of: base };
    case 'per-hour':
      return draft.items.length ? { by: 'per-hour', items: draft.items } : { by: 'per-hour' };
    case 'match':
      return {
        by: 'match',
        of: draft.matchOf,
        ...(base === 'gross' || draft.tiersIn === 'amount' ? {} : { on: base }),
        tiers: rows.map((row) =>
          draft.tiersIn === 'percent' ? { upTo: row.from, match: row.value } : { upToAmount: row.from, match: row.value },
        ),
      };
    case 'table':
      return { by: 'table', over: draft.over, rows: rows.map((row) => ({ from: row.from, amount: row.value })) };
    case 'published-table':
      return { by: 'published-table', table: draft.table };
    default:
      return { by: draft.by };
  }
}

function whenOf(draft: ItemDraft): NonNullable<Item['when']> {
  const pays = (Object.keys(draft.pays) as (keyof ItemDraft['pays'])[]).filter((pay) => draft.pays[pay]);
  const months = draft.months.flatMap((chosen, index) => (chosen ? [index + 1] : []));
  return {
    ...(pays.length ? { paysOfMonth: pays.map((pay) => (pay === 'last' ? pay : Number(pay))) } : {}),
    ...(months.length ? { months } : {}),
    ...(draft.everyPays ? { every: { pays: Number(draft.everyPays), first: Number(draft.everyFirst) } } : {}),
    ...(draft.regularRunsOnly ? { regularRunsOnly: true } : {}),
  };
}

const filled = <T extends Record<string, string>>(texts: T): Partial<T> =>
  Object.fromEntries(Object.entries(texts).filter(([, value]) => value !== '')) as Partial<T>;
const any = (part: object): boolean => Object.keys(part).length > 0;

/** Methods that an item of a kind can have; hours and salary are paid, matches are the employer's. */
export function methodsFor(kind: PayItemRow['kind']): { by: Method['by']; label: string }[] {
  const all: [Method['by'], string, PayItemRow['kind'][]][] = [
    ['amount', 'An amount, for each person', []],
    ['percent', 'Percentage of pay', ['earning', 'deduction', 'employer-contribution']],
    ['hours', 'Hours at a rate', ['earning']],
    ['salary', "The person's salary", ['earning']],
    ['per-hour', 'An amount for every hour paid', ['earning', 'deduction', 'employer-contribution']],
    ['pieces', 'So much a piece', ['earning']],
    ['match', 'Match of what the employee puts in', ['employer-contribution']],
    ['table', 'A table of your own, by age or pay', ['deduction', 'employer-contribution', 'benefit-in-kind']],
    ['published-table', 'A table of the law', ['benefit-in-kind']],
  ];
  return all.filter(([, , kinds]) => !kinds.length || kinds.includes(kind)).map(([by, label]) => ({ by, label }));
}
