import { spawn, type ChildProcess } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import pg from 'pg';
import { testDatabaseUrl } from '../testing/database';

/** Where a server listens, as it says itself. */
const addressOf = (server: ChildProcess): Promise<string> =>
  new Promise((resolve, reject) => {
    let said = '';
    server.stdout?.on('data', (text: Buffer) => {
      said += text.toString();
      const url = /"url":"([^"]+)"/.exec(said)?.[1];
      if (url) resolve(url);
    });
    server.on('exit', () => reject(new Error(`the server stopped: ${said}`)));
  });

describe('The application’s role in the database', () => {
  it('works with everything, owns nothing, and can neither change nor empty what is only added to', async () => {
    const name = `app_${randomBytes(4).toString('hex')}`;
    const owner = new pg.Client({ connectionString: testDatabaseUrl() });
    await owner.connect();
    await owner.query(`create role ${name} login password 'app-only'`);
    const url = new URL(testDatabaseUrl());
    url.username = name;
    url.password = 'app-only';
    const key = randomBytes(32).toString('hex');
    // In a process of its own: models are bound to one database.
    const server = spawn(process.execPath, ['--import', 'tsx', 'src/main.ts'], {
      env: {
        ...process.env,
        NODE_ENV: 'test',
        DATABASE_URL: url.href,
        DATABASE_OWNER_URL: testDatabaseUrl(),
        WOODRUFF_KEY: key,
        SESSION_SECRET: key,
        PORT: '0',
        LOG_LEVEL: 'info',
      },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    try {
      expect((await fetch(`${await addressOf(server)}/health`)).status).toBe(200);
      const app = new pg.Client({ connectionString: url.href });
      await app.connect();
      const refused = async (sql: string) =>
        expectAsync(app.query(sql))
          .withContext(sql)
          .toBeRejectedWithError(/permission denied|must be owner|append-only/);
      await app.query('select count(*) from people');
      // Every schema that migrations made can be worked with.
      const schemas = await owner.query<{ name: string }>(
        `select nspname as name from pg_namespace where nspname !~ '^pg_' and nspname <> 'information_schema'`,
      );
      for (const { name: schema } of schemas.rows)
        expect((await app.query(`select has_schema_privilege('${schema}', 'usage') as may`)).rows).toEqual([{ may: true }]);
      for (const table of ['ledger_lines', 'audit_entries']) {
        await refused(`update ${table} set employer_id = employer_id`);
        await refused(`delete from ${table}`);
        await refused(`truncate ${table}`);
        await refused(`drop table ${table}`);
        await refused(`alter table ${table} disable trigger all`);
      }
      await refused('create table own_table (id int)');
      await refused(`insert into migrations (name) values ('9999')`);
      const owned = await app.query('select count(*)::int as tables from pg_tables where tableowner = current_user');
      expect((owned.rows[0] as { tables: number }).tables).toBe(0);
      await app.end();
    } finally {
      const gone = new Promise((resolve) => server.on('exit', resolve));
      server.kill('SIGTERM');
      await gone;
      await owner.query(`drop owned by ${name}`);
      await owner.query(`drop role ${name}`);
      await owner.end();
    }
  }, 60_000);
});
