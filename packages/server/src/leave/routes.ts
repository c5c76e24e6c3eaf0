import type { Handle } from '../http/route';

import { addLawLeave, assessLawLeave, endLawLeave, lawLeavesOf, refusalOf, undoLawLeave } from './by-law';
import { personLeave } from './person-leave';
import { leaveCsv, leavePage } from './page';
import { addLeavePlan, changeLeavePlan, removeLeavePlan, setLeaveMembers } from './plans';
import { askLeave, checkLeave, decideLeave } from './requests';

import { checkLeaveBalances, importLeaveBalances } from './balances-file';

export function leaveRoutes(handle: Handle): void {
  handle('leavePage', ({ scope, query }) => leavePage(scope, query.month));
  handle('addLeavePlan', ({ scope, body }) => addLeavePlan(scope, body));
  handle('changeLeavePlan', ({ scope, path, body }) => changeLeavePlan(scope, path('id'), body));
  handle('removeLeavePlan', ({ scope, path }) => removeLeavePlan(scope, path('id')));
  handle('setLeaveMembers', ({ scope, path, body }) => setLeaveMembers(scope, path('id'), body));
  handle('checkLeave', ({ scope, body }) => checkLeave(scope, body));
  handle('askLeave', ({ scope, body }) => askLeave(scope, body));
  handle('decideLeave', ({ scope, path, body }) => decideLeave(scope, path('id'), body));
  handle('lawLeaves', ({ scope, path }) => lawLeavesOf(scope, path('id')));
  handle('assessLawLeave', ({ scope, path, body }) => assessLawLeave(scope, path('id'), body));
  handle('addLawLeave', ({ scope, path, body }) => addLawLeave(scope, path('id'), body));
  handle('endLawLeave', ({ scope, path, body }) => endLawLeave(scope, path('id'), path('leave'), body));
  handle('undoLawLeave', ({ scope, path, body }) => undoLawLeave(scope, path('id'), path('leave'), body));
  handle(
    'lawLeaveRefusal',
    async ({ scope, path, response }) => void response.type('application/pdf').send(await refusalOf(scope, path('id'), path('leave'))),
  );
  handle('personLeave', ({ scope, path }) => personLeave(scope, path('id')));
  handle('checkLeaveBalances', ({ scope, body }) => checkLeaveBalances(scope, body));
  handle('importLeaveBalances', ({ scope, body }) => importLeaveBalances(scope, body));
  handle('leaveCsv', async ({ scope, response }) => {
    response
      .type('text/csv')
      .attachment('leave.csv')
      .send(await leaveCsv(scope));
  });
}
