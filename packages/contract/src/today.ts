import { z } from 'zod';
import { id, isoDate, minor } from './values';
import { proposalSchema, runSchema } from './pay-runs';

export const dueSchema = z.object({ date: isoDate, what: z.string(), amount: minor.nullable(), link: z.string(), overdue: z.boolean() });
export const todaySchema = z.object({
  today: isoDate,
  proposals: z.array(proposalSchema),
  open: z.array(runSchema.extend({ points: z.number().int() })),
  /** One-offs that wait for a run. */
  oneOffs: z.number().int(),
  /** What employees asked for and nobody answered yet. */
  asked: z.object({
    leave: z.number().int(),
    /** Changes of time, by period. */
    time: z.array(z.object({ scheduleId: id, from: isoDate, to: isoDate, changes: z.number().int() })),
  }),
  due: z.array(dueSchema),
  /** Records that keep somebody from being paid or reported: how many there are, and the first of them. */
  unfinished: z.object({
    count: z.number().int(),
    first: z.array(z.object({ personId: id, name: z.string(), missing: z.array(z.string()) })),
  }),
  coming: z.array(z.object({ date: isoDate, what: z.string(), personId: id.nullable() })),
  costs: z.array(z.object({ payDate: isoDate, gross: minor, employer: minor })),
});
export type TodayView = z.infer<typeof todaySchema>;

export const timelineSchema = z.object({
  rows: z.array(
    z.object({
      schedule: z.string(),
      scheduleId: id,
      periods: z.array(
        z.object({
          from: isoDate,
          to: isoDate,
          payDate: isoDate,
          runId: id.nullable(),
          state: z.enum(['none', 'open', 'approved']),
          extra: z.boolean(),
        }),
      ),
    }),
  ),
  due: z.array(dueSchema),
  /** The employer's own holidays. */
  holidays: z.array(z.object({ date: isoDate, label: z.string() })),
});
export type Timeline = z.infer<typeof timelineSchema>;

export const foundSchema = z.array(
  z.object({ kind: z.enum(['person', 'item', 'run']), label: z.string(), detail: z.string(), link: z.string() }),
);
export const employerPageSchema = z.object({
  id,
  name: z.string(),
  country: z.string(),
  today: isoDate,
  schedules: z.array(z.object({ id, name: z.string(), frequency: z.string() })),
  departments: z.array(z.string()),
  jobs: z.array(z.string()),
  ownFields: z.array(z.object({ key: z.string(), label: z.string(), kind: z.string(), choices: z.array(z.string()) })),
  worksites: z.array(z.string()),
  taxForm: z.array(z.object({ title: z.string(), fields: z.array(z.record(z.string(), z.unknown())) })),
  /** Entries of the lists of registrations, by list. */
  entries: z.record(z.string(), z.array(z.object({ code: z.string(), name: z.string() }))),
});
export type EmployerPage = z.infer<typeof employerPageSchema>;
export const auditSchema = z.array(
  z.object({ at: z.string(), who: z.string(), action: z.string(), subject: z.string(), what: z.string() }),
);
