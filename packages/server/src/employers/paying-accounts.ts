import type { BodyOf } from '@woodruff/contract';
import type { CountryPack, PaymentFile } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select, type Transaction } from '../database/connection';
import { conflict, invalid, notFound } from '../errors';
import { packFor, type Scope } from '../scope';
import { unique } from '../database/unique';
import { changing } from '../users/changing';
import { theVault } from '../vault/vault';

/** An account that pays; null is the employer's first one. */
export type Paying = string | null;

export interface PayingAccount {
  id: Paying;
  name: string;
  bank: string;
  last4: string;
}

/** Every account that the employer pays from, its first one before the others. */
export const payingAccounts = (scope: Scope): Promise<PayingAccount[]> =>
  select(
    scope.database,
    `select null::uuid as id, bank->>'name' as name, bank->>'routing' as bank, bank->>'last4' as last4, 0 as place from employers where id = :employer and bank is not null
     union all select id, name, bank, last4, 1 from paying_accounts where employer_id = :employer order by place, name`,
    { employer: scope.employer.id },
  );

/** The employer as the bank of an account knows it. Refused where no such account is set up. */
export async function payerOf(scope: Scope, paying: Paying, transaction?: Transaction): Promise<PaymentFile['payer']> {
  const [row] = await select<{ name: string | null; bank: string | null; sealed: Buffer | null }>(
    scope.database,
    paying
      ? 'select name, bank, account_sealed as sealed from paying_accounts where id = :paying and employer_id = :id'
      : `select bank->>'name' as name, bank->>'routing' as bank, account_sealed as sealed from employers where id = :id`,
    { id: scope.employer.id, paying },
    transaction,
  );
  if (!row?.bank || !row.sealed)
    throw conflict('no-account', 'No account that pays is set up. Enter it with the employer’s paying accounts.');
  return {
    name: scope.employer.name,
    number: payerNumber(packFor(scope), scope.employer.facts.country),
    bankName: row.name ?? '',
    bank: row.bank,
    account: theVault().open(row.sealed, paying ? `paying:${paying}` : `bank:${scope.employer.id}`),
  };
}

/** By which the clearing knows the employer: a number of its own, or the one by which the tax agency does. */
const payerNumber = (pack: CountryPack, registrations: Readonly<Record<string, unknown>>): string =>
  pack.bank.payerNumber?.(registrations) ?? pack.employerNumber(registrations);

const CHECKED = ['routing', 'account'] as const;

/** Sets up an account that pays, or changes one: the employer's first where none is meant. What is released keeps the account it went from. */
export async function setBank(scope: Scope, entered: BodyOf<'setBank'>): Promise<Record<string, never>> {
  const { bank } = packFor(scope);
  const body = { which: 'first', ...entered, routing: bank.code.bare(entered.routing), account: bank.account.bare(entered.account) };
  const forms = { routing: bank.code, account: bank.account };
  for (const path of CHECKED)
    if (!forms[path].isOne(body[path]))
      throw invalid(
        `The ${forms[path].label.toLowerCase()} is mistyped: it has ${forms[path].expected}. Compare it with the bank letter.`,
        [{ path, expected: forms[path].expected }],
      );
  const last4 = body.account.slice(-4);
  return unique(`Another paying account is called ${body.name} already.`, 'name', () =>
    changing(scope, async (transaction) => {
      if (body.which === 'first')
        await execute(
          scope.database,
          'update employers set bank = :bank, account_sealed = :sealed where id = :id',
          {
            id: scope.employer.id,
            bank: JSON.stringify({ name: body.name, routing: body.routing, last4 }),
            sealed: theVault().seal(body.account, `bank:${scope.employer.id}`),
          },
          transaction,
        );
      else await setFurther(scope, body.which, { ...body, last4 }, transaction);
      await record(
        scope,
        {
          action: 'bank',
          subject: 'employer',
          subjectId: scope.employer.id,
          what: `${body.which === 'first' ? 'Pays' : 'Can pay'} from the account ending ${last4} at ${body.name}`,
        },
        transaction,
      );
      return {};
    }),
  );
}

async function setFurther(
  scope: Scope,
  which: string,
  { name, routing, account, last4 }: { name: string; routing: string; account: string; last4: string },
  transaction: Transaction,
): Promise<void> {
  const values = { employer: scope.employer.id, name, routing, last4, which };
  const [row] = (await execute(
    scope.database,
    which === 'another'
      ? 'insert into paying_accounts (employer_id, name, bank, last4) values (:employer, :name, :routing, :last4) returning id'
      : 'update paying_accounts set name = :name, bank = :routing, last4 = :last4 where id = :which and employer_id = :employer returning id',
    values,
    transaction,
  )) as { id: string }[];
  if (!row) throw notFound('paying account');
  await execute(
    scope.database,
    'update paying_accounts set account_sealed = :sealed where id = :id',
    { id: row.id, sealed: theVault().seal(account, `paying:${row.id}`) },
    transaction,
  );
}

/** Refuses an account that is not one of this employer's. */
export async function ownPaying(scope: Scope, paying: Paying | undefined): Promise<Paying> {
  if (!paying) return null;
  if (!(await payingAccounts(scope)).some(({ id }) => id === paying))
    throw invalid('There is no such paying account here.', [{ path: 'payingAccountId', expected: 'one of the paying accounts' }]);
  return paying;
}
