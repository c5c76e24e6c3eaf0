import type { BodyOf, ParsedBodyOf, Person as PersonView } from '@woodruff/contract';
import { capitalized, Exact, splitNet, writtenDecimal, type BankForm } from '@woodruff/core';
import { randomUUID } from 'node:crypto';
import { record } from '../../audit/audit';
import { invalid, notFound } from '../../errors';
import { changing } from '../../users/changing';
import { packFor, type Scope } from '../../scope';
import type { Person } from '../models';
import { theVault } from '../../vault/vault';
import { personOf } from '../person';
import { accountsOf, sealedNumbers, type DepositAccount } from './accounts';

export async function setPayment(scope: Scope, id: string, payment: BodyOf<'setPayment'>): Promise<Record<string, never>> {
  const { bank } = packFor(scope);
  const entered = payment.method === 'cheque' ? [] : 'accounts' in payment ? payment.accounts : [{ ...payment, by: 'remainder' as const }];
  const wanted = entered.map((one) => ({
    ...one,
    bank: bank.code.bare(one.bank),
    ...(one.account ? { account: bank.account.bare(one.account) } : {}),
  }));
  checkAccounts(wanted, bank);
  return changing(scope, async (transaction) => {
    const person = await personOf(scope, id, transaction);
    const before = accountsOf(person.payment);
    const numbers = sealedNumbers(person.accountSealed, id);
    const kept: Record<string, string> = {};
    const accounts = wanted.map((entry, index): DepositAccount => {
      const known = before.find((account) => 'id' in entry && account.id === entry.id);
      const number = entry.account ?? (known && numbers[known.id]);
      if (!number)
        throw invalid('The account number is missing. Enter it as on the bank letter.', [
          { path: `accounts.${index}.account`, expected: 'an account number' },
        ]);
      const same = known && known.bank === entry.bank && numbers[known.id] === number;
      const accountId = same ? known.id : randomUUID();
      kept[accountId] = number;
      return {
        id: accountId,
        bank: entry.bank,
        last4: number.slice(-4),
        kind: ('kind' in entry && entry.kind) || 'checking',
        by: entry.by,
        value: ('value' in entry && entry.by !== 'remainder' && entry.value) || null,
        trial: same ? known.trial : null,
      };
    });
    const main = accounts.find((account) => account.by === 'remainder');
    await person.update(
      main
        ? {
            payment: { method: 'deposit', bank: main.bank, last4: main.last4, accounts },
            accountSealed: theVault().seal(JSON.stringify(kept), `account:${id}`),
          }
        : { payment: { method: 'cheque' }, accountSealed: null },
      { transaction },
    );
    await record(
      scope,
      {
        action: 'payment',
        subject: 'person',
        subjectId: id,
        what: `${waysOf(scope, accounts)}; until now ${lowered(waysOf(scope, before))}`,
      },
      transaction,
    );
    return {};
  });
}

/** Numbers of banks and accounts as the country has them, shares that can be taken, one account for the remainder. */
function checkAccounts(
  accounts: readonly { bank: string; account?: string | undefined; by: string; value?: string | undefined }[],
  bank: BankForm,
): void {
  accounts.forEach((account, index) => {
    const at = (field: string) => (accounts.length > 1 ? `accounts.${index}.${field}` : field);
    if (!bank.code.isOne(account.bank))
      throw invalid(`The ${bank.code.label.toLowerCase()} is mistyped: it has ${bank.code.expected}. Compare it with the bank letter.`, [
        { path: at('bank'), expected: bank.code.expected },
      ]);
    if (account.account !== undefined && !bank.account.isOne(account.account))
      throw invalid(
        `The ${bank.account.label.toLowerCase()} is mistyped: it has ${bank.account.expected}. Compare it with the bank letter.`,
        [{ path: at('account'), expected: bank.account.expected }],
      );
    if (account.by !== 'remainder' && Exact.of(account.value ?? '0').isZero())
      throw invalid('An account gets an amount, a per cent, or the remainder. Enter how much.', [
        { path: `accounts.${index}.value`, expected: 'more than zero' },
      ]);
    if (account.by === 'percent' && Exact.of(account.value ?? '0').isAbove(Exact.whole(100)))
      throw invalid('A share is at most 100 per cent.', [{ path: `accounts.${index}.value`, expected: 'at most 100' }]);
  });
  if (accounts.length && accounts.filter((account) => account.by === 'remainder').length !== 1)
    throw invalid('One account takes the remainder, so that all of net pay goes somewhere. Choose which.', [
      { path: 'accounts', expected: 'one account with the remainder' },
    ]);
}

const share = ({ by, value }: Pick<DepositAccount, 'by' | 'value'>): string =>
  by === 'remainder' ? 'the remainder' : by === 'percent' ? `${value ?? ''}%` : writtenDecimal(Exact.of(value ?? '0').toDecimal(2));
const waysOf = (scope: Scope, accounts: readonly DepositAccount[]): string =>
  accounts.length ? `Paid by deposit: ${accounts.map(inWords).join(', ')}` : `Paid by ${packFor(scope).words.cheque}`;
const lowered = (words: string): string => words.charAt(0).toLowerCase() + words.slice(1);
const inWords = (account: DepositAccount): string => `${share(account)} to the account ending ${account.last4}`;

/** A deposit of nothing that shows whether the account is right; it goes with the next file to the bank. */
export async function trialDeposit(
  scope: Scope,
  id: string,
  { account, state }: ParsedBodyOf<'trialDeposit'>,
): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const person = await personOf(scope, id, transaction);
    const accounts = accountsOf(person.payment);
    const found = accounts.find((candidate) => candidate.id === account);
    if (!found || person.payment?.method !== 'deposit') throw notFound('account');
    await person.update(
      {
        payment: {
          ...person.payment,
          accounts: accounts.map((candidate) => (candidate === found ? { ...found, trial: state } : candidate)),
        },
      },
      { transaction },
    );
    await record(
      scope,
      {
        action: 'trial-deposit',
        subject: 'person',
        subjectId: id,
        what:
          state === 'asked'
            ? `Trial deposit to the account ending ${found.last4} asked for`
            : `Trial deposit to the account ending ${found.last4} arrived`,
      },
      transaction,
    );
    return {};
  });
}

/** How a person is paid, with what each account would get of the latest net pay. */
export function paymentView(scope: Scope, person: Person, lastNet: number): PersonView['payment'] {
  if (!person.payment) return null;
  const accounts = accountsOf(person.payment);
  const split = splitNet(
    lastNet,
    accounts.map(({ id, by, value }) => ({ id, by, value: value ?? undefined })),
  );
  return {
    method: person.payment.method,
    shown:
      person.payment.method === 'deposit'
        ? accounts.map((account) => `Bank ${account.bank}, account ••••${account.last4}`).join('; ')
        : capitalized(packFor(scope).words.cheque),
    accounts: accounts.map((account) => ({
      id: account.id,
      bank: account.bank,
      shown: `••••${account.last4}`,
      kind: account.kind,
      by: account.by,
      value: account.value,
      trial: account.trial,
      ofLastNet: split.find((part) => part.id === account.id)?.amount ?? 0,
    })),
  };
}
