import { setTimeout as wait } from 'node:timers/promises';
import { endpoints } from '@woodruff/contract';
import { invalid } from '../errors';
import { authorize, pathPart, type Door, type Handle } from '../http/route';
import { progressOf, type Jobs } from '../jobs/jobs';
import { changing } from '../users/changing';
import { may } from '../users/permissions';
import { scopeOf } from '../users/service';
import { sessionStands } from '../users/sessions';
import type { Scope } from '../scope';
import { approveRun, sendBackRun, submitRun } from './posting/approval';
import { openRun } from '../calculation/calculation';
import { reversalPreview, reversePayslip, runReversalPreview } from './corrections/corrections';
import { deductionSheets } from './deliver/deduction-sheet';
import { fileName, payslipsPdf, registerCsv, registerXlsx } from './deliver/documents';
import { acceptPoints, changePayslip, discardEdits, wouldLose } from './sheet/edits';
import { compareRun, netWanted, payslipInputOf, payslipView, whyDifferent } from './sheet/payslips';
import { netPaymentOf, payAgain } from './posting/net-payments';
import { importHours } from './sheet/hours-import';
import { recalculationOf } from '../calculation/recalculation';
import { behindRun, reviewOf } from './review/review';
import { listRuns, runTitle, runView, sheetOf } from './sheet/sheet';
import { summaryPdf } from './review/summary';
import { startSpecialRun } from './making/special';
import { reverseRun, withdrawRun } from './corrections/whole-run';
import { deleteRun, startRun, takeInReadyPeople } from './making/start';
import { mustBeOpen } from '../calculation/calculation';

export function payRunRoutes(handle: Handle, { router, database, hours }: Door, jobs: Jobs): void {
  const calculate = async (scope: Scope, runId: string) => {
    await changing(scope, async (transaction) => {
      const run = await openRun(scope, runId, transaction);
      mustBeOpen(run);
      await run.update({ state: 'calculating' }, { transaction });
      await jobs.queueCalculation(scope, runId);
    });
    return {};
  };

  handle(
    'deductionSheets',
    async ({ scope, query, response }) => void response.type('application/pdf').send(await deductionSheets(scope, query)),
  );
  handle('runs', ({ scope }) => listRuns(scope));
  handle('startRun', async ({ scope, body }) => {
    const run = await startRun(scope, body);
    await jobs.queueCalculation(scope, run.id);
    return run;
  });
  handle('startSpecialRun', async ({ scope, body }) => {
    const run = await startSpecialRun(scope, body);
    await jobs.queueCalculation(scope, run.id);
    return run;
  });
  handle('submitRun', ({ scope, path, body }) => submitRun(scope, path('id'), body.version));
  handle('sendBackRun', ({ scope, path, body }) => sendBackRun(scope, path('id'), body.comment));
  handle('withdrawRun', async ({ scope, path, body }) => {
    const run = await withdrawRun(scope, path('id'), body.reason);
    await jobs.queueCalculation(scope, run.id);
    return run;
  });
  handle('runReversalPreview', ({ scope, path }) => runReversalPreview(scope, path('id')));
  handle('reverseRun', async ({ scope, path, body }) => {
    const reversed = await reverseRun(scope, path('id'), body.reason, body.replace);
    if (reversed.replacementRun) await jobs.queueCalculation(scope, reversed.replacementRun);
    return reversed;
  });
  handle('sheet', ({ scope, path }) => sheetOf(scope, path('id')));
  handle('runTotals', ({ scope, path }) => runView(scope, path('id')));
  handle('calculateRun', async ({ scope, path }) => {
    await takeInReadyPeople(scope, path('id'));
    return calculate(scope, path('id'));
  });
  handle('recalculation', ({ scope, path }) => recalculationOf(scope, path('id')));
  handle('progress', ({ scope, path }) => progressOf(scope, path('id')));
  handle('deleteRun', ({ scope, path, query }) => deleteRun(scope, path('id'), query.time));
  handle('changePayslip', ({ scope, path, body }) => changePayslip(scope, path('id'), path('payslip'), body));
  handle('importHours', async ({ scope, path, body }) => {
    const people = await importHours(scope, path('id'), body.csv);
    await calculate(scope, path('id'));
    return { people };
  });
  handle('wouldLose', ({ scope, path, query }) => wouldLose(scope, path('id'), query.payslip));
  handle('rebuild', async ({ scope, path, body }) => {
    await discardEdits(scope, path('id'), body.payslip);
    return calculate(scope, path('id'));
  });
  handle('acceptPoints', ({ scope, path, body }) => acceptPoints(scope, path('id'), body.keys, body.reason));
  handle('comparison', ({ scope, path }) => compareRun(scope, path('id')));
  handle('approve', ({ scope, path, body, request }) => {
    const key = request.get('idempotency-key');
    if (!key) throw invalid('An approval needs an Idempotency-Key, so that it happens once.');
    return approveRun(scope, path('id'), body.version, key);
  });
  handle('register', async ({ scope, path, response }) => {
    const title = runTitle(await runView(scope, path('id')));
    response
      .type('text/csv')
      .attachment(fileName(`register ${title}`, 'csv'))
      .send(await registerCsv(scope, path('id')));
  });
  handle('registerSheet', async ({ scope, path, response }) => {
    const title = runTitle(await runView(scope, path('id')));
    response.attachment(fileName(`register ${title}`, 'xlsx')).send(await registerXlsx(scope, path('id')));
  });
  handle('runSummary', async ({ scope, path, response }) => {
    const title = runTitle(await runView(scope, path('id')));
    response.attachment(fileName(`summary ${title}`, 'pdf')).send(await summaryPdf(scope, path('id')));
  });
  handle('runPdf', async ({ scope, path, response }) => {
    const title = runTitle(await runView(scope, path('id')));
    response.attachment(fileName(`payslips ${title}`, 'pdf')).send(await payslipsPdf(scope, { run: path('id') }));
  });

  handle('payslip', ({ scope, path }) => payslipView(scope, path('id')));
  handle(
    'payslipPdf',
    async ({ scope, path, response }) => void response.type('application/pdf').send(await payslipsPdf(scope, { payslip: path('id') })),
  );
  handle(
    'payslipInput',
    async ({ scope, path, response }) => void response.attachment('payslip-input.json').json(await payslipInputOf(scope, path('id'))),
  );
  handle('whyDifferent', ({ scope, path, query }) => whyDifferent(scope, path('id'), query.compared));
  handle('grossForNet', ({ scope, path, body }) => netWanted(scope, path('id'), body.item, body.net));
  handle('reversalPreview', ({ scope, path }) => reversalPreview(scope, path('id')));
  handle('reverse', ({ scope, path, body }) => reversePayslip(scope, path('id'), body.reason, body.replace));

  // Progress as server-sent events, until the work is done, the reader leaves, or their session or right ends.
  router.get(`${endpoints.progress.path.replace('/progress', '/events')}`, async (request, response) => {
    const runId = pathPart(request, 'id');
    const scope = await authorize('read', request, database, hours);
    if (!scope) return;
    await openRun(scope, runId);
    response.set({ 'content-type': 'text/event-stream', 'cache-control': 'no-store', connection: 'keep-alive' }).flushHeaders();
    let open = true;
    request.on('close', () => (open = false));
    for (let turn = 0; open && turn < 1200; turn++) {
      const progress = await progressOf(scope, runId);
      response.write(`data: ${JSON.stringify(progress)}\n\n`);
      if (progress.state === 'done' || progress.state === 'failed') break;
      await wait(250);
      if (turn % 4 === 3 && !(await stillMay(scope, request.sessionID))) break;
    }
    response.end();
  });
  handle('netPayment', ({ scope, path }) => netPaymentOf(scope, path('id')));
  handle('payAgain', ({ scope, path, body }) => payAgain(scope, path('id'), body));
  handle('review', ({ scope, path, query }) => reviewOf(scope, path('id'), query.against));
  handle('behindRun', ({ scope, path, query }) => behindRun(scope, path('id'), query));
}

async function stillMay(scope: Scope, sid: string): Promise<boolean> {
  if (!(await sessionStands(scope.database, sid))) return false;
  const now = await scopeOf(scope.database, scope.user.id, scope.employer.id).catch(() => null);
  return !!now && may(now.role, 'read', now.rights);
}
