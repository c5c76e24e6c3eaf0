import { UniqueConstraintError } from 'sequelize';
import { invalid } from '../errors';

/** Says in words what a unique key of the database refused. */
export async function unique<T>(sentence: string, path: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof UniqueConstraintError) throw invalid(sentence, [{ path, expected: 'one not used yet' }]);
    throw error;
  }
}
