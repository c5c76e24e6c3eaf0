import { z } from 'zod';
import { id, isoDate } from './values';

const person = z.object({ personId: id, name: z.string() });

/** A step of the year's end: where it stands follows from facts; only reminders are ticked off by somebody. */
export const yearStepSchema = z.object({
  code: z.string(),
  /** The last day for it; null where there is none. */
  date: isoDate.nullable(),
  what: z.string(),
  /** How far it is, in words. */
  how: z.string(),
  state: z.enum(['done', 'open', 'late', 'later']),
  link: z.string().nullable(),
  /** Whoever has done it, where somebody says so; null where it follows from facts. */
  byHand: z.object({ on: isoDate, who: z.string(), note: z.string() }).nullable(),
  canBeSaid: z.boolean(),
});
export type YearStep = z.infer<typeof yearStepSchema>;

/** The end of a tax year and the beginning of the next one. */
export const yearPlanSchema = z.object({
  year: z.string(),
  from: isoDate,
  to: isoDate,
  today: isoDate,
  /** The tax year that one is in. */
  current: z.string(),
  /** Years with anything in them, latest first. */
  years: z.array(z.string()),
  steps: z.array(yearStepSchema),
  /** Facts of the employer and of people to fix before statements are given. */
  toFix: z.array(z.object({ sentence: z.string(), weight: z.enum(['stop', 'look']), who: person.nullable(), link: z.string() })),
  /** What the next tax year asks for. */
  ahead: z.array(
    z.object({ code: z.string(), sentence: z.string(), done: z.boolean(), source: z.string(), link: z.string(), people: z.array(person) }),
  ),
  /** Items that end within the year, and leave that is carried over at most so far. */
  ending: z.array(z.object({ sentence: z.string(), link: z.string() })),
  /** Every filing of the year. */
  filings: z.array(
    z.object({
      filing: z.string(),
      period: z.string(),
      title: z.string(),
      due: isoDate,
      state: z.string(),
      attempts: z.number().int(),
      /** Statements given to people; null where nobody is given anything. */
      given: z.object({ of: z.number().int(), given: z.number().int() }).nullable(),
    }),
  ),
});
export type YearPlan = z.infer<typeof yearPlanSchema>;

/** Somebody has done a reminder of the plan, or has not after all. */
export const yearStepDoneSchema = z.object({ done: z.boolean(), note: z.string().trim().max(300).default('') });
