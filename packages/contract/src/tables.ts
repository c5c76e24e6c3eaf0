import { z } from 'zod';
import { FREQUENCIES } from '@woodruff/core';
import { workingSchema } from './workings';
import { amount, decimal, id, isoDate, minor } from './values';

const signed = z.string().regex(/^-?\d{1,12}(\.\d{1,8})?$/, 'a decimal such as -0.6702');
const band = z.strictObject({ over: decimal, percent: decimal, base: decimal.optional(), less: signed.optional() });

/** A dated figure of the law, as files have it. */
export const tableEntrySchema = z
  .strictObject({
    code: z.string().min(3).max(120),
    from: isoDate,
    to: isoDate.optional(),
    value: decimal.optional(),
    bands: z.array(band).min(1).max(60).optional(),
    publication: z.string().trim().min(3).max(300),
    section: z.string().trim().max(300).optional(),
    confirmed: z.boolean(),
  })
  .refine(({ value, bands }) => (value === undefined) !== (bands === undefined), { message: 'a value, or bands' })
  .refine(({ from, to }) => to === undefined || to >= from, { path: ['to'], message: 'a day not before the first' });

/** A file of tables: exported, changed and loaded again. */
export const tableFileSchema = z.strictObject({
  format: z.literal('woodruff.parameters/1'),
  title: z.string().trim().min(3).max(200),
  entries: z.array(tableEntrySchema).min(1).max(5000),
});

/** A figure as it is in force, and as it will be. */
const comparedSchema = z.object({
  code: z.string(),
  before: z.string(),
  after: z.string(),
  source: z.string(),
  confirmed: z.boolean(),
});

/** Tables of two days side by side, and what the change makes of everybody's latest regular payslip. */
export const tableComparisonSchema = z.object({
  before: isoDate,
  after: isoDate,
  changed: z.array(comparedSchema),
  /** In force before, and not any more: pay dates that need them are refused. */
  ending: z.array(z.object({ code: z.string(), before: z.string() })),
  people: z.array(
    z.object({
      personId: id,
      name: z.string(),
      netBefore: minor,
      netAfter: minor,
      costBefore: minor,
      costAfter: minor,
      lines: z.array(z.object({ label: z.string(), before: minor, after: minor })),
      /** Why it cannot be reckoned; empty where it can. */
      refused: z.string(),
    }),
  ),
});
export type TableComparison = z.infer<typeof tableComparisonSchema>;

export const tablesViewSchema = z.object({
  country: z.string(),
  today: isoDate,
  /** The next tax year, and what of this year's tables has no successor in it. */
  next: z.object({ label: z.string(), from: isoDate, missing: z.number().int() }),
  inForce: z.array(
    z.object({ code: z.string(), value: z.string(), from: isoDate, source: z.string(), confirmed: z.boolean(), loaded: z.boolean() }),
  ),
  files: z.array(
    z.object({
      id,
      title: z.string(),
      countsFrom: isoDate,
      entries: z.number().int(),
      state: z.enum(['proposed', 'approved', 'dropped']),
      proposedBy: z.string(),
      proposedAt: z.string(),
      decidedBy: z.string().nullable(),
      reason: z.string(),
      /** Whoever looks has proposed it, and cannot approve it. */
      own: z.boolean(),
    }),
  ),
});
export type TablesView = z.infer<typeof tablesViewSchema>;

export const tableDecisionSchema = z.object({ approve: z.boolean(), reason: z.string().trim().max(300).default('') });

/** For whom the scales are looked up: tax details in the terms of the country, as JSON, and how often and when is paid. */
const scaleOf = {
  date: isoDate,
  frequency: z.enum(FREQUENCIES),
  details: z.string().max(4000),
  /** The same was paid with every pay date of the tax year so far. */
  steady: z.enum(['yes', 'no']).default('yes'),
};
export const scaleQuerySchema = z.object({ ...scaleOf, pay: amount });
export const scaleTableQuerySchema = z.object({ ...scaleOf, from: amount, to: amount, step: amount });

/** What is withheld from one pay and owed on it, each with its working. */
export const scaleSchema = z.object({
  taxYear: z.string(),
  /** Pay dates of the tax year that went before, where the same was paid with each. */
  before: z.number().int(),
  taxes: z.array(z.object({ code: z.string(), label: z.string(), of: z.enum(['employee', 'employer']), amount: minor, key: z.string() })),
  net: minor,
  problems: z.array(z.string()),
  workings: z.record(z.string(), workingSchema),
});
export type Scale = z.infer<typeof scaleSchema>;
