import type { IsoDate } from '../calendar/dates';
import type { Figure, Paper } from '../working/reckoning';
import type { Source } from '../working/working';

/** How employment ends, as a country's law tells it apart. */
export interface KindOfLeaving {
  code: string;
  label: string;
}

/** By when the law wants final pay to be there. */
export interface FinalPayDue {
  by: IsoDate;
  /** "within six days of a discharge". */
  words: string;
  source: Source;
}

/** What a certificate for who leaves is made of. Sums are those of the tax year of the last payment, in minor units. */
export interface CertificateFacts {
  name: string;
  number: string;
  born?: IsoDate;
  code: string;
  lastDay: IsoDate;
  /** The last pay date so far in the tax year. */
  lastPaid?: IsoDate;
  frequency: string;
  employer: Readonly<Record<string, unknown>>;
  tax: Readonly<Record<string, unknown>>;
  sums: Readonly<Record<string, number>>;
}

/** A paper that the law wants who leaves to be given. */
export interface LeavingCertificate {
  name: string;
  title: string;
  of(facts: CertificateFacts): { heading: string; rows: [label: string, value: string][] }[];
  note: string;
  source: Source;
}

/** What the law's payments to who leaves are made of. */
export interface OwedOnLeaving {
  kind: string;
  hired: IsoDate;
  lastDay: IsoDate;
  born?: IsoDate;
  /** Pay of a week; none where no rate is on file. */
  week?: Figure;
  /** Registrations of the employer, in the terms of the country. */
  employer?: Readonly<Record<string, unknown>>;
}

/** What the law wants paid to who leaves, beside the last hours; or says that nothing is owed, and why. */
export interface LawfulPayment {
  label: string;
  /** The treatment of the item that pays it. */
  treatment: string;
  /** Absent where nothing is owed. */
  figure?: Figure;
  sentence: string;
}

/** What a country says of leaving. */
export interface LeavingRules {
  certificate?: LeavingCertificate;
  /** The least notice that an employer gives by law, in weeks, with what it goes by. */
  leastNotice?(facts: OwedOnLeaving): { weeks: number; sentence: string };
  owed?(facts: OwedOnLeaving, paper: Paper): LawfulPayment[];
  kinds: readonly KindOfLeaving[];
  /** What is paid on leaving is taxed by the kind of ending, by service and by usual pay: payslips are told of them. */
  taxedByEnding?: true;
  /**
   * @param kind empty where it is not known: then the rule that asks for the earliest day holds
   * @param tax details of the person, in the terms of the country
   * @returns none where the regular pay date is soon enough
   */
  finalPayBy(kind: string, lastDay: IsoDate, tax: Readonly<Record<string, unknown>>): FinalPayDue | undefined;
}
