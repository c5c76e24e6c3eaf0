import type { AssignedRate } from '../facts';
import type { z } from 'zod';
import { Exact } from '../../../money/exact';
import type { Figure, Reckoning } from '../../../working/reckoning';
import type { Source } from '../../../working/working';
import type { DueRule } from '../../../filings/due-rules';
import type { UnclaimedRule } from '../../../payments/unclaimed';
import type { FormField, TaxContext, TaxResult } from '../../country-pack';
import type { UsEmployer, UsTax } from '../facts';

/** A state's deposit schedule. */
export interface StateDeposits {
  /** As the registration has it. */
  schedule: string;
  /** The state follows the federal schedule of deposits by name. */
  rule: DueRule | 'as-federal';
  source: Source;
}

export type StateContext = TaxContext<UsTax, UsEmployer>;

/** Treatments that count otherwise than under the federal rule that the state follows: 1 adds, −1 lowers, 0 leaves alone. */
export type Otherwise = Readonly<Record<string, 1 | -1 | 0>>;

/** What a state lets ordinary creditors take, where that is less than under the federal law; percentages as whole numbers. */
export interface CreditorShare {
  percentOfDisposable?: number;
  percentOfGross?: number;
  /** So many times the higher of the federal and the state's minimum wage is left free for each week. */
  timesMinimumWage?: number;
  /** Of what is over that, only so much. */
  percentOfExcess?: number;
  source: Source;
}

/** A programme that takes a share of pay: who pays it, of which pay, up to where, at which rate. */
export interface Programme {
  /** What it is in the ledger; the state's place is put to it. */
  code: string;
  label: string;
  from: 'employee' | 'employer';
  /** Codes of dated tables (the state's place is put to them), or the rate that the state assigned to the employer. */
  rate: { table: string } | { assigned: AssignedRate; label: string };
  /** The yearly ceiling of pay, as a table. Programmes with the same one share its pay. */
  ceiling?: { table: string; pay: string; label: string };
  /** Pay that counts otherwise than for federal unemployment. */
  otherwise?: Otherwise;
  /** The most that is taken: of a week, or in a year. */
  most?: { per: 'week' | 'year'; table: string };
  /** Of the rate only this share, in per cent, as a table. */
  share?: { table: string };
  /** By the hour worked instead of by pay: the employer's rate for its class of work. */
  perHour?: true;
  /** Who is paid, where it is not the agency of the state's other programmes. */
  payee?: string;
}

/** A state: data for what is ordinary, functions only for what is not. What it does not say is as the federal rule has it. */
export interface State {
  code: string;
  name: string;
  /** ISO 3166-2. */
  place: string;
  /** Its number in files of agencies (FIPS 5-2). */
  fips: string;
  incomeTax?: {
    /** Treatments that count otherwise than for federal income tax. */
    otherwise?: Otherwise;
    /** Residents of these states are taxed at home on what they earn here. */
    taxedAtHome?: readonly string[];
    agreement?: Source;
    /** Writes the tax of this payslip on the pay given, rounded. */
    reckon(reckoning: Reckoning, pay: Figure, context: StateContext, periods: Exact): Reckoning;
  };
  programmes: readonly Programme[];
  /** Who is paid. */
  agencies: { incomeTax?: string; programmes: string };
  /** By when income tax withheld is deposited, by the schedule that the state has notified; the first where none is registered. */
  deposits?: readonly StateDeposits[];
  /** By when programmes are paid: by quarter, on the last day of the month after it, unless the state says otherwise. */
  programmesDue?: { rule: DueRule; source: Source };
  /** How the state's reports are called: of its programmes by payee, of income tax by quarter and by year. */
  forms?: { programmes?: readonly string[]; income?: string; year?: string };
  /** It takes contributions and wages in the layout that the states have in common. */
  commonWageLayout?: true;
  /** When unclaimed wages are handed over to the state. */
  unclaimed?: UnclaimedRule;
  /** Places within the state that are paid, out of the employer's registrations. */
  localPlaces?(employer: Partial<UsEmployer>): { place: string; name: string; payee: string }[];
  /** Taxes of places within the state; `residents` also for who works elsewhere. */
  local?(context: StateContext): TaxResult[];
  /** Bases of places within the state, as the federal income tax has them unless said otherwise. */
  localPay?: { code: string; label: string; otherwise?: Otherwise };
  /** The certificate of its own that employees give: under which key, of which shape, with which fields. */
  certificate?: { key: string; schema: z.ZodType; fields: readonly Omit<FormField, 'when'>[] };
  /** Further facts of the employer's registration in the state. */
  registration?: readonly FormField[];
  /** Days after the last day within which final pay is there; without an entry the next regular pay date is soon enough. */
  finalPay?: { discharged?: number; resigned?: number; source: Source };
  /** The most that support orders take of disposable earnings, in per cent. */
  support?: { percent: number; source: Source };
  /** What ordinary creditors may take: nothing at all, or less than the federal law lets them. */
  creditors?: { barred: Source } | CreditorShare;
}
