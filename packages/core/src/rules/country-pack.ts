import type { z } from 'zod';
import type { IsoDate } from '../calendar/dates';
import type { Minor } from '../money/amounts';
import type { ItemOnPayslip, PayItem } from '../pay-items/pay-item';
import type { LeavePlan } from '../leave/leave';
import type { EarnedBefore, PayslipInput } from '../payslip/input';
import type { TimeRules } from '../time/time';
import type { BankForm, Paper as PaperSize, PersonForm, Words } from './identity';
import type { Parameters } from './parameters';
import type { DueRule } from '../filings/due-rules';
import type { Filing } from '../filings/filing';
import type { Owed } from '../filings/owed';
import type { EmployerReckonings } from '../filings/reckoned';
import type { FormField, FormGroup } from './form-field';
import type { EnrolmentLaw } from './enrolment';
import type { LeaveByLaw } from './leave-by-law';
import type { NoticeRules } from './notices';
import type { LeavingRules } from '../leaving/final-pay';
import type { Problem } from '../payslip/payslip';
import type { Exact } from '../money/exact';
import type { Figure, Paper, Reckoning } from '../working/reckoning';
import type { Source } from '../working/working';

export { CannotCompute } from './cannot-compute';
export { isAsked, type FieldCondition, type FormField, type FormGroup } from './form-field';

/** How a kind of pay or deduction counts: +1 adds to a base, −1 lowers it, absent leaves it alone. */
export interface Treatment {
  code: string;
  label: string;
  /** Which kinds of pay item may have it. */
  for: readonly ('earning' | 'reimbursement' | 'benefit-in-kind' | 'deduction' | 'employer-contribution')[];
  counts: Readonly<Record<string, 1 | -1 | 0>>;
  /** Deductions: before tax lowers a tax base or uses a legal limit; orders follow the pack's protection rules. */
  taken?: 'before-tax' | 'after-tax' | 'order';
  /** A base whose sum in the year has a legal limit. */
  limitedBy?: string;
  /** Which of the pack's legal limits holds for the base; without it the one named as the base. */
  limit?: string;
  /** Contributions: of the year's pay, posted under a base, only so much counts as a legal limit says. */
  countsPayUpTo?: { base: string; limit: string };
  /** Orders: several of this kind share one limit by what each asks for; the source of that rule. */
  shared?: Source;
  /** Orders: the employer's fee may be taken beyond what the order leaves free. */
  feeBeyondLimit?: Source;
  /** The payslip works out what it is stated as, so that its sum cannot be moved to another kind. */
  statedByPayslip?: true;
  /** What is given up of pay that was agreed: what is left is held against the minimum wage. */
  givesUpPay?: true;
  /** By when the law wants it handed on, and as what; others are agreed with the payee. */
  remitted?: { rule: DueRule; purpose: 'support' | 'payee'; source: Source };
  /** Orders: facts that the limit depends on. */
  asks?: readonly FormField[];
  source?: Source;
}

export interface Base {
  code: string;
  label: string;
  /** Carried in the ledger by the tax itself (for example after a ceiling), not by the engine. */
  byTax?: boolean;
  /** The place whose it is; none for what is the whole country's. */
  place?: string;
  /** Another base that it counts like, where a treatment does not say otherwise. */
  follows?: string;
  /** Treatments that count otherwise than for the base it follows. */
  otherwise?: Readonly<Record<string, 1 | -1 | 0>>;
}

/** One tax as calculated by a pack, with the lines of bases it wants posted. */
export interface TaxResult {
  code: string;
  label: string;
  figure: Figure;
  bases?: { code: string; label: string; figure: Figure }[];
  /** Pay of which a fixed per cent is taken where a letter asks for one; the first base where absent. */
  counted?: Figure;
}

/** What else follows when somebody is exempt from a tax. */
export interface Exemption {
  /** Taxes that go with it. */
  also: readonly string[];
  /** Bases that the pay does not count for at all. */
  uncounted: readonly string[];
  source: Source;
}

/** What a pack may ask of the payslip in the making. */
export interface TaxContext<Tax = unknown, Employer = unknown> {
  paper: Paper;
  input: PayslipInput;
  tax: Tax;
  employer: Employer;
  /** Pay counted for a base on this payslip. */
  base(code: string): Figure;
  /** Posted before this payslip in the tax year. */
  yearToDate(code: string, label: string): Figure;
  /** Posted before this payslip in the country's earnings period, by payslips of their own beside the regular ones. */
  earlierInPeriod(code: string, label: string): Figure;
  /** Hours worked on this payslip, entered or made by time rules; leave is not among them. */
  hoursWorked(): Exact;
  problem(problem: Problem): void;
}

/** Pay from which court orders are taken. */
export interface OrderContext<Tax = unknown, Employer = unknown> extends TaxContext<Tax, Employer> {
  gross: Figure;
  taxes: Figure;
  /** Taken on this payslip through items with one of the treatments. */
  deductedBeforeTax(treatments: readonly string[]): Exact;
  /** Withheld on this payslip under codes of taxes. */
  withheld(codes: readonly string[]): Exact;
  /** Already taken by orders before this one. */
  takenByOrders: Exact;
  /** Pay left after taxes and all that was deducted before. */
  available: Exact;
}

/** A table of the law in which an item's amount is looked up. */
export interface PublishedTable {
  label: string;
  /** What the person's amount stands for, for example "Cover". */
  asks: string;
  /** Writes the amount for this payslip into the item's working. */
  lookUp(reckoning: Reckoning, amount: Exact, context: TableContext): Reckoning;
}

/** What a table of the law may ask beside the rest: for tables that orders go by. */
export interface TableContext extends TaxContext {
  /** What the pack calls disposable, or attachable, of this payslip. */
  disposable(): Figure;
  /** Taken on this payslip so far through items with one of the treatments. */
  deducted(treatments: readonly string[]): Exact;
}

/** How a treatment counts for a base: as it says itself, else as the base says of it, else as for the base that is followed. */
export function countOf(treatment: Pick<Treatment, 'code' | 'counts'>, base: Base, all: ReadonlyMap<string, Base>): 1 | -1 | 0 {
  const own = treatment.counts[base.code] ?? base.otherwise?.[treatment.code];
  if (own !== undefined) return own;
  const followed = base.follows === undefined ? undefined : all.get(base.follows);
  return followed ? countOf(treatment, followed, all) : 0;
}

/** A way to tax pay beside the regular. */
export interface TaxMethod {
  code: string;
  label: string;
  /** Adds to the latest regular payslip, which the payslip is given for it. */
  withEarlierPay?: true;
}

/** Registrations of an employer as data: single fields, lists of places with fields of their own, sets of overtime rules. */
export interface EmployerForm {
  /** The field with the number by which the tax agency knows the employer. */
  number: string;
  fields: readonly FormField[];
  lists: readonly {
    key: string;
    title: string;
    entry: string;
    choices?: readonly { value: string; label: string }[];
    fields: readonly FormField[];
  }[];
  overtimeRules: readonly { code: string; label: string }[];
  /** What is missing where no place is registered; absent in a country without places of its own. */
  noPlaces?: string;
  /** Kinds of employer that the country's forms tell apart, beside an ordinary one. */
  kinds: readonly { code: string; label: string }[];
}

/** What a country's law asks of an employer before a tax year begins is found out from this. */
export interface YearAheadFacts {
  /** Calendar year in which the tax year begins. */
  year: number;
  employer: Readonly<Record<string, unknown>>;
  /** Posted under codes within a range of days, minor units. */
  posted: (codes: readonly string[], from: IsoDate, to: IsoDate) => Minor;
  /** Pay dates of the schedules in the tax year before. */
  payDates: readonly { schedule: string; frequency: string; date: IsoDate }[];
  /** Tax details as they stand, of whoever is employed. */
  people: readonly { personId: string; name: string; details: Readonly<Record<string, unknown>> }[];
}

/** Something to look at or to enter before a tax year begins. */
export interface YearPoint {
  code: string;
  sentence: string;
  done: boolean;
  source: Source;
  part: 'registrations' | 'people';
  people?: readonly { personId: string; name: string }[];
}

/** A country's rules. Only the registry knows which packs there are. */
export interface CountryPack<Tax = unknown, Employer = unknown> {
  code: string;
  name: string;
  currency: string;
  /** Decimals of the currency (ISO 4217). All amounts are whole hundredths; a country that counts otherwise does not fit. */
  minorUnits: 2;
  locale: string;
  paper: PaperSize;
  words: Words;
  person: PersonForm;
  bank: BankForm;
  taxYearOf(date: IsoDate): { label: string; from: IsoDate; to: IsoDate };
  /** The earnings period of a pay date, where payments within it are reckoned together. */
  earningsPeriod?(date: IsoDate, frequency: string): { from: IsoDate; to: IsoDate };
  /** Time zones of the country (IANA), the most usual first. */
  timeZones: readonly [string, ...string[]];
  /** A bank holiday of the whole country, or of a place in it. */
  isHoliday: (date: IsoDate, place?: string) => boolean;
  treatments: Readonly<Record<string, Treatment>>;
  bases: readonly Base[];
  /** Places where an employer is registered, out of its facts: whose bases concern it. */
  placesOf(employer: Readonly<Record<string, unknown>>): readonly string[];
  /** Taxes go by how many pay dates the tax year has. */
  countsPayDates?: true;
  /** A tax looks at sums of the calendar quarter. */
  looksAtQuarter?: true;
  /** The base meant by "taxable pay". */
  taxableBase: string;
  publishedTables?: Readonly<Record<string, PublishedTable>>;
  taxSchema: z.ZodType<Tax>;
  employerSchema: z.ZodType<Employer>;
  taxForm: readonly FormGroup[];
  employerForm: EmployerForm;
  /** Every dated figure of the law that the pack looks up. */
  tables: Parameters;
  /** Dated tables in force on a date; throws CannotCompute when the law's table for it is not known. */
  assertTables(date: IsoDate): void;
  /** A limit by the name that treatments give it. */
  legalLimit(limit: string, context: TaxContext<Tax, Employer>): Figure;
  employeeTaxes(context: TaxContext<Tax, Employer>): TaxResult[];
  employerTaxes(context: TaxContext<Tax, Employer>): TaxResult[];
  /** What the law says of overtime, by the codes that the employer's form offers; without the employer's own choices. */
  overtimeRules: Readonly<
    Record<string, Pick<TimeRules, 'label' | 'weeklyOver' | 'dailyOver' | 'dailyDoubleOver' | 'seventhDayDoubleOver' | 'source'>>
  >;
  /** What is paid to contractors is posted for this. */
  contractorBase?: { code: string; label: string };
  /** What is withheld from contractors whom the tax agency cannot know, out of the pay that counts for that base. */
  contractorTaxes?(context: Pick<TaxContext, 'paper' | 'input' | 'yearToDate'>, paid: Figure): TaxResult[];
  /** Where the law says what wages are at least, and what overtime is reckoned from. */
  wageLaw?: { regularRate: Source; tipCredit: Source; kept: Source };
  /** Taxes that are a plain rate of the pay counted, so that a sum of payslips can be compared with it. */
  plainRates: readonly string[];
  /** Tax details as they are begun with. */
  newTaxDetails: Readonly<Record<string, unknown>>;
  /** The base that tips count for. */
  tipsBase?: string;
  /** The least that an hour worked is paid, by the law of the place where it is worked. */
  minimumWage?(context: TaxContext<Tax, Employer>): Figure;
  /** How pay beside the regular (a bonus, a payment at the end) can be taxed; the first method unless another is chosen; its usual treatment. */
  paidBeside: { label: string; methods: readonly TaxMethod[]; treatment: string };
  /** By tax, where more than the tax itself goes: pay that is no wages for it, the employer's share. */
  exemptions: Readonly<Record<string, Exemption>>;
  /** Gross pay less what the law requires to be withheld, and in some countries what was deducted before tax. */
  disposable(context: TaxContext<Tax, Employer> & Pick<OrderContext, 'gross' | 'taxes' | 'deductedBeforeTax' | 'withheld'>): Figure;
  orderLimit(order: ItemOnPayslip, context: OrderContext<Tax, Employer>): Figure;
  /** Standard items from which an employer takes what it needs, with the limits of the date. */
  readyItems(date: IsoDate): readonly { group: string; item: PayItem }[];
  /** The number by which the tax agency knows the employer, out of its registrations; empty where it is missing. */
  employerNumber(employer: Readonly<Record<string, unknown>>): string;
  /** What the employer reckons for itself out of everybody's pay. */
  reckonings?: EmployerReckonings;
  /** What the employer owes by law, out of its registrations. */
  moneyOwed(employer: Readonly<Record<string, unknown>>): readonly Owed[];
  /** Leave that the law knows and pays. */
  leaveByLaw?: LeaveByLaw;
  /** What the law wants said on a payslip of employer and employee beside the figures. */
  onPayslip?(employer: Readonly<Record<string, unknown>>, tax: Readonly<Record<string, unknown>>): readonly string[];
  /** The record of deductions that the law wants kept of each person, by pay date of a tax year. */
  deductionSheet?: {
    name: string;
    /** How the periods of the year are called: "week 20". */
    period(date: IsoDate, frequency: string): string;
    parts: readonly { title: string; columns: readonly { label: string; codes: RegExp; toDate?: true }[] }[];
    source: Source;
  };
  /** Taxes of pay beside the regular go by the days in which it was earned. */
  countsDaysEarned?: true;
  /** Pay of further periods can be paid with a payslip, for the country says how it is taxed. */
  paysAhead?: true;
  /** Leave paid at an average of what was earned before: by which sums, and how. */
  averageLeavePay?: {
    earnings: string;
    /** Periods with something under these are left out. */
    away: readonly string[];
    /** What an hour is paid; nothing where nothing was earned. */
    hourly(paper: Paper, before: readonly EarnedBefore[], frequency: string, from: IsoDate): Figure | undefined;
  };
  /** Plans of leave that the law grants, to begin one from; hours are those of a full week. */
  leaveGranted?(hoursOfWeek: number): readonly { label: string; terms: Omit<LeavePlan, 'code'>; source: Source }[];
  /** Notices of the tax agency about people's tax details. */
  notices?: NoticeRules;
  /** Membership of a savings scheme that the law wants employers to see to. */
  enrolment?: EnrolmentLaw;
  /** Kinds of ending, and by when final pay is there. */
  leaving: LeavingRules;
  /** What ends and begins with the tax year that ends in a calendar year, in order of its days. */
  yearTurns(year: number): readonly { date: IsoDate; what: string }[];
  /** What the coming tax year asks of an employer, out of what was posted and what is on file. */
  yearAhead(facts: YearAheadFacts): readonly YearPoint[];
  /** Everything that the law wants of an employer is in, so that one can be set up. */
  whole: boolean;
  /** Returns, reports and statements that an employer with these registrations files. */
  filings(employer: Readonly<Record<string, unknown>>): readonly Filing[];
}

/** Bases of the whole country, and of the places that concern an employer. */
export const basesAt = ({ bases }: Pick<CountryPack, 'bases'>, places: readonly string[]): Base[] =>
  bases.filter(({ place }) => place === undefined || places.includes(place));

/** How a treatment counts for each of those bases; what it leaves alone is left out. */
export function countsOf(
  pack: CountryPack,
  treatment: Pick<Treatment, 'code' | 'counts'>,
  places: readonly string[],
): Record<string, 1 | -1> {
  const all = new Map(pack.bases.map((base) => [base.code, base]));
  return Object.fromEntries(
    basesAt(pack, places).flatMap((base) => {
      const sign = countOf(treatment, base, all);
      return sign === 0 ? [] : [[base.code, sign]];
    }),
  );
}
