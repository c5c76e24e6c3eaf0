import '../subscriptions';
import { randomBytes } from 'node:crypto';
import pg from 'pg';
import { migrate } from '../database/migrate';
import { openDatabase } from '../open-database';
import type { Database } from '../database/connection';
import { startThreads, stopThreads } from '../threads/threads';
import { setVault } from '../vault/vault';

// The machine that runs the tests may be busy with other things.
jasmine.DEFAULT_TIMEOUT_INTERVAL = 30_000;

let url = '';
let key = '';
let database: Database | undefined;

/** The tests' own database, on the PostgreSQL server that ./test starts. */
export const testDatabase = (): Database => {
  if (!database) throw new Error('the test database is not open');
  return database;
};
export const testDatabaseUrl = (): string => url;
/** For a process of its own that opens what the specs have sealed. */
export const testVaultKey = (): string => key;

beforeAll(async () => {
  const server = process.env['TEST_DATABASE_SERVER'];
  if (!server) throw new Error('Run the server tests with ./test server: it starts PostgreSQL for them.');
  const name = `woodruff_${randomBytes(4).toString('hex')}`;
  const client = new pg.Client({ connectionString: `${server}/postgres` });
  await client.connect();
  await client.query(`create database ${name}`);
  await client.end();
  url = `${server}/${name}`;
  key = randomBytes(32).toString('hex');
  setVault(key);
  // With one connection in all, a query beside a transaction hangs at once.
  database = openDatabase(url, Number(process.env['TEST_POOL'] ?? 10));
  await migrate(database);
  startThreads(1);
}, 60_000);

afterAll(async () => {
  await stopThreads();
  await database?.close();
});
