import { FILING_STEPS } from '@woodruff/core';
import { z } from 'zod';
import { amount, id, isoDate, minor, name, signedAmount } from './values';

const states = ['not-due-yet', 'due', 'overdue', 'prepared', 'agreed', 'queued', 'received', 'accepted', 'rejected', 'amended'] as const;
const lineSchema = z.object({
  line: z.string(),
  label: z.string(),
  amount: z.number(),
  unit: z.enum(['money', 'count']),
  codes: z.array(z.string()),
  working: z.string(),
  sum: z.literal(true).optional(),
  /** It follows what was paid. */
  settles: z.literal(true).optional(),
  /** What was computed, where the line is overridden, and why. */
  replaced: z.object({ amount: z.number(), reason: z.string() }).optional(),
});
const periodSchema = z.object({
  key: z.string(),
  label: z.string(),
  from: isoDate,
  to: isoDate,
  due: isoDate,
  taxYear: z.string(),
  ahead: z.literal(true).optional(),
});
const checkSchema = z.object({ sentence: z.string(), holds: z.boolean(), weight: z.literal('look').optional() });
const stateSchema = z.enum(states);

/** Filings there are, each with its periods, latest first. */
export const filingsSchema = z.array(
  z.object({
    filing: z.string(),
    form: z.string(),
    name: z.string(),
    agency: z.string(),
    place: z.string(),
    /** The number by which files of several employers go as one; empty where each goes for itself. */
    together: z.string(),
    periods: z.array(
      periodSchema.extend({
        state: stateSchema,
        /** Lines that are not as they were filed. */
        differs: z.number().int(),
      }),
    ),
  }),
);
export type FilingsList = z.infer<typeof filingsSchema>;

/** What one person is given. */
export const copySchema = z.object({
  personId: id,
  name: z.string(),
  number: z.string().nullable(),
  /** Name and address as a letter has them. */
  to: z.array(z.string()),
  /** Given when it is prepared; none while it is a draft. */
  control: z.number().int().nullable(),
  boxes: z.array(z.object({ box: z.string(), label: z.string(), amount: minor, codes: z.array(z.string()) })),
  marks: z.array(z.object({ box: z.string(), label: z.string(), text: z.string() })),
  checks: z.array(z.object({ code: z.string(), weight: z.enum(['stop', 'look']), sentence: z.string() })),
});
export type Copy = z.infer<typeof copySchema>;

/** Whose statement the agency has otherwise, and how. */
export const correctionSchema = z.object({
  personId: id,
  name: z.string(),
  /** The name or the number is another one. */
  named: z.boolean(),
  /** Was held back until now: the statement is the first, and corrects nothing. */
  first: z.literal(true).optional(),
  boxes: z.array(z.object({ box: z.string(), label: z.string(), before: minor, now: minor })),
  marks: z.array(z.object({ box: z.string(), label: z.string(), before: z.string(), now: z.string() })),
});
export type Correction = z.infer<typeof correctionSchema>;

/** Something that happened to a filing. */
export const filingEventSchema = z.object({
  attempt: z.number().int(),
  step: z.enum(FILING_STEPS),
  on: isoDate,
  who: z.string(),
  /** Who signed, in which way it went, what the agency answered. */
  words: z.string(),
});

/** A filing of a period as the ledger makes it now, where it stands, and how it differs from what was filed. */
export const filingSchema = z.object({
  filing: z.string(),
  form: z.string(),
  name: z.string(),
  agency: z.string(),
  place: z.string(),
  period: periodSchema,
  state: stateSchema,
  /** The period is over. */
  complete: z.boolean(),
  employer: z.object({ name: z.string(), number: z.string() }),
  lines: z.array(lineSchema),
  byDay: z.object({ title: z.string(), codes: z.array(z.string()), days: z.array(z.object({ date: isoDate, amount: minor })) }).nullable(),
  copies: z.array(copySchema),
  /** People that go with it, such as wages of a quarter. */
  detail: z
    .object({
      title: z.string(),
      columns: z.array(
        z.object({ key: z.string(), label: z.string(), unit: z.enum(['money', 'count']), fileOnly: z.literal(true).optional() }),
      ),
      rows: z.array(z.object({ personId: id, name: z.string(), values: z.array(z.number()) })),
    })
    .nullable(),
  /** What people are given, and the boxes that a list of them shows first; null where nobody is given anything. */
  copyOf: z
    .object({
      name: z.string(),
      first: z.array(z.string()),
      /** What a corrected one is called, and the sheet of totals. */
      corrected: z.string().nullable(),
      totals: z.string().nullable(),
      /** It can be filed for some of the people, and the others follow. */
      some: z.boolean(),
      /** Boxes that are marked or written by hand. */
      marks: z.array(z.object({ box: z.string(), label: z.string(), kind: z.enum(['yes-no', 'text']), help: z.string() })),
    })
    .nullable(),
  checks: z.array(checkSchema),
  source: z.string(),
  /** Lines that the ledger does not hold, with what was entered. */
  enters: z.array(z.object({ line: z.string(), label: z.string(), help: z.string(), amount: minor, reason: z.string() })),
  /** Computed lines that may be overridden. */
  overrides: z.array(z.string()),
  /** What whoever signs agrees to. */
  statement: z.string(),
  signatory: z.object({ name: z.string(), title: z.string() }),
  events: z.array(filingEventSchema),
  /** The file by which it can go to the agency, and what is missing before the first one; null where none is known. */
  file: z
    .object({
      format: z.string(),
      wants: z.array(z.object({ sentence: z.string(), part: z.string() })),
    })
    .nullable(),
  /** What went by file. */
  files: z.array(z.object({ attempt: z.number().int(), name: z.string(), hash: z.string(), consents: z.string() })),
  /** Why the agency rejected the latest attempt, each with the line or the person that it is about. */
  faults: z.array(z.object({ code: z.string(), text: z.string(), line: z.string().optional(), person: z.string().optional() })),
  /** What is left to pay for the period, and could go along. */
  balance: minor,
  /** What can be done now. */
  next: z.array(z.enum(FILING_STEPS)),
  /** What was filed, where it differs from what the ledger makes now. */
  filed: z
    .object({
      attempt: z.number().int(),
      on: isoDate,
      /** Why it differs, out of the corrections' reasons. */
      because: z.string(),
      amendUntil: isoDate.nullable(),
      differences: z.array(
        z.object({ line: z.string(), label: z.string(), unit: z.enum(['money', 'count']), filed: z.number(), now: z.number() }),
      ),
      corrected: z.array(correctionSchema),
    })
    .nullable(),
  /** Pay of before this system, entered as sums: what they come to by month beside the deposits recorded of it; null where everything was paid here. */
  earlier: z
    .object({
      through: isoDate,
      months: z.array(z.object({ month: z.string(), entered: minor, deposited: minor })),
      deposits: z.array(
        z.object({
          id,
          on: isoDate,
          paidOn: isoDate,
          amount: minor,
          reference: z.string(),
          who: z.string(),
          /** Why it was taken back. */
          undone: z.string().nullable(),
        }),
      ),
    })
    .nullable(),
});
export type FilingView = z.infer<typeof filingSchema>;

/** A line that the ledger does not hold, and where its amount is from. */
export const filingEntrySchema = z.object({
  line: z.string().min(1).max(20),
  /** In the unit of the line; null takes an override away, so that the line is as it is computed. */
  amount: signedAmount.nullable(),
  reason: z.string().trim().min(3, 'where the amount is from').max(300),
});

/** A deposit that was made before this system: for the pay of which day, when, how much, and its number. */
export const earlierDepositSchema = z.object({
  on: isoDate,
  paidOn: isoDate,
  amount,
  reference: z.string().trim().min(1, 'the number of the payment').max(80),
});

/** The statement agreed to, under the name of whoever signs. */
export const agreementSchema = z.object({ signer: name, title: z.string().trim().max(120).default('') });
/** How it went to the agency, and by which number it is found there. */
export const sendingSchema = z.object({
  how: z.enum(['file', 'paper', 'portal', 'agent']),
  reference: z.string().trim().max(80).default(''),
  /** Another employer of the same number, with whose file this one goes as one. */
  along: id.optional(),
  /** What is left for the period is paid along, by the agency's own service; only with the name of who consents to it. */
  pays: z.boolean().default(false),
  consent: z.string().trim().max(120).default(''),
});
/** What the agency answered. */
export const agencyAnswerSchema = z
  .object({
    answer: z.enum(['received', 'accepted', 'rejected']),
    reference: z.string().trim().max(80).default(''),
    reasons: z.string().trim().max(2000).default(''),
  })
  .refine(({ answer, reasons }) => answer !== 'rejected' || reasons, { path: ['reasons'], message: 'the reasons that the agency gave' });

/** Posted lines behind a figure of a filing, by payslip, largest first. */
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

/** How the stand-in for the agencies behaves. */
export const agencySettingsSchema = z.object({
  /** Days until it answers. */
  answersAfter: z.number().int().min(0).max(30),
  /** It says everything twice. */
  doubles: z.boolean(),
  /** Its first answer to a file gets lost, and comes when it is asked again. */
  loses: z.boolean(),
  /** By which name it knows the employer's number; empty for whatever it is told. */
  knownAs: z.string().trim().max(120),
});
export const agencyViewSchema = agencySettingsSchema.extend({
  files: z.array(
    z.object({
      agency: z.string(),
      name: z.string(),
      on: isoDate,
      number: z.string(),
      status: z.string(),
      faults: z.array(z.object({ code: z.string(), text: z.string() })),
    }),
  ),
});
export type AgencyView = z.infer<typeof agencyViewSchema>;

/** A box marked or written by hand on somebody's statement; null lets it be as it is derived. */
export const copyMarkSchema = z.object({
  personId: id,
  box: z.string().min(1).max(40),
  text: z.string().trim().max(40).nullable(),
  reason: z.string().trim().min(3, 'why').max(300),
});

/** Where each pay item stands on the year's statements. */
export const boxMapSchema = z.object({
  year: z.string(),
  filings: z.array(
    z.object({
      filing: z.string(),
      name: z.string(),
      items: z.array(
        z.object({
          id,
          code: z.string(),
          name: z.string(),
          kind: z.string(),
          treatment: z.string(),
          /** Posted in the year to whom the filing states. */
          posted: minor,
          /** Boxes that its tax treatment puts it into. */
          boxes: z.array(z.object({ box: z.string(), label: z.string(), lowers: z.boolean() })),
          /** Why the law has it in no box; null where the law does not say so. */
          none: z.string().nullable(),
          offered: z.array(z.object({ filing: z.string(), box: z.string(), label: z.string(), words: z.boolean() })),
          /** Where the employer has put it; `box` empty: in no box on purpose. */
          put: z.object({ filing: z.string(), box: z.string(), label: z.string() }).nullable(),
          /** What was posted of it under another treatment stands otherwise than the item counts now. */
          astray: z.boolean(),
          /** It has no box, and nobody has said that this is right. */
          open: z.boolean(),
        }),
      ),
    }),
  ),
});
export type BoxMap = z.infer<typeof boxMapSchema>;

/** Items put into boxes: an empty box is none on purpose, null lets the tax treatment decide alone. */
export const itemBoxesSchema = z.object({
  /** Tax year from which on it holds. */
  year: z.string().regex(/^20\d\d(-\d\d)?$/),
  items: z
    .array(
      z.object({
        id,
        put: z.object({ filing: z.string().max(40), box: z.string().max(40), label: z.string().trim().max(40).default('') }).nullable(),
      }),
    )
    .min(1)
    .max(500),
});

/** So many statements are printed into one file. */
export const COPIES_AT_ONCE = 500;

/** How people's statements were given out, and who wants them how. */
export const copiesGivenSchema = z.object({
  /** The attempt whose statements are given out; null while nothing is prepared. */
  attempt: z.number().int().nullable(),
  people: z.array(
    z.object({
      personId: id,
      name: z.string(),
      control: z.number().int().nullable(),
      /** To which it can go under a password; null where there is none, or nothing to make the password of. */
      email: z.string().nullable(),
      /** Since when electronically; null: on paper. */
      electronic: isoDate.nullable(),
      /** Last that was said of it. */
      consent: z.object({ step: z.enum(['asked', 'given', 'withdrawn']), on: isoDate, means: z.string() }).nullable(),
      given: z.array(z.object({ how: z.enum(['inbox', 'mail', 'paper']), on: isoDate })),
    }),
  ),
});
export type CopiesGiven = z.infer<typeof copiesGivenSchema>;
export const giveCopiesSchema = z.object({
  /** Electronically to all who agreed to it; by mail, under a password, to them; on paper: recorded as printed and handed over. */
  how: z.enum(['inbox', 'mail', 'paper']),
  /** Of these people; of everybody whom it fits where nobody is named. */
  people: z.array(id).max(20_000).default([]),
});

/** Asked for, given or withdrawn by somebody otherwise than in their own view. */
export const formConsentSchema = z.object({
  step: z.enum(['asked', 'given', 'withdrawn']),
  means: z.string().trim().min(2, 'by which means').max(120),
});
