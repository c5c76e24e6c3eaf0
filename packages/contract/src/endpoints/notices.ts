import { z } from 'zod';
import {
  generalChangeSchema,
  generalReadSchema,
  noticesFileSchema,
  noticesPageSchema,
  noticesReadSchema,
  noticesUseSchema,
} from '../notices';
import { at, type Endpoint } from './endpoint';

const changed = z.object({ changed: z.number().int() });

/** Of notices that the tax agency gives about people. */
export const noticesEndpoints = {
  notices: {
    method: 'get',
    path: `${at}/notices`,
    needs: 'read',
    summary: 'How notices are read, and those that were used',
    answer: noticesPageSchema,
  },
  fetchNotices: {
    method: 'post',
    looks: true,
    path: `${at}/notices/fetch`,
    needs: 'prepare',
    summary: 'The file of notices that the agency has for the employer',
    answer: noticesFileSchema,
  },
  checkNotices: {
    method: 'post',
    takesFile: true,
    looks: true,
    path: `${at}/notices/check`,
    needs: 'prepare',
    summary: 'What a file of notices says, of whom, and what is against it; nothing is saved',
    body: noticesFileSchema,
    answer: noticesReadSchema,
  },
  applyNotices: {
    method: 'post',
    takesFile: true,
    path: `${at}/notices`,
    needs: 'prepare',
    rehearsable: 'everybody',
    summary: 'Use notices of a file: tax details from the day each says',
    body: noticesUseSchema,
    answer: changed,
  },
  checkGenerally: {
    method: 'post',
    looks: true,
    path: `${at}/notices/general/check`,
    needs: 'prepare',
    summary: 'Whose tax details a general change would change; nothing is saved',
    body: generalChangeSchema,
    answer: generalReadSchema,
  },
  changeGenerally: {
    method: 'post',
    path: `${at}/notices/general`,
    needs: 'prepare',
    rehearsable: 'everybody',
    summary: 'A change of everybody’s tax details from a day on',
    body: generalChangeSchema,
    answer: changed,
  },
} as const satisfies Record<string, Endpoint>;
