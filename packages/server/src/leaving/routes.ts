import type { Handle } from '../http/route';
import type { Jobs } from '../jobs/jobs';
import { leavingCertificate } from './certificate';
import { finalPay, noticePayOf, owedOnLeaving } from './final-pay';
import { changeLeaving, leave, leavingOf, undoLeaving } from './leaving';
import { leavingStatement } from './statement';

export function leavingRoutes(handle: Handle, jobs: Jobs): void {
  handle('noticePay', ({ scope, path, query }) => noticePayOf(scope, path('id'), query));
  handle('owedOnLeaving', ({ scope, path, query }) => owedOnLeaving(scope, path('id'), query));
  handle('leaving', ({ scope, path }) => leavingOf(scope, path('id')));
  for (const [name, enter] of [
    ['leave', leave],
    ['changeLeaving', changeLeaving],
  ] as const)
    handle(name, async ({ scope, path, body, request }) => {
      const left = await enter(scope, path('id'), body);
      if (left.runId && request.query['rehearse'] !== 'true') await jobs.queueCalculation(scope, left.runId);
      return left;
    });
  handle('finalPay', ({ scope, path, body }) => finalPay(scope, path('id'), body));
  handle('undoLeaving', ({ scope, path, body }) => undoLeaving(scope, path('id'), body.reason));
  handle(
    'leavingCertificate',
    async ({ scope, path, response }) => void response.type('application/pdf').send(await leavingCertificate(scope, path('id'))),
  );
  handle(
    'leavingPdf',
    async ({ scope, path, response }) => void response.type('application/pdf').send(await leavingStatement(scope, path('id'))),
  );
}
