import { z } from 'zod';
import { payslipSchema } from '../pay-runs';
import { invitationSchema, ownLeaveSchema, ownViewSchema } from '../own';
import { timeChangeAskSchema } from '../time';
import { leaveCheckSchema } from '../leave';
import { at, made, nothing, type Endpoint } from './endpoint';

/** Of the employee's own view. */
export const ownEndpoints = {
  own: { method: 'get', path: `${at}/own`, needs: 'own', summary: "The employee's own view", answer: ownViewSchema },
  ownPayslip: {
    method: 'get',
    path: `${at}/own/payslips/:id`,
    needs: 'own',
    summary: 'A payslip of the employee, with the working of every figure',
    answer: payslipSchema,
  },
  ownPayslipPdf: {
    method: 'get',
    path: `${at}/own/payslips/:id/pdf`,
    needs: 'own',
    summary: 'The same as PDF',
    file: 'application/pdf',
  },
  ownLetterPdf: {
    method: 'get',
    path: `${at}/own/letters/:id/pdf`,
    needs: 'own',
    summary: 'A letter that was given to the own view',
    file: 'application/pdf',
  },
  ownStatementPdf: {
    method: 'get',
    path: `${at}/own/statements/:id/pdf`,
    needs: 'own',
    summary: 'A year-end statement that was given to the employee, as PDF',
    file: 'application/pdf',
  },
  checkOwnLeave: {
    method: 'post',
    looks: true,
    path: `${at}/own/leave/check`,
    needs: 'own',
    summary: 'What leave comes to; nothing is saved',
    body: ownLeaveSchema,
    answer: leaveCheckSchema,
  },
  askOwnLeave: { method: 'post', path: `${at}/own/leave`, needs: 'own', summary: 'Ask for leave', body: ownLeaveSchema, answer: made },
  askTimeChange: {
    method: 'post',
    path: `${at}/own/time-changes`,
    needs: 'own',
    summary: "Ask for a change of a day's time",
    body: timeChangeAskSchema,
    answer: made,
  },
  withdrawTimeChange: {
    method: 'delete',
    path: `${at}/own/time-changes/:id`,
    needs: 'own',
    summary: 'Take back a change that was asked for and not answered',
    answer: nothing,
  },
  setElectronicForms: {
    method: 'put',
    path: `${at}/own/forms`,
    needs: 'own',
    summary: 'Year-end forms electronically, or on paper',
    body: z.object({ electronic: z.boolean() }),
    answer: nothing,
  },
  invitation: {
    method: 'get',
    path: `${at}/people/:id/invitation`,
    needs: 'read',
    summary: 'Whether a person was invited to their own view',
    answer: invitationSchema,
  },
  invite: {
    method: 'post',
    path: `${at}/people/:id/invitation`,
    needs: 'prepare',
    summary: 'Invite a person to their own view, by a link in a letter; again: the link before is worth nothing',
    answer: nothing,
  },
  endInvitation: {
    method: 'delete',
    path: `${at}/people/:id/invitation`,
    needs: 'prepare',
    summary: 'Close the own view of a person',
    answer: nothing,
  },
} as const satisfies Record<string, Endpoint>;
