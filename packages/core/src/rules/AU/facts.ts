import { z } from 'zod';
import { isDate } from '../../calendar/dates';
import { stateCodes } from './states';

const amount = z
  .string()
  .regex(/^\d{1,9}(\.\d{1,2})?$/, 'an amount such as 1200.00')
  .default('0');
const day = z
  .string()
  .refine((text) => text === '' || isDate(text), 'a date such as 2026-09-14')
  .default('');

/** How somebody is employed, as the pay event tells it apart. */
export const BASES = {
  F: 'full time',
  P: 'part time',
  C: 'casual',
  L: 'labour hire',
  V: 'voluntary agreement',
  D: 'death beneficiary',
  N: 'non-employee',
} as const;

/** A person's tax details in Australia: the declaration to the employer, further declarations, super and the place of work. */
export const auTaxSchema = z.object({
  status: z.enum(['resident', 'foreign-resident', 'working-holiday', 'seasonal']).default('resident'),
  /** The person claims the tax-free threshold from this employer. */
  threshold: z.boolean().default(true),
  /** Whether a number was quoted; one that is applied for holds for 28 days from the declaration. */
  numberQuoted: z.enum(['yes', 'applied', 'exempt', 'no']).default('yes'),
  declaredOn: day,
  studyLoan: z.boolean().default(false),
  medicare: z.enum(['full', 'half-exemption', 'full-exemption']).default('full'),
  /** A reduced levy for a family on a low income is claimed with the Medicare levy variation declaration. */
  medicareReduction: z.enum(['no', 'spouse', 'children']).default('no'),
  dependants: z.coerce.number().int().min(0).max(20).default(0),
  /** Medicare levy surcharge tier asked for. */
  surcharge: z.enum(['no', '1', '2', '3']).default('no'),
  seniors: z.enum(['no', 'single', 'illness-separated', 'couple']).default('no'),
  /** Tax offsets of the year by the withholding declaration. */
  offsets: amount,
  /** Withheld beyond the rules with each regular pay, as the person asks. */
  extra: amount,
  /** Of a working holiday maker, and of who works abroad. */
  homeCountry: z
    .string()
    .regex(/^([A-Z]{2})?$/, 'two letters such as IE')
    .default(''),
  basis: z.enum(Object.keys(BASES) as [keyof typeof BASES, ...(keyof typeof BASES)[]]).default('F'),
  state: z.enum(stateCodes),
  /** The fund, by its entry in the employer's list; the default fund where there is none. */
  fund: z.string().default(''),
  memberNumber: z.string().max(20, 'at most 20 signs').default(''),
  fundChoice: z.enum(['chosen', 'stapled', 'default']).default('default'),
});
export type AuTax = z.infer<typeof auTaxSchema>;
