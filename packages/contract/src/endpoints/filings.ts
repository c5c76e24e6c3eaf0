import { z } from 'zod';
import {
  agencyAnswerSchema,
  agreementSchema,
  behindSchema,
  filingEntrySchema,
  filingSchema,
  filingsSchema,
  sendingSchema,
} from '../filings';
import { id, isoDate } from '../values';
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
    summary: "Draft print of people's copies, of all or one",
    query: z.object({ person: id.optional() }),
    file: 'application/pdf',
  },
  filingCsv: {
    method: 'get',
    path: `${one}/filing.csv`,
    needs: 'export',
    summary: "A filing's lines, or the boxes of people's copies, as CSV",
    file: 'text/csv',
  },
  enterFilingLine: {
    method: 'post',
    path: `${one}/entered`,
    needs: 'prepare',
    summary: 'Enter a line that the ledger does not hold; nothing takes it back to nothing',
    body: filingEntrySchema,
    answer: nothing,
  },
  prepareFiling: {
    method: 'post',
    path: `${one}/prepared`,
    needs: 'prepare',
    summary: 'Keep a filing as it is now, to be agreed to',
    body: z.object({ reason: z.string().trim().max(500).default('') }),
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
