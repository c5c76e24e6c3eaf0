import { z } from 'zod';
import { id, isoDate, minor } from './values';

export const journalRange = z.object({ from: isoDate.optional(), to: isoDate.optional() });
const lineSchema = z.object({
  account: z.string(),
  side: z.enum(['expense', 'liability', 'bank']),
  /** Debits are more than nothing, credits less. */
  amount: minor,
  words: z.string(),
  department: z.string(),
  owed: z.string(),
  payslipId: id.nullable(),
});
export const journalSchema = z.object({
  from: isoDate,
  to: isoDate,
  entries: z.array(
    z.object({
      id: z.number().int(),
      on: isoDate,
      kind: z.enum(['pay', 'payment', 'return', 'remittance', 'undone']),
      words: z.string(),
      sourceId: id.nullable(),
      debit: minor,
      lines: z.array(lineSchema),
    }),
  ),
  /** Sums by account of the range. */
  accounts: z.array(z.object({ account: z.string(), side: z.string(), debit: minor, credit: minor })),
});
export type Journal = z.infer<typeof journalSchema>;

/** Where what is posted goes, and why there. */
export const accountMapSchema = z.object({
  by: z.enum(['run', 'payslip']),
  departments: z.array(z.string()),
  worksites: z.array(z.string()),
  targets: z.array(
    z.object({
      side: z.enum(['expense', 'liability', 'bank']),
      code: z.string(),
      label: z.string(),
      account: z.string(),
      from: z.enum(['rule', 'item', 'employer', 'none']),
    }),
  ),
  rules: z.array(
    z.object({
      side: z.enum(['expense', 'liability', 'bank']),
      code: z.string(),
      department: z.string(),
      worksite: z.string(),
      account: z.string(),
    }),
  ),
  missing: z.number().int(),
});
export type AccountMap = z.infer<typeof accountMapSchema>;
export const accountRuleSchema = z.object({
  side: z.enum(['expense', 'liability', 'bank']),
  code: z.string().max(160).default(''),
  department: z.string().max(120).default(''),
  worksite: z.string().max(120).default(''),
  /** Empty takes the rule away. */
  account: z.string().trim().max(60),
});
export const journalFileQuery = journalRange.extend({ format: z.enum(['csv', 'xlsx', 'json', 'ledger']) });
export const journalPreviewSchema = z.array(lineSchema);

/** Pairs that must agree. */
export const tieOutsSchema = z.array(
  z.object({
    code: z.string(),
    one: z.object({ what: z.string(), amount: minor }),
    other: z.object({ what: z.string(), amount: minor }),
    agrees: z.boolean(),
    /** What of them differs, largest first. */
    differences: z.array(z.object({ what: z.string(), amount: minor, link: z.string() })),
  }),
);
export type TieOuts = z.infer<typeof tieOutsSchema>;

/** What must be in the account on which day. */
export const fundingSchema = z.object({
  balance: minor.nullable(),
  on: isoDate.nullable(),
  days: z.array(
    z.object({ date: isoDate, what: z.string(), amount: minor, expected: z.boolean(), left: minor.nullable(), link: z.string() }),
  ),
});
export type Funding = z.infer<typeof fundingSchema>;
