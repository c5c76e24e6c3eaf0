import { capitalized, type TransferState, type Words } from '@woodruff/core';
import type { PayeeView, Rung, Transfer } from '@woodruff/contract';

/** Where a batch or an obligation stands. */
export const RUNG_STATES: Record<Rung['state'], string> = {
  'to-prepare': 'to prepare',
  'to-send': 'prepared, not released',
  sent: 'sent',
  confirmed: 'confirmed',
  returned: 'something came back',
  refused: 'refused by the bank',
  'left-out': 'dropped',
  due: 'due',
  paid: 'paid',
};

/** States that ask somebody to do something. */
export const ASKS: readonly Rung['state'][] = ['to-prepare', 'to-send', 'returned', 'refused', 'due'];

export const TRANSFER_STATES: Record<TransferState, string> = {
  'to-send': 'to send',
  sent: 'sent',
  confirmed: 'confirmed',
  returned: 'came back',
  held: 'held',
  stopped: 'stopped',
  'paid-again': 'paid again',
  'left-out': 'left out',
};

/** How it goes: by file, by cheque with its number, in cash. */
export const methodWords = (method: Transfer['method'], words: Words | undefined, number?: number | null): string =>
  method === 'file'
    ? 'by file'
    : method === 'cash'
      ? 'in cash'
      : method === 'set-off'
        ? 'set off'
        : number
          ? `${words?.cheque ?? 'cheque'} ${number}`
          : `by ${words?.cheque ?? 'cheque'}`;

export const chequesTitle = (words: Words | undefined): string => capitalized(words?.cheques ?? 'cheques');

/** The last thing that happened to a payment, as a sentence says it. */
export function lastWords({ events }: Pick<Transfer, 'events'>): string {
  const last = [...events].reverse().find(({ words, code }) => words || code);
  return last ? [last.code, last.words].filter(Boolean).join(': ') : '';
}

/** How a payee is paid. */
export const payeeWays = (words: Words | undefined): Record<PayeeView['method'], string> => ({
  agency: 'through its own service',
  file: 'by file',
  cheque: `by ${words?.cheque ?? 'cheque'}`,
  elsewhere: 'elsewhere',
});
