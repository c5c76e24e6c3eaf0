import pg from 'pg';
import { QueryTypes, Sequelize, type Transaction } from 'sequelize';

// Amounts are bigint columns of minor units; all of them are safe integers.
pg.defaults.parseInt8 = true;

export type Database = Sequelize;
export type { Transaction };

export const connect = (url: string, pool = 10): Database =>
  new Sequelize(url, {
    dialect: 'postgres',
    logging: false,
    define: { underscored: true, timestamps: false },
    pool: { max: pool, min: 0, idle: 10_000 },
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

/** Does something in a transaction that is taken back whatever comes of it: what would be is looked at as it really is. */
export async function takenBack<Answer>(database: Database, work: (transaction: Transaction) => Promise<Answer>): Promise<Answer> {
  const transaction = await database.transaction();
  try {
    return await work(transaction);
  } finally {
    await transaction.rollback();
  }
}

/** The database as seen within a transaction: what a service does in transactions and statements of its own happens in this one. */
export const within = (database: Database, transaction: Transaction): Database =>
  new Proxy(database, {
    get(target, name) {
      if (name === 'transaction') return (work: (inside: Transaction) => Promise<unknown>) => work(transaction);
      if (name === 'query') return (sql: string, options: object = {}) => target.query(sql, { transaction, ...options });
      const value: unknown = Reflect.get(target, name);
      return typeof value === 'function' ? (value as (...all: unknown[]) => unknown).bind(target) : value;
    },
  });
