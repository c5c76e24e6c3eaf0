import type { Handle } from '../http/route';
import { find } from './find';
import { timeline } from './timeline';
import { todayView } from './today';

export function todayRoutes(handle: Handle): void {
  handle('today', ({ scope }) => todayView(scope));
  handle('timeline', ({ scope, query }) => timeline(scope, query.from, query.to));
  handle('find', ({ scope, query }) => find(scope, query.text));
}
