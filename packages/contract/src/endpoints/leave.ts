import { z } from 'zod';
import {
  leaveAskSchema,
  leaveBalancesFileSchema,
  leaveBalancesReadSchema,
  leaveCheckSchema,
  leaveDecisionSchema,
  leaveMembersSchema,
  leavePageSchema,
  leavePlanChangeSchema,
  newLeavePlanSchema,
  personLeaveSchema,
} from '../leave';
import { at, made, nothing, type Endpoint } from './endpoint';

/** Of leave plans, requests and balances. */
export const leaveEndpoints = {
  leavePage: {
    method: 'get',
    path: `${at}/leave`,
    needs: 'read',
    summary: 'Leave: plans, requests, balances and who is away in a month',
    query: z.object({
      month: z
        .string()
        .regex(/^(19|20|21)\d{2}-(0[1-9]|1[0-2])$/, 'a month such as 2026-11')
        .optional(),
    }),
    answer: leavePageSchema,
  },
  addLeavePlan: {
    method: 'post',
    path: `${at}/leave/plans`,
    needs: 'prepare',
    summary: 'A leave plan',
    body: newLeavePlanSchema,
    answer: made,
  },
  changeLeavePlan: {
    method: 'put',
    path: `${at}/leave/plans/:id`,
    needs: 'prepare',
    rehearsable: 'everybody',
    summary: 'Terms of a leave plan from a day on; the same day again corrects them',
    body: leavePlanChangeSchema,
    answer: nothing,
  },
  removeLeavePlan: {
    method: 'delete',
    path: `${at}/leave/plans/:id`,
    needs: 'prepare',
    summary: 'Remove a leave plan that nobody was ever in',
    answer: nothing,
  },
  setLeaveMembers: {
    method: 'post',
    path: `${at}/leave/plans/:id/people`,
    needs: 'prepare',
    rehearsable: 'everybody',
    summary: 'Add people to a leave plan from a day on, or take them out',
    body: leaveMembersSchema,
    answer: z.object({ changed: z.number().int() }),
  },
  checkLeave: {
    method: 'post',
    looks: true,
    path: `${at}/leave/requests/check`,
    needs: 'read',
    summary: 'What a request for leave comes to, and what is against it; nothing is saved',
    body: leaveAskSchema,
    answer: leaveCheckSchema,
  },
  askLeave: {
    method: 'post',
    path: `${at}/leave/requests`,
    needs: 'prepare',
    summary: 'Ask for leave; it waits for a decision',
    body: leaveAskSchema,
    answer: made,
  },
  decideLeave: {
    method: 'post',
    path: `${at}/leave/requests/:id/decision`,
    needs: 'prepare',
    rehearsable: 'everybody',
    summary: 'Approve, decline or withdraw leave; approved leave is in the open run at once',
    body: leaveDecisionSchema,
    answer: nothing,
  },
  personLeave: {
    method: 'get',
    path: `${at}/people/:id/leave`,
    needs: 'read',
    summary: "A person's leave: balances with their movements, and requests",
    answer: personLeaveSchema,
  },
  checkLeaveBalances: {
    method: 'post',
    takesFile: true,
    looks: true,
    path: `${at}/leave/balances/check`,
    needs: 'prepare',
    summary: 'What a file of balances would change; nothing is saved',
    body: leaveBalancesFileSchema,
    answer: leaveBalancesReadSchema,
  },
  importLeaveBalances: {
    method: 'post',
    second: 'adjustments',
    takesFile: true,
    path: `${at}/leave/balances`,
    needs: 'approve',
    summary: 'Balances of leave from a file, posted as adjustments without payment; all or none, and the same file again changes nothing',
    body: leaveBalancesFileSchema,
    answer: leaveBalancesReadSchema,
  },
  leaveCsv: {
    method: 'get',
    path: `${at}/leave.csv`,
    needs: 'export',
    summary: 'Leave balances as CSV',
    file: 'text/csv',
  },
} as const satisfies Record<string, Endpoint>;
