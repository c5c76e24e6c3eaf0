import { z } from 'zod';
import { id, isoDate } from './values';

const at = z.string().regex(/^\d{4}-\d{2}-\d{2}T([01]\d|2[0-3]):[0-5]\d$/, 'a time such as 2026-11-10T07:02');

export const punchSchema = z.object({
  /** The person's code, as typed at the clock. */
  code: z.string().trim().min(1, 'the code of a person'),
  kind: z.enum(['in', 'out']),
  /** When; absent: now, on the business date. */
  at: at.nullish(),
});

export const clockSchema = z.object({
  date: isoDate,
  scheduleId: id,
  from: isoDate,
  to: isoDate,
  /** Punches of the day, as they came. */
  punches: z.array(z.object({ id: z.number().int(), code: z.string(), name: z.string(), at: z.string(), kind: z.enum(['in', 'out']) })),
  /** In the whole period: punches, and people who made any. */
  inPeriod: z.object({ punches: z.number().int(), people: z.number().int() }),
});
export type Clock = z.infer<typeof clockSchema>;

export const periodOfTimeSchema = z.object({ scheduleId: id, from: isoDate });
export const takenFromClockSchema = z.object({
  people: z.number().int(),
  lines: z.number().int(),
  doubled: z.number().int(),
  /** Sheets that were not touched: typed by hand, submitted or approved already. */
  left: z.array(z.string()),
  /** Punches without their other half. */
  open: z.array(z.object({ name: z.string(), at: z.string(), kind: z.enum(['in', 'out']) })),
});
export type TakenFromClock = z.infer<typeof takenFromClockSchema>;
