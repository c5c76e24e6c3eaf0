import type { IsoDate } from '../calendar/dates';
import type { Minor } from '../money/amounts';
import type { Source, Working } from '../working/working';

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

/** What of an obligation was not there on its day. */
export interface LateFacts {
  due: IsoDate;
  /** Its last liability. */
  upTo: IsoDate;
  /** Of how many people it is. */
  people: number;
  today: IsoDate;
  /** Parts of it that came later, each with the day on which it was paid; null is not paid yet. */
  late: readonly { amount: Minor; on: IsoDate | null }[];
}

/** What an obligation costs beside itself because it is late; as of today where something is still to be paid. */
export interface LateCharge {
  lines: readonly { key: string; label: string; amount: Minor }[];
  workings: Readonly<Record<string, Working>>;
  /** What there is to do about it. */
  note: string;
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
  /** What being late costs, where the law makes a charge of its own that the employer has to state. */
  late?: (facts: LateFacts) => LateCharge;
}
