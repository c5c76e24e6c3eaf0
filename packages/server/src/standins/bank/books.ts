import type { BankView, ParsedBodyOf } from '@woodruff/contract';
import { execute, select } from '../../database/connection';
import { payerOf, payingAccounts, type Paying } from '../../employers/paying-accounts';
import type { Scope } from '../../scope';

/** What the bank has of the employer, for the stand-in's own page. */
export async function bankView(scope: Scope): Promise<BankView> {
  const own = [];
  for (const { id, name, last4 } of await payingAccounts(scope)) own.push({ ...(await payerOf(scope, id)), id, name, last4 });
  const files = await select<BankView['files'][number]>(
    scope.database,
    `select f.name, f.received_on as "on", count(p.id)::int as payments, coalesce(sum(p.amount), 0)::bigint as amount, f.faults
     from bank.files f left join bank.payments p on p.file_id = f.id where f.payer_bank is null or exists (select 1 from jsonb_to_recordset(cast(:own as jsonb)) as o(bank text, account text) where o.bank = f.payer_bank and (f.payer_account is null or o.account = f.payer_account))
     group by f.id order by f.id desc limit 50`,
    { own: JSON.stringify(own.map(({ bank, account }) => ({ bank, account }))) },
  );
  const accounts = await select<BankView['accounts'][number]>(
    scope.database,
    `select a.bank, a.account, a.name, a.state, coalesce(a.new_bank, '') as "newBank", coalesce(a.new_account, '') as "newAccount" from bank.accounts a where a.state <> 'open' order by a.bank, a.account limit 200`,
  );
  const openings = await select<{ bank: string; account: string; opening: number }>(
    scope.database,
    'select bank, account, opening from bank.accounts where opening <> 0',
  );
  const [settings] = await select<{ cutOff: string }>(scope.database, 'select cut_off as "cutOff" from bank.settings');
  return {
    files,
    accounts,
    cutOff: settings?.cutOff ?? '23:59',
    own: own.map(({ id, name, last4, bank, account }) => ({
      id,
      name,
      last4,
      opening: openings.find((one) => one.bank === bank && one.account === account)?.opening ?? 0,
    })),
  };
}

/** Until when a file counts for the day on which it is handed in. */
export async function setCutOff(scope: Scope, at: string): Promise<void> {
  await execute(scope.database, 'update bank.settings set cut_off = :at returning one', { at });
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

/** What a paying account began with. */
export async function setOpening(scope: Scope, amount: number, paying: Paying = null): Promise<void> {
  const { bank, account, name } = await payerOf(scope, paying);
  await execute(
    scope.database,
    `insert into bank.accounts (bank, account, name, opening) values (:bank, :account, :name, :amount) on conflict (bank, account) do update set opening = excluded.opening returning bank`,
    { bank, account, name, amount },
  );
}
