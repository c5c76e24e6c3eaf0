import type { Handle } from '../http/route';
import { bringBackPayItem, changeHolders, retirePayItem } from './holders';
import { addPayItem, changePayItem, itemChoices, listPayItems, payItemPage, readyItems, takeReadyItems } from './service';

export function payItemRoutes(handle: Handle): void {
  handle('payItems', ({ scope }) => listPayItems(scope));
  handle('itemChoices', ({ scope }) => Promise.resolve(itemChoices(scope)));
  handle('payItem', ({ scope, path }) => payItemPage(scope, path('id')));
  handle('addPayItem', ({ scope, body }) => addPayItem(scope, body));
  handle('changePayItem', ({ scope, path, body }) => changePayItem(scope, path('id'), body));
  handle('changeHolders', ({ scope, path, body }) => changeHolders(scope, path('id'), body));
  handle('retirePayItem', ({ scope, path, body }) => retirePayItem(scope, path('id'), body));
  handle('bringBackPayItem', ({ scope, path }) => bringBackPayItem(scope, path('id')));
  handle('readyItems', ({ scope }) => readyItems(scope));
  handle('takeReadyItems', ({ scope, body }) => takeReadyItems(scope, body));
}
