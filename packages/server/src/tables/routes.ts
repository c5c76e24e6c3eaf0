import type { Handle } from '../http/route';
import { compareTables } from './comparison';
import { detailsOfMost, scaleOf, scalePdf } from './scales';
import { decideTables, proposeTables, tablesFile, tablesView } from './service';

export function tablesRoutes(handle: Handle): void {
  handle('tables', ({ scope }) => tablesView(scope));
  handle('tablesFile', async ({ scope, query, response }) => {
    const { name, content } = tablesFile(scope, query.date);
    response.type('application/json').attachment(name).send(content);
    return Promise.resolve();
  });
  handle('compareTables', ({ scope, query }) => compareTables(scope, query));
  handle('scaleBegins', async ({ scope }) => ({ details: await detailsOfMost(scope) }));
  handle('scale', ({ scope, query }) => Promise.resolve(scaleOf(scope, query)));
  handle('scalePdf', async ({ scope, query, response }) => {
    response.type('application/pdf').send(await scalePdf(scope, query));
  });
  handle('proposeTables', ({ scope, body }) => proposeTables(scope, body));
  handle('decideTables', async ({ scope, path, body }) => {
    await decideTables(scope, path('id'), body);
    return {};
  });
}
