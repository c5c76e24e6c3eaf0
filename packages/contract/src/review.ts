import { z } from 'zod';
import { totalsSchema } from './pay-runs';
import { id, isoDate, minor } from './values';

/** A run as it is looked at before approval. Amounts in minor units. */
export const reviewSchema = z.object({
  /** Runs that it can be compared with, the latest first. */
  choices: z.array(z.object({ id, label: z.string() })),
  against: z.object({ id, payDate: isoDate, totals: totalsSchema }).nullable(),
  /** Sums by line, in the order of a payslip. */
  lines: z.array(
    z.object({
      kind: z.string(),
      code: z.string(),
      label: z.string(),
      amount: minor,
      before: minor,
      people: z.number().int(),
    }),
  ),
  unusual: z.array(z.object({ payslipId: id, name: z.string(), code: z.string(), cost: minor, sentence: z.string(), figure: z.string() })),
  /** What changed in set-up since the compared run was approved. */
  changes: z.array(z.object({ at: z.string(), who: z.string(), what: z.string(), about: z.string(), link: z.string().nullable() })),
  /** Funding needed, by day. */
  funding: z.array(z.object({ date: isoDate, to: z.string(), what: z.string(), amount: minor, code: z.string().nullable() })),
  departments: z.array(z.object({ department: z.string(), people: z.number().int(), cost: minor, before: minor })),
  history: z.array(z.object({ runId: id, payDate: isoDate, gross: minor, employer: minor, net: minor, people: z.number().int() })),
  accepted: z.array(z.object({ sentence: z.string(), who: z.string(), reason: z.string(), by: z.string(), payslipId: id.nullable() })),
});
export type Review = z.infer<typeof reviewSchema>;

/** The people behind a sum of a run, largest first. */
export const behindRunSchema = z.array(z.object({ payslipId: id, name: z.string(), amount: minor, figure: z.string() }));
