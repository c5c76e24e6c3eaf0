import { z } from 'zod';
import { leaveAskSchema, personLeaveSchema } from './leave';
import { TIME_STATES, timeChangeSchema } from './time';
import { id, isoDate, minor } from './values';

/** What an employee sees: their own payslips, leave and choices, and nothing of anybody else. */
export const ownViewSchema = z.object({
  name: z.string(),
  employer: z.string(),
  today: isoDate,
  year: z.string(),
  yearToDate: z.object({ gross: minor, taxes: minor, deductions: minor, net: minor }),
  payslips: z.array(
    z.object({
      id,
      payDate: isoDate,
      from: isoDate,
      to: isoDate,
      state: z.enum(['posted', 'reversed', 'reversal']),
      gross: minor,
      deductions: minor,
      taxes: minor,
      net: minor,
    }),
  ),
  /** Time of the latest periods, for those who are paid by the hour; null for others. */
  time: z
    .object({
      periods: z.array(
        z.object({
          from: isoDate,
          to: isoDate,
          state: z.enum(TIME_STATES),
          days: z.array(z.object({ date: isoDate, hours: z.string() })),
        }),
      ),
      changes: z.array(timeChangeSchema),
    })
    .nullable(),
  leave: personLeaveSchema,
  /** Since when year-end forms come electronically only; null: on paper. */
  electronicForms: isoDate.nullable(),
  /** The office has asked for that consent, and it was not answered. */
  formsAsked: isoDate.nullable(),
  /** Statements given, latest first. */
  /** Letters that were given to the own view, the latest first. */
  letters: z.array(z.object({ id, title: z.string(), on: isoDate })),
  statements: z.array(z.object({ id, name: z.string(), period: z.string(), on: isoDate, corrected: z.boolean() })),
});
export type OwnView = z.infer<typeof ownViewSchema>;
export const ownLeaveSchema = leaveAskSchema.omit({ personId: true });
export const invitationSchema = z.object({ email: z.string().nullable(), invited: z.boolean(), accepted: z.boolean() });
