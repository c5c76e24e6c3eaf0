import { select } from '../../database/connection';
import type { Scope } from '../../scope';

/** How far the employer's import is; nothing when none is under way. */
export async function importProgress(scope: Scope): Promise<{ done: number; of: number }> {
  const [found] = await select<{ done: number; of: number }>(
    scope.database,
    `select done, "of" from import_progress where employer_id = :employer and beat > now() - interval '1 minute'`,
    { employer: scope.employer.id },
  );
  return found ?? { done: 0, of: 0 };
}

/** Long work whose progress others see while it is still one transaction; `tell` says how far it is. */
export async function underWay<T>(scope: Scope, work: (tell: (done: number, of: number) => void) => Promise<T>): Promise<T> {
  const told = (sql: string, ...values: unknown[]) =>
    void scope.database.beside(sql, [scope.employer.id, ...values]).catch(() => undefined);
  try {
    return await work((done, of) =>
      told(
        `insert into import_progress (employer_id, done, "of") values ($1, $2, $3)
         on conflict (employer_id) do update set done = excluded.done, "of" = excluded."of", beat = now()`,
        done,
        of,
      ),
    );
  } finally {
    told('delete from import_progress where employer_id = $1');
  }
}
