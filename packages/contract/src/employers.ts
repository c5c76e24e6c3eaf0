import { FREQUENCIES } from '@woodruff/core';
import { z } from 'zod';
import { addressSchema } from './people';
import { SECOND_PERSON } from './second-person';
import { RIGHTS, ROLES } from './session';
import { timeSettingsSchema } from './time';
import { id, isoDate, name, version, recordedSchema } from './values';

const text = z.string().trim().max(120);
const account = z.string().trim().max(20);

export const JOURNAL_BY = ['run', 'pay-date', 'payslip'] as const;

/** What is on file of an employer. Nothing but the name is required to begin; what is missing is listed. */
export const employerFactsSchema = z.object({
  /** Registrations, in the terms of the country's pack. */
  country: z.record(z.string(), z.unknown()).default({}),
  address: addressSchema,
  contact: z.object({ name: text, email: text, phone: text }).default({ name: '', email: '', phone: '' }),
  signatory: z.object({ name: text, title: text }),
  departments: z.array(name),
  jobs: z.array(name).default([]),
  worksites: z.array(
    z.object({ name, state: z.string().max(3).default(''), city: text.default(''), postcode: z.string().max(10).default('') }),
  ),
  /** By which the employer's day begins (IANA), one of its country's; empty for that of the server. */
  timeZone: z.string().max(60).default(''),
  /** Whoever edited a run last may not approve it. */
  secondPersonApproves: z.boolean(),
  /** Changes that wait for a second person. */
  secondPersonFor: z.array(z.enum(SECOND_PERSON)).optional(),
  /** Whoever may approve, pay out, or see or change bank details signs in with a second factor. */
  secondFactor: z.boolean().optional(),
  /** Accounts to which a run is posted where the item names none. */
  accounts: z
    .object({
      netPay: account,
      taxes: account,
      wages: account,
      employerTaxes: account,
      reimbursements: account,
      bank: account.default(''),
      deductions: account.default(''),
      contributions: account.default(''),
    })
    .prefault({ netPay: '', taxes: '', wages: '', employerTaxes: '', reimbursements: '' }),
  /** How fine the journal is posted from now on: a run in total, all runs of a pay date, or each payslip. */
  journalBy: z.enum(JOURNAL_BY).default('run'),
  /** Whether what is worked and not paid is accrued at each month's end, and leave owed with it. */
  accruals: z.enum(['none', 'month']).default('none'),
  leaveOwed: z.boolean().default(false),
  overtimeRules: z.string().default(''),
  /** Days on which nothing is paid, beside the country's bank holidays. */
  holidays: z.array(z.object({ date: isoDate, label: name })).default([]),
  /** What the employer is, in the terms of its country's forms; empty for an ordinary one. */
  kind: z.string().max(40).default(''),
  time: timeSettingsSchema.prefault({}),
  /** Fields of the employer's own on every person. */
  ownFields: z
    .array(
      z.object({
        key: z.string().regex(/^[a-z0-9-]{1,40}$/),
        label: name,
        kind: z.enum(['text', 'number', 'date', 'choice']),
        choices: z.array(name).default([]),
      }),
    )
    .default([]),
});
export type EmployerFacts = z.infer<typeof employerFactsSchema>;

export const scheduleSchema = z.object({
  name,
  frequency: z.enum(FREQUENCIES),
  /** First day of any one period. */
  anchor: isoDate,
  /** Days from the end of the period to its pay date. */
  payDateOffset: z.number().int().min(-31).max(31),
  move: z.enum(['previous', 'next']),
  /** Days after the end of a period until which its time is handed in. */
  timeCutOff: z.number().int().min(0).max(31).nullish(),
  /** From which its runs are paid; the employer's first account where none is said. */
  payingAccountId: id.nullish(),
});

export const payDatesSchema = z.array(z.object({ from: isoDate, to: isoDate, payDate: isoDate, /** What is unusual. */ note: z.string() }));

export const setUpSchema = z.object({
  id,
  name: z.string(),
  facts: employerFactsSchema,
  version: version,
  hasLogo: z.boolean(),
  /** Accounts that pay, the first one before the others. */
  banks: z.array(z.object({ id: id.nullable(), name: z.string(), routing: z.string(), shown: z.string() })),
  schedules: z.array(scheduleSchema.extend({ id, people: z.number().int(), runs: z.number().int() })),
  members: z.array(
    z.object({
      id,
      name: z.string(),
      email: z.string(),
      role: z.enum(ROLES),
      /** Given singly in place of the role's; null for the ready set. */
      rights: z.array(z.enum(RIGHTS)).nullable(),
      accepted: z.boolean(),
      secondFactor: z.boolean(),
    }),
  ),
  /** The pack's form of registrations. */
  form: z.object({
    fields: z.array(z.record(z.string(), z.unknown())),
    lists: z.array(z.record(z.string(), z.unknown())),
    overtimeRules: z.array(z.object({ code: z.string(), label: z.string() })),
    kinds: z.array(z.object({ code: z.string(), label: z.string() })),
  }),
  /** What is still missing before the first run, from facts; each leads to its part. */
  missing: z.array(z.object({ sentence: z.string(), part: z.string(), keepsFromPay: z.boolean() })),
  changes: z.array(recordedSchema),
});
export type SetUp = z.infer<typeof setUpSchema>;

export const renamesSchema = z.record(z.string(), z.string()).default({});
export const setUpChangeSchema = z.object({
  version: version,
  name,
  facts: employerFactsSchema,
  /** Old names to new ones; people follow. */
  renamed: z
    .object({ departments: renamesSchema, worksites: renamesSchema, jobs: renamesSchema })
    .default({ departments: {}, worksites: {}, jobs: {} }),
});

export const bankSchema = z.object({
  /** The employer's first account, another one, or one of the others by its identifier. */
  which: z.union([z.literal('first'), z.literal('another'), id]).default('first'),
  name,
  routing: z.string().trim().min(3, 'the number of the bank').max(24),
  account: z.string().trim().min(3, 'an account number').max(40),
});
/** PNG or JPEG as base64; empty takes the logo away. */
export const logoSchema = z.object({ content: z.string().max(700_000) });
export const memberSchema = z.object({
  email: z.email('an e-mail address'),
  name,
  role: z.enum(ROLES),
  rights: z.array(z.enum(RIGHTS)).nullish(),
});
