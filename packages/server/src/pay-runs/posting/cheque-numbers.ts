import { execute, type Transaction } from '../../database/connection';
import type { Scope } from '../../scope';

/** Takes numbers out of the employer's one register, and gives the first of them. A number is never given twice. */
export async function takeChequeNumbers(scope: Scope, count: number, transaction: Transaction): Promise<number> {
  const [row] = (await execute(
    scope.database,
    'update employers set next_cheque = next_cheque + :count where id = :employer returning next_cheque - :count as first',
    { count, employer: scope.employer.id },
    transaction,
  )) as { first: number }[];
  if (!row) throw new Error('no such employer');
  return row.first;
}
