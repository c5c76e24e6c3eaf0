import { z } from 'zod';
import { code, id, isoDate, minor, name, version, sentFile } from './values';

const someHours = z.string().regex(/^\d{1,4}(\.\d{1,4})?$/, 'hours such as 4.62');
const itemCode = z.string().max(40).optional();
const days = z.number().int().min(0).max(730).optional();
const steps = z
  .array(z.strictObject({ fromMonths: z.number().int().min(0).max(600), hours: someHours }))
  .min(1, 'at least one row')
  .max(12)
  .refine((rows) => new Set(rows.map((row) => row.fromMonths)).size === rows.length, 'each length of service once');

/** How leave is earned, kept and lost; in force from a day on. */
export const leaveTermsSchema = z.strictObject({
  name,
  item: itemCode,
  payOutItem: itemCode,
  /** Hours cashed out in service through it, what must be left, and the most within twelve months. */
  cashOutItem: itemCode,
  cashOutKeeps: someHours.optional(),
  cashOutAtMost: someHours.optional(),
  /** At the average that the country's law makes of what was earned before; at the rate where absent. */
  paidAt: z.literal('average').optional(),
  earns: z.discriminatedUnion('by', [
    z.strictObject({
      by: z.literal('hours-worked'),
      hours: someHours,
      forEvery: someHours.refine((text) => Number(text) > 0, 'more than no hours'),
    }),
    z.strictObject({ by: z.literal('period'), steps }),
    z.strictObject({ by: z.literal('year'), steps, firstYearByDays: z.boolean() }),
  ]),
  earnsAfterDays: days,
  usableAfterDays: days,
  atMostInYear: someHours.optional(),
  atMostBalance: someHours.optional(),
  carryOver: someHours.optional(),
  mayOwe: someHours.optional(),
  yearBegins: z.string().regex(/^(hire|(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01]))$/, 'a day of the year, or the day of hire'),
});
export type LeaveTerms = z.infer<typeof leaveTermsSchema>;

export const leavePlanSchema = z.object({
  id,
  code: z.string(),
  people: z.number().int(),
  /** All terms, the latest first. */
  terms: z.array(z.object({ from: isoDate, terms: leaveTermsSchema })),
});
export type LeavePlanView = z.infer<typeof leavePlanSchema>;

export const newLeavePlanSchema = z.object({ code, from: isoDate, terms: leaveTermsSchema });
export const leavePlanChangeSchema = z.object({ from: isoDate, terms: leaveTermsSchema });
export const leaveMembersSchema = z.object({
  personIds: z.array(id).min(1).max(20_000),
  from: isoDate,
  /** Takes people out of the plan from the day on. */
  end: z.boolean().default(false),
});

const leaveDay = z.object({ date: isoDate, hours: z.string().regex(/^\d{1,2}(\.\d{1,2})?$/, 'hours such as 8') });
export const LEAVE_STATES = ['asked', 'approved', 'declined', 'withdrawn'] as const;
export const leaveRequestSchema = z.object({
  id,
  personId: id,
  name: z.string(),
  department: z.string(),
  planId: id,
  plan: z.string(),
  from: isoDate,
  to: isoDate,
  days: z.array(leaveDay),
  hours: z.string(),
  note: z.string(),
  state: z.enum(LEAVE_STATES),
  comment: z.string(),
  version: version,
  /** Days of it that a posted payslip has taken. */
  taken: z.number().int(),
  by: z.string(),
});
export type LeaveRequest = z.infer<typeof leaveRequestSchema>;

export const leaveAskSchema = z.object({
  personId: id,
  planId: id,
  from: isoDate,
  to: isoDate,
  /** Hours of each workday; the ordinary hours of the person where absent. */
  hoursPerDay: leaveDay.shape.hours.nullish(),
  note: z.string().max(300).default(''),
});
export const leaveCheckSchema = z.object({
  days: z.array(leaveDay),
  hours: z.string(),
  /** Hours: on file now; expected when the leave begins, without it; and with it at its end. */
  balance: z.string(),
  before: z.string(),
  after: z.string(),
  /** What the plan or other leave says against it, in sentences. */
  against: z.array(z.string()),
  /** Others of the department away on any of the days. */
  away: z.array(z.object({ name: z.string(), from: isoDate, to: isoDate, state: z.string() })),
});
export type LeaveCheck = z.infer<typeof leaveCheckSchema>;
export const leaveDecisionSchema = z.object({
  state: z.enum(['approved', 'declined', 'withdrawn']),
  version: version,
  comment: z.string().trim().max(300).default(''),
});

export const leavePageSchema = z.object({
  from: isoDate,
  to: isoDate,
  /** Days on which nobody works: weekends and holidays, with the holiday's name. */
  off: z.array(z.object({ date: isoDate, label: z.string() })),
  plans: z.array(leavePlanSchema),
  /** Those waiting, whenever they are for, and all others that touch the days shown. */
  requests: z.array(leaveRequestSchema),
  people: z.array(
    z.object({
      personId: id,
      name: z.string(),
      code: z.string(),
      department: z.string(),
      plans: z.array(z.object({ planId: id, plan: z.string(), balance: minor, ahead: minor })),
    }),
  ),
});
export type LeavePage = z.infer<typeof leavePageSchema>;

/** One person's leave: sums in hundredths of hours. */
export const personLeaveSchema = z.object({
  plans: z.array(
    z.object({
      memberId: id,
      planId: id,
      plan: z.string(),
      code: z.string(),
      from: isoDate,
      to: isoDate.nullable(),
      unpaid: z.boolean(),
      balance: minor,
      /** Approved and not yet on a posted payslip. */
      ahead: minor,
      usableFrom: isoDate.nullable(),
      movements: z.array(
        z.object({
          on: isoDate,
          label: z.string(),
          amount: minor,
          balance: minor,
          runId: id,
          payslipId: id,
          figure: z.string(),
          what: z.string(),
        }),
      ),
    }),
  ),
  requests: z.array(leaveRequestSchema),
});
export type PersonLeave = z.infer<typeof personLeaveSchema>;

/** A file of balances of leave as they are on a day, in the columns in which they go out: person, plan, balance_hours. */
export const leaveBalancesFileSchema = sentFile.extend({
  /** The day on which they are so. */
  date: isoDate,
});
export const leaveBalancesReadSchema = z.object({
  /** The first 200 cells that were not taken, each with what to do. */
  problems: z.array(z.object({ row: z.number().int(), column: z.string(), value: z.string(), remedy: z.string() })),
  problemCount: z.number().int(),
  changed: z.number().int(),
  unchanged: z.number().int(),
  /** The first hundred that change, in hundredths of an hour. */
  changes: z.array(z.object({ name: z.string(), plan: z.string(), before: minor, after: minor })),
});
export type LeaveBalancesRead = z.infer<typeof leaveBalancesReadSchema>;

/** Balances changed without payment. */
export const adjustmentSchema = z.object({
  date: isoDate,
  reason: z.string().trim().min(3, 'a reason of at least three letters').max(300),
  entries: z
    .array(
      z.object({
        /** Identifier or code of the person. */
        person: z.string().min(1).max(60),
        /** Code of what is adjusted: `leave:` and a plan, an item, or pay counted for a tax. */
        balance: z.string().min(1).max(80),
        /** Added to the balance; negative lowers it. Hours of leave, otherwise money. */
        amount: z.string().regex(/^-?\d{1,9}(\.\d{1,2})?$/, 'an amount such as 12.50 or -12.50'),
      }),
    )
    .min(1)
    .max(5000),
});
export const adjustableSchema = z.array(
  z.object({ code: z.string(), label: z.string(), unit: z.enum(['hours', 'money']), year: minor, inAll: minor }),
);
export const adjustedSchema = z.object({
  posted: z.number().int(),
  /** Before and after, of the first hundred. */
  changes: z.array(z.object({ name: z.string(), label: z.string(), unit: z.enum(['hours', 'money']), before: minor, after: minor })),
});
export type Adjusted = z.infer<typeof adjustedSchema>;
