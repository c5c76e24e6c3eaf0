import { currentTransaction, execute, select, takenBack, type Transaction } from '../database/connection';
import type { Scope } from '../scope';
import { scopeOf } from './service';

/**
 * How a use case holds its employer while it decides and saves. Locks are taken in one order: the employer, then a run,
 * then its payslips, then whatever else; so nobody waits in a circle.
 *
 * - `alone`: nothing else of the employer is changed meanwhile. What changes set-up, posts or pays does so.
 * - `beside`: others may work on other runs and sheets at the same time, but nothing that wants to be alone. What is
 *   worked on is locked by its own row.
 */
export type Hold = 'alone' | 'beside';

/** Use cases that want to be alone wait here in their order, without each holding a connection of the pool. */
const queues = new Map<string, Promise<unknown>>();

async function inTurn<Answer>(key: string, work: () => Promise<Answer>): Promise<Answer> {
  const before = queues.get(key) ?? Promise.resolve();
  const mine = before.catch(() => undefined).then(work);
  queues.set(key, mine);
  try {
    return await mine;
  } finally {
    if (queues.get(key) === mine) queues.delete(key);
  }
}

/**
 * One use case: a transaction that holds the employer, with the employer's details, the user's name and their rights as
 * they stand under the lock. Within another use case it is part of that one.
 */
export function changing<Answer>(scope: Scope, work: (transaction: Transaction) => Promise<Answer>, hold: Hold = 'alone'): Promise<Answer> {
  const outer = currentTransaction();
  if (outer) return work(outer);
  const held = () =>
    scope.database.transaction(async (transaction) => {
      await holdEmployer(scope, hold);
      // What was read before the lock may have changed since. The day stays that on which it was asked for.
      const now = await scopeOf(scope.database, scope.user.id, scope.employer.id);
      const { name, facts, factsVersion } = now.employer;
      Object.assign(scope.employer, { name, facts, factsVersion });
      Object.assign(scope, { role: now.role, rights: now.rights, personId: now.personId, user: now.user });
      return work(transaction);
    });
  return hold === 'alone' ? inTurn(scope.employer.id, held) : held();
}

/** What a change would do, by really making it and taking it back. Changes that are saved wait until the look is over. */
export const lookedAt = <Answer>(scope: Scope, work: (transaction: Transaction) => Promise<Answer>): Promise<Answer> =>
  changing(scope, () => takenBack(scope.database, work), 'beside');

const holdEmployer = (scope: Scope, hold: Hold): Promise<unknown> =>
  execute(scope.database, `select pg_advisory_xact_lock${hold === 'beside' ? '_shared' : ''}(hashtextextended(:employer, 0))`, {
    employer: scope.employer.id,
  });

/** The version of the employer's set-up and balances, as it stands under the lock. */
export async function factsVersionOf(scope: Scope): Promise<number> {
  const [row] = await select<{ version: number }>(scope.database, 'select facts_version as version from employers where id = :id', {
    id: scope.employer.id,
  });
  return row?.version ?? 0;
}
