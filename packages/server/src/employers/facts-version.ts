import { execute, type Transaction } from '../database/connection';
import type { Scope } from '../scope';

/** Notes that set-up or balances changed: open runs calculated before are out of date until recalculated. */
export const factsChanged = (scope: Scope, transaction: Transaction): Promise<unknown> =>
  execute(scope.database, 'update employers set facts_version = facts_version + 1 where id = :id', { id: scope.employer.id }, transaction);
