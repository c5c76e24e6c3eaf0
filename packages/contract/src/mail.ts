import { z } from 'zod';
import { id } from './values';

/** What goes to chosen people beside the payslips: the register as a table, the summary as a page to read. */
export const RUN_REPORTS = ['register', 'summary'] as const;
export const reportToSchema = z.object({ to: z.email(), report: z.enum(RUN_REPORTS) });
export type ReportTo = z.infer<typeof reportToSchema>;

export const deliverySchema = z.object({
  /** Payslips: to be sent, sent already, and for paper because no address is on file. */
  ready: z.number().int(),
  sent: z.number().int(),
  waiting: z.number().int(),
  paper: z.array(z.object({ payslipId: id, name: z.string() })),
  reports: z.array(reportToSchema.extend({ deliveredAt: z.string().nullable() })),
  /** People who may get reports. */
  members: z.array(z.object({ name: z.string(), email: z.string() })),
});
export type Delivery = z.infer<typeof deliverySchema>;

export const outboxSchema = z.array(
  z.object({
    id,
    to: z.string(),
    name: z.string(),
    subject: z.string(),
    /** Shown to the addressee only; in the demo to an administrator too. */
    body: z.string().nullable(),
    /** What hangs on it: where it can be read. */
    attachment: z.object({ label: z.string(), kind: z.enum(['payslip', 'statement', ...RUN_REPORTS]), id }).nullable(),
    queuedAt: z.string(),
    deliveredAt: z.string().nullable(),
  }),
);
export type Outbox = z.infer<typeof outboxSchema>;
