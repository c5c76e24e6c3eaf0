import { z } from 'zod';
import { decimal, fineAmount, hours, id, isoDate, name, version } from './values';

const account = z.string().trim().max(20).default('');

/** What a group supplies to its people. What is absent or empty stays with each person. */
export const groupDefaultsSchema = z.object({
  scheduleId: id.nullish(),
  department: z.string().max(60).default(''),
  worksite: z.string().max(60).default(''),
  job: z.string().max(60).default(''),
  kind: z.enum(['regular', 'seasonal', 'casual', 'contractor']).nullish(),
  standardHours: hours.nullish(),
  items: z.array(z.object({ itemId: id, amount: fineAmount.nullish(), percent: decimal.nullish() })).default([]),
  /** Leave plans, by identifier. */
  leavePlans: z.array(id).default([]),
  /** Tax details of the place of work, in the terms of the country's pack. */
  tax: z.record(z.string(), z.string().max(60)).default({}),
  /** Accounts to which the pay of its people is posted where the item names none; empty means the employer's. */
  accounts: z
    .object({ wages: account, reimbursements: account, employerTaxes: account })
    .default({ wages: '', reimbursements: '', employerTaxes: '' }),
});
export type GroupDefaults = z.infer<typeof groupDefaultsSchema>;

export const groupSchema = z.object({
  id,
  name: z.string(),
  version: version,
  defaults: groupDefaultsSchema,
  members: z.array(z.object({ personId: id, name: z.string(), /** What is not as the group has it. */ own: z.array(z.string()) })),
});
export type Group = z.infer<typeof groupSchema>;

export const newGroupSchema = z.object({ name, defaults: groupDefaultsSchema });
export const groupChangeSchema = newGroupSchema.extend({
  version: version,
  /** From which day its people follow; absent when the change is for those who join later only. */
  passOnFrom: isoDate.nullish(),
});
export const groupMoveSchema = z.object({ personIds: z.array(id).min(1).max(20_000), from: isoDate });

/** What passing a change on, or moving people, does to each; and who keeps a value of their own. */
export const groupEffectSchema = z.object({
  follow: z.array(z.object({ personId: id, name: z.string(), what: z.array(z.string()) })),
  keep: z.array(z.object({ personId: id, name: z.string(), what: z.array(z.string()) })),
});
export type GroupEffect = z.infer<typeof groupEffectSchema>;
