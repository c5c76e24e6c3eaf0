import { z } from 'zod';
import { id, isoDate, minor, name, signedAmount, version } from './values';
import { workingSchema } from './workings';

export const REMITTANCE_METHODS = ['file', 'cheque', 'agency', 'elsewhere'] as const;
const method = z.enum(REMITTANCE_METHODS);

/** What a period comes to, what was paid of it and what is left. */
export const obligationSchema = z.object({
  owed: z.string(),
  payee: z.string(),
  what: z.string(),
  reference: z.string(),
  due: isoDate,
  upTo: isoDate,
  amount: minor,
  paid: minor,
  credit: minor,
  left: minor,
});
export type ObligationView = z.infer<typeof obligationSchema>;

/** By when a payee wants its money. */
export const dueRuleSchema = z.discriminatedUnion('by', [
  z.object({ by: z.literal('pay-date'), days: z.number().int().min(0).max(60), business: z.boolean().optional() }),
  z.object({ by: z.literal('half-month'), days: z.number().int().min(0).max(15) }),
  z.object({ by: z.literal('week'), ends: z.number().int().min(0).max(6), days: z.number().int().min(0).max(30) }),
  z.object({ by: z.literal('month'), day: z.number().int().min(1).max(31), december: z.number().int().min(1).max(31).optional() }),
  z.object({ by: z.literal('quarter'), day: z.number().int().min(1).max(31) }),
  z.object({ by: z.literal('year'), month: z.number().int().min(1).max(12), day: z.number().int().min(1).max(31) }),
]);

export const payeesSchema = z.array(
  z.object({
    owed: z.string(),
    payee: z.string(),
    what: z.string(),
    rule: z.string(),
    /** What is due and not paid. */
    left: minor,
    next: isoDate.nullable(),
    late: z.boolean(),
  }),
);
export type Payees = z.infer<typeof payeesSchema>;

export const payeeSchema = z.object({
  owed: z.string(),
  payee: z.string(),
  what: z.string(),
  reference: z.string(),
  rule: z.string(),
  source: z.string(),
  /** The rule is the law's, or that of the pack; others are agreed with the payee. */
  /** Being late with it makes a charge of its own by law. */
  chargesLate: z.boolean(),
  ruleFixed: z.boolean(),
  agreed: dueRuleSchema.nullable(),
  method,
  bank: z.string(),
  last4: z.string(),
  /** From which account it is paid; null for the employer's first one. */
  payingAccountId: id.nullable(),
  accounts: z.array(z.object({ id: id.nullable(), name: z.string(), last4: z.string() })),
  address: z.object({ line1: z.string(), line2: z.string(), city: z.string(), state: z.string(), postcode: z.string() }),
  version,
  obligations: z.array(obligationSchema),
  /** By person, what is withheld since the last payment: of orders. */
  cases: z.array(z.object({ personId: id, name: z.string(), caseNumber: z.string(), amount: minor })),
  paid: z.array(
    z.object({
      id,
      due: isoDate,
      on: isoDate,
      amount: minor,
      method,
      reference: z.string(),
      who: z.string(),
      undone: z.string().nullable(),
      /** Nothing of it is on its way: it can be taken back. */
      undoable: z.boolean(),
      receipts: z.array(z.object({ id, name: z.string() })),
    }),
  ),
});
export type PayeeView = z.infer<typeof payeeSchema>;

/** What being late costs beside what is owed, latest first; `open` is still to be paid of the obligation itself. */
export const lateChargesSchema = z.array(
  z.object({
    due: isoDate,
    what: z.string(),
    open: minor,
    lines: z.array(z.object({ key: z.string(), label: z.string(), amount: minor })),
    total: minor,
    workings: z.record(z.string(), workingSchema),
    note: z.string(),
  }),
);
export type LateCharges = z.infer<typeof lateChargesSchema>;

export const payeeQuery = z.object({ owed: z.string().min(1).max(160) });
export const payeeChangeSchema = z.object({
  owed: z.string().min(1).max(160),
  version,
  method,
  bank: z.string().trim().max(24).default(''),
  /** Kept as it is where empty. */
  account: z.string().trim().max(40).default(''),
  address: z.object({
    line1: z.string().trim().max(120).default(''),
    line2: z.string().trim().max(120).default(''),
    city: z.string().trim().max(80).default(''),
    state: z.string().trim().max(3).default(''),
    postcode: z.string().trim().max(10).default(''),
  }),
  rule: dueRuleSchema.nullish(),
  payingAccountId: id.nullish(),
});
export const remitSchema = z.object({
  payments: z
    .array(
      z.object({
        owed: z.string().min(1).max(160),
        due: isoDate,
        /** All that is left where absent. */
        amount: signedAmount.optional(),
        method,
        reference: z.string().trim().max(80).default(''),
        on: isoDate.optional(),
      }),
    )
    .min(1)
    .max(200),
});
export const remittedSchema = z.object({
  payments: z.array(
    z.object({
      id,
      confirmation: z.string(),
      /** Why the payee's own service did not take it. */
      refused: z.string().nullable(),
    }),
  ),
});
/** A receipt as a file, base64. */
export const receiptSchema = z.object({ name, content: z.string().min(1).max(3_000_000) });
