import { addDays, addMonths, dateOf, lastOfMonth, monthOf, quarterOf, weekday, yearOf, type IsoDate } from '../calendar/dates';
import { isBusinessDay, movedToBusinessDay, type IsHoliday } from '../calendar/schedules';
import type { DuePayment, Liability } from './owed';

/**
 * By when a payee wants its money. A day of a month that is none (the 31st of April) is the last; days that are no
 * business days move to the next one.
 */
export type DueRule =
  /** So many days after each pay date, of all days or of business days. */
  | { by: 'pay-date'; days: number; business?: boolean }
  /** So many business days after a half of the month (to the 15th, to its end). */
  | { by: 'half-month'; days: number }
  /** So many days after the end of the week that the pay date lies in, which ends on a weekday (0 is Sunday). */
  | { by: 'week'; ends: number; days: number }
  /** On a day of the month after the month; of December on a day of its own where the payee says so. */
  | { by: 'month'; day: number; december?: number }
  /** On a day of the month after the quarter. */
  | { by: 'quarter'; day: number }
  /** On a day of the year after. */
  | { by: 'year'; month: number; day: number };

/** A rule as a sentence says it. */
export function ruleInWords(rule: DueRule): string {
  const day = (number: number) => (number >= 31 ? 'the last day' : `the ${ordinal(number)}`);
  switch (rule.by) {
    case 'pay-date':
      return rule.days === 0 ? 'on each pay date' : `${rule.days} ${rule.business ? 'business days' : 'days'} after each pay date`;
    case 'half-month':
      return `${rule.days} business days after the 15th and after the end of the month`;
    case 'week':
      return `${rule.days} days after the week of the pay date`;
    case 'month':
      return `on ${day(rule.day)} of the following month`;
    case 'quarter':
      return `on ${day(rule.day)} of the month after the quarter`;
    case 'year':
      return 'once a year';
  }
}

const ordinal = (number: number): string =>
  `${number}${number % 10 === 1 && number !== 11 ? 'st' : number % 10 === 2 && number !== 12 ? 'nd' : number % 10 === 3 && number !== 13 ? 'rd' : 'th'}`;

/** The day itself, or the last of its month where there is none such. */
const dayOf = (year: number, month: number, day: number): IsoDate => {
  const last = lastOfMonth(year, month);
  return day > Number(last.slice(8)) ? last : dateOf(year, month, day);
};

const after = (date: IsoDate, days: number, isHoliday: IsHoliday): IsoDate => {
  let day = date;
  for (let left = days; left > 0;) {
    day = addDays(day, 1);
    if (isBusinessDay(day, isHoliday)) left -= 1;
  }
  return day;
};

/** The day by which what counts on a day is paid, and the last day of its period. */
export function dueDay(rule: DueRule, date: IsoDate, isHoliday: IsHoliday): { ends: IsoDate; due: IsoDate } {
  const [year, month] = [yearOf(date), monthOf(date)];
  const next = addMonths(dateOf(year, month, 1), 1);
  const moved = (day: IsoDate) => movedToBusinessDay(day, 'next', isHoliday);
  switch (rule.by) {
    case 'pay-date':
      return { ends: date, due: rule.business ? after(date, rule.days, isHoliday) : moved(addDays(date, rule.days)) };
    case 'half-month': {
      const ends = Number(date.slice(8)) <= 15 ? dateOf(year, month, 15) : lastOfMonth(year, month);
      return { ends, due: after(ends, rule.days, isHoliday) };
    }
    case 'week': {
      const ends = addDays(date, (rule.ends - weekday(date) + 7) % 7);
      return { ends, due: moved(addDays(ends, rule.days)) };
    }
    case 'month': {
      const day = month === 12 && rule.december !== undefined ? rule.december : rule.day;
      return { ends: lastOfMonth(year, month), due: moved(dayOf(yearOf(next), monthOf(next), day)) };
    }
    case 'quarter': {
      const ends = lastOfMonth(year, quarterOf(date) * 3);
      const first = addMonths(dateOf(year, quarterOf(date) * 3, 1), 1);
      return { ends, due: moved(dayOf(yearOf(first), monthOf(first), rule.day)) };
    }
    case 'year':
      return { ends: dateOf(year, 12, 31), due: moved(dayOf(year + 1, rule.month, rule.day)) };
  }
}

/** What is due of liabilities by a rule: one payment for each period, earliest first. */
export function dueBy(rule: DueRule, what: string, isHoliday: IsHoliday): (liabilities: readonly Liability[]) => DuePayment[] {
  return (liabilities) => {
    const periods = new Map<IsoDate, DuePayment>();
    for (const { payDate, amount } of [...liabilities].sort((a, b) => (a.payDate < b.payDate ? -1 : 1))) {
      const { ends, due } = dueDay(rule, payDate, isHoliday);
      const known = periods.get(ends);
      periods.set(ends, { date: due, what, amount: (known?.amount ?? 0) + amount, upTo: ends });
    }
    return [...periods.values()];
  };
}

/** From which day liabilities must be known for what is due from a day on. */
export function sinceBy(rule: DueRule, from: IsoDate): IsoDate {
  return rule.by === 'year'
    ? dateOf(yearOf(from) - 1, 1, 1)
    : addMonths(dateOf(yearOf(from), monthOf(from), 1), rule.by === 'quarter' ? -6 : -3);
}
