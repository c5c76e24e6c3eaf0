import type { Batch } from '@woodruff/contract';
import type { BankPayment } from '@woodruff/core';
import { select, type Transaction } from '../database/connection';
import { accountsOf, sealedNumbers, type Payment } from '../people/payment/accounts';
import { planned } from '../pay-runs/posting/net-payments';
import { packFor, type Scope } from '../scope';
import { theVault } from '../vault/vault';

/** Where trial deposits go: the account that is tried, sealed for each. */
export async function trialDestinations(scope: Scope, batch: string, transaction: Transaction): Promise<{ id: string; sealed: string }[]> {
  const rows = await select<{ id: string; account: string; personId: string; payment: Payment | null; numbers: Buffer | null }>(
    scope.database,
    `select t.id, t.reason as account, p.id as "personId", p.payment, p.account_sealed as numbers from transfers t join people p on p.id = t.person_id where t.batch_id = :batch and t.purpose = 'trial'`,
    { batch },
    transaction,
  );
  return rows.flatMap(({ id, account, personId, payment, numbers }) => {
    const found = accountsOf(payment).find((one) => one.id === account);
    const number = sealedNumbers(numbers, personId)[account];
    if (!found || !number) return [];
    const destination = { bank: found.bank, account: number, kind: found.kind, amount: 0 };
    return [{ id, sealed: theVault().seal(JSON.stringify(destination), `transfer:${id}`).toString('base64') }];
  });
}

export interface Destination {
  bank: string;
  account: string;
  kind: string;
  amount: number;
  support?: BankPayment['support'];
}

export interface Going {
  id: string;
  transferId: string;
  part: number;
  personId: string;
  name: string;
  net: number;
  replaces: string | null;
  setOff: boolean;
  sealed: Buffer | null;
  approvedAt: Date;
  payment: Payment | null;
  numbers: Buffer | null;
  edits: { payment?: { method?: 'cheque' | 'cash'; without?: string[] } };
}

/** Payments by file of a batch with where they go: as approved, and as on file now. */
export async function destinationsIn(
  scope: Scope,
  batch: string,
  transaction?: Transaction,
): Promise<(Going & { approved: Destination[]; now: Destination[] })[]> {
  const rows = await select<Going>(
    scope.database,
    `select n.id, t.id as "transferId", t.part, exists (select 1 from transfers o where o.net_payment_id = n.id and o.method = 'set-off') as "setOff", p.id as "personId", p.given_name || ' ' || p.family_name as name, t.amount as net, t.replaces, n.destination_sealed as sealed, coalesce(r.approved_at, n.entered_at) as "approvedAt", p.payment, p.account_sealed as numbers, y.edits
     from transfers t join net_payments n on n.id = t.net_payment_id join payslips y on y.id = n.payslip_id join pay_runs r on r.id = y.run_id join people p on p.id = y.person_id
     where t.batch_id = :batch and t.method = 'file' and t.employer_id = :employer order by n.id, t.part`,
    { batch, employer: scope.employer.id },
    transaction,
  );
  const nets = new Map<string, number>();
  for (const { id, net, replaces } of rows) if (!replaces) nets.set(id, (nets.get(id) ?? 0) + net);
  return rows.map((row) => {
    const numbers = sealedNumbers(row.numbers, row.personId);
    const onFile = accountsOf(row.payment);
    const of = (id: string, amount: number): Destination => {
      const account = onFile.find((one) => one.id === id);
      return { bank: account?.bank ?? '', account: numbers[id] ?? '', kind: account?.kind ?? '', amount };
    };
    // Paid again, it goes to the account that takes the remainder.
    const main = onFile.find(({ by }) => by === 'remainder');
    const plan = planned(packFor(scope).bank, nets.get(row.id) ?? row.net, row.payment, row.edits.payment);
    const now = row.replaces
      ? main
        ? [of(main.id, row.net)]
        : []
      : plan.accounts.map((id, index) => of(id, plan.parts[index]?.amount ?? 0)).filter(({ amount }) => amount > 0);
    const approved =
      row.replaces || row.setOff
        ? now
        : row.sealed
          ? (JSON.parse(theVault().open(row.sealed, `destination:${row.id}`)) as Destination[]).filter(({ amount }) => amount > 0)
          : now;
    return { ...row, approved, now };
  });
}

export const same = (one: readonly Destination[], other: readonly Destination[]): boolean =>
  one.length === other.length &&
  one.every(
    (each, index) => each.bank === other[index]?.bank && each.account === other[index]?.account && each.amount === other[index]?.amount,
  );

export async function changedAccounts(scope: Scope, batch: string, transaction?: Transaction): Promise<Batch['changed']> {
  const changed = new Map(
    (await destinationsIn(scope, batch, transaction)).filter(({ approved, now }) => !same(approved, now)).map((one) => [one.id, one]),
  );
  const told = [];
  for (const { id, personId, name, net, approvedAt } of changed.values()) {
    const [last] = await select<{ who: string; at: string; what: string }>(
      scope.database,
      `select coalesce(u.name, '') as who, to_char(a.at, 'YYYY-MM-DD"T"HH24:MI:SS') as at, a.what from audit_entries a left join users u on u.id = a.user_id
       where a.subject_id = :personId and a.at >= :approvedAt and a.action in ('payment', 'import') order by a.id desc limit 1`,
      { personId, approvedAt },
      transaction,
    );
    told.push({
      netPaymentId: id,
      personId,
      name,
      amount: net,
      who: last?.who ?? '',
      at: last?.at ?? '',
      what: last?.what ?? 'The account is another one now',
    });
  }
  return told;
}
