import type { Handle } from '../http/route';
import { addGroup, changeGroup, checkGroupChange, checkMove, groupsOf, moveToGroup, removeGroup } from './groups';

export function groupRoutes(handle: Handle): void {
  handle('groups', ({ scope }) => groupsOf(scope));
  handle('addGroup', ({ scope, body }) => addGroup(scope, body));
  handle('changeGroup', ({ scope, path, body }) => changeGroup(scope, path('id'), body));
  handle('checkGroupChange', ({ scope, path, body }) => checkGroupChange(scope, path('id'), body));
  handle('moveToGroup', ({ scope, path, body }) => moveToGroup(scope, path('id'), body));
  handle('checkMove', ({ scope, path, body }) => checkMove(scope, path('id'), body));
  handle('removeGroup', ({ scope, path }) => removeGroup(scope, path('id')));
}
