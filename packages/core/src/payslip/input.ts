import type { IsoDate } from '../calendar/dates';
import type { Frequency } from '../calendar/schedules';
import type { ItemOnPayslip, PayItem } from '../pay-items/pay-item';
import type { LeaveOnPayslip } from '../leave/leave';
import type { TimeFacts } from '../time/time';

export const PAYSLIP_INPUT_FORMAT = 'woodruff.payslip-input/1';

/** When and for which period is paid. */
export interface PayFacts {
  date: IsoDate;
  from: IsoDate;
  to: IsoDate;
  frequency: Frequency;
  /** Pay dates of the schedule in the calendar year. */
  payDatesInYear: number;
  /** And in the tax year, where that is another one. */
  payDatesInTaxYear?: number;
  /** Which pay date of its month and of its year this is, 1 for the first; needed by items that are not on every payslip. */
  place?: { inMonth: number; ofMonth: number; inYear: number };
  /** A run beside the regular ones: items for regular runs only stay out. */
  special?: boolean;
  /** So many further pay periods are paid with this one. */
  ahead?: number;
  /** How pay beside the regular is taxed, by one of the pack's methods; its first unless another is chosen. */
  taxMethod?: string;
}

/** What was earned in a pay period before: pay in minor units, hours as a decimal text. */
export interface EarnedBefore {
  from: IsoDate;
  to: IsoDate;
  pay: number;
  hours: string;
  /** Something of it was paid for leave by law. */
  away: boolean;
}

/** A rate of pay in force. `amount` is a decimal text in the major unit, per hour, per pay period or per year. */
export interface Rate {
  id: string;
  label: string;
  per: 'hour' | 'period' | 'year';
  amount: string;
  from?: IsoDate;
  primary?: boolean;
  /** What it was before, oldest first, where it changed within the pay period or in a workweek that reaches into it. */
  earlier?: { amount: string; from?: IsoDate }[];
}

/** Hours on a rate, paid through an item whose method is `hours`. */
export interface HoursEntry {
  rate: string;
  item: string;
  /** Decimal text, for example "4.50". */
  hours: string;
}

export interface OneOff {
  id: string;
  item: PayItem;
  amount: string;
  note?: string;
  /** Only a part of a month is paid: days of it, of all days of that month. */
  part?: { from: IsoDate; to: IsoDate };
  /** The days in which it was earned, where that is not the pay period: for taxes that are spread over these. */
  earned?: { from: IsoDate; to: IsoDate };
}

export interface TaxOverride {
  /** Code of the tax. */
  tax: string;
  amount: string;
  reason: string;
}

/** A tax taken otherwise than by its rules, for as long as a letter, a certificate or the law says so. */
export interface StandingTax {
  /** Code of the tax. */
  tax: string;
  /** Nothing at all, a fixed amount each payslip, or a fixed per cent of the pay counted. */
  instead: 'exempt' | 'amount' | 'percent';
  value?: string;
  reason: string;
  from: IsoDate;
  to?: IsoDate;
}

/** Pay that was paid too much and is taken back over several payslips. */
export interface Recovery {
  id: string;
  /** The earning it was paid through. */
  item: PayItem;
  /** Still to be recovered, in minor units. */
  left: number;
  perPayslip: string;
  reason: string;
}

/** A balance changed without payment. */
export interface Adjustment {
  code: string;
  label: string;
  /** Hours of leave, or money. */
  kind: 'leave' | 'base';
  /** What is added; negative to lower it. */
  amount: string;
  reason: string;
}

/** Sums of posted lines before this payslip, in minor units, by the line's code. */
export type Balances = Record<
  string,
  {
    year: number;
    inAll: number;
    quarter?: number;
    month?: number;
    period?: number;
    /** In the country's earnings period of the pay date. */
    earnings?: number;
  }
>;

/**
 * Everything a payslip depends on. Each top-level key is one group of facts, so that the causes of a
 * difference can be found by exchanging one group after another.
 */
export interface PayslipInput {
  format: typeof PAYSLIP_INPUT_FORMAT;
  country: string;
  pay: PayFacts;
  /** A contractor is paid without taxes, and what is paid counts for an information return only. */
  person: {
    name: string;
    born?: IsoDate;
    /** The last day of employment, where the payslip pays for days after it. */
    left?: IsoDate;
    /** Employment has ended, or ends within the period: how, and since when it lasted. */
    ending?: { kind: string; lastDay: IsoDate; hired?: IsoDate };
    contractor?: boolean;
    /** There is no number, or none that can exist, by which the tax agency knows the person. */
    unidentified?: boolean;
  };
  /** The employer's facts, in the terms of the country's pack. */
  employer: unknown;
  /** The person's tax details, in the terms of the country's pack. */
  tax: unknown;
  rates: Rate[];
  /** Where the work was done, where it was at several places: shares of the pay, together 1. */
  workplaces?: { place: string; share: string }[];
  /** A minimum wage of the place, where a city or county sets one above the state's. */
  placeMinimumWage?: { amount: string; place: string; from: IsoDate };
  /** First and last day of employment, where one lies within the pay period: a salary is paid for the part. */
  employed?: { from?: IsoDate; to?: IsoDate };
  /** Parts of the pay period on leave by law, for which ordinary pay is not paid: a salary and ordinary hours are for the other weekdays. */
  away?: { from: IsoDate; to: IsoDate; label: string }[];
  /** Items through which hours are paid, by code. */
  hourItems: PayItem[];
  hours: HoursEntry[];
  /** Time that is turned into hours by rules; what `hours` says of the same item and rate goes before it. */
  time?: TimeFacts;
  /** Leave plans that the person is in, and the items by which unused leave is paid out. */
  leave?: LeaveOnPayslip[];
  payOutItems?: PayItem[];
  /** Items of tips and of make-up pay, where time is kept by day. */
  timeItems?: PayItem[];
  items: ItemOnPayslip[];
  oneOffs: OneOff[];
  recoveries?: Recovery[];
  /** Codes of items left out of this payslip. */
  leftOut: string[];
  overrides: TaxOverride[];
  /** In force on the pay date. */
  standingTaxes?: StandingTax[];
  /** Regular pay of the periods before, the latest first, where leave is paid at an average of it. */
  earnedBefore?: EarnedBefore[];
  balances: Balances;
  /** The person's latest regular payslip, its lines summed by code in minor units; for methods that add to it. */
  earlierPay?: { date: IsoDate; lines: Record<string, number> };
  /** Balances changed without payment: the payslip is nothing but these. */
  adjustments?: Adjustment[];
}
