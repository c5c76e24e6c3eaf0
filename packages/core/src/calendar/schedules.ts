import { addDays, addMonths, dateOf, daysBetween, lastOfMonth, monthOf, weekday, yearOf, type IsoDate } from './dates';

export const FREQUENCIES = [
  'daily',
  'weekly',
  'fortnightly',
  'four-weekly',
  'twice-a-month',
  'monthly',
  'quarterly',
  'half-yearly',
  'yearly',
] as const;
export type Frequency = (typeof FREQUENCIES)[number];

/** Pay dates in an ordinary year, as withholding tables count them. */
export const PAY_DATES_PER_YEAR: Record<Frequency, number> = {
  daily: 260,
  weekly: 52,
  fortnightly: 26,
  'four-weekly': 13,
  'twice-a-month': 24,
  monthly: 12,
  quarterly: 4,
  'half-yearly': 2,
  yearly: 1,
};

/** A pay schedule: which periods there are, and when each is paid. */
export interface PaySchedule {
  frequency: Frequency;
  /** First day of any one period; periods repeat from it in both directions. For monthly kinds the day of the month. */
  anchor: IsoDate;
  /** Days from the period's last day to the pay date, before it is moved off days that are not business days. */
  payDateOffset: number;
  /** Where a pay date goes that falls on a weekend or a holiday. */
  move: 'previous' | 'next';
}

/** A closed range of days with its pay date. */
export interface PayPeriod {
  from: IsoDate;
  to: IsoDate;
  payDate: IsoDate;
}

/** Tells whether a date is a bank holiday; the country's pack gives it. */
export type IsHoliday = (date: IsoDate) => boolean;

export function isBusinessDay(date: IsoDate, isHoliday: IsHoliday): boolean {
  const day = weekday(date);
  return day !== 0 && day !== 6 && !isHoliday(date);
}

/** The date itself when it is a business day, otherwise the nearest one in the direction given. */
export function movedToBusinessDay(date: IsoDate, move: 'previous' | 'next', isHoliday: IsHoliday): IsoDate {
  let moved = date;
  while (!isBusinessDay(moved, isHoliday)) moved = addDays(moved, move === 'previous' ? -1 : 1);
  return moved;
}

/** The period of a schedule that holds a date. */
export function periodOf(schedule: PaySchedule, date: IsoDate, isHoliday: IsHoliday): PayPeriod {
  const [from, to] = boundsOf(schedule, date);
  return { from, to, payDate: movedToBusinessDay(addDays(to, schedule.payDateOffset), schedule.move, isHoliday) };
}

export const nextPeriod = (schedule: PaySchedule, period: PayPeriod, isHoliday: IsHoliday): PayPeriod =>
  periodOf(schedule, addDays(period.to, 1), isHoliday);

/** So many days of periods are looked at once: some years. */
const LONGEST_RANGE = 4400;

/** All periods paid within a range of dates, earliest first. */
export function periodsPaidWithin(schedule: PaySchedule, from: IsoDate, to: IsoDate, isHoliday: IsHoliday): PayPeriod[] {
  if (daysBetween(from, to) > LONGEST_RANGE) throw new RangeError(`periods are looked at for at most ${LONGEST_RANGE} days`);
  const periods: PayPeriod[] = [];
  // A pay date lies at most its offset and a run of holidays away from its period.
  let period = periodOf(schedule, addDays(from, -Math.abs(schedule.payDateOffset) - 45), isHoliday);
  while (period.payDate <= to || period.from <= to) {
    if (period.payDate >= from && period.payDate <= to) periods.push(period);
    period = nextPeriod(schedule, period, isHoliday);
  }
  return periods;
}

/** Pay dates of a calendar year beyond the usual number; of daily ones there are now 260, now 262, and none is unusual. */
export const extraPayDates = (schedule: PaySchedule, count: number): number =>
  schedule.frequency === 'daily' ? 0 : Math.max(0, count - PAY_DATES_PER_YEAR[schedule.frequency]);

/** How many pay dates fall in a calendar year: now and then 27 fortnightly or 53 weekly ones. */
export const payDatesInYear = (schedule: PaySchedule, year: number, isHoliday: IsHoliday): number =>
  periodsPaidWithin(schedule, dateOf(year, 1, 1), dateOf(year, 12, 31), isHoliday).length;

/** Which pay date of its month and of its calendar year a pay date is, 1 for the first. */
export function placeOf(
  schedule: PaySchedule,
  payDate: IsoDate,
  isHoliday: IsHoliday,
): { inMonth: number; ofMonth: number; inYear: number } {
  const year = yearOf(payDate);
  const dates = periodsPaidWithin(schedule, dateOf(year, 1, 1), dateOf(year, 12, 31), isHoliday).map((period) => period.payDate);
  // A date moved by hand counts as the schedule's nearest one before it.
  const inYear = Math.max(1, dates.filter((date) => date <= payDate).length);
  const month = dates.filter((date) => date.slice(0, 7) === payDate.slice(0, 7));
  return { inMonth: Math.max(1, month.filter((date) => date <= payDate).length), ofMonth: Math.max(1, month.length), inYear };
}

function boundsOf(schedule: PaySchedule, date: IsoDate): [IsoDate, IsoDate] {
  switch (schedule.frequency) {
    case 'weekly':
      return repeating(schedule.anchor, 7, date);
    case 'fortnightly':
      return repeating(schedule.anchor, 14, date);
    case 'twice-a-month': {
      const [year, month] = [yearOf(date), monthOf(date)];
      return Number(date.slice(8)) <= 15
        ? [dateOf(year, month, 1), dateOf(year, month, 15)]
        : [dateOf(year, month, 16), lastOfMonth(year, month)];
    }
    case 'four-weekly':
      return repeating(schedule.anchor, 28, date);
    case 'monthly':
      return ofMonths(schedule.anchor, 1, date);
    case 'quarterly':
      return ofMonths(schedule.anchor, 3, date);
    case 'half-yearly':
      return ofMonths(schedule.anchor, 6, date);
    case 'yearly':
      return ofMonths(schedule.anchor, 12, date);
    case 'daily': {
      // A weekend belongs to the Friday before it.
      const day = weekday(date);
      const from = addDays(date, day === 6 ? -1 : day === 0 ? -2 : 0);
      return [from, weekday(from) === 5 ? addDays(from, 2) : from];
    }
  }
}

/** Periods of so many months from an anchor; one that begins on the 31st begins on the last day of shorter months. */
function ofMonths(anchor: IsoDate, length: number, date: IsoDate): [IsoDate, IsoDate] {
  const months = (yearOf(date) - yearOf(anchor)) * 12 + monthOf(date) - monthOf(anchor);
  let start = Math.floor(months / length) * length;
  if (addMonths(anchor, start) > date) start -= length;
  return [addMonths(anchor, start), addDays(addMonths(anchor, start + length), -1)];
}

function repeating(anchor: IsoDate, length: number, date: IsoDate): [IsoDate, IsoDate] {
  const from = addDays(anchor, Math.floor(daysBetween(anchor, date) / length) * length);
  return [from, addDays(from, length - 1)];
}
