import { z } from 'zod';
import type { IsoDate } from '../../calendar/dates';

/** An amount as entered; empty is nothing. */
export const money = z
  .string()
  .regex(/^\d{1,9}(\.\d{1,2})?$/, 'an amount such as 1200.00')
  .default('0');
export const percent = z.string().regex(/^\d{1,2}(\.\d{1,6})?$/, 'a per cent such as 1.5');

export const certificate2020 = z.object({
  certificate: z.literal('2020'),
  status: z.enum(['single', 'married-jointly', 'head-of-household']),
  twoJobs: z.boolean().default(false),
  dependents: money,
  otherIncome: money,
  deductions: money,
  extra: money,
  exempt: z.boolean().default(false),
  nonresidentAlien: z.boolean().optional(),
  onFileSince: z.string().optional(),
});

export const certificate2019 = z.object({
  certificate: z.literal('2019'),
  status: z.enum(['single', 'married', 'married-higher-single']),
  allowances: z.coerce.number().int().min(0).max(99).default(0),
  extra: money,
  exempt: z.boolean().default(false),
  nonresidentAlien: z.boolean().optional(),
  onFileSince: z.string().optional(),
});
export type Certificate2020 = z.infer<typeof certificate2020>;
export type Certificate2019 = z.infer<typeof certificate2019>;

/** A person's tax details: the federal certificate, where they live and work; a state's certificate stands under the state's own key. */
export interface UsTax {
  federal: Certificate2020 | Certificate2019;
  residentState: string;
  workState: string;
  residentLocality?: string | undefined;
  workLocality?: string | undefined;
  servicesTaxExempt: boolean;
  /** Another state of work, of who is not paid by time kept by place, with the share of pay earned there, in per cent. */
  otherWorkState?: string | undefined;
  otherWorkPercent?: string | undefined;
  /** Last year's social security wages here were over the threshold of section 414(v)(7). */
  rothCatchUp?: boolean | undefined;
  /** Of who receives tips: the agency's code of the occupation. */
  tippedOccupation?: string | undefined;
  [certificate: string]: unknown;
}

export const registration = z.object({
  unemploymentRate: percent,
  /** Of a notice of the coming year: the rate from its day on. */
  nextUnemploymentRate: percent.optional(),
  nextUnemploymentFrom: z
    .string()
    .regex(/^\d{4}-\d\d-\d\d$/)
    .optional(),
  unemploymentAccount: z.string().default(''),
  incomeTaxAccount: z.string().default(''),
  depositSchedule: z.enum(['semiweekly', 'twice-a-month', 'monthly', 'quarterly']).optional(),
  /** Of states that assign one for their disability fund. */
  disabilityRate: percent.optional(),
  /** By the hour worked, of states that insure injuries so: the employer's share, and the employee's. */
  hourlyEmployer: percent.optional(),
  hourlyEmployee: percent.optional(),
});

/** The employer's facts that taxes depend on. */
export interface UsEmployer {
  federalNumber: string;
  depositor?: 'monthly' | 'semiweekly' | undefined;
  /** By the quarter, or by the year where the agency has notified so. */
  federalReturn?: '941' | '944' | undefined;
  /** By which whoever signs is known where employment tax returns go by file, and where wage statements do. */
  signerPin?: string | undefined;
  submitterId?: string | undefined;
  /** Four letters and figures that tell establishments with one number apart, another number used in the year, and the end of the business. */
  establishment?: string | undefined;
  otherFederalNumber?: string | undefined;
  closed?: boolean | undefined;
  states: Partial<Record<string, Registration>>;
  localities: Record<string, { name: string; residentRate: string; nonresidentRate: string; servicesTaxPerYear: string }>;
}

export type Registration = z.infer<typeof registration>;
/** Rates that a state has assigned to the employer. */
export type AssignedRate = 'unemploymentRate' | 'disabilityRate' | 'hourlyEmployer' | 'hourlyEmployee';

/** A rate that a state has assigned to the employer, as it is in force on a date; undefined where none is entered. */
export function assignedRate(of: Registration | undefined, rate: AssignedRate, date: IsoDate): string | undefined {
  const { nextUnemploymentRate, nextUnemploymentFrom } = of ?? {};
  const later = rate === 'unemploymentRate' && nextUnemploymentRate && nextUnemploymentFrom && nextUnemploymentFrom <= date;
  return later ? nextUnemploymentRate : of?.[rate];
}
