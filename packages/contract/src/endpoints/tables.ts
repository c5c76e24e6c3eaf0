import { z } from 'zod';
import {
  scaleQuerySchema,
  scaleSchema,
  scaleTableQuerySchema,
  tableComparisonSchema,
  tableDecisionSchema,
  tableFileSchema,
  tablesViewSchema,
} from '../tables';
import { id, isoDate } from '../values';
import { at, made, nothing, type Endpoint } from './endpoint';

/** Of tables of the law. */
export const tablesEndpoints = {
  tables: {
    method: 'get',
    path: `${at}/tables`,
    needs: 'read',
    summary: 'Tables in force, and files that were loaded',
    answer: tablesViewSchema,
  },
  tablesFile: {
    method: 'get',
    path: `${at}/tables/file`,
    needs: 'export',
    summary: 'Tables in force on a day as a file that can be changed and loaded (woodruff.parameters/1)',
    query: z.object({ date: isoDate }),
    file: 'application/json',
  },
  compareTables: {
    method: 'get',
    path: `${at}/tables/comparison`,
    needs: 'read',
    summary: 'Tables of today beside those of a later day, as they are or as a proposed file would have them, and the effect on people',
    query: z.object({ date: isoDate, file: id.optional() }),
    answer: tableComparisonSchema,
  },
  scaleBegins: {
    method: 'get',
    path: `${at}/tables/scale/begins`,
    needs: 'read',
    summary: 'Tax details to begin a look-up with: those that most people here have; nothing where nobody has any',
    answer: z.object({ details: z.record(z.string(), z.unknown()).nullable() }),
  },
  scale: {
    method: 'get',
    path: `${at}/tables/scale`,
    needs: 'read',
    summary: 'What the scales of a day take from any pay, with any tax details; nothing is saved',
    query: scaleQuerySchema,
    answer: scaleSchema,
  },
  scalePdf: {
    method: 'get',
    path: `${at}/tables/scale.pdf`,
    needs: 'read',
    summary: 'The same as a printed table, from one pay to another in steps',
    query: scaleTableQuerySchema,
    file: 'application/pdf',
  },
  proposeTables: {
    method: 'post',
    path: `${at}/tables`,
    needs: 'administer',
    summary: 'Load a file of tables, to be approved by somebody else',
    body: tableFileSchema,
    answer: made,
  },
  decideTables: {
    method: 'post',
    path: `${at}/tables/:id/decision`,
    needs: 'administer',
    summary: 'Approve tables that somebody else has loaded, or drop them',
    body: tableDecisionSchema,
    answer: nothing,
  },
} as const satisfies Record<string, Endpoint>;
