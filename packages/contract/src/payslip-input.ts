import { FREQUENCIES, PAY_ITEM_KINDS, PAYSLIP_INPUT_FORMAT } from '@woodruff/core';
import { z } from 'zod';
import { leaveTermsSchema } from './leave';
import { amount, code, decimal, fineAmount, hours, isoDate, minor, name, signedAmount } from './values';

export const limitsSchema = z.object({
  perPayslip: amount.optional(),
  perPeriod: amount.optional(),
  perMonth: amount.optional(),
  perQuarter: amount.optional(),
  perYear: amount.optional(),
  inAll: amount.optional(),
});

const percentOfSchema = z.union([z.enum(['gross', 'taxable', 'disposable', 'net']), z.object({ items: z.array(code).min(1) })]);

export const methodSchema = z.discriminatedUnion('by', [
  z.object({ by: z.literal('salary') }),
  z.object({ by: z.literal('hours'), multiple: decimal }),
  z.object({ by: z.literal('pieces') }),
  z.object({ by: z.literal('amount') }),
  z.object({ by: z.literal('percent'), of: percentOfSchema }),
  z.object({ by: z.literal('per-hour'), items: z.array(code).min(1).optional() }),
  z.object({
    by: z.literal('match'),
    of: code,
    on: percentOfSchema.optional(),
    tiers: z
      .array(
        z
          .object({ upTo: decimal.optional(), upToAmount: amount.optional(), match: decimal })
          .refine(
            (tier) => (tier.upTo === undefined) !== (tier.upToAmount === undefined),
            'a per cent of pay or an amount, one of the two',
          ),
      )
      .min(1),
  }),
  z.object({ by: z.literal('table'), over: z.enum(['age', 'gross']), rows: z.array(z.object({ from: amount, amount })).min(1) }),
  z.object({ by: z.literal('published-table'), table: z.string() }),
]);

export const whenSchema = z.object({
  paysOfMonth: z
    .array(z.union([z.number().int().min(1).max(6), z.literal('last')]))
    .min(1)
    .optional(),
  months: z.array(z.number().int().min(1).max(12)).min(1).optional(),
  every: z.object({ pays: z.number().int().min(2).max(53), first: z.number().int().min(1).max(53) }).optional(),
  regularRunsOnly: z.boolean().optional(),
});

export const payItemSchema = z.object({
  code,
  name,
  kind: z.enum(PAY_ITEM_KINDS),
  treatment: z.string().min(1),
  method: methodSchema,
  limits: limitsSchema.optional(),
  order: z.number().int().min(0).max(9999),
  shortfall: z.enum(['skip', 'take-part', 'carry-forward']).optional(),
  when: whenSchema.optional(),
  goes: z
    .object({
      payee: z.string().max(80).optional(),
      reference: z.string().max(60).optional(),
      liabilityAccount: z.string().max(20).optional(),
      expenseAccount: z.string().max(20).optional(),
      hidden: z.boolean().optional(),
    })
    .optional(),
  countsInstead: z.record(z.string(), z.union([z.literal(1), z.literal(-1), z.literal(0)])).optional(),
  regularRate: z.boolean().optional(),
});

/** Facts of an order; beside those of every country, what the item's treatment asks for. */
export const orderFactsSchema = z
  .object({ reference: z.string().max(60).optional(), arrears: amount.optional(), fee: amount.optional() })
  .catchall(z.union([z.boolean(), z.string().max(60)]));

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
    place: z
      .strictObject({
        inMonth: z.number().int().min(1).max(31),
        ofMonth: z.number().int().min(1).max(31),
        inYear: z.number().int().min(1).max(366),
      })
      .optional(),
    special: z.boolean().optional(),
    ahead: z.number().int().min(1).max(12).optional(),
    taxMethod: z.string().max(20).optional(),
  }),
  person: z.strictObject({ name, born: isoDate.optional(), contractor: z.boolean().optional(), unidentified: z.boolean().optional() }),
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
      earlier: z.array(z.strictObject({ amount: decimal, from: isoDate.optional() })).optional(),
    }),
  ),
  workplaces: z
    .array(z.strictObject({ place: z.string().regex(/^[A-Z]{2}-[A-Z0-9]{1,3}$/, 'a place such as US-NY'), share: decimal }))
    .max(20)
    .optional(),
  placeMinimumWage: z.strictObject({ amount: decimal, place: z.string(), from: isoDate }).optional(),
  hourItems: z.array(payItemSchema).default([]),
  hours: z.array(z.strictObject({ rate: z.string(), item: z.string(), hours })).default([]),
  time: z
    .strictObject({
      rules: z.strictObject({
        code: z.string(),
        label: z.string(),
        weekBegins: z.number().int().min(0).max(6),
        weeklyOver: decimal.optional(),
        dailyOver: decimal.optional(),
        dailyDoubleOver: decimal.optional(),
        seventhDayDoubleOver: decimal.optional(),
        holidays: z.array(isoDate).optional(),
        premiums: z
          .array(z.strictObject({ label: z.string(), from: z.string(), to: z.string(), perHour: decimal, item: z.string() }))
          .optional(),
        items: z.strictObject({
          ordinary: z.string(),
          overtime: z.string(),
          double: z.string().optional(),
          halfPremium: z.string().optional(),
          holiday: z.string().optional(),
          makeUp: z.string().optional(),
        }),
        bonuses: z.record(z.string(), amount).optional(),
        source: z.strictObject({ publication: z.string(), section: z.string().optional(), from: isoDate.optional() }),
      }),
      entries: z.array(
        z.strictObject({
          date: isoDate,
          hours: decimal,
          rate: z.string().optional(),
          item: z.string().optional(),
          from: z.string().optional(),
          to: z.string().optional(),
          label: z.string().optional(),
          quantity: decimal.optional(),
        }),
      ),
    })
    .optional(),
  timeItems: z.array(payItemSchema).optional(),
  employed: z.strictObject({ from: isoDate.optional(), to: isoDate.optional() }).optional(),
  away: z.array(z.strictObject({ from: isoDate, to: isoDate, label: z.string() })).optional(),
  earnedBefore: z
    .array(z.strictObject({ from: isoDate, to: isoDate, pay: minor, hours: z.string().max(20), away: z.boolean() }))
    .optional(),
  leave: z
    .array(
      z.strictObject({
        plan: leaveTermsSchema.extend({ code: z.string() }),
        hired: isoDate.optional(),
        balance: minor,
        earnedInYear: minor,
        paidOutBefore: minor.optional(),
        yearBegun: z.boolean(),
        taken: z.array(z.strictObject({ date: isoDate, hours: decimal })),
        standardHours: decimal.optional(),
        earns: z.boolean(),
        payOut: z.boolean().optional(),
      }),
    )
    .optional(),
  payOutItems: z.array(payItemSchema).optional(),
  adjustments: z
    .array(
      z.strictObject({
        code: z.string(),
        label: z.string(),
        kind: z.enum(['leave', 'base']),
        amount: signedAmount,
        reason: z.string().min(3),
      }),
    )
    .optional(),
  items: z
    .array(
      z.strictObject({
        item: payItemSchema,
        amount: fineAmount.optional(),
        percent: decimal.optional(),
        quantity: decimal.optional(),
        limits: limitsSchema.optional(),
        orderFacts: orderFactsSchema.optional(),
        carried: amount.optional(),
        once: z.strictObject({ amount: signedAmount, note: z.string().optional() }).optional(),
        figure: z.string().optional(),
        id: z.string().optional(),
      }),
    )
    .default([]),
  oneOffs: z
    .array(
      z.strictObject({
        id: z.string(),
        item: payItemSchema,
        amount: signedAmount,
        note: z.string().optional(),
        part: z.strictObject({ from: isoDate, to: isoDate }).optional(),
        earned: z.strictObject({ from: isoDate, to: isoDate }).optional(),
      }),
    )
    .default([]),
  recoveries: z
    .array(z.strictObject({ id: z.string(), item: payItemSchema, left: minor, perPayslip: amount, reason: z.string().min(3) }))
    .optional(),
  leftOut: z.array(z.string()).default([]),
  overrides: z.array(z.strictObject({ tax: z.string(), amount: signedAmount, reason: z.string().min(3) })).default([]),
  earlierPay: z.strictObject({ date: isoDate, lines: z.record(z.string(), minor) }).optional(),
  standingTaxes: z
    .array(
      z.strictObject({
        tax: z.string(),
        instead: z.enum(['exempt', 'amount', 'percent']),
        value: decimal.optional(),
        reason: z.string().min(3),
        from: isoDate,
        to: isoDate.optional(),
      }),
    )
    .optional(),
  balances: z
    .record(
      z.string(),
      z.strictObject({
        year: minor,
        inAll: minor,
        quarter: minor.optional(),
        month: minor.optional(),
        period: minor.optional(),
        earnings: minor.optional(),
      }),
    )
    .default({}),
});
