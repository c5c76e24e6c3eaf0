import { z } from 'zod';
import { id, isoDate, minor, version } from './values';
import { workingSchema } from './workings';

/** A leave that the law knows: its kind, first and last day, and what its kind asks. */
export const lawLeaveSchema = z.object({
  kind: z.string().min(1).max(40),
  from: isoDate,
  to: isoDate,
  about: z.record(z.string().max(40), z.string().max(40)).default({}),
  /** Ordinary pay goes on; else a salary and ordinary hours are paid for the other weekdays. */
  paysOn: z.boolean().default(false),
});

/** The law's tests of a leave, and what is paid week by week. */
export const assessedLeaveSchema = z.object({
  tests: z.array(z.object({ sentence: z.string(), holds: z.boolean() })),
  entitled: z.boolean(),
  parts: z.array(z.object({ from: isoDate, to: isoDate, label: z.string(), amount: minor, key: z.string() })),
  total: minor,
  workings: z.record(z.string(), workingSchema),
});
export type AssessedLeaveView = z.infer<typeof assessedLeaveSchema>;

const fieldSchema = z.object({
  key: z.string(),
  label: z.string(),
  help: z.string().optional(),
  kind: z.string(),
  choices: z.array(z.object({ value: z.string(), label: z.string() })).optional(),
});
export const personLawLeavesSchema = z.object({
  /** None in a country without leave by law. */
  kinds: z.array(z.object({ code: z.string(), label: z.string(), refusal: z.string().nullable(), fields: z.array(fieldSchema) })),
  leaves: z.array(
    lawLeaveSchema.extend({
      id,
      version,
      assessed: assessedLeaveSchema,
      /** Paid so far of it, in posted payslips. */
      paid: minor,
      /** Waits for runs to come, or is in an open one. */
      waiting: minor,
      undone: z.string().nullable(),
      by: z.string(),
      at: z.string(),
    }),
  ),
});
export type PersonLawLeaves = z.infer<typeof personLawLeavesSchema>;

export const lawLeaveEndSchema = z.object({ version, to: isoDate });
export const lawLeaveUndoSchema = z.object({ version, reason: z.string().trim().min(3, 'a reason of at least three letters').max(300) });
