import type { Handle } from '../http/route';
import { contributionsFile, enrolmentLetters, enrolmentReport } from './papers';
import { addSavingsScheme, changeSavingsScheme } from './schemes';
import { enrolmentPage } from './standing';
import { chooseRound, recordEnrolment, undoEnrolment } from './steps';

export function enrolmentRoutes(handle: Handle): void {
  handle('enrolment', ({ scope }) => enrolmentPage(scope));
  handle('addSavingsScheme', ({ scope, body }) => addSavingsScheme(scope, body));
  handle('changeSavingsScheme', ({ scope, path, body }) => changeSavingsScheme(scope, path('id'), body));
  handle('recordEnrolment', ({ scope, body }) => recordEnrolment(scope, body));
  handle('undoEnrolment', ({ scope, path, body }) => undoEnrolment(scope, path('id'), body));
  handle('chooseRound', ({ scope, body }) => chooseRound(scope, body));
  handle(
    'enrolmentLetters',
    async ({ scope, query, response }) => void response.type('application/pdf').send(await enrolmentLetters(scope, query)),
  );
  handle('contributionsFile', async ({ scope, path, query, response }) => {
    response
      .type('text/csv')
      .attachment('contributions.csv')
      .send(await contributionsFile(scope, path('id'), query));
  });
  handle('enrolmentReport', async ({ scope, query, response }) => {
    response
      .type('text/csv')
      .attachment('pensions.csv')
      .send(await enrolmentReport(scope, query));
  });
}
