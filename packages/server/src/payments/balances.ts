import { select } from '../database/connection';
import type { Paying } from '../employers/paying-accounts';
import type { Scope } from '../scope';

/** What the latest statement of an account says is there. */
export async function latestBalance(scope: Scope, paying: Paying): Promise<{ balance: number; on: string } | null> {
  const [row] = await select<{ balance: number; on: string }>(
    scope.database,
    `select balance, on_day as "on" from account_balances where employer_id = :employer and paying = :paying order by on_day desc limit 1`,
    { employer: scope.employer.id, paying: paying ?? '' },
  );
  return row ?? null;
}
