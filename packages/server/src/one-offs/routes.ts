import type { Handle } from '../http/route';
import { backPay, takeBackPay } from './back-pay';
import { addOneOffs, changeOneOff, oneOffPage, putOneOffBack, readOneOffs, removeOneOff } from './service';
import { refund, refundableOf } from './refunds';

export function oneOffRoutes(handle: Handle): void {
  handle('oneOffs', ({ scope, query }) => oneOffPage(scope, query.all === 'yes'));
  handle('addOneOffs', ({ scope, body }) => addOneOffs(scope, body));
  handle('readOneOffs', ({ body }) => readOneOffs(body));
  handle('changeOneOff', ({ scope, path, body }) => changeOneOff(scope, path('id'), body));
  handle('removeOneOff', ({ scope, path }) => removeOneOff(scope, path('id')));
  handle('putOneOffBack', ({ scope, path }) => putOneOffBack(scope, path('id')));
  handle('backPay', ({ scope, body }) => backPay(scope, body));
  handle('takeBackPay', ({ scope, body }) => takeBackPay(scope, body));
  handle('refundable', ({ scope, path }) => refundableOf(scope, path('id')));
  handle('refund', ({ scope, path, body }) => refund(scope, path('id'), body));
}
