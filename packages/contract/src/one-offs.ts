import { z } from 'zod';
import { quantity, id, isoDate, minor, signedAmount } from './values';
import { workingSchema } from './workings';

/** Which run takes a one-off: the next that pays the person, a named one, or the first with a pay date from a day on. */
export const takesSchema = z.discriminatedUnion('by', [
  z.object({ by: z.literal('next') }),
  z.object({ by: z.literal('run'), runId: id }),
  z.object({ by: z.literal('date'), date: isoDate }),
]);
export type Takes = z.infer<typeof takesSchema>;

const partSchema = z
  .object({ from: isoDate, to: isoDate })
  .refine((part) => part.from <= part.to && part.from.slice(0, 7) === part.to.slice(0, 7), 'days of one month');

/** The days in which pay was earned that is not of the pay period. */
const earnedSchema = z
  .object({ from: isoDate, to: isoDate })
  .refine((earned) => earned.from <= earned.to, 'a last day that is not before the first');

/** What a one-off is back pay for. */
export const backSchema = z.object({ from: isoDate, to: isoDate, payDate: isoDate, item: z.string() });

export const oneOffEntrySchema = z.object({
  /** The person's code. */
  person: z.string().trim().min(1, 'the code of a person'),
  /** The item's code. */
  item: z.string().trim().min(1, 'the code of a pay item'),
  amount: signedAmount,
  note: z.string().max(200).default(''),
  part: partSchema.nullish(),
  earned: earnedSchema.nullish(),
  takes: takesSchema,
});
export const oneOffsSchema = z.object({ entries: z.array(oneOffEntrySchema).min(1, 'at least one line').max(5000) });
export const oneOffChangeSchema = oneOffEntrySchema.omit({ person: true, item: true });

export const oneOffSchema = z.object({
  id,
  personId: id,
  person: z.string(),
  code: z.string(),
  department: z.string(),
  item: z.string(),
  itemName: z.string(),
  kind: z.string(),
  amount: z.string(),
  note: z.string(),
  part: partSchema.nullable(),
  earned: earnedSchema.nullable(),
  takes: takesSchema,
  back: backSchema.nullable(),
  /** Waiting, in an open run, or paid; in words, with the run to open. */
  state: z.enum(['waiting', 'in-run', 'paid']),
  where: z.string(),
  runId: id.nullable(),
  payslipId: id.nullable(),
  by: z.string(),
  at: z.string(),
});
export type OneOff = z.infer<typeof oneOffSchema>;

export const oneOffPageSchema = z.object({
  oneOffs: z.array(oneOffSchema),
  /** Open runs that can be named, and items that can be entered. */
  runs: z.array(z.object({ id, label: z.string() })),
  items: z.array(z.object({ code: z.string(), name: z.string(), kind: z.string() })),
  /** It matters for taxes in which days something was earned. */
  earnedCounts: z.boolean(),
});
export type OneOffPage = z.infer<typeof oneOffPageSchema>;

/** A file read for looking at: each row as text, with what is wrong about it. */
export const oneOffFileSchema = z.array(
  z.object({ row: z.number().int(), person: z.string(), item: z.string(), amount: z.string(), note: z.string(), date: z.string() }),
);

export const backPayAskSchema = z.object({
  from: isoDate,
  personIds: z.array(id).min(1).max(2000),
  /** Hours that came in late, by payslip and column of the sheet: what they should have been. */
  hours: z.record(id, z.record(z.string(), quantity)).default({}),
});
export const backPayTakeSchema = backPayAskSchema.extend({
  /** The item through which it is paid; absent: each through its own. */
  item: z.string().nullish(),
  takes: takesSchema,
});
export const backPaySchema = z.object({
  total: minor,
  people: z.array(
    z.object({
      personId: id,
      name: z.string(),
      total: minor,
      periods: z.array(
        z.object({
          payslipId: id,
          payDate: isoDate,
          from: isoDate,
          to: isoDate,
          /** Hours as paid, by column, for entering late ones. */
          hours: z.record(z.string(), z.string()),
          lines: z.array(
            z.object({
              item: z.string(),
              label: z.string(),
              paid: minor,
              now: minor,
              already: minor,
              difference: minor,
              workings: z.record(z.string(), workingSchema),
            }),
          ),
        }),
      ),
    }),
  ),
});
export type BackPay = z.infer<typeof backPaySchema>;
