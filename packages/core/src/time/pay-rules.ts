import { addDays, daysBetween, weekday, writtenDay, type IsoDate } from '../calendar/dates';
import { Exact, ZERO } from '../money/exact';
import type { HoursEntry, Rate } from '../payslip/input';
import { inForce, rateOn } from '../payslip/rates-in-time';
import { CannotCompute } from '../rules/country-pack';
import type { Figure, Paper } from '../working/reckoning';
import type { TimeEntry, TimeFacts, TimeRules } from './time';

/** Hours as they are paid, with the figure that says which rule made them so. */
export interface RuledHours extends HoursEntry {
  figure: Figure;
  /** These hours are paid as others too, and count once: premiums, half the regular rate. */
  again?: true;
}

/** A workweek as it is paid, for comparing with the minimum wage. Hours and pay are of its days within the period. */
export interface WeekPaid {
  from: IsoDate;
  hours: Exact;
  overtime: Exact;
  /** At their rates, with the premium for overtime. */
  pay: Exact;
  /** Paid beside: premiums by shift, pieces, and the week's part of what else counts. */
  beside: Exact;
}

type Kind = 'straight' | 'overtime' | 'double' | 'holiday';

/** A part of a day's time, put under one rule. */
interface Part {
  date: IsoDate;
  rate: string;
  kind: Kind;
  hours: Exact;
  why: string;
  /** Within the pay period; days before it in its first workweek count and were paid before. */
  paid: boolean;
}

const PRIMARY = 'primary';

/**
 * Turns time into hours paid: daily and weekly overtime, double time, the seventh day, holidays, premiums by shift.
 * A fortnight is two workweeks. Where work at several rates meets in a week with overtime, all hours are paid at
 * their own rates and half the regular rate of that week is added for each hour of overtime.
 * @returns hours by item and rate, and the regular rates made for weeks that need one
 */
export function hoursByRule(
  { rules, entries: kept }: TimeFacts,
  period: { from: IsoDate; to: IsoDate },
  now: readonly Rate[],
  paper: Paper,
): { hours: RuledHours[]; rates: Rate[]; weeks: WeekPaid[] } {
  const weeks: WeekPaid[] = [];
  const { entries, rates } = atTheirDay(kept, now);
  const worked = entries.filter((entry) => !entry.item).sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0));
  const book = new HoursBook(paper);
  const made: Rate[] = [];
  for (const week of weeksOf(worked, rules)) {
    const parts = partsOf(week.entries, rules, period);
    const overtime = parts.filter((part) => part.kind === 'overtime' || part.kind === 'double');
    const bonus = Exact.of(rules.bonuses?.[week.from] ?? '0');
    const paidNow = premiumsOf(
      week.entries.filter((entry) => within(entry.date, period)),
      rules,
    );
    const beside = paidNow.reduce((sum, premium) => sum.plus(premium.hours.times(premium.perHour)), bonus);
    weeks.push({ ...weekPaid(week.from, parts, rates), beside });
    const several = new Set(parts.map((part) => amountOf(rates, part.rate).toDecimal())).size > 1;
    const premiums = premiumsOf(week.entries, rules);
    if (overtime.some((part) => part.paid) && (several || !bonus.isZero() || premiums.length)) {
      const regular = regularRate(week.from, parts, { bonus, premiums }, rates, rules, paper);
      made.push(regular.rate);
      for (const part of parts.filter((one) => one.paid)) book.add(itemOf(rules, part.kind === 'holiday' ? 'holiday' : 'straight'), part);
      for (const part of overtime.filter((one) => one.paid))
        book.add(
          halfPremiumOf(rules),
          {
            ...part,
            rate: regular.rate.id,
            hours: part.kind === 'double' ? part.hours.times(Exact.whole(2)) : part.hours,
            why: part.kind === 'double' ? `${part.why}: twice half the regular rate` : part.why,
          },
          true,
        );
    } else for (const part of parts.filter((one) => one.paid)) book.add(itemOf(rules, part.kind), part);
  }
  for (const entry of entries.filter((one) => one.item && one.quantity === undefined && within(one.date, period)))
    book.add(entry.item ?? '', {
      date: entry.date,
      rate: entry.rate ?? PRIMARY,
      kind: 'straight',
      hours: Exact.of(entry.hours),
      why: entry.label ?? '',
      paid: true,
    });
  for (const premium of rules.premiums ?? []) {
    const id = `premium:${premium.item}:${premium.from}`;
    let any = false;
    for (const entry of worked.filter((one) => within(one.date, period))) {
      const hours = hoursWithin(entry, premium);
      if (hours.isZero()) continue;
      any = true;
      book.add(
        premium.item,
        {
          date: entry.date,
          rate: id,
          kind: 'straight',
          hours,
          why: `${premium.label}, ${premium.from} to ${premium.to}`,
          paid: true,
        },
        true,
      );
    }
    if (any) made.push({ id, label: premium.label, per: 'hour', amount: premium.perHour });
  }
  const hours = book.entries();
  const before = rates.filter((rate) => !now.includes(rate) && hours.some((one) => one.rate === rate.id));
  return { hours, rates: [...before, ...made], weeks };
}

/** Entries on the rate as it was on their day, and the rates with what they were before. */
function atTheirDay(entries: readonly TimeEntry[], now: readonly Rate[]): { entries: TimeEntry[]; rates: Rate[] } {
  if (!now.some((rate) => rate.earlier?.length)) return { entries: [...entries], rates: [...now] };
  return {
    entries: entries.map((entry) => {
      const rate = rateOf(now, entry.rate ?? PRIMARY);
      const then = rate && rateOn(rate, entry.date);
      return !then || then.id === rate.id ? entry : { ...entry, rate: then.id };
    }),
    rates: now.flatMap((rate) => [rate, ...inForce(rate).slice(0, -1)]),
  };
}

function weekPaid(from: IsoDate, parts: readonly Part[], rates: readonly Rate[]): Omit<WeekPaid, 'beside'> {
  let [hours, overtime, pay] = [ZERO, ZERO, ZERO];
  for (const part of parts.filter((one) => one.paid)) {
    hours = hours.plus(part.hours);
    pay = pay.plus(part.hours.times(amountOf(rates, part.rate)));
    if (part.kind === 'overtime' || part.kind === 'double') overtime = overtime.plus(part.hours);
  }
  const premium = hours.isZero() ? ZERO : pay.times(overtime).over(hours.times(Exact.whole(2)));
  return { from, hours, overtime, pay: pay.plus(premium) };
}

/** Sums by item and rate, each with a working that names day and rule. */
class HoursBook {
  private readonly sums = new Map<string, { item: string; rate: string; parts: Part[]; again: boolean }>();

  constructor(private readonly paper: Paper) {}

  add(item: string, part: Part, again = false): void {
    const key = `${item}:${part.rate}`;
    const sum = this.sums.get(key) ?? { item, rate: part.rate, parts: [], again };
    sum.parts.push(part);
    this.sums.set(key, sum);
  }

  entries(): RuledHours[] {
    return [...this.sums].map(([key, { item, rate, parts, again }]) => {
      const reckoning = this.paper.reckon(`time:${key}`, 'Hours by the time rules').in('hours');
      for (const part of parts) reckoning.plus(`${writtenDay(part.date)}${part.why ? `, ${part.why}` : ''}`, part.hours);
      const figure = reckoning.round('half-up').done();
      return { item, rate, hours: figure.amount.toDecimal(2), figure, ...(again ? { again: true as const } : {}) };
    });
  }
}

function weeksOf(entries: readonly TimeEntry[], rules: TimeRules): { from: IsoDate; entries: TimeEntry[] }[] {
  const weeks = new Map<IsoDate, TimeEntry[]>();
  for (const entry of entries) {
    const from = addDays(entry.date, -((weekday(entry.date) - rules.weekBegins + 7) % 7));
    weeks.set(from, [...(weeks.get(from) ?? []), entry]);
  }
  return [...weeks].map(([from, of]) => ({ from, entries: of }));
}

/** The parts of a workweek in the order in which they were worked: an hour is under the first rule that it exceeds. */
function partsOf(entries: readonly TimeEntry[], rules: TimeRules, period: { from: IsoDate; to: IsoDate }): Part[] {
  const parts: Part[] = [];
  const days = [...new Set(entries.map((entry) => entry.date))];
  const onSeventh = rules.seventhDayDoubleOver !== undefined && days.length === 7;
  let straight = ZERO;
  days.forEach((date, index) => {
    let today = ZERO;
    const seventh = onSeventh && index === 6;
    for (const entry of entries.filter((one) => one.date === date)) {
      let left = Exact.of(entry.hours);
      const holiday = rules.holidays?.includes(date) && rules.items.holiday !== undefined;
      const put = (kind: Kind, hours: Exact, why: string) => {
        if (!hours.isAbove(ZERO)) return;
        parts.push({ date, rate: entry.rate ?? PRIMARY, kind, hours, why, paid: within(date, period) });
        left = left.minus(hours);
        today = today.plus(hours);
      };
      if (holiday) {
        straight = straight.plus(left);
        put('holiday', left, 'worked on a holiday');
        continue;
      }
      // From the top: what is double, what is overtime by the day, and what of the rest is over the week.
      const after = today.plus(left);
      const over = (limit: string | undefined) => (limit === undefined ? ZERO : after.minus(today.atLeast(Exact.of(limit))).atLeast(ZERO));
      const double = over(seventh ? rules.seventhDayDoubleOver : rules.dailyDoubleOver);
      const daily = seventh ? left.minus(double) : over(rules.dailyOver).minus(double).atLeast(ZERO);
      let rest = left.minus(double).minus(daily);
      const room = rules.weeklyOver === undefined ? rest : Exact.of(rules.weeklyOver).minus(straight).atLeast(ZERO);
      const within40 = rest.atMost(room);
      put('straight', within40, entry.label ?? '');
      straight = straight.plus(within40);
      rest = rest.minus(within40);
      put('overtime', rest, `over ${rules.weeklyOver ?? ''} in the week`);
      put('overtime', daily, seventh ? 'seventh day in a row' : `over ${rules.dailyOver ?? ''} in the day`);
      put(
        'double',
        double,
        seventh ? `seventh day, over ${rules.seventhDayDoubleOver ?? ''}` : `over ${rules.dailyDoubleOver ?? ''} in the day`,
      );
    }
  });
  return parts;
}

/** What premiums by shift pay in a workweek: they belong to its regular rate. */
function premiumsOf(entries: readonly TimeEntry[], rules: TimeRules): { label: string; hours: Exact; perHour: Exact }[] {
  return (rules.premiums ?? []).flatMap((premium) => {
    const hours = entries.reduce((sum, entry) => sum.plus(hoursWithin(entry, premium)), ZERO);
    return hours.isZero() ? [] : [{ label: premium.label, hours, perHour: Exact.of(premium.perHour) }];
  });
}

/** All pay of the workweek over all hours worked in it: rates, premiums, pieces, and what else belongs to the week. */
function regularRate(
  week: IsoDate,
  parts: readonly Part[],
  beside: { bonus: Exact; premiums: ReturnType<typeof premiumsOf> },
  rates: readonly Rate[],
  rules: TimeRules,
  paper: Paper,
): { rate: Rate } {
  const id = `regular:${week}`;
  const reckoning = paper.reckon(id, `Regular rate, week from ${writtenDay(week)}`);
  let hours = ZERO;
  for (const rate of [...new Set(parts.map((part) => part.rate))]) {
    const here = parts.filter((part) => part.rate === rate).reduce((sum, part) => sum.plus(part.hours), ZERO);
    const amount = amountOf(rates, rate);
    hours = hours.plus(here);
    reckoning.plus(`${here.toDecimal(2)} hours, ${labelOf(rates, rate)} ${amount.toDecimal()}`, here.times(amount));
  }
  for (const premium of beside.premiums)
    reckoning.plus(
      `${premium.hours.toDecimal(2)} hours of ${premium.label}, ${premium.perHour.toDecimal()}`,
      premium.hours.times(premium.perHour),
    );
  if (!beside.bonus.isZero()) reckoning.plus('Bonuses, commissions and pieces that belong to the week', beside.bonus);
  const figure = reckoning
    .over(`All ${hours.toDecimal(2)} hours worked in the week`, hours)
    .round('half-up', 6)
    .source(rules.source, ...(rules.regularRateSource ? [rules.regularRateSource] : []))
    .done();
  return { rate: { id, label: `Regular rate, week from ${writtenDay(week)}`, per: 'hour', amount: figure.amount.toDecimal(6) } };
}

function itemOf({ items }: TimeRules, kind: Kind): string {
  const item = { straight: items.ordinary, overtime: items.overtime, double: items.double, holiday: items.holiday }[kind];
  if (!item)
    throw new CannotCompute(
      'time-item-missing',
      `The time rules have no pay item for ${kind === 'double' ? 'double time' : 'holidays worked'}. Choose one with the rules.`,
    );
  return item;
}

function halfPremiumOf({ items }: TimeRules): string {
  if (items.halfPremium) return items.halfPremium;
  throw new CannotCompute(
    'time-item-missing',
    'A week with overtime has several rates, or pay beside the hourly rate: half the regular rate is due, and the time rules have no pay item for it. Choose one with the rules.',
  );
}

const within = (date: IsoDate, period: { from: IsoDate; to: IsoDate }): boolean => date >= period.from && date <= period.to;
const rateOf = (rates: readonly Rate[], id: string): Rate | undefined =>
  rates.find((rate) => (id === PRIMARY ? rate.primary : rate.id === id)) ?? rates.find((rate) => rate.id === id);
const amountOf = (rates: readonly Rate[], id: string): Exact => Exact.of(rateOf(rates, id)?.amount ?? '0');
const labelOf = (rates: readonly Rate[], id: string): string => rateOf(rates, id)?.label ?? id;

/** Hours of an entry within a part of the day; entries without a clock have none. The break is taken off in proportion. */
function hoursWithin(entry: TimeEntry, { from, to }: { from: string; to: string }): Exact {
  if (!entry.from || !entry.to) return ZERO;
  const [begin, end] = span(entry.from, entry.to);
  const [first, last] = span(from, to);
  let minutes = 0;
  // The window of the evening before, of the day, and of the day after.
  for (const shift of [-1440, 0, 1440]) minutes += Math.max(0, Math.min(end, last + shift) - Math.max(begin, first + shift));
  if (!minutes) return ZERO;
  return Exact.of(entry.hours)
    .times(Exact.whole(minutes))
    .over(Exact.whole(end - begin));
}

function span(from: string, to: string): [number, number] {
  const minutes = (clock: string) => Number(clock.slice(0, 2)) * 60 + Number(clock.slice(3));
  const begin = minutes(from);
  const end = minutes(to);
  return [begin, end > begin ? end : end + 1440];
}

/** Days of a period without time on them, for lists of what is missing; weekends and holidays do not count. */
export const daysWithoutTime = (
  entries: readonly TimeEntry[],
  period: { from: IsoDate; to: IsoDate },
  isWorkday: (date: IsoDate) => boolean,
): IsoDate[] => {
  const there = new Set(entries.map((entry) => entry.date));
  return Array.from({ length: daysBetween(period.from, period.to) + 1 }, (_day, index) => addDays(period.from, index)).filter(
    (date) => isWorkday(date) && !there.has(date),
  );
};
