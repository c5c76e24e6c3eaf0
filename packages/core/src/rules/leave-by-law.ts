import type { IsoDate } from '../calendar/dates';
import type { Minor } from '../money/amounts';
import type { Working } from '../working/working';
import type { FormField } from './form-field';

/** A leave that the law knows and pays, such as sickness or maternity. */
export interface KindOfLeaveByLaw {
  code: string;
  label: string;
  /** The treatment of the item that pays it. */
  treatment: string;
  /** What else is asked than its first and last day. */
  fields: readonly FormField[];
  /** The form by which somebody is told that nothing is paid, and why. */
  refusal?: string;
}

/** All that the law's tests and amounts of one leave are made from. */
export interface LeaveByLawFacts {
  kind: string;
  /** First and last day away. */
  from: IsoDate;
  to: IsoDate;
  /** By the fields of its kind. */
  about: Readonly<Record<string, string>>;
  hired: IsoDate;
  left?: IsoDate;
  frequency: string;
  /** Earnings by pay date as posted, earliest first. */
  paid: readonly { payDate: IsoDate; amount: Minor }[];
  /** Other leaves of the same kind that stand, earliest first. */
  others: readonly { from: IsoDate; to: IsoDate; about: Readonly<Record<string, string>> }[];
}

/** What is paid for some days of the leave, mostly a week. */
export interface PartOfLeave {
  from: IsoDate;
  to: IsoDate;
  /** As a payslip names it: "week 3 of 39". */
  label: string;
  amount: Minor;
  /** The figure that it comes from. */
  key: string;
}

/** Whether it is paid, by which tests, and how much in which week. */
export interface AssessedLeave {
  tests: { sentence: string; holds: boolean }[];
  entitled: boolean;
  parts: PartOfLeave[];
  workings: Readonly<Record<string, Working>>;
}

/** Leave by law in a country. */
export interface LeaveByLaw {
  kinds: readonly KindOfLeaveByLaw[];
  /** Base whose posted sums are the earnings that averages are made of. */
  earnings: string;
  /**
   * @throws RangeError for facts with which nothing can be assessed: a date that is missing or out of its order
   */
  assess(facts: LeaveByLawFacts): AssessedLeave;
}
