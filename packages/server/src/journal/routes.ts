import type { Handle } from '../http/route';
import { accrualOf, accrue } from './accruals';
import { costByDay, costFile } from './costs';
import { enterTaxTotal, taxGridOf } from './differences';
import { previewOf } from './post-pay';
import { accountMap, journalFile, journalOf, setAccountRule, setJournal } from './service';

export function journalRoutes(handle: Handle): void {
  handle('journal', ({ scope, query }) => journalOf(scope, query));
  handle('journalFile', async ({ scope, query, response }) => {
    const { name, content } = await journalFile(scope, query);
    response.type('application/octet-stream').attachment(name).send(content);
  });
  handle('accountMap', ({ scope }) => accountMap(scope));
  handle('setAccountRule', ({ scope, body }) => setAccountRule(scope, body));
  handle('setJournal', ({ scope, body }) => setJournal(scope, body));
  handle('accrual', ({ scope, query }) => accrualOf(scope, query.end));
  handle('accrue', ({ scope, body }) => accrue(scope, body.end));
  handle('taxGrid', ({ scope, query }) => taxGridOf(scope, query.year));
  handle('enterTaxTotal', ({ scope, body }) => enterTaxTotal(scope, body));
  handle('costByDay', ({ scope, query }) => costByDay(scope, query));
  handle('costFile', async ({ scope, query, response }) => {
    response
      .type('text/csv')
      .attachment('costs.csv')
      .send(await costFile(scope, query));
  });
  handle('journalPreview', ({ scope, path }) => previewOf(scope, path('id')));
}
