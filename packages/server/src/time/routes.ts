import type { Handle } from '../http/route';
import { answerTimeChange } from './changes';
import { importTime, timeCsv } from './files';
import { timePage } from './page';
import { lockTime, saveTime, setTimeState, unlockTime } from './service';

export function timeRoutes(handle: Handle): void {
  handle('timePage', ({ scope, query }) => timePage(scope, query));
  handle('saveTime', ({ scope, body }) => saveTime(scope, body));
  handle('setTimeState', ({ scope, body }) => setTimeState(scope, body));
  handle('importTime', ({ scope, body }) => importTime(scope, body));
  handle('lockTime', ({ scope, body }) => lockTime(scope, body));
  handle('unlockTime', ({ scope, body }) => unlockTime(scope, body));
  handle('answerTimeChange', ({ scope, path, body }) => answerTimeChange(scope, path('id'), body));
  handle('timeCsv', async ({ scope, query, response }) => {
    response
      .type('text/csv')
      .attachment(`hours-${query.from}.csv`)
      .send(await timeCsv(scope, query));
  });
}
