import type { Handle } from '../http/route';
import type { Jobs } from '../jobs/jobs';
import { deliverRun, deliveryOf, outbox } from './service';

export function mailRoutes(handle: Handle, jobs: Jobs): void {
  handle('delivery', ({ scope, path }) => deliveryOf(scope, path('id')));
  handle('deliverRun', async ({ scope, path, body }) => {
    await deliverRun(scope, path('id'), body);
    await jobs.queueMail();
    return deliveryOf(scope, path('id'));
  });
  handle('outbox', ({ scope }) => outbox(scope));
}
