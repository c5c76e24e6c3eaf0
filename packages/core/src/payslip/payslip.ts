import type { Minor } from '../money/amounts';
import type { Working } from '../working/working';

export type LineKind =
  | 'earning'
  | 'reimbursement'
  | 'benefit-in-kind'
  | 'deduction-before-tax'
  | 'tax'
  | 'deduction-after-tax'
  | 'employer-tax'
  | 'employer-contribution'
  /** Pay that counted for a tax or a limit; posted so that returns need nothing but the ledger. */
  | 'base'
  /** What a deduction could not take and takes next time. */
  | 'carried'
  /** Hours of leave earned, taken, lapsed …; the amount is in hundredths of hours. */
  | 'leave';

/** One line of a payslip. `id` is unique on it and is the key of the line's working; `code` is what is summed by. */
export interface PayslipLine {
  id: string;
  code: string;
  kind: LineKind;
  label: string;
  amount: Minor;
  /** Hours, or pieces where there is no rate; as decimal text. */
  quantity?: string;
  /** Per hour, as decimal text. */
  rate?: string;
  /** Left off the payslip that the employee sees; never of what net pay is made of. */
  hidden?: true;
}

/** Something that needs a person. `stop` keeps the payslip from being approved; `look` can be accepted with a reason. */
export interface Problem {
  code: string;
  weight: 'stop' | 'look';
  /** What happened and what would fix it. */
  sentence: string;
  /** Pay item the cause lies in, when it does. */
  item?: string;
  /** Figure to open. */
  figure?: string;
}

/** Sums of a payslip in minor units. net = gross + reimbursements − deductions − taxes. */
export interface Totals {
  gross: Minor;
  reimbursements: Minor;
  benefitsInKind: Minor;
  deductions: Minor;
  taxes: Minor;
  net: Minor;
  employerTaxes: Minor;
  employerContributions: Minor;
  /** gross + reimbursements + employer's taxes and contributions. */
  employerCost: Minor;
}

export const NO_TOTALS: Totals = {
  gross: 0,
  reimbursements: 0,
  benefitsInKind: 0,
  deductions: 0,
  taxes: 0,
  net: 0,
  employerTaxes: 0,
  employerContributions: 0,
  employerCost: 0,
};

/** An item that the person has and that is not on this payslip, and why. */
export interface NotDue {
  code: string;
  label: string;
  why: string;
}

export interface Payslip {
  lines: PayslipLine[];
  notDue: NotDue[];
  totals: Totals;
  problems: Problem[];
  /** By figure key; only when workings were asked for. */
  workings: Record<string, Working>;
}
