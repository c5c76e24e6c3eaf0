import { z } from 'zod';
import { behindSchema, returnSchema, yearEndSchema } from '../filings';
import { id, isoDate, year } from '../values';
import { at, type Endpoint } from './endpoint';

/** Of returns and year end. */
export const returnsEndpoints = {
  quarterlyReturn: {
    method: 'get',
    path: `${at}/returns/quarterly`,
    needs: 'read',
    summary: "The quarter's return",
    query: z.object({ year, quarter: z.coerce.number().int().min(1).max(4) }),
    answer: returnSchema,
  },
  quarterlyPdf: {
    method: 'get',
    path: `${at}/returns/quarterly.pdf`,
    needs: 'export',
    summary: 'The same as PDF',
    query: z.object({ year, quarter: z.coerce.number().int().min(1).max(4) }),
    file: 'application/pdf',
  },
  behind: {
    method: 'get',
    path: `${at}/ledger`,
    needs: 'read',
    summary: 'Posted lines behind a figure',
    answer: behindSchema,
    query: z.object({ codes: z.string(), from: isoDate, to: isoDate, person: id.optional() }),
  },
  yearEnd: {
    method: 'get',
    path: `${at}/year-end/:year`,
    needs: 'read',
    summary: 'Wage statements of a year with their checks',
    answer: yearEndSchema,
  },
  statementsPdf: {
    method: 'get',
    path: `${at}/year-end/:year/statements.pdf`,
    needs: 'export',
    summary: 'Draft print of the statements, of all or one',
    query: z.object({ person: id.optional() }),
    file: 'application/pdf',
  },
  statementsCsv: {
    method: 'get',
    path: `${at}/year-end/:year/statements.csv`,
    needs: 'export',
    summary: 'The statements as CSV',
    file: 'text/csv',
  },
} as const satisfies Record<string, Endpoint>;
