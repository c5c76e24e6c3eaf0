import type { IsoDate } from '../calendar/dates';
import type { Minor } from '../money/amounts';
import type { Working } from '../working/working';
import type { DaySums } from './filing';

/** What an employer's reckonings of a tax year are made from. */
export interface YearOfEmployer {
  /** Registrations of the employer, in the terms of the country. */
  employer: Readonly<Record<string, unknown>>;
  /** Days on which anything that was posted counts, in their order, with the sums of the codes that are asked for. */
  days: readonly Pick<DaySums, 'payDate' | 'sums'>[];
}

/**
 * What the law has an employer reckon for itself out of what was paid to everybody: a levy (more than nothing), an allowance
 * or something paid for the state and recovered (less than nothing). It is owed with what was withheld on the day.
 */
export interface Reckoned {
  code: string;
  on: IsoDate;
  amount: Minor;
  /** The period as sentences name it. */
  period: string;
  workings: Readonly<Record<string, Working>>;
}

/** The reckonings that a country's law knows. */
export interface EmployerReckonings {
  /** Ledger codes that they are made from. */
  codes: readonly string[];
  /** What each of them is called, by its code. */
  labels: Readonly<Record<string, string>>;
  /** Each period of a tax year with anything paid in it; the figures of each code add up to those of the year. */
  of(year: YearOfEmployer): Reckoned[];
}
