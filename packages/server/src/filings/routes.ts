import type { Handle } from '../http/route';
import { agreeFiling, answerFiling, enterFilingLine, prepareFiling, sendFiling, withdrawFiling } from './life';
import { copiesPdf, filingCsv, filingPdf } from './print';
import { behind, listOfFilings, viewOf } from './service';

export function filingRoutes(handle: Handle): void {
  handle('filings', ({ scope }) => listOfFilings(scope));
  handle('filing', ({ scope, path }) => viewOf(scope, path('filing'), path('period')));
  handle('filingPdf', async ({ scope, path, query, response }) => {
    const pdf = await filingPdf(scope, path('filing'), path('period'), query.attempt);
    response.attachment(`${path('filing')}-${path('period')}.pdf`).send(pdf);
  });
  handle('copiesPdf', async ({ scope, path, query, response }) => {
    const pdf = await copiesPdf(scope, path('filing'), path('period'), query.person);
    response.attachment(`${path('filing')}-${path('period')}-copies.pdf`).send(pdf);
  });
  handle('filingCsv', async ({ scope, path, response }) => {
    const csv = await filingCsv(scope, path('filing'), path('period'));
    response
      .type('text/csv')
      .attachment(`${path('filing')}-${path('period')}.csv`)
      .send(csv);
  });
  handle('enterFilingLine', async ({ scope, path, body }) => {
    await enterFilingLine(scope, path('filing'), path('period'), body);
    return {};
  });
  handle('prepareFiling', async ({ scope, path, body }) => {
    await prepareFiling(scope, path('filing'), path('period'), body);
    return {};
  });
  handle('withdrawFiling', async ({ scope, path, body }) => {
    await withdrawFiling(scope, path('filing'), path('period'), body);
    return {};
  });
  handle('agreeFiling', async ({ scope, path, body }) => {
    await agreeFiling(scope, path('filing'), path('period'), body);
    return {};
  });
  handle('sendFiling', async ({ scope, path, body }) => {
    await sendFiling(scope, path('filing'), path('period'), body);
    return {};
  });
  handle('answerFiling', async ({ scope, path, body }) => {
    await answerFiling(scope, path('filing'), path('period'), body);
    return {};
  });
  handle('behind', ({ scope, query }) => behind(scope, query));
}
