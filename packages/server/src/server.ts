import './subscriptions';
import type { AddressInfo } from 'node:net';
import type { Server } from 'node:http';
import pg from 'pg';
import type { Logger } from 'pino';
import { migrate } from './database/migrate';
import { openDatabase } from './open-database';
import { letWork } from './database/role';
import { connect, type Database } from './database/connection';
import type { Environment } from './environment';
import { createApp } from './http/app';
import { Jobs } from './jobs/jobs';
import { startThreads, stopThreads } from './threads/threads';
import { letDueChangesCount } from './people/dated-changes';
import { checkEverybody } from './tie-outs/tie-outs';
import { forEveryPayer } from './payments/exchange';
import { settle } from './payments/routes';
import { settleFilings } from './filings/routes';
import type { Scope } from './scope';
import { readTables } from './tables/loaded';
import { setVault } from './vault/vault';

export interface RunningServer {
  url: string;
  database: Database;
  stop(): Promise<void>;
}

/** By the owner of the tables, where that is another role than the one that works with them. */
async function broughtUpToDate({ DATABASE_OWNER_URL, DATABASE_URL }: Environment, database: Database): Promise<string[]> {
  if (!DATABASE_OWNER_URL) return migrate(database);
  const owner = connect(DATABASE_OWNER_URL, 2);
  try {
    const applied = await migrate(owner);
    await letWork(owner, DATABASE_OWNER_URL, decodeURIComponent(new URL(DATABASE_URL).username));
    return applied;
  } finally {
    await owner.close();
  }
}

/** Starts everything in its order: database, threads, queue, HTTP. Stops in the opposite one. */
export async function startServer(environment: Environment, logger: Logger): Promise<RunningServer> {
  setVault(environment.WOODRUFF_KEY, environment.WOODRUFF_OLD_KEYS);
  const database = openDatabase(environment.DATABASE_URL);
  const applied = await broughtUpToDate(environment, database);
  if (applied.length) logger.info({ applied }, 'schema brought up to date');
  await readTables(database);
  startThreads(environment.CALCULATION_THREADS);
  const pool = new pg.Pool({ connectionString: environment.DATABASE_URL, max: 5 });
  pool.on('error', (error) => logger.warn({ err: error }, 'session store'));
  const jobs = await Jobs.start(environment.DATABASE_URL, database, logger, { ownsTables: !environment.DATABASE_OWNER_URL });
  await letDueChangesCount(database);
  const outside = async (scope: Scope) => {
    await settle(scope);
    await settleFilings(scope);
  };
  const exchange = () =>
    forEveryPayer(database, outside, (employer, error) => logger.error({ err: error, employer }, 'exchange with the bank'));
  // What was released when a process died goes to the bank at the next start.
  exchange().catch((error: unknown) => logger.error({ err: error }, 'exchange with the bank'));
  const hourly = setInterval(() => {
    exchange().catch((error: unknown) => logger.error({ err: error }, 'exchange with the bank'));
    letDueChangesCount(database).catch((error: unknown) => logger.error({ err: error }, 'dated changes'));
    checkEverybody(database).catch((error: unknown) => logger.error({ err: error }, 'tie-outs'));
  }, 3_600_000);
  const app = createApp({ environment, database, pool, jobs, logger });
  const server = await new Promise<Server>((resolve, reject) => {
    const listening = app.listen(environment.PORT, environment.HOST, (error?: Error) => (error ? reject(error) : resolve(listening)));
  });
  const { port } = server.address() as AddressInfo;
  return {
    url: `http://${environment.HOST}:${port}`,
    database,
    async stop() {
      clearInterval(hourly);
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await jobs.stop();
      await stopThreads();
      await pool.end();
      await database.close();
    },
  };
}
