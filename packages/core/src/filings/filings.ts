import type { IsoDate } from '../calendar/dates';
import type { Minor } from '../money/amounts';

/** Sums of posted lines of one pay date, in minor units, by code. */
export interface DaySums {
  payDate: IsoDate;
  /** Payslips and reversals posted on the day. */
  payslips: number;
  sums: Readonly<Record<string, Minor>>;
}

/** A line of a return, with the ledger codes it comes from. */
export interface FilingLine {
  line: string;
  label: string;
  amount: number;
  unit: 'money' | 'count';
  /** Ledger codes whose sums make the line; none for lines made of other lines. */
  codes: string[];
  working: string;
}

/** A periodic return to the tax agency. */
export interface PeriodicReturn {
  form: string;
  year: number;
  quarter: number;
  lines: FilingLine[];
  /** The liability by pay date. */
  liability: { payDate: IsoDate; amount: Minor }[];
  /** What must agree, in words. */
  checks: { sentence: string; holds: boolean }[];
  source: string;
}

/** A box of a year-end statement with the ledger codes it is the sum of. */
export interface Box {
  box: string;
  label: string;
  amount: Minor;
  codes: string[];
}

/** What is on file of the person a statement is for. `number` is the national number, digits only. */
export interface StatementFacts {
  name: string;
  number?: string;
  /** Somebody else has the same number. */
  shared: boolean;
  /** There is a full postal address. */
  address: boolean;
}

/** Something wrong with a statement; `stop` keeps it from being given out. */
export interface StatementCheck {
  code: string;
  weight: 'stop' | 'look';
  sentence: string;
}

/** Something that must reach the agency or the people by a date. */
export interface Due {
  kind: 'deposit' | 'return' | 'statements';
  date: IsoDate;
  what: string;
  amount?: Minor;
  year?: number;
  quarter?: number;
}

/** What a country's pack makes of the ledger for the agency and for the people. */
export interface Filings {
  returnForm: string;
  /** As headings and lists name them. */
  returnName: string;
  statementName: string;
  depositsName: string;
  /** The number by which the agency knows the employer, out of the country's facts; empty where it is missing. */
  employerNumber(facts: Readonly<Record<string, unknown>>): string;
  statementForm: string;
  statementSource: string;
  /** @param employees paid for the pay period that includes the 12th of the quarter's last month */
  quarterlyReturn(quarterStart: IsoDate, days: readonly DaySums[], employees: number, deposits: Minor): PeriodicReturn;
  /** The day by which the return of a quarter must be there. */
  returnDue(year: number, quarter: number): IsoDate;
  /** Codes of the taxes that make up a deposit. */
  liabilityCodes: readonly string[];
  dueDates(
    from: IsoDate,
    to: IsoDate,
    liabilities: readonly { payDate: IsoDate; amount: Minor }[],
    depositor: 'monthly' | 'semiweekly',
  ): Due[];
  statement(sums: Readonly<Record<string, Minor>>): Box[];
  checkStatement(year: number, boxes: readonly Box[], facts: StatementFacts): StatementCheck[];
}
