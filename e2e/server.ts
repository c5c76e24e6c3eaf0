import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';

/** What the lanes work on: a server, its data, and the files that go through it one after the other. */
export const HOUSES = [
  { name: 'period', port: 8491, database: 'woodruff_e2e', files: /\/(01|02|03|04|05|08|09|12|18|20|22|23)-.*\.spec\.ts$/ },
  { name: 'house', port: 8481, database: 'woodruff_e2e_house', files: /\/(00|06|07|10|11|13|14|15|16|17|19|21)-.*\.spec\.ts$/ },
] as const;

/** The PostgreSQL server that ./test starts. */
export function testServer(): string {
  const server = process.env['TEST_DATABASE_SERVER'];
  if (!server) throw new Error('Run the end-to-end tests with ./test e2e: it starts PostgreSQL for them.');
  return server;
}

export const databaseUrl = (name: string, server = testServer()): string => `${server}/${name}`;

export const serverEnvironment = (database: string, port: number): Record<string, string> => ({
  DATABASE_URL: database,
  WOODRUFF_KEY: '0f'.repeat(32),
  SESSION_SECRET: 'only for the end-to-end tests, not secret',
  PORT: String(port),
  NODE_ENV: 'test',
  LOG_LEVEL: 'error',
  STATIC_DIR: fileURLToPath(new URL('../packages/web/dist/app', import.meta.url)),
});

/** Runs one statement on the test server, or on another. */
export function sql(statement: string, database = 'postgres', server = testServer()): string {
  return execFileSync('psql', ['-At', '-v', 'ON_ERROR_STOP=1', '-d', databaseUrl(database, server), '-c', statement], {
    encoding: 'utf8',
  }).trim();
}

export const isThere = (database: string): boolean => sql(`select count(*) from pg_database where datname = '${database}'`) === '1';

const DEMO = 'woodruff_demo';

/** A database with the demo's data. It is played through the real services once; the others are copies of that. */
export function copyOfDemo(database: string): void {
  playDemoOnce();
  sql(`create database ${database} template ${DEMO}`);
}

export function playDemoOnce(): void {
  if (isThere(DEMO)) return;
  sql(`create database ${DEMO}`);
  const env = { ...process.env, ...serverEnvironment(databaseUrl(DEMO), 0) };
  execFileSync('node', [fileURLToPath(new URL('../packages/server/dist/load-demo.js', import.meta.url))], { env, stdio: 'inherit' });
}
