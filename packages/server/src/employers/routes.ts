import { latest } from '../audit/audit';
import type { Handle } from '../http/route';
import { employerPage, find, moveToday, timeline, todayView } from './service';

export function employerRoutes(handle: Handle): void {
  handle('employer', ({ scope }) => employerPage(scope));
  handle('moveToday', ({ scope, body }) => moveToday(scope, body.date));
  handle('today', ({ scope }) => todayView(scope));
  handle('timeline', ({ scope, query }) => timeline(scope, query.from, query.to));
  handle('find', ({ scope, query }) => find(scope, query.text));
  handle('audit', ({ scope }) => latest(scope));
}
