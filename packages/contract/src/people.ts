import { z } from 'zod';
import { code, decimal, fineAmount, hours, id, isoDate, minor, name, signedAmount, version, sentFile, recordedSchema } from './values';
import { limitsSchema, orderFactsSchema } from './payslip-input';
import { workingSchema } from './workings';

export const addressSchema = z.object({
  line1: z.string().max(80).default(''),
  line2: z.string().max(80).default(''),
  city: z.string().max(60).default(''),
  state: z.string().max(6).default(''),
  postcode: z.string().max(10).default(''),
});

/** What is entered of a person; everything but code and name may wait. */
export const personFactsSchema = z.object({
  code,
  givenName: name,
  familyName: name,
  born: isoDate.nullish(),
  email: z.email('an e-mail address').nullish(),
  hired: isoDate.nullish(),
  left: isoDate.nullish(),
  leftReason: z.string().max(120).nullish(),
  department: z.string().max(60).default(''),
  worksite: z.string().max(60).default(''),
  job: z.string().max(60).default(''),
  kind: z.enum(['regular', 'seasonal', 'casual', 'contractor']).default('regular'),
  scheduleId: id.nullish(),
  /** Hours proposed for each period of an hourly person; empty when they are always entered. */
  standardHours: hours.nullish(),
  address: addressSchema.default({ line1: '', line2: '', city: '', state: '', postcode: '' }),
  phone: z.string().max(40).default(''),
  /** Whom to call. */
  emergency: z
    .object({ name: z.string().max(120).default(''), phone: z.string().max(40).default(''), relation: z.string().max(60).default('') })
    .default({ name: '', phone: '', relation: '' }),
  /** To whom the person reports. */
  managerId: id.nullish(),
  /** A leave of absence: in a period that lies within it, the person is not paid. */
  absence: z.object({ from: isoDate, to: isoDate.nullish(), reason: z.string().trim().min(1, 'a reason').max(120) }).nullish(),
  /** From this day on the number on file counts as none: the tax agency has refused it. */
  numberRefused: isoDate.nullish(),
  /** Values of the employer's own fields, by their key. */
  own: z.record(z.string(), z.string().max(200)).default({}),
});

/** A new person, who may join a group at once: the group's items begin on the hire date. */
export const newPersonSchema = personFactsSchema.extend({ groupId: id.nullish() });

/** Facts as they are from a day on; without one they count from today. A day to come waits until it is there. */
export const personChangeSchema = z.object({
  version: version,
  facts: personFactsSchema,
  from: isoDate.nullish(),
  reason: z.string().max(120).nullish(),
});

/** A tax that is not taken by its rules, for a time. */
export const standingTaxSchema = z
  .object({
    tax: z.string().min(1),
    instead: z.enum(['exempt', 'amount', 'percent']),
    value: decimal.nullish(),
    reason: z.string().trim().min(3, 'a reason of at least three letters').max(200),
    from: isoDate,
    to: isoDate.nullish(),
  })
  .refine((entry) => (entry.instead === 'exempt') === !entry.value, {
    path: ['value'],
    message: 'an amount or a per cent, none for an exemption',
  })
  .refine((entry) => !entry.to || entry.to >= entry.from, { path: ['to'], message: 'a day after it begins' });

export const standingTaxesSchema = z.object({
  /** Taxes of this person, for choosing. */
  taxes: z.array(z.object({ code: z.string(), label: z.string() })),
  entries: z.array(
    z.object({
      id,
      tax: z.string(),
      label: z.string(),
      instead: z.enum(['exempt', 'amount', 'percent']),
      value: z.string().nullable(),
      reason: z.string(),
      from: isoDate,
      to: isoDate.nullable(),
    }),
  ),
});
export type StandingTaxes = z.infer<typeof standingTaxesSchema>;

/** As the country writes them; its pack tells whether they can be such. */
const bank = z.string().trim().min(3, 'the number of the bank').max(24);
const account = z.string().trim().min(3, 'an account number').max(40);
const depositAccountSchema = z.object({
  /** Of an account on file: its number may be left out and stays. */
  id: z.string().optional(),
  bank,
  account: account.optional(),
  kind: z.enum(['checking', 'savings']).default('checking'),
  by: z.enum(['amount', 'percent', 'remainder']),
  value: z
    .string()
    .regex(/^\d{1,7}(\.\d{1,2})?$/, 'an amount or a per cent')
    .optional(),
});

/** Cheque, one account, or net pay over several accounts of which one takes the remainder. */
export const paymentSchema = z.union([
  z.object({ method: z.literal('cheque') }),
  z.object({ method: z.literal('deposit'), bank, account }),
  z.object({ method: z.literal('deposit'), accounts: z.array(depositAccountSchema).min(1).max(6) }),
]);

export const rateSchema = z.object({
  label: name,
  per: z.enum(['hour', 'period', 'year']),
  amount: decimal,
  from: isoDate,
  primary: z.boolean().default(true),
  reason: z.string().max(120).default(''),
});
export const taxDetailsSchema = z.object({ from: isoDate, facts: z.record(z.string(), z.unknown()) });

export const personItemSchema = z.object({
  itemId: id,
  amount: fineAmount.nullish(),
  percent: decimal.nullish(),
  limits: limitsSchema.nullish(),
  orderFacts: orderFactsSchema.nullish(),
  from: isoDate,
  to: isoDate.nullish(),
});

/** A position beside the main one, and the rate that it is paid at: the series of one of the person's rates, or the primary one. */
export const positionSchema = z.object({
  job: name,
  department: z.string().max(60).default(''),
  worksite: z.string().max(60).default(''),
  rate: z.string().max(10).nullish(),
  /** Per cent of the person's cost that belongs here where no time is kept. */
  share: z
    .string()
    .regex(/^\d{1,2}(\.\d{1,2})?$/, 'a share in per cent such as 40')
    .nullish(),
  from: isoDate,
  to: isoDate.nullish(),
});

export const personRowSchema = z.object({
  id,
  code: z.string(),
  name: z.string(),
  department: z.string(),
  worksite: z.string(),
  job: z.string(),
  kind: z.string(),
  schedule: z.string(),
  hired: isoDate.nullable(),
  left: isoDate.nullable(),
  pay: z.string(),
  /** Nothing is missing that keeps the person from being paid. */
  payable: z.boolean(),
  missing: z.array(z.string()),
});
export type PersonRow = z.infer<typeof personRowSchema>;

export const personSchema = z.object({
  id,
  version: version,
  facts: personFactsSchema,
  /** `tax`: what a certificate that is entered first begins with. */
  group: z.object({ id, name: z.string(), tax: z.record(z.string(), z.string()) }).nullable(),
  manager: z.string().nullable(),
  /** Facts that changed from a day on, latest first; those to come can be withdrawn. */
  dated: z.array(
    z.object({
      id,
      from: isoDate,
      coming: z.boolean(),
      who: z.string(),
      reason: z.string(),
      changes: z.array(z.object({ key: z.string(), label: z.string(), was: z.string(), is: z.string() })),
    }),
  ),
  nationalNumber: z.string().nullable(),
  payment: z
    .object({
      method: z.string(),
      shown: z.string(),
      accounts: z.array(
        z.object({
          id: z.string(),
          bank: z.string(),
          shown: z.string(),
          kind: z.enum(['checking', 'savings']),
          by: z.enum(['amount', 'percent', 'remainder']),
          value: z.string().nullable(),
          trial: z.enum(['asked', 'arrived', 'returned']).nullable(),
          /** What it would get of the latest net pay. */
          ofLastNet: minor,
        }),
      ),
    })
    .nullable(),
  /** Beside the main one, which is among the details. */
  positions: z.array(positionSchema.extend({ id, rateLabel: z.string().nullable() })),
  rates: z.array(rateSchema.extend({ id, series: z.string(), yearly: z.string().nullable() })),
  taxDetails: z.array(taxDetailsSchema.extend({ id })),
  items: z.array(personItemSchema.extend({ id, version: version, code: z.string(), name: z.string(), kind: z.string(), taken: minor })),
  /** What is left of the limits of recurring items. */
  limitsLeft: z.array(z.object({ item: z.string(), limit: z.enum(['year', 'in-all', 'law']), label: z.string(), of: minor, left: minor })),
  missing: z.array(z.object({ sentence: z.string(), part: z.string() })),
  payslips: z.array(
    z.object({
      id,
      runId: id,
      payDate: isoDate,
      from: isoDate,
      to: isoDate,
      gross: minor,
      taxes: minor,
      deductions: minor,
      net: minor,
      state: z.string(),
    }),
  ),
  yearToDate: z.object({ year: z.string(), gross: minor, taxes: minor, deductions: minor, net: minor }),
  notes: z.array(z.object({ id, date: isoDate, who: z.string(), text: z.string() })),
  documents: z.array(z.object({ id, name: z.string(), expires: isoDate.nullable() })),
  changes: z.array(recordedSchema),
});
export type Person = z.infer<typeof personSchema>;
export type PersonFacts = z.input<typeof personFactsSchema>;
export const secretSchema = z.object({
  /** As the country writes it; its pack tells whether it can be one. */
  nationalNumber: z.string().trim().min(4, 'the number').max(24),
});

/** A file of people, CSV or XLSX, as base64; `columns` says for each heading what it holds, where the match is changed by hand. */
export const importSchema = sentFile.extend({ columns: z.array(z.string().nullable()).optional() });
/** A file of what an earlier system paid: one row for each person and day. */
export const openingImportSchema = importSchema.extend({ acceptDifferences: z.boolean().default(false) });
export const importCheckSchema = z.object({
  rows: z.number().int(),
  columns: z.array(z.object({ heading: z.string(), key: z.string().nullable(), example: z.string() })),
  choices: z.array(z.object({ key: z.string(), label: z.string() })),
  /** The first 500 cells that were not taken, each with what to do; `problemCount` counts all. */
  problems: z.array(z.object({ row: z.number().int(), column: z.string(), value: z.string(), remedy: z.string() })),
  problemCount: z.number().int(),
  added: z.number().int(),
  changed: z.number().int(),
  unchanged: z.number().int(),
  changes: z.array(z.object({ row: z.number().int(), name: z.string(), what: z.string() })),
});
export type ImportCheck = z.infer<typeof importCheckSchema>;

/** Taxes of a typical payslip with the details in force, and with those entered. */
export const taxPreviewSchema = z.object({
  /** Which payslip is taken as typical. */
  based: z.string(),
  gross: minor,
  taxes: z.array(z.object({ code: z.string(), label: z.string(), before: minor, after: minor })),
  net: z.object({ before: minor, after: minor }),
  stop: z.string().nullable(),
  workings: z.record(z.string(), workingSchema),
});
export type TaxPreview = z.infer<typeof taxPreviewSchema>;

/** What an earlier system paid, by the last pay date it covers; amounts by the code of the item or tax, in minor units. */
export const openingSchema = z.object({
  items: z.array(z.object({ code: z.string(), name: z.string(), kind: z.string() })),
  taxes: z.array(z.object({ code: z.string(), label: z.string() })),
  entered: z.array(z.object({ paidUntil: isoDate, payslipId: id, amounts: z.record(z.string(), minor) })),
});
export type OpeningBalances = z.infer<typeof openingSchema>;
export const openingEntrySchema = z.object({ paidUntil: isoDate, amounts: z.record(z.string(), signedAmount) });
const summed = z.array(z.object({ code: z.string(), label: z.string(), amount: minor }));
export const openingCheckSchema = z.object({
  totals: z.object({ gross: minor, taxes: minor, deductions: minor, net: minor }),
  bases: summed,
  employerTaxes: summed,
  /** What does not tie out, in sentences. */
  checks: z.array(z.string()),
});
export type OpeningCheck = z.infer<typeof openingCheckSchema>;

export const noteSchema = z.object({ date: isoDate, text: z.string().trim().min(1, 'what is to be noted').max(4000) });
export const documentSchema = z.object({ name, expires: isoDate.nullish() });
