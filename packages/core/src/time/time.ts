import type { IsoDate } from '../calendar/dates';
import { Exact } from '../money/exact';
import type { Source } from '../working/working';

/** Hours of one day on one rate: worked, or paid without being worked (leave). */
export interface TimeEntry {
  date: IsoDate;
  /** Decimal text; calculated from begin, end and break where those are on the sheet. */
  hours: string;
  /** Series of the rate; the primary one where absent. */
  rate?: string;
  /** An item paid by the hour for time that was not worked, for example leave; absent for time worked. */
  item?: string;
  /** Begin and end on the clock, `HH:MM`; an end before the begin is on the next day. Needed for premiums by shift. */
  from?: string;
  to?: string;
  /** Pieces made, or tips received on the day, through the item; there are no hours then. */
  quantity?: string;
  /** Where or as what it was worked, for the working. */
  label?: string;
}

/** So much an hour more for hours within a part of the day. */
export interface ShiftPremium {
  label: string;
  from: string;
  to: string;
  perHour: string;
  /** An item paid by the hour. */
  item: string;
}

/** Which hours of a workweek are paid how. */
export interface TimeRules {
  code: string;
  label: string;
  /** First day of the workweek, 0 for Sunday: fixed, and the employer's choice. */
  weekBegins: number;
  /** Straight hours over so many in a workweek are overtime. */
  weeklyOver?: string;
  /** Hours over so many in a day are overtime, over so many more double time. */
  dailyOver?: string;
  dailyDoubleOver?: string;
  /** On the seventh day worked in a row of a workweek all hours are overtime, over so many double time. */
  seventhDayDoubleOver?: string;
  /** Hours worked on these days are paid through an item of their own, and count as worked. */
  holidays?: IsoDate[];
  premiums?: ShiftPremium[];
  /** Items that pay the hours, by code: at the rate, at one and a half, at double; and half the regular rate where several rates meet in a week; what brings low pay with tips up to the minimum wage. */
  items: { ordinary: string; overtime: string; double?: string; halfPremium?: string; holiday?: string; makeUp?: string };
  /** Pay of the workweeks that belongs to the regular rate beside the hourly pay, by first day of the week. */
  bonuses?: Record<IsoDate, string>;
  source: Source;
  /** What the law says of the regular rate of a week, where there is one. */
  regularRateSource?: Source;
}

export interface TimeFacts {
  rules: TimeRules;
  /** Of the period, and of the days before it in a workweek that reaches into it. */
  entries: TimeEntry[];
}

/** Hours between begin and end less the break, as decimal text to four decimals; an end before the begin is on the next day. */
export function hoursBetween(from: string, to: string, breakMinutes = 0): string {
  const minutes = (clock: string) => Number(clock.slice(0, 2)) * 60 + Number(clock.slice(3));
  const length = (minutes(to) - minutes(from) + 24 * 60) % (24 * 60);
  return Exact.whole(Math.max(0, length - breakMinutes))
    .over(Exact.whole(60))
    .toDecimal(4);
}
