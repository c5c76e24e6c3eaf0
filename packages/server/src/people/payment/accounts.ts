import { theVault } from '../../vault/vault';

/** An account on file; its number is sealed beside it, under the same id. */
export interface DepositAccount {
  id: string;
  bank: string;
  last4: string;
  kind: 'checking' | 'savings';
  by: 'amount' | 'percent' | 'remainder';
  value: string | null;
  trial: 'asked' | 'arrived' | 'returned' | null;
}

/** As kept on the person; before several accounts were possible, bank and last figures stood alone. */
export type Payment = { method: 'cheque' } | { method: 'deposit'; bank: string; last4: string; accounts?: DepositAccount[] };

const ONLY = 'only';
export const accountsOf = (payment: Payment | null): DepositAccount[] =>
  payment?.method !== 'deposit'
    ? []
    : (payment.accounts ?? [
        { id: ONLY, bank: payment.bank, last4: payment.last4, kind: 'checking', by: 'remainder', value: null, trial: null },
      ]);

/** Account numbers by the id of their account; a number sealed alone belongs to the only account. */
export function sealedNumbers(sealed: Buffer | null, personId: string): Record<string, string> {
  if (!sealed) return {};
  const opened = theVault().open(sealed, `account:${personId}`);
  return opened.startsWith('{') ? (JSON.parse(opened) as Record<string, string>) : { [ONLY]: opened };
}
