import { conflict } from '../../errors';
import type { Scope } from '../../users/scope';

/** How far an import is, by employer. */
const running = new Map<string, { done: number; of: number }>();

export const importProgress = (scope: Scope): { done: number; of: number } => running.get(scope.employer.id) ?? { done: 0, of: 0 };

/** One import at a time for an employer; `tell` says how far it is. */
export async function underWay<T>(scope: Scope, work: (tell: (done: number, of: number) => void) => Promise<T>): Promise<T> {
  const { id } = scope.employer;
  if (running.has(id)) throw conflict('import-under-way', 'Another import is under way here. Wait until it is done.');
  running.set(id, { done: 0, of: 0 });
  try {
    return await work((done, of) => running.set(id, { done, of }));
  } finally {
    running.delete(id);
  }
}
