import type { Edits, SpecialRules, TimeSettings } from '@woodruff/contract';

import {
  Exact,
  PAYSLIP_INPUT_FORMAT,
  type Balances,
  type EarnedBefore,
  type HoursEntry,
  packOf,
  weekdaysBetween,
  type ItemOnPayslip,
  type LeaveOnPayslip,
  type LeavePlan,
  type OrderFacts,
  type PayItem,
  type PayslipInput,
  type Rate,
  type StandingTax,
  type TimeEntry,
} from '@woodruff/core';
import { rulesFor, type EmployerTimeRules } from './time-rules';

/** What all payslips of a run share. */
export interface RunFacts {
  country: string;
  pay: PayslipInput['pay'];
  employer: Record<string, unknown>;
  items: Map<string, PayItem>;
  hourItems: PayItem[];
  /** Items of tips and of make-up pay. */
  timeItems: PayItem[];
  salaryItem: PayItem | undefined;
  /** How time is turned into hours; null when the pay items for it are not chosen. */
  timeRules: EmployerTimeRules | null;
  /** Of places that set their own. */
  minimumWages: TimeSettings['minimumWages'];
  /** Of a special run: what applies beside what is entered for it. */
  rules: SpecialRules | null;
  /** What anybody has at all, of what most have not. */
  some: { standingTaxes: boolean; oneOffs: boolean; leave: boolean; recoveries: boolean };
  /** Terms of the leave plans on the period's last day, by the plan's identifier. */
  leavePlans: Map<string, LeavePlan>;
  /** Sums by period, month and quarter are needed. */
  spans: boolean;
}

/** One person's facts as they stand for a pay date. */
export interface PersonFacts {
  payslipId: string;
  personId: string;
  name: string;
  born: string | null;
  kind: string;
  /** The tax agency can know the person by a number that is on file. */
  hasNumber: boolean;
  groupId: string | null;
  worksite: string;
  hired: string | null;
  left: string | null;
  standardHours: string | null;
  edits: Edits;
  rates: Rate[] | null;
  tax: unknown;
  items:
    | { id: string; code: string; amount: string | null; percent: string | null; limits: object | null; orderFacts: OrderFacts | null }[]
    | null;
  standingTaxes: StandingTax[] | null;
  /** Of an approved timesheet. */
  time?: TimeEntry[] | null;
  leave?: LeaveFacts[] | null;
  /** Leave by law within the period that ordinary pay is not paid for. */
  away?: { from: string; to: string; kind: string }[] | null;
  recoveries?: { id: string; item: string; left: number; perPayslip: string; reason: string }[] | null;
  earlierPay?: PayslipInput['earlierPay'] | null;
  ending?: PayslipInput['person']['ending'] | null;
  /** One-offs that were waiting and that this payslip takes. */
  taken:
    | {
        id: string;
        item: string;
        amount: string;
        note?: string;
        part?: { from: string; to: string };
        earned?: { from: string; to: string };
      }[]
    | null;
  earnedBefore?: EarnedBefore[] | null;
  balances: Balances | null;
  spans: Record<string, { month: number; quarter: number; period: number }> | null;
  /** Sums of the earnings period by code. */
  earnings: Record<string, number> | null;
}

/** A plan that a person is in, with what the ledger and the requests say of it. */
export interface LeaveFacts {
  plan: string;
  balance: number;
  earnedInYear: number;
  paidOutBefore: number;
  yearBegun: boolean;
  days: { date: string; hours: string }[] | null;
  /** Entered with the leaving: what is left is paid out. */
  paysOut: boolean;
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
  const leave = leaveOf(run, person, hourly);
  const employed = run.rules ? undefined : employedPart(run, person);
  const time = timeOf(run, person);
  // Taken back with regular pay only, never from a bonus run on the side.
  const recoveries = (run.rules ? [] : (person.recoveries ?? [])).flatMap(({ item: code, ...recovery }) => {
    const item = run.items.get(code);
    return item && recovery.left > 0 ? [{ ...recovery, item }] : [];
  });
  const items: ItemOnPayslip[] = [];
  // A special run pays what is entered for it; salary and standard hours are the regular run's.
  if (primary && !hourly && run.salaryItem && !run.rules) items.push({ item: run.salaryItem, ...givenOnce(run.salaryItem, person) });
  for (const held of person.items ?? []) {
    const item = run.items.get(held.code);
    if (item && applies(run, item)) items.push(onPayslip(item, held, person));
  }
  return {
    format: PAYSLIP_INPUT_FORMAT,
    country: run.country,
    pay: person.edits.ahead ? { ...run.pay, ahead: person.edits.ahead } : run.pay,
    person: {
      name: person.name,
      ...(person.born === null ? {} : { born: person.born }),
      ...(person.left && run.pay.from > person.left ? { left: person.left } : {}),
      ...(person.ending ? { ending: person.ending } : {}),
      ...(person.kind === 'contractor' ? { contractor: true, ...(person.hasNumber ? {} : { unidentified: true }) } : {}),
    },
    employer: run.employer,
    tax: person.tax ?? {},
    rates,
    ...workplacesOf(run, person),
    ...minimumWageOf(run, person),
    hourItems: run.hourItems,
    hours: hoursOf(run, person, rates),
    items,
    oneOffs: [...(person.edits.oneOffs ?? []), ...(person.taken ?? [])].flatMap(({ item: code, ...oneOff }) => {
      const item = run.items.get(code);
      return item ? [{ ...oneOff, item }] : [];
    }),
    ...(recoveries.length ? { recoveries } : {}),
    leftOut: person.edits.leftOut ?? [],
    overrides: person.edits.overrides ?? [],
    ...(employed ? { employed } : {}),
    ...awayOf(run, person),
    ...(time && run.timeRules ? { time: { rules: rulesFor(run.timeRules, person), entries: time } } : {}),
    ...(time && run.timeItems.length ? { timeItems: run.timeItems } : {}),
    ...(leave.length ? { leave } : {}),
    ...(leave.some((entry) => entry.payOut)
      ? { payOutItems: leave.flatMap(({ plan }) => run.items.get(plan.payOutItem ?? '') ?? []) }
      : {}),
    ...(person.earlierPay ? { earlierPay: person.earlierPay } : {}),
    ...(person.standingTaxes ? { standingTaxes: person.standingTaxes } : {}),
    ...(person.earnedBefore?.length && leave.some(({ plan }) => plan.paidAt) ? { earnedBefore: person.earnedBefore } : {}),
    balances: balancesOf(person),
  };
}

/** Where time kept by day says that the work was done at worksites of several places: the share of the hours at each. */
function workplacesOf({ timeRules, pay, country }: RunFacts, { time, worksite }: PersonFacts): Pick<PayslipInput, 'workplaces'> {
  if (!timeRules || !time) return {};
  const hours = new Map<string, Exact>();
  for (const entry of time) {
    if (entry.hours === undefined || entry.date < pay.from || entry.date > pay.to) continue;
    const place = timeRules.states[entry.label ?? ''] ?? timeRules.states[worksite];
    if (place) hours.set(place, (hours.get(place) ?? Exact.whole(0)).plus(Exact.of(entry.hours)));
  }
  if (hours.size < 2) return {};
  const all = [...hours.values()].reduce((sum, one) => sum.plus(one));
  if (!all.isAbove(Exact.whole(0))) return {};
  // The last has what the others leave, so that they make the whole.
  let left = Exact.whole(1);
  const workplaces = [...hours].map(([state, worked], index) => {
    const share = index === hours.size - 1 ? left : Exact.of(worked.over(all).toDecimal(6));
    left = left.minus(share);
    return { place: `${country}-${state}`, share: share.toDecimal(6) };
  });
  return { workplaces };
}

/** The latest that holds at the person's worksite when the period ends. */
function minimumWageOf({ minimumWages, pay }: RunFacts, { worksite }: PersonFacts): Pick<PayslipInput, 'placeMinimumWage'> {
  const [own] = minimumWages.filter((one) => one.worksite === worksite && one.from <= pay.to).sort((a, b) => (a.from < b.from ? 1 : -1));
  return own ? { placeMinimumWage: { amount: own.amount, place: own.worksite, from: own.from } } : {};
}

/** In a special run, chosen items apply, or all deductions and contributions. */
const applies = ({ rules }: RunFacts, item: PayItem): boolean =>
  !rules ||
  rules.items.includes(item.code) ||
  (rules.ordinaryDeductions && (item.kind === 'deduction' || item.kind === 'employer-contribution'));

/** Hours by column as they count: those entered, else the standard hours on the first item. */
export function hoursByColumn(
  run: RunFacts,
  person: Pick<PersonFacts, 'away' | 'edits' | 'standardHours' | 'time' | 'leave' | 'hired' | 'left'>,
  hourly: boolean,
): Record<string, string> {
  const entered = withLeave(run, person, hourly);
  const first = run.hourItems[0]?.code;
  if (!hourly || run.rules || person.time || first === undefined || entered[first] !== undefined || person.standardHours === null)
    return entered;
  // Leave taken out of the standard week, and hours on the second rate, are hours not worked on the first.
  const cashedOut = new Set(plansOf(run, person).flatMap(({ plan }) => plan.cashOutItem ?? []));
  const others = Object.entries(entered).filter(
    ([column]) =>
      column !== first && !cashedOut.has(readColumn(column).item) && (readColumn(column).series !== null || isPlain(run, column)),
  );
  let rest = Exact.of(person.standardHours);
  const part = employedPart(run, person);
  if (part) {
    const { from, to } = run.pay;
    rest = rest.times(Exact.whole(weekdaysBetween(part.from ?? from, part.to ?? to))).over(Exact.whole(weekdaysBetween(from, to)));
  }
  for (const [, hours] of others) rest = rest.minus(Exact.of(hours));
  for (const away of person.away ?? []) {
    const present = weekdaysBetween(part?.from ?? run.pay.from, part?.to ?? run.pay.to);
    if (present > 0) rest = rest.times(Exact.whole(present - weekdaysBetween(away.from, away.to))).over(Exact.whole(present));
  }
  for (const { days, plan } of plansOf(run, person))
    if (plan.item === undefined) for (const day of days) rest = rest.minus(Exact.of(day.hours));
  return { ...entered, [first]: rest.atLeast(Exact.whole(0)).toDecimal(2) };
}

/** Approved leave that is paid by the hour stands in its item's column, unless hours were entered there or time is kept by the day. */
function withLeave(run: RunFacts, person: Pick<PersonFacts, 'edits' | 'time' | 'leave'>, hourly: boolean): Record<string, string> {
  const entered = person.edits.hours ?? {};
  if (!hourly || run.rules || person.time) return entered;
  const hours = { ...entered };
  for (const { plan, days } of plansOf(run, person)) {
    if (plan.item === undefined || entered[plan.item] !== undefined || !days.length) continue;
    hours[plan.item] = days.reduce((sum, day) => sum.plus(Exact.of(day.hours)), Exact.of(hours[plan.item] ?? '0')).toDecimal(2);
  }
  return hours;
}

/** Approved time with approved leave, but for days on which the sheet has that leave already. */
function timeOf(run: RunFacts, { time, leave }: PersonFacts): TimeEntry[] | null {
  if (!time) return null;
  const off = plansOf(run, { leave }).flatMap(({ plan, days }) => {
    const { item, name } = plan;
    if (item === undefined) return [];
    return days
      .filter(({ date }) => !time.some((entry) => entry.date === date && entry.item === item))
      .map(({ date, hours }): TimeEntry => ({ date, hours, item, label: `${name}, approved` }));
  });
  return off.length ? [...time, ...off] : time;
}

const plansOf = (run: RunFacts, { leave }: Pick<PersonFacts, 'leave'>) =>
  [...new Map((leave ?? []).map((facts) => [facts.plan, facts])).values()].flatMap((facts) => {
    const plan = run.leavePlans.get(facts.plan);
    return plan ? [{ ...facts, plan, days: facts.days ?? [] }] : [];
  });

/** The person's plans as the payslip needs them; nothing is earned by runs beside the regular ones. */
function leaveOf(run: RunFacts, person: PersonFacts, hourly: boolean): LeaveOnPayslip[] {
  if (run.rules && !run.rules.paysOutLeave) return [];
  return plansOf(run, person).map(({ plan, balance, earnedInYear, paidOutBefore, yearBegun, days, paysOut }) => {
    const within = hourly && plan.item !== undefined;
    const payOut = paysOut && plan.payOutItem !== undefined && (!!run.rules?.paysOutLeave || (!!person.left && person.left <= run.pay.to));
    return {
      plan,
      ...(person.hired ? { hired: person.hired } : {}),
      balance,
      earnedInYear,
      ...(paidOutBefore ? { paidOutBefore } : {}),
      yearBegun,
      taken: within || run.rules ? [] : days,
      ...(!hourly && person.standardHours !== null ? { standardHours: person.standardHours } : {}),
      earns: !run.rules,
      ...(payOut ? { payOut } : {}),
    };
  });
}

/** Where employment began or ended within the period. */
function employedPart({ pay }: RunFacts, { hired, left }: Pick<PersonFacts, 'hired' | 'left'>): PayslipInput['employed'] {
  const from = hired && hired > pay.from && hired <= pay.to ? { from: hired } : {};
  const to = left && left >= pay.from && left < pay.to ? { to: left } : {};
  return 'from' in from || 'to' in to ? { ...from, ...to } : undefined;
}

/** By the names that the country's law has for them. */
function awayOf(run: RunFacts, { away }: Pick<PersonFacts, 'away'>): Pick<PayslipInput, 'away'> {
  if (!away?.length || run.rules) return {};
  const kinds = packOf(run.country).leaveByLaw?.kinds ?? [];
  return {
    away: away.map(({ kind, ...days }) => ({
      ...days,
      label: `${kinds.find(({ code }) => code === kind)?.label.toLowerCase() ?? kind} leave`,
    })),
  };
}

const isPlain = (run: RunFacts, column: string): boolean => {
  const method = run.items.get(column)?.method;
  return method?.by === 'hours' && Exact.of(method.multiple).equals(Exact.whole(1));
};

function hoursOf(run: RunFacts, person: PersonFacts, rates: Rate[]): HoursEntry[] {
  const primary = rates.find((rate) => rate.primary);
  const columns = Object.entries(hoursByColumn(run, person, primary?.per === 'hour'));
  const place = ([column]: [string, string]) => run.hourItems.findIndex((item) => item.code === readColumn(column).item);
  return columns
    .sort((a, b) => place(a) - place(b))
    .flatMap(([column, hours]) => {
      const { item, series } = readColumn(column);
      if (run.items.get(item)?.method.by === 'pieces') return [];
      const rate = series === null ? primary : rates.find((candidate) => candidate.id === series && candidate.per === 'hour');
      return [{ item, rate: rate?.id ?? '', hours }];
    });
}

function balancesOf({ balances, spans, earnings }: PersonFacts): Balances {
  if (!spans && !earnings) return balances ?? {};
  return Object.fromEntries(
    Object.entries(balances ?? {}).map(([code, sums]) => {
      const earlier = earnings?.[code];
      return [code, { ...sums, ...spans?.[code], ...(earlier === undefined ? {} : { earnings: earlier }) }];
    }),
  );
}

function onPayslip(item: PayItem, held: NonNullable<PersonFacts['items']>[number], { balances, edits }: PersonFacts): ItemOnPayslip {
  const entry: ItemOnPayslip = { item, id: held.id };
  if (held.amount !== null) entry.amount = held.amount;
  if (held.percent !== null) entry.percent = held.percent;
  if (held.limits !== null) entry.limits = held.limits;
  if (held.orderFacts !== null) entry.orderFacts = held.orderFacts;
  const pieces = edits.hours?.[item.code];
  if (item.method.by === 'pieces' && pieces !== undefined) entry.quantity = pieces;
  Object.assign(entry, givenOnce(item, { edits }));
  const carried = balances?.[`carried:${item.code}`]?.inAll ?? 0;
  if (item.shortfall === 'carry-forward' && carried > 0) entry.carried = Exact.minor(carried).toDecimal(2);
  return entry;
}

/** The amount that this payslip alone has, overridden. */
function givenOnce({ code }: PayItem, { edits }: Pick<PersonFacts, 'edits'>): Pick<ItemOnPayslip, 'once'> {
  const given = edits.amounts?.find(({ item }) => item === code);
  return given ? { once: { amount: given.amount, ...(given.note ? { note: given.note } : {}) } } : {};
}

/** The input as it is kept with the result, and the hours as the sheet shows them. */
export function prepared(facts: RunFacts, person: PersonFacts): { input: PayslipInput; text: string; hours: Record<string, string> } {
  const hourly = person.rates?.find((rate) => rate.primary)?.per === 'hour';
  const input = inputOf(facts, person);
  return { input, text: JSON.stringify(input), hours: hoursByColumn(facts, person, hourly) };
}
