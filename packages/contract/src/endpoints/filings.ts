import { z } from 'zod';
import {
  agencySettingsSchema,
  agencyViewSchema,
  agencyAnswerSchema,
  agreementSchema,
  behindSchema,
  boxMapSchema,
  copiesGivenSchema,
  copyMarkSchema,
  earlierDepositSchema,
  filingEntrySchema,
  filingSchema,
  filingsSchema,
  formConsentSchema,
  giveCopiesSchema,
  itemBoxesSchema,
  sendingSchema,
} from '../filings';
import { yearReconciledSchema } from '../reconciled';
import { id, isoDate } from '../values';
import { yearPlanSchema, yearStepDoneSchema } from '../year';
import { at, nothing, type Endpoint } from './endpoint';

const one = `${at}/filings/:filing/:period`;

/** Of returns, reports and statements to agencies. */
export const filingsEndpoints = {
  filings: { method: 'get', path: `${at}/filings`, needs: 'read', summary: 'Filings by period, with their states', answer: filingsSchema },
  filing: { method: 'get', path: one, needs: 'read', summary: 'A filing of a period', answer: filingSchema },
  filingPdf: {
    method: 'get',
    path: `${one}/filing.pdf`,
    needs: 'export',
    summary: 'A filing of a period as PDF, as it is now or as it was prepared in an attempt',
    query: z.object({ attempt: z.coerce.number().int().min(1).max(999).optional() }),
    file: 'application/pdf',
  },
  copiesPdf: {
    method: 'get',
    path: `${one}/copies.pdf`,
    needs: 'export',
    summary: "People's statements as PDF, of all or one: a draft as they are now, or as they were prepared in an attempt",
    query: z.object({
      person: id.optional(),
      attempt: z.coerce.number().int().min(1).max(999).optional(),
      /** Statements on a page. */
      each: z.coerce
        .number()
        .int()
        .pipe(z.union([z.literal(1), z.literal(2), z.literal(4)]))
        .default(1),
      /** Only those that correct what was filed. */
      corrected: z.stringbool().default(false),
      /** Only of those who are not given theirs electronically. */
      paper: z.stringbool().default(false),
      order: z.enum(['name', 'number', 'department', 'postcode']).default('name'),
      /** Of many, only so many at once: which portion, counted from 1. */
      part: z.coerce.number().int().min(1).max(999).optional(),
    }),
    file: 'application/pdf',
  },
  filingCsv: {
    method: 'get',
    path: `${one}/filing.csv`,
    needs: 'export',
    summary: "A filing's lines, or the boxes of people's copies, as CSV",
    file: 'text/csv',
  },
  filingFile: {
    method: 'get',
    path: `${one}/file`,
    needs: 'export',
    summary: 'The file by which a filing goes to its agency: as it was handed in, or as it would be now',
    query: z.object({ attempt: z.coerce.number().int().min(1).max(999).optional() }),
    file: 'application/octet-stream',
  },
  askAgencies: {
    method: 'post',
    path: `${at}/filings/answers`,
    needs: 'prepare',
    summary: 'Hand in what waits, and take what the agencies have answered',
    body: nothing,
    answer: z.object({ sent: z.number().int(), answers: z.number().int(), unknown: z.number().int() }),
  },
  agencyView: {
    method: 'get',
    path: `${at}/filings/agency`,
    needs: 'read',
    summary: 'What the stand-in for the agencies has',
    answer: agencyViewSchema,
  },
  setAgency: {
    method: 'put',
    path: `${at}/filings/agency`,
    needs: 'administer',
    summary: 'How the stand-in for the agencies answers, and by which name it knows the employer',
    body: agencySettingsSchema,
    answer: nothing,
  },
  copiesGiven: {
    method: 'get',
    path: `${one}/given`,
    needs: 'read',
    summary: 'Who was given their statement, and how people want theirs',
    answer: copiesGivenSchema,
  },
  giveCopies: {
    method: 'post',
    path: `${one}/given`,
    needs: 'prepare',
    summary: 'Give prepared statements out: to the own view, by mail under a password, or recorded as handed over on paper',
    body: giveCopiesSchema,
    answer: z.object({ given: z.number().int() }),
  },
  mailedCopy: {
    method: 'get',
    path: `${at}/statements/:id/pdf`,
    needs: 'export',
    summary: 'A statement as it went by mail: it opens with its password',
    file: 'application/pdf',
  },
  markCopy: {
    method: 'post',
    path: `${one}/marks`,
    needs: 'prepare',
    summary: "Mark or write a box of somebody's statement by hand, or let it be as derived",
    body: copyMarkSchema,
    answer: nothing,
  },
  boxMap: {
    method: 'get',
    path: `${at}/filings/boxes`,
    needs: 'read',
    summary: 'Where each pay item stands on the statements of a year',
    query: z.object({
      year: z
        .string()
        .regex(/^20\d\d(-\d\d)?$/)
        .optional(),
    }),
    answer: boxMapSchema,
  },
  yearReconciled: {
    method: 'get',
    path: `${at}/years/:year/reconciliation`,
    needs: 'read',
    summary: 'Of a tax year the register by item beside the ledger, whole or of the people who have a code; each difference with its cause',
    query: z.object({ code: z.string().max(120).optional() }),
    answer: yearReconciledSchema,
  },
  yearPlan: {
    method: 'get',
    path: `${at}/years/:year`,
    needs: 'read',
    summary: 'The end of a tax year as a plan: what is done, what is left, and what the next year asks for',
    answer: yearPlanSchema,
  },
  sayYearStep: {
    method: 'post',
    path: `${at}/years/:year/:step`,
    needs: 'prepare',
    summary: 'Say that a reminder of the plan was done, or was not',
    body: yearStepDoneSchema,
    answer: nothing,
  },
  setItemBoxes: {
    method: 'put',
    path: `${at}/filings/boxes`,
    needs: 'prepare',
    summary: 'Put pay items into boxes, or into none on purpose',
    body: itemBoxesSchema,
    answer: nothing,
  },
  formConsent: {
    method: 'post',
    path: `${at}/people/:id/forms`,
    needs: 'prepare',
    summary: 'Ask somebody for consent to electronic statements, or record that it was given or withdrawn elsewhere',
    body: formConsentSchema,
    answer: nothing,
  },
  enterFilingLine: {
    method: 'post',
    path: `${one}/entered`,
    needs: 'prepare',
    summary: 'Enter a line that the ledger does not hold; nothing takes it back to nothing',
    body: filingEntrySchema,
    answer: nothing,
  },
  recordEarlierDeposit: {
    method: 'post',
    path: `${one}/earlier`,
    needs: 'prepare',
    summary: 'Record a deposit of pay of before this system, of which only sums were entered',
    body: earlierDepositSchema,
    answer: nothing,
  },
  undoEarlierDeposit: {
    method: 'post',
    path: `${at}/filings/earlier/:id/undone`,
    needs: 'prepare',
    summary: 'Take back a recorded deposit of before this system; it stays on record with the reason',
    body: z.object({ reason: z.string().trim().min(3, 'why it is taken back').max(300) }),
    answer: nothing,
  },
  prepareFiling: {
    method: 'post',
    path: `${one}/prepared`,
    needs: 'prepare',
    summary: 'Keep a filing as it is now, to be agreed to',
    body: z.object({
      reason: z.string().trim().max(500).default(''),
      /** People who are held back, of a filing that can be filed for some. */
      without: z.array(id).max(20_000).optional(),
    }),
    answer: nothing,
  },
  withdrawFiling: {
    method: 'post',
    path: `${one}/withdrawn`,
    needs: 'prepare',
    summary: 'Take back what was prepared and not sent',
    body: z.object({ reason: z.string().trim().min(1, 'why it is taken back').max(500) }),
    answer: nothing,
  },
  agreeFiling: {
    method: 'post',
    path: `${one}/agreed`,
    needs: 'approve',
    summary: 'Agree to the statement of a filing',
    body: agreementSchema,
    answer: nothing,
  },
  sendFiling: {
    method: 'post',
    path: `${one}/sent`,
    needs: 'approve',
    summary: 'Record that a filing went to the agency',
    body: sendingSchema,
    answer: nothing,
  },
  answerFiling: {
    method: 'post',
    path: `${one}/answered`,
    needs: 'prepare',
    summary: "Record the agency's answer",
    body: agencyAnswerSchema,
    answer: nothing,
  },
  behind: {
    method: 'get',
    path: `${at}/ledger`,
    needs: 'read',
    summary: 'Posted lines behind a figure',
    answer: behindSchema,
    query: z.object({ codes: z.string(), from: isoDate, to: isoDate, person: id.optional() }),
  },
} as const satisfies Record<string, Endpoint>;
