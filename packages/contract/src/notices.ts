import { z } from 'zod';
import { id, isoDate } from './values';

const field = z.object({
  key: z.string(),
  label: z.string(),
  kind: z.string(),
  choices: z.array(z.object({ value: z.string(), label: z.string() })),
});
export const noticesPageSchema = z.object({
  /** Null in a country without such notices. */
  rules: z
    .object({ title: z.string(), format: z.string(), general: z.object({ title: z.string(), help: z.string(), fields: z.array(field) }) })
    .nullable(),
  /** Used before, the latest first. */
  used: z.array(
    z.object({ personId: id, name: z.string(), label: z.string(), issued: isoDate, from: isoDate, by: z.string(), at: z.string() }),
  ),
});
export type NoticesPage = z.infer<typeof noticesPageSchema>;

export const noticesReadSchema = z.object({
  faults: z.array(z.string()),
  rows: z.array(
    z.object({
      label: z.string(),
      name: z.string(),
      issued: isoDate,
      from: isoDate,
      personId: id.nullable(),
      /** Why it cannot be used, in words. */
      problem: z.string().nullable(),
      /** It was used before. */
      used: z.boolean(),
    }),
  ),
});
export type NoticesRead = z.infer<typeof noticesReadSchema>;

/** The text of a file of notices. */
export const noticesFileSchema = z.object({ content: z.string().max(2_000_000) });
export const noticesUseSchema = noticesFileSchema.extend({
  chosen: z.array(z.number().int().min(0)).min(1, 'at least one notice').max(5000),
});

export const generalChangeSchema = z.object({ from: isoDate, entered: z.record(z.string().max(20), z.string().max(20)).default({}) });
export const generalReadSchema = z.object({
  rows: z.array(z.object({ personId: id, name: z.string(), before: z.string(), after: z.string(), problem: z.string().nullable() })),
  unchanged: z.number().int(),
});
export type GeneralRead = z.infer<typeof generalReadSchema>;
