import { createHash } from 'node:crypto';

/**
 * An agency's own payment service, as small as it can be: it takes the order and gives a confirmation number. The same
 * order again has the same number.
 */
export const agencyConfirmation = (order: { payee: string; reference: string; due: string; amount: number; on: string }): string =>
  createHash('sha256').update(JSON.stringify(order)).digest('hex').replace(/\D/g, '').slice(0, 12).padEnd(12, '0');
