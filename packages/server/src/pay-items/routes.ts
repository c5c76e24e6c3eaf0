import type { Handle } from '../http/route';
import { addPayItem, changePayItem, effectOfChange, listPayItems, payItemPage, treatmentsOf } from './service';

export function payItemRoutes(handle: Handle): void {
  handle('payItems', ({ scope }) => listPayItems(scope));
  handle('treatments', ({ scope }) => Promise.resolve(treatmentsOf(scope)));
  handle('payItem', ({ scope, path }) => payItemPage(scope, path('id')));
  handle('addPayItem', ({ scope, body }) => addPayItem(scope, body));
  handle('changePayItem', ({ scope, path, body }) => changePayItem(scope, path('id'), body));
  handle('payItemEffect', ({ scope, path, body }) => effectOfChange(scope, path('id'), body));
}
