import { isDate, type IsoDate } from '../calendar/dates';
import type { BoxRule, ItemBox, ItemInBox, MarkRule } from './boxes';
import type { EarlierPay } from './earlier';
import type { Sender, Stated } from './sender';
import type { Minor } from '../money/amounts';

/** How often a filing comes: with every pay date, or by the agency's own periods. */
export type FilingCycle = 'pay-date' | 'month' | 'quarter' | 'year';

/** The time that one filing is for, by the agency's own periods, and the day by which it must be there. */
export interface FilingPeriod {
  /** As in addresses and in files: "2026-Q3", "2026". */
  key: string;
  /** As sentences and headings name it: "quarter 3 of 2026". */
  label: string;
  from: IsoDate;
  to: IsoDate;
  /** It can be filed as soon as it is posted, and not only once its days are over. */
  ahead?: true;
  /** Moved for holidays, as the agency's rule says. */
  due: IsoDate;
  /** The tax year of the pack that it belongs to. */
  taxYear: string;
}

/** Sums of posted lines that count on one day, in minor units, by code. */
export interface DaySums {
  payDate: IsoDate;
  /** Payslips and reversals that count on the day. */
  payslips: number;
  sums: Readonly<Record<string, Minor>>;
}

/** One person's sums of posted lines of the period, with what is on file for their copy. */
export interface PersonSums {
  personId: string;
  /** Family name first, as lists have it. */
  name: string;
  givenName: string;
  familyName: string;
  /** The national number without its separators; absent where it is missing. */
  number?: string;
  /** Somebody else has the same number. */
  shared: boolean;
  /** Last day of employment, where one is on file. */
  left?: IsoDate;
  /** There is a full postal address. */
  address: boolean;
  sums: Readonly<Record<string, Minor>>;
  /** Sums of the tax year up to the end of the period, for a filing that states them. */
  toDate?: Readonly<Record<string, Minor>>;
  /** Tax details as they stand at the end of the period, in the terms of the country. */
  details: Readonly<Record<string, unknown>>;
  /** Boxes that somebody has marked or written by hand, each with why. */
  marked: Readonly<Record<string, { text: string; reason: string }>>;
}

/** All that a filing is made from: nothing of the ledger is typed in again. */
export interface FilingFacts {
  period: FilingPeriod;
  days: readonly DaySums[];
  /** Empty for a filing that is made from sums by day. */
  people: readonly PersonSums[];
  /** People with a payslip whose period includes each day that the filing counts on. */
  headcounts: readonly number[];
  /** What was paid towards it. */
  paid: Minor;
  /** Earnings and benefits in kind of employees, before anything is taken. */
  gross: Minor;
  /** Of the period what was paid before this system. */
  earlier: EarlierPay;
  /** What the employer has reckoned for itself in the tax year up to the end of the period, by code. */
  reckoned: Readonly<Record<string, Minor>>;
  /** Of a filing with `along`: its sum by place. */
  byPlace: Readonly<Record<string, Minor>>;
  /** Registrations of the employer, in the terms of the country. */
  employer: Readonly<Record<string, unknown>>;
  /** Lines that somebody has entered or overridden, in minor units, each with where it is from. */
  entered: Readonly<Record<string, { amount: Minor; reason: string }>>;
  /** Items that the employer has put into boxes. */
  items: readonly ItemInBox[];
  /** Lines of other filings of the same tax year as they were filed last, by filing; each with how many of its periods that is. */
  filed: Readonly<Record<string, { periods: number; lines: Readonly<Record<string, number>> }>>;
}

/** A line whose amount is not in the ledger: somebody enters it, with where it is from. */
export interface EnteredLine {
  line: string;
  label: string;
  help: string;
}

/** A line of a filing, with the ledger codes it comes from. */
export interface FilingLine {
  line: string;
  label: string;
  amount: number;
  unit: 'money' | 'count';
  /** Ledger codes whose sums make the line; none for lines made of other lines. */
  codes: string[];
  working: string;
  /** What the whole filing comes to. */
  sum?: true;
  /** It follows what was paid: that it changes after filing is no correction. */
  settles?: true;
  /** What was computed, where somebody has overridden the line, and why. */
  replaced?: { amount: number; reason: string };
}

/** A column of such a list; one that only the file needs is not shown. */
export interface DetailColumn {
  key: string;
  label: string;
  unit: 'money' | 'count';
  fileOnly?: true;
}

/** A list of people that goes with a filing, such as wages of a quarter. */
export interface FilingDetail {
  title: string;
  columns: DetailColumn[];
  rows: { personId: string; values: number[] }[];
}

/** What must agree, in words. */
export interface FilingCheck {
  sentence: string;
  holds: boolean;
  /** It is to be looked at and keeps nothing from being filed. */
  weight?: 'look';
}

/** A box of a person's copy with the ledger codes it is the sum of. */
export interface Box {
  box: string;
  label: string;
  amount: Minor;
  codes: string[];
}

/** A box that is marked, or holds words. */
export interface Mark {
  box: string;
  label: string;
  text: string;
}

/** Something wrong with a person's copy; `stop` keeps it from being given out. */
export interface CopyCheck {
  code: string;
  weight: 'stop' | 'look';
  sentence: string;
}

/** What one person is given. */
export interface Copy {
  personId: string;
  boxes: Box[];
  marks: Mark[];
  checks: CopyCheck[];
}

/** Something of a statement that is not as it was filed: amounts in minor units, marks as texts. */
export interface Corrected<Value> {
  box: string;
  label: string;
  before: Value;
  now: Value;
}

/** What of one person's statement is corrected. */
export interface Correction {
  personId: string;
  boxes: Corrected<number>[];
  marks: Corrected<string>[];
  /** The name or the number on it is another one. */
  named: boolean;
}

/** A filing as the ledger makes it now. */
export interface MadeFiling {
  lines: FilingLine[];
  /** Sums by day that stand beside the lines; none where the filing has no such list. */
  byDay: { title: string; codes: string[]; days: { date: IsoDate; amount: Minor }[] } | null;
  /** Sorted as the people came; empty for a filing that gives nobody a copy. */
  copies: Copy[];
  detail?: FilingDetail;
  checks: FilingCheck[];
  /** The agency's publication that was followed. */
  source: string;
}

/** What of a filing its file is made of. */
export type FilingContent = Pick<MadeFiling, 'lines' | 'byDay' | 'copies' | 'detail'> & {
  period: FilingPeriod;
  /** Lines as they were filed before, where this corrects them. */
  before?: readonly FilingLine[];
  /** And why they differ. */
  because?: string;
  /** People whose statement the agency has otherwise, where this corrects what was filed. */
  corrected?: readonly Correction[];
};

/** Somebody as a file names them. */
export type Named = Pick<Stated, 'number' | 'givenName' | 'familyName'>;

/** The file by which a filing goes to its agency. */
export interface FilingFile {
  /** As sentences name it. */
  format: string;
  extension: string;
  /** What must be on file before anything can be filed so; each with where it is entered. */
  wants(sender: Sender): { sentence: string; part: 'registrations' | 'legal' | 'people' }[];
  /**
   * The file.
   * @throws RangeError for what does not fit its columns
   */
  write(content: FilingContent, sender: Sender): string;
  /** Whom a file of the kind names, in the order of its statements. */
  named?(content: string): Named[];
  /**
   * Several employers of one number in one file, where the agency takes it so.
   * @throws RangeError where their parts cannot be told apart
   */
  join?(contents: readonly string[]): string;
  /** The file of what corrects it, where that is another one. */
  corrected?: FilingFile;
}

/** A return, report or statement to an agency: when, from what, how it is made, and what is agreed to when it is signed. */
export interface Filing {
  /** As in addresses and files: short, in small letters. */
  code: string;
  /** As the agency and headings name it. */
  form: string;
  /** What it is, in the trade’s words. */
  name: string;
  agency: string;
  /** Of a place below the country (ISO 3166-2, and a locality after it). */
  place?: string;
  every: FilingCycle;
  /** Filed only where anything was posted under a code. */
  only?: string;
  /** Filed only where an item of the employer was put into a box of it. */
  onlyBoxed?: true;
  from: 'days' | 'people';
  /** Those that end within a calendar year; of a filing with every pay date those of the pay dates given. */
  periods(year: number, payDates?: readonly IsoDate[]): FilingPeriod[];
  /** Whether a period has anything to say, by the days on which anything was paid and on which the employer reckoned; always without it. */
  asked?(period: FilingPeriod, days: { paid: readonly IsoDate[]; reckoned: readonly IsoDate[]; today: IsoDate }): boolean;
  /** It states sums of the tax year so far beside those of its period. */
  statesYear?: true;
  /** Days on which people are counted; only those with a line of a code, where one is said. */
  counts?: { on(period: FilingPeriod): IsoDate[]; with?: string };
  make(facts: FilingFacts): MadeFiling;
  /** Filings of the same tax year that it is compared with. */
  against?: readonly string[];
  enters?: readonly EnteredLine[];
  /** Computed lines that may be overridden with a reason; the law leaves no room in the others. */
  overrides?: readonly string[];
  /** A code that is summed by the place of another one on the same payslip. */
  along?: { of: string; places: string };
  /** What each person is given. */
  copies?: {
    name: string;
    /** Boxes that a list of people shows first. */
    first: readonly string[];
    /** Whom it states: employees, or those who are paid by contract. */
    of: 'employees' | 'contractors';
    boxes: readonly BoxRule[];
    itemBoxes?: readonly ItemBox[];
    /** By tax treatment, why the law has an item in no box. */
    noBox?: Readonly<Record<string, string>>;
    marks?: readonly MarkRule[];
    /** It can be filed for some of the people: what keeps one from it does not keep the others, who follow later. */
    some?: true;
    /** What it is called once it was filed and is corrected. */
    corrected?: string;
    /** What each copy is for, where several are given to one person. */
    sets?: readonly string[];
    /** The sheet of totals that goes with the copies. */
    totals?: string;
  };
  /** The file by which it goes to the agency; without one it goes on paper or by the agency's own site. */
  file?: FilingFile;
  /** It goes to the people themselves, and nobody answers: once it was handed over, it is there. */
  unanswered?: true;
  /** Paid towards it, by what is owed: its balance can go along. */
  owed?: string;
  /** The last day on which what was filed can be corrected; always where the law sets none. */
  amendUntil?(period: FilingPeriod): IsoDate;
  /** What whoever signs agrees to, in our words. */
  statement: string;
}

/** The period of a filing by its key; undefined for one that is none. */
export function periodOfFiling(filing: Pick<Filing, 'periods'>, key: string): FilingPeriod | undefined {
  const year = /^(?:19|20|21)\d\d/.exec(key)?.[0];
  if (year === undefined) return undefined;
  const dates = isDate(key) ? [key] : [];
  // A year that is called by its first calendar year ends in the next one.
  return [Number(year), Number(year) + 1].flatMap((one) => filing.periods(one, dates)).find((period) => period.key === key);
}

/** Periods of a filing that end on or after `from` and whose last day to file is not after `to`, earliest first. */
export function periodsDue(filing: Pick<Filing, 'periods'>, from: IsoDate, to: IsoDate, payDates: readonly IsoDate[] = []): FilingPeriod[] {
  const found: FilingPeriod[] = [];
  for (let year = Number(from.slice(0, 4)) - 2; year <= Number(to.slice(0, 4)); year++)
    found.push(...filing.periods(year, payDates).filter(({ due }) => due >= from && due <= to));
  return found.sort((a, b) => (a.due < b.due ? -1 : a.due > b.due ? 1 : 0));
}
