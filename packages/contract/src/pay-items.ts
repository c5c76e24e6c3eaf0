import { z } from 'zod';
import { payItemSchema } from './payslip-input';
import { decimal, fineAmount, id, isoDate, minor, version, recordedSchema } from './values';
import { workingSchema } from './workings';

export const payItemRowSchema = payItemSchema.extend({ id, version: version, retired: z.boolean(), held: z.number().int() });
export type PayItemRow = z.infer<typeof payItemRowSchema>;

export const payItemPageSchema = payItemRowSchema.extend({
  holders: z.array(
    z.object({
      personId: id,
      name: z.string(),
      department: z.string(),
      amount: z.string().nullable(),
      percent: z.string().nullable(),
      from: isoDate,
      to: isoDate.nullable(),
      taken: minor,
    }),
  ),
  counts: z.array(z.object({ base: z.string(), label: z.string(), sign: z.number() })),
  treatmentSource: z.string().nullable(),
  /** What the law allows in the year, by age where more is allowed. */
  legalLimits: z.array(z.object({ fromAge: z.number().int().nullable(), amount: minor, working: workingSchema })),
  changes: z.array(recordedSchema),
});
export type PayItemPage = z.infer<typeof payItemPageSchema>;

/** What the country's pack offers for items: treatments with what they count for, bases, and published tables. */
export const itemChoicesSchema = z.object({
  treatments: z.array(
    z.object({
      code: z.string(),
      label: z.string(),
      for: z.array(z.string()),
      taken: z.enum(['before-tax', 'after-tax', 'order']).nullable(),
      counts: z.record(z.string(), z.number()),
      asks: z.array(
        z.object({
          key: z.string(),
          label: z.string(),
          help: z.string().optional(),
          kind: z.enum(['choice', 'yes-no', 'amount', 'count', 'text', 'date', 'percent']),
        }),
      ),
      source: z.string().nullable(),
    }),
  ),
  bases: z.array(z.object({ code: z.string(), label: z.string() })),
  tables: z.array(z.object({ code: z.string(), label: z.string(), asks: z.string() })),
});
export type ItemChoices = z.infer<typeof itemChoicesSchema>;

/** Many people's amounts of one item, from a date on. */
export const holdersChangeSchema = z.object({
  from: isoDate,
  entries: z
    .array(z.object({ personId: id, amount: fineAmount.nullish(), percent: decimal.nullish(), end: z.boolean().default(false) }))
    .min(1)
    .max(20_000),
});

export const readyItemsSchema = z.array(z.object({ group: z.string(), item: payItemSchema, taken: z.boolean() }));
export type ReadyItem = z.infer<typeof readyItemsSchema>[number];

/** A treatment to look at: what it would move of the year that was posted. */
export const itemCountedSchema = payItemSchema.pick({ treatment: true, countsInstead: true });

/**
 * What was posted of an item in the tax year and stands on people's statements otherwise than the item counts. The sums are
 * those still to be moved; nothing is moved by a change of treatment alone.
 */
export const itemMovesSchema = z.object({
  year: z.string(),
  bases: z.array(z.object({ code: z.string(), label: z.string() })),
  /** `sums` in the order of `bases`. */
  people: z.array(z.object({ personId: id, name: z.string(), posted: minor, sums: z.array(minor) })),
  /** Stated of people as well, and worked out by the payslip: only correcting payslips changes it. */
  stay: z.array(z.string()),
});
export type ItemMoves = z.infer<typeof itemMovesSchema>;
export const moveItemSchema = z.object({ reason: z.string().trim().min(3, 'a reason of at least three letters').max(300) });
