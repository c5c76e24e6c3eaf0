import { FREQUENCIES, PAY_ITEM_KINDS, PAYSLIP_INPUT_FORMAT } from '@woodruff/core';
import { z } from 'zod';
import { amount, code, decimal, hours, isoDate, minor, name, signedAmount } from './values';

export const limitsSchema = z.object({ perPayslip: amount.optional(), perYear: amount.optional(), inAll: amount.optional() });

export const methodSchema = z.discriminatedUnion('by', [
  z.object({ by: z.literal('salary') }),
  z.object({ by: z.literal('hours'), multiple: decimal }),
  z.object({ by: z.literal('amount') }),
  z.object({ by: z.literal('percent'), of: z.literal('gross') }),
  z.object({ by: z.literal('match'), of: code, tiers: z.array(z.object({ upTo: decimal, match: decimal })).min(1) }),
]);

export const payItemSchema = z.object({
  code,
  name,
  kind: z.enum(PAY_ITEM_KINDS),
  treatment: z.string().min(1),
  method: methodSchema,
  limits: limitsSchema.optional(),
  order: z.number().int().min(0).max(9999),
  shortfall: z.enum(['skip', 'take-part', 'carry-forward']).optional(),
});

export const orderFactsSchema = z.object({
  reference: z.string().max(60).optional(),
  supportsOthers: z.boolean().optional(),
  arrearsOver12Weeks: z.boolean().optional(),
});

/** The open format of everything a payslip depends on; see docs/formats.md. */
export const payslipInputSchema = z.strictObject({
  format: z.literal(PAYSLIP_INPUT_FORMAT),
  country: z.string(),
  pay: z.strictObject({
    date: isoDate,
    from: isoDate,
    to: isoDate,
    frequency: z.enum(FREQUENCIES),
    payDatesInYear: z.number().int().min(1).max(366),
  }),
  person: z.strictObject({ name, born: isoDate.optional() }),
  employer: z.unknown(),
  tax: z.unknown(),
  rates: z.array(
    z.strictObject({
      id: z.string(),
      label: z.string(),
      per: z.enum(['hour', 'period', 'year']),
      amount: decimal,
      from: isoDate.optional(),
      primary: z.boolean().optional(),
    }),
  ),
  hourItems: z.array(payItemSchema).default([]),
  hours: z.array(z.strictObject({ rate: z.string(), item: z.string(), hours })).default([]),
  items: z
    .array(
      z.strictObject({
        item: payItemSchema,
        amount: signedAmount.optional(),
        percent: decimal.optional(),
        limits: limitsSchema.optional(),
        orderFacts: orderFactsSchema.optional(),
        carried: amount.optional(),
        figure: z.string().optional(),
        id: z.string().optional(),
      }),
    )
    .default([]),
  oneOffs: z.array(z.strictObject({ id: z.string(), item: payItemSchema, amount: signedAmount, note: z.string().optional() })).default([]),
  leftOut: z.array(z.string()).default([]),
  overrides: z.array(z.strictObject({ tax: z.string(), amount: signedAmount, reason: z.string().min(3) })).default([]),
  balances: z.record(z.string(), z.strictObject({ year: minor, inAll: minor, quarter: minor.optional() })).default({}),
});
