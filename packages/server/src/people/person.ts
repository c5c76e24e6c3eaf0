import type { Transaction } from '../database/connection';
import { notFound } from '../errors';
import type { Scope } from '../scope';
import { Person } from './models';

/** A person of the employer, locked within a transaction. Another employer's is answered as one that does not exist. */
export async function personOf(scope: Scope, id: string, transaction?: Transaction): Promise<Person> {
  const person = await Person.findOne({
    where: { id, employerId: scope.employer.id },
    ...(transaction ? { transaction, lock: transaction.LOCK.UPDATE } : {}),
  });
  if (!person) throw notFound('person');
  return person;
}
