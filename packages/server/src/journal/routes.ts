import type { Handle } from '../http/route';
import { previewOf } from './post';
import { accountMap, journalFile, journalOf, setAccountRule } from './service';

export function journalRoutes(handle: Handle): void {
  handle('journal', ({ scope, query }) => journalOf(scope, query));
  handle('journalFile', async ({ scope, query, response }) => {
    const { name, content } = await journalFile(scope, query);
    response.type('application/octet-stream').attachment(name).send(content);
  });
  handle('accountMap', ({ scope }) => accountMap(scope));
  handle('setAccountRule', ({ scope, body }) => setAccountRule(scope, body));
  handle('journalPreview', ({ scope, path }) => previewOf(scope, path('id')));
}
