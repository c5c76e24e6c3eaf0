import { z } from 'zod';
import { id, isoDate, minor, signedAmount } from './values';
import { JOURNAL_BY } from './employers';
import { workingSchema } from './workings';

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
      kind: z.enum(['pay', 'payment', 'return', 'remittance', 'undone', 'accrual', 'accrual-back', 'leave', 'difference', 'reckoning']),
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
  by: z.enum(JOURNAL_BY),
  accruals: z.enum(['none', 'month']),
  leaveOwed: z.boolean(),
  departments: z.array(z.string()),
  worksites: z.array(z.string()),
  jobs: z.array(z.string()),
  groups: z.array(z.string()),
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
      job: z.string(),
      group: z.string(),
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
  job: z.string().max(120).default(''),
  group: z.string().max(120).default(''),
  /** Empty takes the rule away. */
  account: z.string().trim().max(60),
});
export const journalFileQuery = journalRange.extend({ format: z.enum(['csv', 'xlsx', 'json', 'ledger']) });
export const journalPreviewSchema = z.array(lineSchema);

/** How fine the journal is posted, and whether a month's end is accrued. */
export const journalSettingsSchema = z.object({
  by: z.enum(JOURNAL_BY),
  accruals: z.enum(['none', 'month']),
  leaveOwed: z.boolean(),
});

export const accrualQuery = z.object({ end: isoDate });
/** What was worked until a month's end and is paid after it; with leave that is owed, where that is wanted. */
export const accrualSchema = z.object({
  end: isoDate,
  over: z.boolean(),
  accruals: z.enum(['none', 'month']),
  leaveOwed: z.boolean(),
  parts: z.array(
    z.object({
      runId: id,
      from: isoDate,
      to: isoDate,
      payDate: isoDate,
      /** Posted, calculated, or taken from the schedule's last run. */
      state: z.enum(['approved', 'open', 'expected']),
      days: z.number().int(),
      ofDays: z.number().int(),
      cost: minor,
      accrued: minor,
    }),
  ),
  total: minor,
  /** Of each person, hundredths of hours and what an hour is worth; null where an hour has no worth on file. */
  leave: z
    .array(
      z.object({
        personId: id,
        name: z.string(),
        plan: z.string(),
        hours: z.number().int(),
        hourly: minor.nullable(),
        amount: minor,
      }),
    )
    .nullable(),
  lines: z.array(lineSchema),
  posted: minor,
  toPost: z.boolean(),
});
export type AccrualView = z.infer<typeof accrualSchema>;

/** Taxes of the employer by month: computed, and what was entered beside. */
export const taxGridQuery = z.object({ year: z.coerce.number().int().min(2000).max(2100) });
export const taxGridSchema = z.object({
  year: z.number().int(),
  rows: z.array(
    z.object({
      code: z.string(),
      label: z.string(),
      place: z.string(),
      months: z.array(z.object({ computed: minor, difference: minor, total: minor })),
      total: minor,
    }),
  ),
  entered: z.array(
    z.object({ code: z.string(), month: z.number().int(), amount: minor, reason: z.string(), who: z.string(), on: isoDate }),
  ),
  /** What the employer reckons for itself out of everybody's pay: a levy, an allowance, what is recovered; each difference to what was reckoned before. */
  reckoned: z.array(
    z.object({
      code: z.string(),
      label: z.string(),
      period: z.string(),
      on: isoDate,
      amount: minor,
      workings: z.record(z.string(), workingSchema),
    }),
  ),
});
export type TaxGrid = z.infer<typeof taxGridSchema>;
export const taxTotalSchema = z.object({
  code: z.string().min(1).max(120),
  month: z.string().regex(/^20\d\d-(0[1-9]|1[0-2])$/, 'a month such as 2026-10'),
  total: signedAmount,
  reason: z.string().trim().min(3, 'a reason of at least three letters').max(300),
});

export const costQuery = z.object({ from: isoDate, to: isoDate });
/** What work cost by department and day worked. */
export const costByDaySchema = z.object({
  from: isoDate,
  to: isoDate,
  days: z.array(isoDate),
  departments: z.array(z.object({ department: z.string(), amounts: z.array(minor), total: minor })),
});
export type CostByDay = z.infer<typeof costByDaySchema>;

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

/** What must be in which account on which day. */
export const fundingSchema = z.object({
  until: isoDate,
  accounts: z.array(
    z.object({ id: id.nullable(), name: z.string(), last4: z.string(), balance: minor.nullable(), on: isoDate.nullable() }),
  ),
  /** What leaves on each day, from which account, and what is left in that one then. */
  days: z.array(
    z.object({
      date: isoDate,
      payingAccountId: id.nullable(),
      what: z.string(),
      amount: minor,
      expected: z.boolean(),
      left: minor.nullable(),
      link: z.string(),
    }),
  ),
});
export type Funding = z.infer<typeof fundingSchema>;
