import { z } from 'zod';
import { sentFile } from '../values';
import {
  backPayAskSchema,
  backPaySchema,
  backPayTakeSchema,
  oneOffChangeSchema,
  oneOffFileSchema,
  oneOffPageSchema,
  oneOffsSchema,
} from '../one-offs';
import { at, nothing, type Endpoint } from './endpoint';

/** Of one-offs that wait for a run, and back pay. */
export const oneOffsEndpoints = {
  oneOffs: {
    method: 'get',
    path: `${at}/one-offs`,
    needs: 'read',
    summary: 'One-offs that wait for a run, and with `all` those that were taken in the last year',
    query: z.object({ all: z.enum(['yes']).optional() }),
    answer: oneOffPageSchema,
  },
  addOneOffs: {
    method: 'post',
    path: `${at}/one-offs`,
    needs: 'prepare',
    summary: 'One-offs for one person or many: all of them or none',
    body: oneOffsSchema,
    answer: z.object({ added: z.number().int() }),
  },
  readOneOffs: {
    method: 'post',
    takesFile: true,
    looks: true,
    path: `${at}/one-offs/read`,
    needs: 'prepare',
    summary: 'Reads a file of one-offs for looking at; nothing is saved',
    body: sentFile,
    answer: oneOffFileSchema,
  },
  changeOneOff: {
    method: 'put',
    path: `${at}/one-offs/:id`,
    needs: 'prepare',
    summary: 'Change a one-off that is not paid yet, or which run takes it',
    body: oneOffChangeSchema,
    answer: nothing,
  },
  removeOneOff: {
    method: 'delete',
    path: `${at}/one-offs/:id`,
    needs: 'prepare',
    summary: 'Remove a one-off that is not paid yet',
    answer: nothing,
  },
  putOneOffBack: {
    method: 'post',
    path: `${at}/one-offs/:id/put-back`,
    needs: 'prepare',
    summary: 'Take a one-off out of an open run: it waits for the next',
    answer: nothing,
  },
  backPay: {
    method: 'post',
    looks: true,
    path: `${at}/back-pay`,
    needs: 'read',
    summary: 'Back pay of people for paid periods from a day on, calculated with what is known now; nothing is saved',
    body: backPayAskSchema,
    answer: backPaySchema,
  },
  takeBackPay: {
    method: 'post',
    path: `${at}/back-pay/take`,
    needs: 'prepare',
    summary: 'Put back pay among the one-offs, a line for each period and item',
    body: backPayTakeSchema,
    answer: z.object({ added: z.number().int() }),
  },
} as const satisfies Record<string, Endpoint>;
