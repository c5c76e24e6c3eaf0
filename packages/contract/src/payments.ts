import { TRANSFER_STATES, TRANSFER_STEPS } from '@woodruff/core';
import { z } from 'zod';
import { id, isoDate, minor, name, version } from './values';

/** Set off: what was paid for a payslip that this one replaces counts for it. */
export const PAYMENT_METHODS = ['file', 'cheque', 'cash', 'set-off'] as const;
const method = z.enum(PAYMENT_METHODS);

/** One payment that goes out, where it stands and what happened to it. */
export const transferSchema = z.object({
  id,
  reference: z.string(),
  batchId: id.nullable(),
  batch: z.number().int().nullable(),
  payDate: isoDate.nullable(),
  netPaymentId: id.nullable(),
  remittanceId: id.nullable(),
  payslipId: id.nullable(),
  runId: id.nullable(),
  personId: id.nullable(),
  method,
  purpose: z.enum(['pay', 'payee', 'support', 'trial']),
  amount: minor,
  payee: z.string(),
  label: z.string(),
  /** Of a cheque. */
  number: z.number().int().nullable(),
  replaces: id.nullable(),
  /** Why it takes the place of another. */
  reason: z.string().nullable(),
  replacedBy: z.string().nullable(),
  state: z.enum(TRANSFER_STATES),
  events: z.array(
    z.object({
      step: z.enum(TRANSFER_STEPS),
      on: isoDate,
      code: z.string(),
      words: z.string(),
      told: z.object({ bank: z.string(), account: z.string() }).nullable(),
      who: z.string(),
    }),
  ),
});
export type Transfer = z.infer<typeof transferSchema>;

/** How much goes in which way. */
const sumsSchema = z.array(z.object({ method, payments: z.number().int(), amount: minor }));

/** What happens, has happened or will happen on a day: a batch, or what is not in one yet. */
export const rungSchema = z.object({
  date: isoDate,
  kind: z.enum(['pay', 'again', 'remittance', 'batch', 'owed']),
  what: z.string(),
  amount: minor,
  sums: sumsSchema,
  batchId: id.nullable(),
  /** The account it goes from; null is the employer's first one. */
  payingAccountId: id.nullable(),
  /** Of what is owed: its payee and what names it. */
  owed: z.string().nullable(),
  state: z.enum(['to-prepare', 'to-send', 'sent', 'confirmed', 'returned', 'refused', 'left-out', 'due', 'paid']),
  /** The day has passed, and it is neither sent nor paid. */
  late: z.boolean(),
  returned: z.number().int(),
});
export type Rung = z.infer<typeof rungSchema>;

export const ladderSchema = z.object({
  /** Late first, then by day. */
  rungs: z.array(rungSchema),
  accounts: z.array(
    z.object({ id: id.nullable(), name: z.string(), last4: z.string(), balance: minor.nullable(), on: isoDate.nullable() }),
  ),
  /** Payments that came back and are open. */
  returned: z.array(transferSchema),
  /** What the bank says has changed, and nobody has looked at. */
  notices: z.array(transferSchema),
});
export type Ladder = z.infer<typeof ladderSchema>;

/** An account that changed between the approval of the run and now. */
const changedAccountSchema = z.object({
  netPaymentId: id,
  personId: id,
  name: z.string(),
  amount: minor,
  who: z.string(),
  at: z.string(),
  what: z.string(),
});

export const batchSchema = z.object({
  id,
  number: z.number().int(),
  payDate: isoDate,
  state: z.enum(['to-send', 'sent', 'confirmed', 'returned', 'refused', 'left-out']),
  version,
  preparedBy: z.string(),
  preparedAt: z.string(),
  releasedBy: z.string().nullable(),
  releasedAt: z.string().nullable(),
  delivered: z.boolean(),
  faults: z.array(z.object({ line: z.number().int(), column: z.number().int(), what: z.string() })).nullable(),
  format: z.string().nullable(),
  formats: z.array(z.object({ code: z.string(), name: z.string() })),
  hash: z.string().nullable(),
  amount: minor,
  sums: sumsSchema,
  changed: z.array(changedAccountSchema),
  /** The account it leaves. */
  from: z.object({ name: z.string(), last4: z.string() }).nullable(),
  /** By when the bank must have its file, of one that is not released. */
  handInBy: isoDate.nullable(),
  /** What the account lacks for it, by the latest statement; null where that is not known, or enough. */
  short: minor.nullable(),
  transfers: z.array(transferSchema),
  lines: z.array(z.object({ denomination: minor, pieces: z.number().int() })),
});
export type Batch = z.infer<typeof batchSchema>;

export const batchPrepareSchema = z.object({
  kind: z.enum(['pay', 'again', 'remittance']),
  payDate: isoDate,
  payingAccountId: id.nullish(),
});
export const batchReleaseSchema = z.object({
  version,
  format: z.string().max(20).optional(),
  /** The debit of the paying account stands in the file. */
  balanced: z.boolean().default(true),
  /** Where accounts changed since approval: to those of then, or to those of now. */
  accounts: z.enum(['approved', 'now']).optional(),
});
export const payReturnedSchema = z.object({
  way: z.enum(['account', 'cheque', 'cash', 'estate']),
  reason: z.string().trim().min(3, 'a reason of at least three letters').max(300),
});
export const chequesQuerySchema = z.object({ state: z.enum(['all', 'out', 'stale', 'unclaimed']).default('all') });
/** The register of cheques. */
export const chequesSchema = z.object({
  /** Cheques older than so many days are stale. */
  staleAfter: z.number().int(),
  cheques: z.array(
    transferSchema.extend({
      date: isoDate.nullable(),
      stale: z.boolean(),
      /** From when it is unclaimed by the law of the payee's place, and by when it is reported there. */
      unclaimed: z.object({ from: isoDate, report: isoDate, place: z.string(), source: z.string() }).nullable(),
    }),
  ),
});
export type Cheques = z.infer<typeof chequesSchema>;
export const chequePrintSchema = z.object({ position: z.enum(['top', 'middle', 'bottom']).default('top') });
/** What happens at the stand-in for a bank. */
export const bankViewSchema = z.object({
  files: z.array(
    z.object({
      name: z.string(),
      on: isoDate,
      payments: z.number().int(),
      amount: minor,
      faults: z.array(z.object({ line: z.number().int(), column: z.number().int(), what: z.string() })).nullable(),
    }),
  ),
  accounts: z.array(
    z.object({ bank: z.string(), account: z.string(), name: z.string(), state: z.string(), newBank: z.string(), newAccount: z.string() }),
  ),
  /** Until when a file counts for the day on which it is handed in. */
  cutOff: z.string(),
  own: z.array(z.object({ id: id.nullable(), name: z.string(), last4: z.string(), opening: minor })),
});
export type BankView = z.infer<typeof bankViewSchema>;
export const bankAccountSchema = z.object({
  bank: z.string().trim().min(3).max(24),
  account: z.string().trim().min(3).max(40),
  name: name.or(z.literal('')).default(''),
  state: z.enum(['open', 'closed', 'unknown', 'other-name', 'moved']),
  newBank: z.string().trim().max(24).default(''),
  newAccount: z.string().trim().max(40).default(''),
});
export const bankOpeningSchema = z.object({ amount: minor, payingAccountId: id.nullish() });
export const bankCutOffSchema = z.object({ at: z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'a time such as 17:00') });
