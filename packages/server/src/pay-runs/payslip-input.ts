import type { Edits, SpecialRules } from '@woodruff/contract';
import {
  Exact,
  PAYSLIP_INPUT_FORMAT,
  type Balances,
  type HoursEntry,
  type ItemOnPayslip,
  type PayItem,
  type PayslipInput,
  type Rate,
  type StandingTax,
  type TimeEntry,
  type TimeRules,
} from '@woodruff/core';

/** What all payslips of a run share. */
export interface RunFacts {
  country: string;
  pay: PayslipInput['pay'];
  employer: Record<string, unknown>;
  items: Map<string, PayItem>;
  hourItems: PayItem[];
  salaryItem: PayItem | undefined;
  /** How time is turned into hours; null when the pay items for it are not chosen. */
  timeRules: TimeRules | null;
  /** Of a special run: what applies beside what is entered for it. */
  rules: SpecialRules | null;
  /** What anybody has at all, of what most have not. */
  some: { standingTaxes: boolean; oneOffs: boolean };
  /** Sums by period, month and quarter are needed. */
  spans: boolean;
}

/** One person's facts as they stand for a pay date. */
export interface PersonFacts {
  payslipId: string;
  personId: string;
  name: string;
  born: string | null;
  standardHours: string | null;
  edits: Edits;
  rates: Rate[] | null;
  tax: unknown;
  items:
    { id: string; code: string; amount: string | null; percent: string | null; limits: object | null; orderFacts: object | null }[] | null;
  standingTaxes: StandingTax[] | null;
  /** Of an approved timesheet. */
  time?: TimeEntry[] | null;
  earlierPay?: PayslipInput['earlierPay'] | null;
  /** One-offs that were waiting and that this payslip takes. */
  taken: { id: string; item: string; amount: string; note?: string; part?: { from: string; to: string } }[] | null;
  balances: Balances | null;
  spans: Record<string, { month: number; quarter: number; period: number }> | null;
}

/** Hours of a person are entered by column: an hour item's code, or `code@2` on the second rate, `code@3` on the third; pieces by the item's code. */
export const columnOf = (item: string, series: string): string => `${item}@${series}`;
/** The item of a column and the series of its rate; the primary rate where none is named. */
export function readColumn(column: string): { item: string; series: string | null } {
  const [item = '', series = null] = column.split('@');
  return { item, series };
}

/** The payslip's input from set-up and the edits of this run. */
export function inputOf(run: RunFacts, person: PersonFacts): PayslipInput {
  const rates = person.rates ?? [];
  const primary = rates.find((rate) => rate.primary) ?? rates[0];
  const hourly = primary?.per === 'hour';
  const items: ItemOnPayslip[] = [];
  // A special run pays what is entered for it; salary and standard hours are the regular run's.
  if (primary && !hourly && run.salaryItem && !run.rules) items.push({ item: run.salaryItem });
  for (const held of person.items ?? []) {
    const item = run.items.get(held.code);
    if (item && applies(run, item)) items.push(onPayslip(item, held, person));
  }
  return {
    format: PAYSLIP_INPUT_FORMAT,
    country: run.country,
    pay: run.pay,
    person: person.born === null ? { name: person.name } : { name: person.name, born: person.born },
    employer: run.employer,
    tax: person.tax ?? {},
    rates,
    hourItems: run.hourItems,
    hours: hoursOf(run, person, rates),
    items,
    oneOffs: [...(person.edits.oneOffs ?? []), ...(person.taken ?? [])].flatMap(({ item: code, ...oneOff }) => {
      const item = run.items.get(code);
      return item ? [{ ...oneOff, item }] : [];
    }),
    leftOut: person.edits.leftOut ?? [],
    overrides: person.edits.overrides ?? [],
    ...(person.time && run.timeRules ? { time: { rules: run.timeRules, entries: person.time } } : {}),
    ...(person.earlierPay ? { earlierPay: person.earlierPay } : {}),
    ...(person.standingTaxes ? { standingTaxes: person.standingTaxes } : {}),
    balances: balancesOf(person),
  };
}

/** In a special run, chosen items apply, or all deductions and contributions. */
const applies = ({ rules }: RunFacts, item: PayItem): boolean =>
  !rules ||
  rules.items.includes(item.code) ||
  (rules.ordinaryDeductions && (item.kind === 'deduction' || item.kind === 'employer-contribution'));

/** Hours by column as they count: those entered, else the standard hours on the first item. */
export function hoursByColumn(
  run: RunFacts,
  person: Pick<PersonFacts, 'edits' | 'standardHours' | 'time'>,
  hourly: boolean,
): Record<string, string> {
  const entered = person.edits.hours ?? {};
  const first = run.hourItems[0]?.code;
  if (!hourly || run.rules || person.time || first === undefined || entered[first] !== undefined || person.standardHours === null)
    return entered;
  // Leave taken out of the standard week, and hours on the second rate, are hours not worked on the first.
  const others = Object.entries(entered).filter(
    ([column]) => column !== first && (readColumn(column).series !== null || isPlain(run, column)),
  );
  let rest = Exact.of(person.standardHours);
  for (const [, hours] of others) rest = rest.minus(Exact.of(hours));
  return { ...entered, [first]: rest.atLeast(Exact.whole(0)).toDecimal(2) };
}

const isPlain = (run: RunFacts, column: string): boolean => {
  const method = run.items.get(column)?.method;
  return method?.by === 'hours' && Exact.of(method.multiple).equals(Exact.whole(1));
};

function hoursOf(run: RunFacts, person: PersonFacts, rates: Rate[]): HoursEntry[] {
  const primary = rates.find((rate) => rate.primary);
  return Object.entries(hoursByColumn(run, person, primary?.per === 'hour')).flatMap(([column, hours]) => {
    const { item, series } = readColumn(column);
    if (run.items.get(item)?.method.by === 'pieces') return [];
    const rate = series === null ? primary : rates.find((candidate) => candidate.id === series && candidate.per === 'hour');
    return [{ item, rate: rate?.id ?? '', hours }];
  });
}

function balancesOf({ balances, spans }: PersonFacts): Balances {
  if (!spans) return balances ?? {};
  return Object.fromEntries(Object.entries(balances ?? {}).map(([code, sums]) => [code, { ...sums, ...spans[code] }]));
}

function onPayslip(item: PayItem, held: NonNullable<PersonFacts['items']>[number], { balances, edits }: PersonFacts): ItemOnPayslip {
  const entry: ItemOnPayslip = { item, id: held.id };
  if (held.amount !== null) entry.amount = held.amount;
  if (held.percent !== null) entry.percent = held.percent;
  if (held.limits !== null) entry.limits = held.limits;
  if (held.orderFacts !== null) entry.orderFacts = held.orderFacts;
  const pieces = edits.hours?.[item.code];
  if (item.method.by === 'pieces' && pieces !== undefined) entry.quantity = pieces;
  const carried = balances?.[`carried:${item.code}`]?.inAll ?? 0;
  if (item.shortfall === 'carry-forward' && carried > 0) entry.carried = Exact.minor(carried).toDecimal(2);
  return entry;
}

/** The input as it is kept with the result, and the hours as the sheet shows them. */
export function prepared(facts: RunFacts, person: PersonFacts): { input: PayslipInput; text: string; hours: Record<string, string> } {
  const hourly = person.rates?.find((rate) => rate.primary)?.per === 'hour';
  const input = inputOf(facts, person);
  return { input, text: JSON.stringify(input), hours: hoursByColumn(facts, person, hourly) };
}
