import type { Handle } from '../http/route';
import { clockOn, punch, simulatePunches, takeFromClock } from './service';

export function clockRoutes(handle: Handle): void {
  handle('clock', ({ scope, query }) => clockOn(scope, query.date));
  handle('punch', ({ scope, body }) => punch(scope, body));
  handle('simulatePunches', ({ scope, body }) => simulatePunches(scope, body));
  handle('takeFromClock', ({ scope, body }) => takeFromClock(scope, body));
}
