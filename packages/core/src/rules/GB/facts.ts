import { z } from 'zod';

/** A person's tax details in the United Kingdom. */
export const ukTaxSchema = z.object({
  taxCode: z.string().regex(/^(K\d{1,5}|\d{1,5}L|BR|D0|0T)$/, 'a code such as 1257L, BR, D0, 0T or K100'),
  basis: z.enum(['cumulative', 'week-1-month-1']).default('cumulative'),
  category: z.literal('A'),
});
export type UkTax = z.infer<typeof ukTaxSchema>;
