import { z } from 'zod';
import { id, minor } from './values';

/**
 * What becomes of one payslip: net before and after, `cost` the change of what the employer pays; `stop` says why it
 * could not be paid any more, `look` what has to be looked at after the change and not before.
 */
const effectOnPersonSchema = z.object({
  name: z.string(),
  before: minor,
  after: minor,
  cost: minor,
  stop: z.string().nullable(),
  look: z.array(z.string()),
});

/** What a change of set-up would do to the open runs, calculated by the core before it is saved; largest differences first. */
export const effectSchema = z.object({
  runs: z.array(z.object({ runId: id, label: z.string(), people: z.number().int() })),
  people: z.array(effectOnPersonSchema),
  unchanged: z.number().int(),
});
export type Effect = z.infer<typeof effectSchema>;

/** What working a run out again changed the last time: how many payslips, and the largest differences; null when it was calculated once. */
export const recalculationSchema = z
  .object({ at: z.string(), changed: z.number().int(), unchanged: z.number().int(), people: z.array(effectOnPersonSchema) })
  .nullable();
export type Recalculation = z.infer<typeof recalculationSchema>;
