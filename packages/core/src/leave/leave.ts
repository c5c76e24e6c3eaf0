import { addDays, addMonths, daysBetween, yearOf, type IsoDate } from '../calendar/dates';
import type { Minor } from '../money/amounts';

/** From so many months of service on, so many hours. */
export interface ServiceStep {
  fromMonths: number;
  hours: string;
}

/** How hours of leave are earned. */
export type LeaveEarning =
  /** So many hours for every so many worked. */
  | { by: 'hours-worked'; hours: string; forEvery: string }
  /** With every regular payslip. */
  | { by: 'period'; steps: ServiceStep[] }
  /** All of a plan year's hours on its first payslip; in the year of hire by the days left, where that is the employer's choice. */
  | { by: 'year'; steps: ServiceStep[]; firstYearByDays: boolean };

/** An employer's rules for one kind of leave. Hours are decimal texts. */
export interface LeavePlan {
  code: string;
  name: string;
  /** The item paid by the hour that pays it; without one the leave is unpaid. */
  item?: string;
  /** Hours are paid at the average of what was earned before, as the country's law makes it; else at the rate. */
  paidAt?: 'average';
  /** The item by which unused hours are paid out when somebody leaves; without one they are not paid. */
  payOutItem?: string;
  /** The item paid by the hour through which hours are cashed out in service, by agreement; without one they cannot be. */
  cashOutItem?: string;
  /** Hours that must be left, and the most that is paid out so within twelve months. */
  cashOutKeeps?: string;
  cashOutAtMost?: string;
  earns: LeaveEarning;
  /** Days after hire before anything is earned, and before anything may be taken. */
  earnsAfterDays?: number;
  usableAfterDays?: number;
  /** The most that is earned in a plan year, and the most that the balance grows to. */
  atMostInYear?: string;
  atMostBalance?: string;
  /** Hours carried over into a new plan year; all where absent. */
  carryOver?: string;
  /** How far the balance may go below zero, as a positive number of hours. */
  mayOwe?: string;
  /** The first day of the plan year as `MM-DD`, or each person's day of hire. */
  yearBegins: string;
}

/** A plan as it stands for one payslip. Sums are hundredths of hours, from the ledger. */
export interface LeaveOnPayslip {
  plan: LeavePlan;
  hired?: IsoDate;
  balance: Minor;
  /** Earned in the plan year before this payslip. */
  earnedInYear: Minor;
  /** Paid out in the twelve months before. */
  paidOutBefore?: Minor;
  /** A payslip of the plan year has been posted: what is carried over, lapses or is granted was done by it. */
  yearBegun: boolean;
  /** Approved leave of the period that is not paid through hours: of people with a salary, and unpaid leave. */
  taken: { date: IsoDate; hours: string }[];
  /** Hours of an ordinary period, of people with a salary. */
  standardHours?: string;
  /** Nothing is earned by payslips beside the regular ones. */
  earns: boolean;
  /** What is left is paid out with this payslip. */
  payOut?: boolean;
}

export const LEAVE_MOVEMENTS = ['lapsed', 'granted', 'earned', 'taken', 'paid-out', 'adjusted'] as const;
export type LeaveMovement = (typeof LEAVE_MOVEMENTS)[number];

/** The code under which a movement is posted; a plan's balance is the sum of all of its movements. */
export const leaveCode = (plan: string, movement: LeaveMovement): string => `leave:${plan}:${movement}`;

/** The plan year that holds a date. */
export function planYearOf({ yearBegins }: Pick<LeavePlan, 'yearBegins'>, date: IsoDate, hired?: IsoDate): { from: IsoDate; to: IsoDate } {
  const begins = yearBegins === 'hire' ? (hired?.slice(5) ?? '01-01') : yearBegins;
  const inYear = (year: number): IsoDate =>
    begins === '02-29' ? addMonths(`${year - (year % 4)}-02-29`, (year % 4) * 12) : `${year}-${begins}`;
  const year = yearOf(date) - (inYear(yearOf(date)) > date ? 1 : 0);
  return { from: inYear(year), to: addDays(inYear(year + 1), -1) };
}

/** The step that holds after the service from hire to a date; none before the first one. */
export const stepOn = (steps: readonly ServiceStep[], hired: IsoDate | undefined, date: IsoDate): ServiceStep | undefined =>
  [...steps]
    .sort((a, b) => a.fromMonths - b.fromMonths)
    .filter(({ fromMonths }) => fromMonths === 0 || (hired !== undefined && addMonths(hired, fromMonths) <= date))
    .at(-1);

/** The first day on which leave of a plan may be taken. */
export const usableFrom = ({ usableAfterDays = 0 }: LeavePlan, hired: IsoDate | undefined): IsoDate | null =>
  hired && usableAfterDays ? addDays(hired, usableAfterDays) : null;

/** Days of a plan year from hire on, of all its days; all where somebody was there before. */
export function daysOfFirstYear(year: { from: IsoDate; to: IsoDate }, hired: IsoDate | undefined): { days: number; of: number } {
  const of = daysBetween(year.from, year.to) + 1;
  return { days: hired && hired > year.from ? Math.max(0, daysBetween(hired, year.to) + 1) : of, of };
}

/** Items paid by the hour whose hours are leave, and no work. */
export const leaveItemsOf = ({ item, cashOutItem }: Pick<LeavePlan, 'item' | 'cashOutItem'>): string[] =>
  [item, cashOutItem].filter((code) => code !== undefined);
