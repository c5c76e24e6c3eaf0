import { ENROLLED_BECAUSE } from '@woodruff/core';
import { z } from 'zod';
import { decimal, id, isoDate, minor, name, version } from './values';
import { workingSchema } from './workings';

const tierSchema = z.object({
  code: z.string().regex(/^[a-z0-9-]{1,20}$/, 'small letters, figures and hyphens'),
  label: name,
  /** Per cent that the person puts in, and the employer. */
  employee: decimal,
  employer: decimal,
});

/** A scheme as it is entered: who runs it, what its contributions are of, and the rates of its groups. */
export const savingsSchemeSchema = z.object({
  name,
  provider: name,
  /** By which the provider knows the employer, and the group within the scheme. */
  reference: z.string().trim().max(40).default(''),
  group: z.string().trim().max(40).default(''),
  choices: z.record(z.string().max(40), z.string().max(40)).default({}),
  tiers: z.array(tierSchema).min(1, 'at least one group with its rates').max(20),
  /** The most that the employer puts in for somebody in a year; none without. */
  employerAtMost: z
    .string()
    .regex(/^(\d{1,9}(\.\d{1,2})?)?$/, 'an amount such as 5000.00')
    .default(''),
});
export const savingsSchemeChangeSchema = savingsSchemeSchema
  .pick({ name: true, provider: true, reference: true, group: true, tiers: true })
  .extend({ version });

const reference = z.string().trim().min(1, 'the reference on the notice').max(60);
/** What is recorded of the membership of somebody, or of many at once. */
export const enrolmentStepSchema = z.object({
  people: z.array(id).min(1, 'at least one person').max(2000),
  what: z.discriminatedUnion('step', [
    z.object({ step: z.literal('enrolled'), on: isoDate, scheme: id, tier: z.string().max(20), because: z.enum(ENROLLED_BECAUSE) }),
    z.object({ step: z.literal('postponed'), on: isoDate, kind: z.string().max(20), until: isoDate }),
    z.object({ step: z.literal('opted-out'), on: isoDate, reference }),
    z.object({ step: z.literal('ceased'), on: isoDate }),
    z.object({ step: z.literal('exempt'), on: isoDate, reason: z.string().max(20) }),
    z.object({ step: z.literal('exempt-no-more'), on: isoDate }),
    z.object({ step: z.literal('letter'), on: isoDate, letter: z.string().max(20), how: z.enum(['paper', 'inbox']) }),
  ]),
});
export const enrolmentUndoSchema = z.object({ reason: z.string().trim().min(3, 'a reason of at least three letters').max(300) });

const choice = z.object({ code: z.string(), label: z.string() });
export const enrolmentPersonSchema = z.object({
  personId: id,
  name: z.string(),
  department: z.string(),
  left: isoDate.nullable(),
  /** By the latest payslip of a regular run; null before the first. */
  assessed: z
    .object({
      payDate: isoDate,
      draft: z.boolean(),
      earnings: minor,
      category: z.string(),
      label: z.string(),
      tests: z.array(z.object({ sentence: z.string(), holds: z.boolean() })),
      workings: z.record(z.string(), workingSchema),
      asks: z.enum(ENROLLED_BECAUSE).nullable(),
    })
    .nullable(),
  state: z.enum(['in', 'postponed', 'opted-out', 'ceased', 'exempt', 'out']),
  /** As a sentence says it. */
  standing: z.string(),
  optOutUntil: isoDate.nullable(),
  duty: z
    .object({
      what: z.enum(['enrol', 're-enrol', 'letter']),
      from: isoDate,
      by: isoDate,
      letter: z.string().nullable(),
      sentence: z.string(),
    })
    .nullable(),
  steps: z.array(z.object({ id, on: isoDate, sentence: z.string(), by: z.string(), undone: z.string().nullable() })),
});
export type EnrolmentPerson = z.infer<typeof enrolmentPersonSchema>;

export const enrolmentPageSchema = z.object({
  /** Null in a country without such duties. */
  law: z
    .object({
      title: z.string(),
      noun: z.string(),
      postponements: z.array(choice.extend({ atMost: isoDate })),
      exemptions: z.array(choice),
      letters: z.array(choice),
      fields: z.array(
        z.object({ key: z.string(), label: z.string(), choices: z.array(z.object({ value: z.string(), label: z.string() })) }),
      ),
    })
    .nullable(),
  dutiesFrom: isoDate.nullable(),
  schemes: z.array(
    savingsSchemeSchema.extend({ id, version, members: z.number().int(), employeeItem: z.string(), employerItem: z.string() }),
  ),
  people: z.array(enrolmentPersonSchema),
  round: z.object({ anniversary: isoDate, from: isoDate, to: isoDate, declareBy: isoDate, chosen: isoDate.nullable() }).nullable(),
  declaration: z.object({ by: isoDate, rows: z.array(z.object({ label: z.string(), people: z.number().int() })) }).nullable(),
});
export type EnrolmentPage = z.infer<typeof enrolmentPageSchema>;
