import { z } from 'zod';
import { id, isoDate, minor } from './values';

export const returnSchema = z.object({
  form: z.string(),
  year: z.number(),
  quarter: z.number(),
  lines: z.array(
    z.object({
      line: z.string(),
      label: z.string(),
      amount: z.number(),
      unit: z.enum(['money', 'count']),
      codes: z.array(z.string()),
      working: z.string(),
    }),
  ),
  liability: z.array(z.object({ payDate: isoDate, amount: minor })),
  checks: z.array(z.object({ sentence: z.string(), holds: z.boolean() })),
  source: z.string(),
  employer: z.object({ name: z.string(), number: z.string() }),
  due: isoDate,
  complete: z.boolean(),
});
export type Return = z.infer<typeof returnSchema>;

/** Posted lines behind a figure of a return or a statement, by payslip, largest first. */
export const behindSchema = z.object({
  total: minor,
  entries: z.array(
    z.object({
      payslipId: id,
      runId: id,
      personId: id,
      name: z.string(),
      payDate: isoDate,
      label: z.string(),
      code: z.string(),
      amount: minor,
    }),
  ),
});
export type Behind = z.infer<typeof behindSchema>;

export const statementSchema = z.object({
  personId: id,
  name: z.string(),
  number: z.string().nullable(),
  boxes: z.array(z.object({ box: z.string(), label: z.string(), amount: minor, codes: z.array(z.string()) })),
  checks: z.array(z.object({ code: z.string(), weight: z.enum(['stop', 'look']), sentence: z.string() })),
});
export type Statement = z.infer<typeof statementSchema>;
export const yearEndSchema = z.object({
  year: z.number(),
  form: z.string(),
  source: z.string(),
  statements: z.array(statementSchema),
  tied: z.array(z.object({ sentence: z.string(), holds: z.boolean() })),
});
export type YearEnd = z.infer<typeof yearEndSchema>;
