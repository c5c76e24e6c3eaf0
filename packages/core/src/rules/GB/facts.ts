import { z } from 'zod';
import { LETTERS } from './letters';
import { taxCodeOf } from './tax-code';

const amount = z
  .string()
  .regex(/^\d{1,9}(\.\d{1,2})?$/, 'an amount such as 1200.00')
  .default('0');

/** A person's tax details in the United Kingdom. */
export const ukTaxSchema = z.object({
  taxCode: z.string().refine((text) => taxCodeOf(text) !== undefined, 'a code such as 1257L, S1257L, K100, BR, SD1, 0T or NT'),
  basis: z.enum(['cumulative', 'week-1-month-1']).default('cumulative'),
  /** Pay and tax of an earlier employment in the tax year that is named, from the certificate of leaving or as the agency notified. */
  previousPay: amount,
  previousTax: amount,
  previousYear: z
    .string()
    .regex(/^(\d{4}-\d\d)?$/, 'a tax year such as 2026-27')
    .default(''),
  category: z.enum(Object.keys(LETTERS) as [keyof typeof LETTERS, ...(keyof typeof LETTERS)[]]),
  /** A director's contributions are of the year, not of the pay period. */
  director: z.enum(['no', 'annual', 'alternative']).default('no'),
  /** Where somebody became a director within a tax year. */
  directorSince: z
    .string()
    .regex(/^(\d{4}-\d\d-\d\d)?$/, 'a date such as 2026-09-14')
    .default(''),
  /** Under 19, or in the first year of the apprenticeship: the apprentice rate of the minimum wage holds. */
  apprentice: z.boolean().default(false),
  /** As the agency's submission asks: M or F. */
  gender: z.enum(['M', 'F']).optional(),
  /** Usual hours a week by the agency's bands. */
  hoursBand: z.enum(['A', 'B', 'C', 'D', 'E']).optional(),
  /** Paid irregularly, so that a time without pay is no end of the employment. */
  irregular: z.boolean().default(false),
  /** What a starter without a certificate of leaving has declared. */
  starterDeclaration: z.enum(['A', 'B', 'C']).optional(),
  studentLoan: z.enum(['none', '1', '2', '4', '5']).default('none'),
  postgraduateLoan: z.boolean().default(false),
});
export type UkTax = z.infer<typeof ukTaxSchema>;
