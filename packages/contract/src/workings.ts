import { z } from 'zod';

const workingStepSchema = z.object({
  operation: z.string(),
  label: z.string(),
  operand: z.string().optional(),
  result: z.string(),
  opens: z.string().optional(),
  detail: z.string().optional(),
  rounding: z.object({ name: z.string(), places: z.number() }).optional(),
});
export const workingSchema = z.object({
  key: z.string(),
  label: z.string(),
  amount: z.string(),
  unit: z.enum(['money', 'hours', 'percent', 'count']),
  steps: z.array(workingStepSchema),
  sources: z.array(
    z.object({
      publication: z.string(),
      section: z.string().optional(),
      from: z.string().optional(),
      unconfirmed: z.literal(true).optional(),
    }),
  ),
  notes: z.array(z.string()),
  facts: z.array(z.object({ label: z.string(), kind: z.string(), id: z.string().optional() })),
});
