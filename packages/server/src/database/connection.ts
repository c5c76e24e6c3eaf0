import { AsyncLocalStorage } from 'node:async_hooks';
import pg from 'pg';
import { QueryTypes, Sequelize, type Options, type Transaction, type TransactionOptions } from 'sequelize';
import { Refusal } from '../errors';

// Amounts are bigint columns of minor units; all of them are safe integers.
pg.defaults.parseInt8 = true;

export type Database = WoodruffDatabase;
export type { Transaction };

/**
 * Where one is: within a transaction every query goes over its connection, whoever asks. Nothing can ask the pool for a
 * second one while it holds the first.
 */
const context = new AsyncLocalStorage<Map<string, unknown>>();
Sequelize.useCLS({
  run: (work: (here: Map<string, unknown>) => unknown) => context.run(new Map(context.getStore()), () => work(context.getStore()!)),
  get: (key: string) => context.getStore()?.get(key),
  set: (key: string, value: unknown) => context.getStore()?.set(key, value),
  bind: (work: () => unknown) => AsyncLocalStorage.bind(work),
});

export const currentTransaction = (): Transaction | undefined => context.getStore()?.get('transaction') as Transaction | undefined;

/** Serialization failure and deadlock: the database chose one of two to go first. */
const TRY_AGAIN = ['40001', '40P01'];
const LOCK_NOT_AVAILABLE = '55P03';
const TRIES = 5;
/** As long as a change waits for another one before it is refused. */
const LOCK_WAIT = 30_000;

const codeOf = (error: unknown): string =>
  (error as { original?: { code?: string } }).original?.code ?? (error as { code?: string }).code ?? '';

/** A transaction begun within another one is part of it; one that the database broke off is tried again. */
class WoodruffDatabase extends Sequelize {
  private readonly progress: pg.Pool;

  constructor(url: string, options: Options) {
    super(url, options);
    this.progress = new pg.Pool({ connectionString: url, max: 1, idleTimeoutMillis: 10_000 });
    this.progress.on('error', () => undefined);
  }

  /** For what others are to see of long work while its transaction is still open, and for nothing else. */
  async beside<Row extends object>(sql: string, values: readonly unknown[]): Promise<Row[]> {
    return (await this.progress.query<Row>(sql, [...values])).rows;
  }

  override async close(): Promise<void> {
    await this.progress.end();
    await super.close();
  }

  override transaction<Answer>(work: (transaction: Transaction) => PromiseLike<Answer>): Promise<Answer>;
  override transaction<Answer>(options: TransactionOptions, work: (transaction: Transaction) => PromiseLike<Answer>): Promise<Answer>;
  override transaction(options?: TransactionOptions): Promise<Transaction>;
  override transaction(...all: unknown[]): Promise<unknown> {
    const [work] = all;
    if (typeof work !== 'function') throw new Error('a transaction is given the work that is done in it, and nothing else');
    return this.inTransaction(work as (transaction: Transaction) => Promise<unknown>);
  }

  private async inTransaction<Answer>(work: (transaction: Transaction) => Promise<Answer>): Promise<Answer> {
    const outer = currentTransaction();
    if (outer) return work(outer);
    for (let turn = 1; ; turn++) {
      try {
        return await super.transaction(work);
      } catch (error) {
        const code = codeOf(error);
        if (TRY_AGAIN.includes(code) && turn < TRIES) {
          await new Promise((resolve) => setTimeout(resolve, Math.random() * 40 * 2 ** turn));
          continue;
        }
        if (TRY_AGAIN.includes(code) || code === LOCK_NOT_AVAILABLE)
          throw new Refusal(
            409,
            'changed-meanwhile',
            'Somebody else was changing the same thing at this moment. Nothing of yours was saved; look at it again and repeat what you did.',
          );
        throw error;
      }
    }
  }
}

/**
 * Readers and writers have connections apart, so that changes which wait for each other keep nobody from reading. With a
 * pool of one there is one connection in all, and a query beside a transaction would wait for ever: the specs run so.
 */
export const connect = (url: string, pool = 10): Database =>
  new WoodruffDatabase(url, {
    dialect: 'postgres',
    logging: false,
    define: { underscored: true, timestamps: false },
    pool: { max: pool, min: 0, idle: 10_000 },
    dialectOptions: { lock_timeout: LOCK_WAIT },
    ...(pool > 1 ? { replication: { write: {}, read: [{}] } } : {}),
  });

/** Rows of a query with named replacements (`:name`). */
export async function select<Row extends object>(
  database: Database,
  sql: string,
  replacements: Record<string, unknown> = {},
  transaction?: Transaction,
): Promise<Row[]> {
  return database.query<Row>(sql, { type: QueryTypes.SELECT, replacements, ...(transaction ? { transaction } : {}) });
}

/** Runs a statement; gives what it returns with `returning`. */
export async function execute(
  database: Database,
  sql: string,
  replacements: Record<string, unknown> = {},
  transaction?: Transaction,
): Promise<unknown[]> {
  const [rows] = await database.query(sql, { replacements, ...(transaction ? { transaction } : {}) });
  return rows;
}

/** Does something that is taken back whatever comes of it: what would be is looked at as it really is. */
export function takenBack<Answer>(database: Database, work: (transaction: Transaction) => Promise<Answer>): Promise<Answer> {
  return database.transaction(async (transaction) => {
    await execute(database, 'savepoint before');
    try {
      return await work(transaction);
    } finally {
      await execute(database, 'rollback to savepoint before');
    }
  });
}

/** Looks that do not need each other: beside each other on connections of their own, within a transaction one after another on its one. */
export async function together<Looks extends readonly (() => unknown)[]>(
  ...looks: Looks
): Promise<{ [Key in keyof Looks]: Awaited<ReturnType<Looks[Key]>> }> {
  const found: unknown[] = [];
  if (currentTransaction()) for (const look of looks) found.push(await look());
  else found.push(...(await Promise.all(looks.map((look) => look()))));
  return found as { [Key in keyof Looks]: Awaited<ReturnType<Looks[Key]>> };
}
