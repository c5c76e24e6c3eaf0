import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';

export const PORT = 8491;

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
