import type { BankView, ParsedBodyOf } from '@woodruff/contract';
import { execute, select } from '../../database/connection';
import { payerOf } from '../../payments/batches';
import type { Scope } from '../../scope';

/** What the bank has of the employer, for the stand-in's own page. */
export async function bankView(scope: Scope): Promise<BankView> {
  const { bank, account } = await payerOf(scope);
  const files = await select<BankView['files'][number]>(
    scope.database,
    `select f.name, f.received_on as "on", count(p.id)::int as payments, coalesce(sum(p.amount), 0)::bigint as amount, f.faults
     from bank.files f left join bank.payments p on p.file_id = f.id where f.payer_bank = :bank and (f.payer_account is null or f.payer_account = :account) or f.payer_bank is null
     group by f.id order by f.id desc limit 50`,
    { bank, account },
  );
  const accounts = await select<BankView['accounts'][number]>(
    scope.database,
    `select a.bank, a.account, a.name, a.state, coalesce(a.new_bank, '') as "newBank", coalesce(a.new_account, '') as "newAccount" from bank.accounts a where a.state <> 'open' order by a.bank, a.account limit 200`,
  );
  const [own] = await select<{ opening: number }>(
    scope.database,
    'select opening from bank.accounts where bank = :bank and account = :account',
    { bank, account },
  );
  return { files, accounts, opening: own?.opening ?? 0 };
}

/** How an account is at the bank: what it answers payments to it. */
export async function setBankAccount(scope: Scope, body: ParsedBodyOf<'bankAccount'>): Promise<void> {
  await execute(
    scope.database,
    `insert into bank.accounts (bank, account, name, state, new_bank, new_account) values (:bank, :account, :name, :state, nullif(:newBank, ''), nullif(:newAccount, ''))
     on conflict (bank, account) do update set name = excluded.name, state = excluded.state, new_bank = excluded.new_bank, new_account = excluded.new_account returning bank`,
    body,
  );
}

/** What the paying account began with. */
export async function setOpening(scope: Scope, amount: number): Promise<void> {
  const { bank, account, name } = await payerOf(scope);
  await execute(
    scope.database,
    `insert into bank.accounts (bank, account, name, opening) values (:bank, :account, :name, :amount) on conflict (bank, account) do update set opening = excluded.opening returning bank`,
    { bank, account, name, amount },
  );
}
