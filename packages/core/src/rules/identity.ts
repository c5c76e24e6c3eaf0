import type { UnclaimedRule } from '../payments/unclaimed';
import type { Frequency } from '../calendar/schedules';
import type { PaymentFormat } from '../payments/payment-file';

/** The trade's words where countries differ; screens, documents and messages take them from here. */
export interface Words {
  /** How often pay dates come, as a schedule is called. */
  frequencies: Readonly<Record<Frequency, string>>;
  cheque: string;
  cheques: string;
  benefitInKind: string;
  percent: string;
}

/** A word as a sentence or a label begins with it. */
export const capitalized = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);

/** A number or a text by which somebody or something is known, as a country writes it. */
export interface Written {
  label: string;
  /** How headings of files call it otherwise. */
  also: readonly string[];
  /** What is expected, with one that is right in form. */
  expected: string;
  /** Without blanks and hyphens, in capitals; what is kept. */
  bare(text: string): string;
  /** Whether the bare text can be one: shape, and check figures where there are any. */
  isOne(bare: string): boolean;
}

/** The numbers and addresses of people. */
export interface PersonForm {
  number: Written & {
    /** All but the end hidden. */
    masked(last4: string): string;
  };
  address: {
    /** What a country is divided into, where addresses name it. */
    state?: Omit<Written, 'bare'>;
    postcode: Omit<Written, 'bare'>;
    /** What the place is called: "City". */
    city: string;
    /** One line, in the order of the country. */
    line(address: Readonly<Record<'line1' | 'line2' | 'city' | 'state' | 'postcode', string>>): string;
  };
}

/** How accounts at banks are written, and what banks take and give back. */
export interface BankForm {
  /** Clearing system of the bank's code (ISO 20022, external code list). */
  clearing: string;
  /** By which the clearing knows whoever pays, out of the employer's registrations; where it is not the employer's own number. */
  payerNumber?(employer: Readonly<Record<string, unknown>>): string;
  /** Files of the country's own; ISO 20022 is taken everywhere. */
  files: readonly PaymentFormat[];
  /** Days after which a bank need not pay a cheque any more. */
  staleAfter: number;
  /** When unclaimed pay is handed over, by the law of a place; nothing where it is not known here. */
  unclaimed(place: string): UnclaimedRule | undefined;
  /** Why a payment comes back, by the scheme's code. */
  returns: Readonly<Record<string, string>>;
  /** Of the bank or branch. */
  code: Written;
  account: Written;
  /** Kinds of account that its payment files tell apart, as a choice shows them; absent where an account is an account. */
  kinds?: Readonly<Record<'checking' | 'savings', string>>;
}

/** An account as lists and payslips name it. */
export const accountWords = ({ kinds }: Pick<BankForm, 'kinds'>, kind: 'checking' | 'savings', last4: string): string =>
  `${kinds ? `${kinds[kind]} ` : ''}account ending ${last4}`;

/** Size of the paper that documents are printed on. */
export type Paper = 'LETTER' | 'A4';

/** Digits and letters alone. */
export const bareText = (text: string): string => text.replace(/[\s-]/g, '').toUpperCase();
