import type { IsoDate } from '../calendar/dates';
import type { Minor } from '../money/amounts';
import type { Source } from '../working/working';

/** What was withheld or is owed by law, by the day it counts on. */
export interface Liability {
  payDate: IsoDate;
  amount: Minor;
}

/** A payment that is due. */
export interface DuePayment {
  date: IsoDate;
  what: string;
  amount: Minor;
  /** The last day of a liability in it. */
  upTo: IsoDate;
}

/** Money that the law wants paid: to whom, made up of which ledger codes, and by when. */
export interface Owed {
  code: string;
  /** As lists of what is due name it. */
  what: string;
  payee: string;
  /** Ledger codes with their places. */
  codes: readonly string[];
  place?: string;
  /** By which number the payee knows the employer; empty where it is missing. */
  reference: string;
  /** By when, as a sentence says it. */
  rule?: string;
  /** Where the rule of days was published. */
  source?: Source;
  /** The filing that reports it. */
  filing?: string;
  /**
   * What is due of liabilities, each when; absent where the payee's rule is not in.
   * @param liabilities in order of their days, from `since` before the range that is looked at
   */
  due?: (liabilities: readonly Liability[]) => DuePayment[];
  /** From which day liabilities must be known for what is due from a day on. */
  since?: (from: IsoDate) => IsoDate;
}
