import type { Handle } from '../http/route';
import { sendWaiting } from '../mail/service';
import {
  askOwnLeave,
  askOwnTimeChange,
  checkOwnLeave,
  endInvitation,
  invitationOf,
  invite,
  ownPayslip,
  ownPayslipPdf,
  ownLetter,
  ownStatementPdf,
  ownView,
  setElectronicForms,
  withdrawOwnTimeChange,
} from './service';

export function ownRoutes(handle: Handle): void {
  handle('own', ({ scope }) => ownView(scope));
  handle('ownPayslip', ({ scope, path }) => ownPayslip(scope, path('id')));
  handle('ownPayslipPdf', async ({ scope, path, response }) => {
    response.type('application/pdf').send(await ownPayslipPdf(scope, path('id')));
  });
  handle('ownLetterPdf', async ({ scope, path, response }) => {
    response.type('application/pdf').send(await ownLetter(scope, path('id')));
  });
  handle('ownStatementPdf', async ({ scope, path, response }) => {
    response.type('application/pdf').send(await ownStatementPdf(scope, path('id')));
  });
  handle('checkOwnLeave', ({ scope, body }) => checkOwnLeave(scope, body));
  handle('askOwnLeave', ({ scope, body }) => askOwnLeave(scope, body));
  handle('askTimeChange', ({ scope, body }) => askOwnTimeChange(scope, body));
  handle('withdrawTimeChange', ({ scope, path }) => withdrawOwnTimeChange(scope, path('id')));
  handle('setElectronicForms', ({ scope, body }) => setElectronicForms(scope, body.electronic));
  handle('invitation', ({ scope, path }) => invitationOf(scope, path('id')));
  handle('endInvitation', ({ scope, path }) => endInvitation(scope, path('id')));
  handle('invite', async ({ scope, path }) => {
    await invite(scope, path('id'));
    await sendWaiting(scope.database);
    return {};
  });
}
