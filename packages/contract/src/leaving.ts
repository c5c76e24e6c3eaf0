import { z } from 'zod';
import { id, isoDate, minor, signedAmount } from './values';
import { workingSchema } from './workings';

export const noticeSchema = z.object({
  /** When notice was given; empty when none was. */
  given: isoDate.nullish(),
  how: z.enum(['none', 'worked', 'paid', 'deducted']),
  /** Until when notice goes, where it is not worked. */
  until: isoDate.nullish(),
});
export const noticePaySchema = z.object({ amount: z.string(), workings: z.record(z.string(), workingSchema) });

/** What the law wants paid to who leaves, and the least notice. */
export const owedOnLeavingSchema = z.object({
  notice: z.string().nullable(),
  payments: z.array(
    z.object({
      label: z.string(),
      sentence: z.string(),
      /** Null where nothing is owed. */
      amount: z.string().nullable(),
      key: z.string().nullable(),
      /** The item that pays it; null where the employer has none of the treatment. */
      item: z.string().nullable(),
    }),
  ),
  workings: z.record(z.string(), workingSchema),
});

export const leavingSchema = z.object({
  lastDay: isoDate,
  reason: z.string().trim().min(3, 'a reason of at least three letters').max(120),
  /** How it ends, of the kinds that the country's law tells apart; absent where that is not known. */
  kind: z.string().max(40).optional(),
  notice: noticeSchema,
  /** What is paid or taken beside the last hours: notice, unused leave, lump sums. */
  amounts: z.array(z.object({ item: z.string().min(1), amount: signedAmount, note: z.string().max(200).default('') })).max(30),
  /** Leave that is left is paid out, where its plan says through which item. */
  paysLeave: z.boolean().default(true),
  /** In a run of its own on a day, or with the next regular run. */
  finalPay: z.discriminatedUnion('in', [
    z.object({ in: z.literal('next-run') }),
    z.object({ in: z.literal('own-run'), payDate: isoDate, taxMethod: z.string().max(20), ordinaryDeductions: z.boolean() }),
  ]),
});

export const leavingViewSchema = z
  .object({
    id,
    lastDay: isoDate,
    reason: z.string(),
    notice: noticeSchema,
    runId: id.nullable(),
    /** Of the run of the final pay. */
    state: z.string().nullable(),
    /** As it was entered, for changing it. */
    entered: leavingSchema.nullable(),
    /** What the law wants who leaves to be given beside the statement, as it is called; null where it wants nothing. */
    certificate: z.string().nullable(),
    by: z.string(),
    at: z.string(),
  })
  .nullable();
export type Leaving = z.infer<typeof leavingViewSchema>;

/** The payslip that would pay somebody who leaves, with the working of every figure. Amounts in minor units. */
export const finalPaySchema = z.object({
  payDate: isoDate,
  /** The regular pay of a period, or the run of its own. */
  with: z.string(),
  lines: z.array(z.object({ id: z.string(), kind: z.string(), label: z.string(), amount: minor })),
  gross: minor,
  net: minor,
  problems: z.array(z.object({ weight: z.enum(['stop', 'look']), sentence: z.string() })),
  workings: z.record(z.string(), workingSchema),
});
export type FinalPay = z.infer<typeof finalPaySchema>;
