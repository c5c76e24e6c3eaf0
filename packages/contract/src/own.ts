import { z } from 'zod';
import { leaveAskSchema, personLeaveSchema } from './leave';
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
  leave: personLeaveSchema,
  /** Since when year-end forms come electronically only; null: on paper. */
  electronicForms: isoDate.nullable(),
});
export type OwnView = z.infer<typeof ownViewSchema>;
export const ownLeaveSchema = leaveAskSchema.omit({ personId: true });
export const invitationSchema = z.object({ email: z.string().nullable(), invited: z.boolean() });
