import { z } from 'zod';
import {
  enrolmentPageSchema,
  enrolmentStepSchema,
  enrolmentUndoSchema,
  savingsSchemeChangeSchema,
  savingsSchemeSchema,
} from '../enrolment';
import { isoDate } from '../values';
import { at, made, nothing, type Endpoint } from './endpoint';

/** Of schemes that the law wants people to be enrolled in. */
export const enrolmentEndpoints = {
  enrolment: {
    method: 'get',
    path: `${at}/enrolment`,
    needs: 'read',
    summary: 'Who is in a savings scheme, who has to be, and by when; schemes, letters and the round of enrolling again',
    answer: enrolmentPageSchema,
  },
  addSavingsScheme: {
    method: 'post',
    path: `${at}/enrolment/schemes`,
    needs: 'prepare',
    summary: 'A scheme, with the pay items of its contributions',
    body: savingsSchemeSchema,
    answer: made,
  },
  changeSavingsScheme: {
    method: 'put',
    path: `${at}/enrolment/schemes/:id`,
    needs: 'prepare',
    summary: 'Names, references and rates of a scheme; rates hold for who joins from now on',
    body: savingsSchemeChangeSchema,
    answer: nothing,
  },
  recordEnrolment: {
    method: 'post',
    path: `${at}/enrolment/steps`,
    needs: 'prepare',
    rehearsable: 'everybody',
    summary: 'Enrol, postpone, exempt, opt out, cease or mark a letter as given, for one or for many',
    body: enrolmentStepSchema,
    answer: z.object({ changed: z.number().int() }),
  },
  undoEnrolment: {
    method: 'post',
    path: `${at}/enrolment/steps/:id/undo`,
    needs: 'prepare',
    summary: 'Take back the last step of a person, while nothing was paid by it',
    body: enrolmentUndoSchema,
    answer: nothing,
  },
  chooseRound: {
    method: 'post',
    path: `${at}/enrolment/rounds`,
    needs: 'prepare',
    summary: 'Choose the day on which those who left are enrolled again',
    body: z.object({ on: isoDate }),
    answer: nothing,
  },
  enrolmentLetters: {
    method: 'get',
    file: 'application/pdf',
    path: `${at}/enrolment/letters`,
    needs: 'read',
    summary: 'Letters as PDF, for those who have not been given theirs, or for one person',
    query: z.object({ letter: z.string().max(20), person: z.uuid().optional() }),
  },
  contributionsFile: {
    method: 'get',
    file: 'text/csv',
    path: `${at}/enrolment/schemes/:id/contributions`,
    needs: 'export',
    summary: 'Contributions of the pay dates in a range, for the provider of the scheme',
    query: z.object({ from: isoDate, to: isoDate }),
  },
  enrolmentReport: {
    method: 'get',
    file: 'text/csv',
    path: `${at}/enrolment/report`,
    needs: 'export',
    summary: 'Everybody with status, assessment and letters; or those of one status, or with a letter still to be given',
    query: z.object({ state: z.string().max(20).optional(), letter: z.string().max(20).optional() }),
  },
} as const satisfies Record<string, Endpoint>;
