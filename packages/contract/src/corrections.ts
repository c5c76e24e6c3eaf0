import { z } from 'zod';
import { amount, id, isoDate, minor } from './values';

const reason = z.string().trim().min(3, 'a reason of at least three letters').max(200);

/** Pay that was paid too much, taken back over several payslips. */
export const newRecoverySchema = z.object({
  itemId: id,
  total: amount,
  perPayslip: amount,
  reason,
});
export const recoverySchema = z.object({
  id,
  item: z.string(),
  total: minor,
  perPayslip: minor,
  reason: z.string(),
  recovered: minor,
  /** Why it ended before all was recovered. */
  ended: z.string().nullable(),
  by: z.string(),
  /** Payslips that took something back, the latest first. */
  taken: z.array(z.object({ payslipId: id, payDate: isoDate, amount: minor, state: z.string() })),
});
export type Recovery = z.infer<typeof recoverySchema>;

/** What a deduction took this year, by payslip: what can be given back. */
export const refundableSchema = z.array(
  z.object({
    itemId: id,
    code: z.string(),
    name: z.string(),
    taken: z.array(z.object({ payslipId: id, payDate: isoDate, amount: minor })),
    /** Given back before, or waiting to be. */
    refunded: minor,
  }),
);
export type Refundable = z.infer<typeof refundableSchema>;
export const refundSchema = z.object({ itemId: id, amount, reason });

export const NET_METHODS = ['cheque', 'cash', 'deposit'] as const;
const part = z.object({ label: z.string(), amount: minor });
/** How the net of a payslip is, or was, paid. */
export const netPaymentSchema = z.object({
  method: z.enum(NET_METHODS),
  parts: z.array(part),
  /** Accounts on file, for leaving one out this once. */
  accounts: z.array(z.object({ id: z.string(), label: z.string() })),
  /** Of a posted payslip, the latest first. */
  made: z.array(
    z.object({
      id,
      method: z.enum(NET_METHODS),
      number: z.number().int().nullable(),
      amount: minor,
      parts: z.array(part),
      stopped: z.string().nullable(),
      by: z.string(),
      at: z.string(),
    }),
  ),
});
export type NetPayment = z.infer<typeof netPaymentSchema>;
export const payAgainSchema = z.object({
  method: z.enum(NET_METHODS),
  reason,
  /** The payment that did not arrive, as it is shown; it may be left out the first time. */
  stops: id.optional(),
});
