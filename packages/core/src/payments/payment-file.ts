import type { IsoDate } from '../calendar/dates';
import type { Minor } from '../money/amounts';

/** What a payment is for; schemes carry some of them differently. */
export type PaymentPurpose = 'pay' | 'payee' | 'support' | 'trial';

/** What a support agency wants to know with the money. */
export interface SupportFacts {
  caseNumber: string;
  payDate: IsoDate;
  /** National number of whoever the order is against. */
  number: string;
  name: string;
  /** The employee has left. */
  ended: boolean;
}

/** One credit to an account. */
export interface BankPayment {
  /** By which the bank names it again: at most fifteen letters and figures, never used twice. */
  reference: string;
  /** Whose account. */
  name: string;
  bank: string;
  account: string;
  kind: 'checking' | 'savings' | '';
  amount: Minor;
  purpose: PaymentPurpose;
  support?: SupportFacts;
  /** What the payee knows the payment by. */
  about?: string;
}

/** Credits from one account on one day, as a bank takes them. */
export interface PaymentFile {
  /** Its identity: the same file again is the same number, and no other file has it. */
  number: number;
  made: { on: IsoDate; at: string };
  payer: { name: string; number: string; bankName: string; bank: string; account: string };
  /** When the money is to be there. */
  effective: IsoDate;
  /** The debit of the payer's account stands in the file. */
  balanced: boolean;
  payments: readonly BankPayment[];
}

/** A file that a country's banks take. */
export interface PaymentFormat {
  code: string;
  name: string;
  extension: string;
  mediaType: string;
  /** @throws RangeError where a value does not fit the format */
  write(file: PaymentFile): string;
}
