import { z } from 'zod';
import { reversalPreviewSchema } from '../pay-runs';
import { netPaymentSchema, newRecoverySchema, payAgainSchema, recoverySchema, refundSchema, refundableSchema } from '../corrections';
import { adjustableSchema, adjustedSchema, adjustmentSchema } from '../leave';
import { id } from '../values';
import { at, made, nothing, reason, type Endpoint } from './endpoint';

/** Of corrections of what was paid. */
export const correctionsEndpoints = {
  reversalPreview: {
    method: 'get',
    path: `${at}/payslips/:id/reversal`,
    needs: 'read',
    summary: 'What reversing a payslip would touch',
    answer: reversalPreviewSchema,
  },
  reverse: {
    method: 'post',
    second: 'reversals',
    path: `${at}/payslips/:id/reversal`,
    needs: 'approve',
    summary: 'Reverse a posted payslip, with or without replacement',
    body: reason.extend({ replace: z.boolean() }),
    answer: z.object({ replacementRun: id.nullable() }),
  },
  runReversalPreview: {
    method: 'get',
    path: `${at}/pay-runs/:id/reversal`,
    needs: 'read',
    summary: 'What reversing a whole run would touch',
    answer: reversalPreviewSchema,
  },
  reverseRun: {
    method: 'post',
    second: 'reversals',
    path: `${at}/pay-runs/:id/reversal`,
    needs: 'approve',
    summary: 'Reverse all payslips of an approved run that stand, with or without a replacement run',
    body: reason.extend({ replace: z.boolean() }),
    answer: z.object({ replacementRun: id.nullable() }),
  },
  netPayment: {
    method: 'get',
    path: `${at}/payslips/:id/payment`,
    needs: 'read',
    summary: 'How the net of a payslip is paid, and every time it was',
    answer: netPaymentSchema,
  },
  payAgain: {
    method: 'post',
    second: 'payments',
    path: `${at}/payslips/:id/payment`,
    needs: 'pay-out',
    summary: 'Stop the payment of a posted payslip and pay the same net again, without a new calculation',
    body: payAgainSchema,
    answer: netPaymentSchema,
  },
  recoveries: {
    method: 'get',
    path: `${at}/people/:id/recoveries`,
    needs: 'read',
    summary: 'Pay that is recovered from a person over several payslips',
    answer: z.array(recoverySchema),
  },
  addRecovery: {
    method: 'post',
    path: `${at}/people/:id/recoveries`,
    needs: 'prepare',
    rehearsable: 'the-person',
    summary: 'Recover pay that was paid too much, so much a payslip',
    body: newRecoverySchema,
    answer: made,
  },
  endRecovery: {
    method: 'delete',
    path: `${at}/people/:id/recoveries/:recovery`,
    needs: 'prepare',
    summary: 'End a recovery before all is recovered',
    body: reason,
    answer: nothing,
  },
  refundable: {
    method: 'get',
    path: `${at}/people/:id/refundable`,
    needs: 'read',
    summary: 'What deductions took this year, by payslip',
    answer: refundableSchema,
  },
  refund: {
    method: 'post',
    path: `${at}/people/:id/refunds`,
    needs: 'prepare',
    rehearsable: 'the-person',
    summary: 'Give a deduction back with the next run, as a one-off; its treatment goes backwards too',
    body: refundSchema,
    answer: nothing,
  },
  adjustable: {
    method: 'get',
    path: `${at}/people/:id/adjustable`,
    needs: 'read',
    summary: 'Balances of a person that can be adjusted without payment',
    answer: adjustableSchema,
  },
  checkAdjustment: {
    method: 'post',
    looks: true,
    path: `${at}/adjustments/check`,
    needs: 'prepare',
    summary: 'What adjusting balances would change; nothing is saved',
    body: adjustmentSchema,
    answer: adjustedSchema,
  },
  adjustBalances: {
    method: 'post',
    second: 'adjustments',
    path: `${at}/adjustments`,
    needs: 'approve',
    summary: 'Adjust balances without payment; posted at once',
    body: adjustmentSchema,
    answer: adjustedSchema,
  },
} as const satisfies Record<string, Endpoint>;
