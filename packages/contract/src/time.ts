import { CLOCK_STEPS } from '@woodruff/core';
import { z } from 'zod';
import { id, isoDate, name, version, sentFile } from './values';
import { workingSchema } from './workings';

const clock = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'a time such as 07:30');
const perHour = z.string().regex(/^\d{1,4}(\.\d{1,4})?$/, 'an amount such as 1.25');
const hours = z.string().regex(/^\d{1,2}(\.\d{1,4})?$/, 'hours such as 7.50, in figures');

/** One line of a day: hours, or begin and end with the break. */
export const timeLineSchema = z
  .object({
    date: isoDate,
    hours: hours.nullish(),
    begins: clock.nullish(),
    ends: clock.nullish(),
    breakMinutes: z.number().int().min(0).max(720).default(0),
    /** Series of the rate; empty for the primary one. */
    rate: z.string().max(10).nullish(),
    /** An item paid by the hour for time not worked, such as leave. */
    item: z.string().max(40).nullish(),
    place: z.string().max(60).default(''),
    /** Pieces made, or tips received on the day; of an item that is not paid by the hour. */
    quantity: z
      .string()
      .regex(/^\d{1,7}(\.\d{1,4})?$/, 'a number such as 12 or 84.50')
      .nullish(),
  })
  .refine((line) => line.hours || (line.begins && line.ends) || (line.item && line.quantity), {
    path: ['hours'],
    message: 'hours, or begin and end, or pieces or tips of an item',
  });
export type TimeLine = z.infer<typeof timeLineSchema>;

export const TIME_STATES = ['none', 'open', 'submitted', 'approved', 'returned'] as const;

/** How an employer turns time into pay; the law's part is chosen by the overtime rules. */
export const timeSettingsSchema = z.object({
  weekBegins: z.number().int().min(0).max(6).default(0),
  /** Who has to hand in a sheet: nobody, hourly people without standard hours, or all hourly people. */
  expected: z.enum(['nobody', 'without-standard-hours', 'hourly']).default('nobody'),
  items: z
    .object({
      ordinary: z.string(),
      overtime: z.string(),
      double: z.string(),
      halfPremium: z.string(),
      holiday: z.string(),
      makeUp: z.string().default(''),
    })
    .default({ ordinary: '', overtime: '', double: '', halfPremium: '', holiday: '', makeUp: '' }),
  /** Minutes to the nearest of which the clock's times are rounded; 0 for none. */
  clockStep: z.literal(CLOCK_STEPS).default(0),
  /** Minimum wages that a city or county sets above the state's, for people of a worksite from a day on. */
  minimumWages: z.array(z.object({ worksite: z.string().min(1), from: isoDate, amount: perHour })).default([]),
  premiums: z
    .array(
      z.object({
        label: name,
        from: clock,
        to: clock,
        perHour,
        item: z.string(),
      }),
    )
    .default([]),
  /** Rules of a group or a state from a day on, in place of the employer's; a group's go before a state's. */
  other: z
    .array(
      z.object({
        from: isoDate,
        groupId: id.nullish(),
        state: z.string().max(3).nullish(),
        overtimeRules: z.string(),
        /** Whether the premiums hold there too. */
        premiums: z.boolean().default(true),
      }),
    )
    .default([]),
});
export type TimeSettings = z.infer<typeof timeSettingsSchema>;

/** What an employee asks a day's time to be instead; no hours at all means that nothing was worked. */
export const timeChangeAskSchema = z
  .object({
    date: isoDate,
    hours: hours.nullish(),
    begins: clock.nullish(),
    ends: clock.nullish(),
    breakMinutes: z.number().int().min(0).max(720).default(0),
    reason: z.string().trim().min(3, 'a reason of at least three letters').max(300),
  })
  .refine((ask) => ask.hours || (ask.begins && ask.ends), { path: ['hours'], message: 'hours, or begin and end' });
export const timeChangeSchema = z.object({
  id,
  date: isoDate,
  hours: z.string(),
  begins: z.string().nullable(),
  ends: z.string().nullable(),
  breakMinutes: z.number().int(),
  reason: z.string(),
  state: z.enum(['asked', 'accepted', 'declined', 'withdrawn']),
  answer: z.string(),
});
export type TimeChange = z.infer<typeof timeChangeSchema>;

export const timeRowSchema = z.object({
  personId: id,
  name: z.string(),
  code: z.string(),
  department: z.string(),
  /** Hourly rates beside the primary one. */
  rates: z.array(z.object({ id: z.string(), label: z.string() })),
  state: z.enum(TIME_STATES),
  comment: z.string(),
  version: version,
  lines: z.array(timeLineSchema.safeExtend({ hours: z.string() })),
  /** Approved leave of the period. */
  leave: z.array(z.object({ date: isoDate, hours: z.string(), plan: z.string() })),
  /** Changes of days that the employee asks for. */
  asked: z.array(timeChangeSchema),
  /** Hours as the rules pay them. */
  paid: z.array(z.object({ item: z.string(), label: z.string(), hours: z.string(), figure: z.string() })),
  workings: z.record(z.string(), workingSchema),
  /** What is missing or doubtful, in sentences. */
  points: z.array(z.string()),
  /** Which rules hold for the person, where they are not the employer's. */
  rules: z.string(),
});
export type TimeRow = z.infer<typeof timeRowSchema>;

export const timePageSchema = z.object({
  scheduleId: id,
  schedule: z.string(),
  from: isoDate,
  to: isoDate,
  payDate: isoDate,
  /** Until when the sheets are handed in. */
  handInBy: isoDate.nullable(),
  earlier: isoDate,
  later: isoDate,
  /** Which rules hold, in words; null while the pay items for time are not chosen. */
  rules: z.string().nullable(),
  locked: z.object({ by: z.string(), at: z.string() }).nullable(),
  /** Kinds of line beside time worked: hours not worked, pieces, tips. */
  items: z.array(z.object({ code: z.string(), name: z.string(), per: z.enum(['hours', 'pieces', 'tips']) })),
  rows: z.array(timeRowSchema),
});
export type TimePage = z.infer<typeof timePageSchema>;

export const timesheetSchema = z.object({
  scheduleId: id,
  from: isoDate,
  sheets: z
    .array(z.object({ personId: id, version: version, lines: z.array(timeLineSchema).max(200) }))
    .min(1)
    .max(2000),
});
export const timeStateSchema = z.object({
  scheduleId: id,
  from: isoDate,
  personIds: z.array(id).min(1).max(5000),
  state: z.enum(['submitted', 'approved', 'returned', 'open']),
  comment: z.string().max(300).default(''),
});
export const timeImportSchema = sentFile.extend({ scheduleId: id, from: isoDate });
