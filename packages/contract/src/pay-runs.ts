import { z } from 'zod';
import { workingSchema } from './workings';
import { quantity, id, isoDate, minor, signedAmount, version, recordedSchema } from './values';

export const RUN_STATES = ['calculating', 'open', 'submitted', 'approved', 'withdrawn'] as const;
export const totalsSchema = z.object({
  gross: minor,
  reimbursements: minor,
  benefitsInKind: minor,
  deductions: minor,
  taxes: minor,
  net: minor,
  employerTaxes: minor,
  employerContributions: minor,
  employerCost: minor,
});

export const runSchema = z.object({
  id,
  kind: z.enum(['regular', 'special', 'correction', 'opening', 'adjustment']),
  /** Of a special run. */
  name: z.string(),
  scheduleId: id,
  schedule: z.string(),
  from: isoDate,
  to: isoDate,
  payDate: isoDate,
  state: z.enum(RUN_STATES),
  people: z.number().int(),
  totals: totalsSchema,
  approvedBy: z.string().nullable(),
  submittedBy: z.string().nullable(),
  /** What the approver wrote when sending it back. */
  sentBack: z.string().nullable(),
  approvedAt: z.string().nullable(),
  version: version,
});
export type Run = z.infer<typeof runSchema>;

/** How a special run pays: what applies beside what is entered for it. */
export const specialRulesSchema = z.object({
  /** Recurring items that apply, by code; `waiting` one-offs of these items are taken too. */
  items: z.array(z.string()).default([]),
  /** All recurring deductions and contributions, as in a regular run. */
  ordinaryDeductions: z.boolean().default(false),
  taxMethod: z.string().max(20).optional(),
  takesWaiting: z.boolean().default(false),
  /** What is left of leave is paid out, for somebody who leaves. */
  paysOutLeave: z.boolean().optional(),
});
export type SpecialRules = z.infer<typeof specialRulesSchema>;

export const specialRunSchema = z.object({
  scheduleId: id,
  name: z.string().trim().min(1, 'a name').max(80),
  payDate: isoDate,
  rules: specialRulesSchema,
  people: z
    .array(
      z.object({
        personId: id,
        amounts: z.array(z.object({ item: z.string(), amount: signedAmount, note: z.string().max(200).optional() })),
      }),
    )
    .min(1, 'at least one person')
    .max(20_000),
});

export const proposalSchema = z.object({
  scheduleId: id,
  schedule: z.string(),
  from: isoDate,
  to: isoDate,
  payDate: isoDate,
  people: z.number().int(),
  approveBy: isoDate,
});
export type Proposal = z.infer<typeof proposalSchema>;

/** What a person changed on one payslip; what is absent stays as set up. */
export const editsSchema = z.object({
  /** Hours by column of the sheet; for items paid by the piece, pieces. */
  hours: z.record(z.string(), quantity).optional(),
  oneOffs: z
    .array(z.object({ id: z.string().max(60), item: z.string(), amount: signedAmount, note: z.string().max(200).optional() }))
    .optional(),
  leftOut: z.array(z.string()).optional(),
  /** Recurring items whose amount is another on this payslip, by code; limits hold. */
  amounts: z.array(z.object({ item: z.string(), amount: signedAmount, note: z.string().trim().max(200).optional() })).optional(),
  overrides: z.array(z.object({ tax: z.string(), amount: signedAmount, reason: z.string().trim().min(3, 'a reason').max(200) })).optional(),
  note: z.string().max(500).optional(),
  /** So many further pay periods are paid with it, such as for a holiday; where the country says how that is taxed. */
  ahead: z.number().int().min(1).max(12).optional(),
  /** How this payslip alone is paid; accounts that get nothing this once, by identifier. */
  payment: z.object({ method: z.enum(['cheque', 'cash']).optional(), without: z.array(z.string()).optional() }).optional(),
});
export type Edits = z.infer<typeof editsSchema>;

/** One row of the sheet. Hours by column: ordinary, overtime, second rate, leave. */
export const sheetRowSchema = z.object({
  payslipId: id,
  personId: id,
  name: z.string(),
  code: z.string(),
  department: z.string(),
  included: z.boolean(),
  version: version,
  hourly: z.boolean(),
  /** Series of the hourly rates in force beside the primary one: "2", "3" … */
  rates: z.array(z.string()),
  hours: z.record(z.string(), z.string()),
  /** Sum of the one-offs entered for this run. */
  oneOffs: minor,
  /** Items paid by the piece that the person has. */
  pieces: z.array(z.string()),
  edits: editsSchema,
  totals: totalsSchema,
  previousNet: minor.nullable(),
});
export type SheetRow = z.infer<typeof sheetRowSchema>;

export const pointSchema = z.object({
  key: z.string(),
  weight: z.enum(['stop', 'look']),
  stage: z.enum(['gather', 'check']),
  sentence: z.string(),
  who: z.string(),
  payslipId: id.nullable(),
  personId: id.nullable(),
  itemId: id.nullable(),
  figure: z.string().nullable(),
  accepted: z.object({ reason: z.string(), by: z.string() }).nullable(),
});
export type OpenPoint = z.infer<typeof pointSchema>;

export const sheetSchema = z.object({
  run: runSchema,
  rows: z.array(sheetRowSchema),
  points: z.array(pointSchema),
  notIn: z.array(z.object({ personId: id, name: z.string(), why: z.string() })),
  comparedWith: z.object({ id, payDate: isoDate, totals: totalsSchema }).nullable(),
  /** Columns for hours, and for pieces of items that somebody in the run has. */
  hourColumns: z.array(z.object({ key: z.string(), label: z.string(), pieces: z.boolean() })),
  oneOffItems: z.array(z.object({ code: z.string(), name: z.string(), kind: z.string() })),
  cashBy: isoDate,
  /** Payments of an approved run that no batch has gathered yet; and the first batch that did. */
  toPay: z.number().int().optional(),
  batch: id.nullish(),
  /** From which account it is paid; null for the employer's first one. */
  payingAccountId: id.nullish(),
  stale: z.boolean(),
  mayApprove: z.boolean(),
  /** Approved timesheets that its payslips take their hours from. */
  timesheets: z.number().int(),
  /** Until this day an approved run can be withdrawn; null when it cannot. */
  withdrawUntil: isoDate.nullable(),
});
export type Sheet = z.infer<typeof sheetSchema>;

export const payslipChangeSchema = z.object({ version: version, included: z.boolean().optional(), edits: editsSchema.optional() });
/**
 * What one edit changed, at a cost that does not grow with the number of people; the run's totals are asked for after it.
 * `points`: those of the payslip and of the run as a whole, and those about limits of zero; the others stand.
 */
export const changedSchema = z.object({ row: sheetRowSchema, runVersion: version, points: z.array(pointSchema) });
export type Changed = z.infer<typeof changedSchema>;

export const causeSchema = z.object({ group: z.string(), sentences: z.array(z.string()), share: minor });

export const payslipSchema = z.object({
  id,
  runId: id,
  personId: id,
  name: z.string(),
  state: z.enum(['draft', 'posted', 'reversed', 'reversal']),
  included: z.boolean(),
  version: version,
  payDate: isoDate,
  from: isoDate,
  to: isoDate,
  edits: editsSchema,
  lines: z.array(
    z.object({
      id: z.string(),
      code: z.string(),
      kind: z.string(),
      label: z.string(),
      amount: minor,
      quantity: z.string().optional(),
      rate: z.string().optional(),
      /** Left off the payslip that the employee sees. */
      hidden: z.literal(true).optional(),
      yearToDate: minor,
    }),
  ),
  totals: totalsSchema,
  problems: z.array(
    z.object({
      code: z.string(),
      weight: z.enum(['stop', 'look']),
      sentence: z.string(),
      item: z.string().optional(),
      figure: z.string().optional(),
    }),
  ),
  /** Items that the person has and that are not on this payslip, and why. */
  /** What the law wants said on it of employer and employee beside the figures. */
  printed: z.array(z.string()).optional(),
  notDue: z.array(z.object({ code: z.string(), label: z.string(), why: z.string() })),
  /** Plans with what is left after this payslip, in hundredths of hours. */
  leave: z.array(z.object({ plan: z.string(), figure: z.string(), balance: minor })),
  /** One-offs that were waiting and that this payslip takes. */
  taken: z.array(z.object({ id, item: z.string(), amount: z.string(), note: z.string() })),
  workings: z.record(z.string(), workingSchema),
  history: z.array(recordedSchema),
});
export type PayslipView = z.infer<typeof payslipSchema>;

export const differenceSchema = z.object({
  compared: z.string(),
  earlier: minor,
  later: minor,
  difference: minor,
  earlierPayDate: isoDate.nullable(),
  causes: z.array(causeSchema),
});
export type Difference = z.infer<typeof differenceSchema>;

export const comparisonSchema = z.object({
  earlierPayDate: isoDate.nullable(),
  difference: minor,
  groups: z.array(z.object({ group: z.string(), share: minor, people: z.number().int() })),
  people: z.array(
    z.object({ payslipId: id, name: z.string(), earlier: minor, later: minor, difference: minor, causes: z.array(causeSchema) }),
  ),
});
export type Comparison = z.infer<typeof comparisonSchema>;

export const lossSchema = z.array(z.object({ payslipId: id, name: z.string(), lost: z.array(z.string()) }));
export const reversalPreviewSchema = z.object({
  name: z.string(),
  payDate: isoDate,
  reversalDate: isoDate,
  net: minor,
  touches: z.array(z.object({ what: z.string(), before: minor, after: minor })),
  notes: z.array(z.string()),
});
export type ReversalPreview = z.infer<typeof reversalPreviewSchema>;
export const progressSchema = z.object({
  state: z.enum(['waiting', 'running', 'done', 'failed']),
  done: z.number().int(),
  of: z.number().int(),
  message: z.string().nullable(),
});
export type Progress = z.infer<typeof progressSchema>;
