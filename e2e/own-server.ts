import { expect } from '@playwright/test';
import { spawn, type ChildProcess } from 'node:child_process';
import { PASSWORD } from './desk';
import { copyOfDemo, databaseUrl, serverEnvironment, sql, testServer } from './server';

interface Answer {
  status: number;
  body: unknown;
}

/** A server of its own with the demo's data, to be stopped at the worst moment. */
export class OwnServer {
  private running: ChildProcess | undefined;
  private headers: Record<string, string> = {};
  private at = '';
  private front = '';

  private constructor(
    private readonly database: string,
    private readonly port: number,
    private readonly on: string,
  ) {}

  /** Where it is asked: itself, or what stands before it. */
  get address(): string {
    return this.front || `http://127.0.0.1:${this.port}`;
  }

  /** From now on requests go through a balancer. */
  behind(front: string): void {
    this.front = front;
  }

  /** Another process on the same database. */
  async beside(port: number): Promise<OwnServer> {
    const other = new OwnServer(this.database, port, this.on);
    await other.start();
    return other;
  }

  static async withDemo(database: string, port: number, on = testServer()): Promise<OwnServer> {
    const server = new OwnServer(database, port, on);
    if (on === testServer()) copyOfDemo(database);
    else {
      sql(`create database ${database}`, 'postgres', on);
      // The first employer is enough, and the others would take as long again.
      await new Promise((resolve) => server.spawned('load-demo.js', 'first').on('exit', resolve));
    }
    await server.start();
    return server;
  }

  async start(): Promise<void> {
    this.running = this.spawned('main.js');
    await this.isWell();
  }

  /** As when the power goes: nothing is tidied up. */
  async kill(): Promise<void> {
    const { running } = this;
    if (!running) return;
    const gone = new Promise((resolve) => running.on('exit', resolve));
    running.kill('SIGKILL');
    await gone;
  }

  async stop(): Promise<void> {
    this.running?.kill('SIGTERM');
    await new Promise((resolve) => this.running?.on('exit', resolve));
  }

  isWell(): Promise<void> {
    return expect
      .poll(
        () =>
          fetch(`${this.address}/health`).then(
            (answer) => answer.ok,
            () => false,
          ),
        { timeout: 30_000 },
      )
      .toBe(true);
  }

  /** @param employer by its name; the first one without it */
  async signIn(who: 'clerk' | 'approver' = 'clerk', employer?: string): Promise<void> {
    const answer = await fetch(`${this.address}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ email: `${who}@quillmere.example`, password: PASSWORD }),
    });
    const { csrfToken, employers } = (await answer.json()) as { csrfToken: string; employers: { id: string; name: string }[] };
    this.headers = {
      'content-type': 'application/json',
      'x-csrf-token': csrfToken,
      cookie: answer.headers.get('set-cookie')!.split(';')[0]!,
    };
    this.at = `${this.address}/api/employers/${(employers.find(({ name }) => name === employer) ?? employers[0]!).id}`;
  }

  get<T>(path: string): Promise<T> {
    return fetch(`${this.at}/${path}`, { headers: this.headers }).then((answer) => answer.json() as Promise<T>);
  }

  text(path: string): Promise<string> {
    return fetch(`${this.at}/${path}`, { headers: this.headers }).then((answer) => answer.text());
  }

  /** What came back, or status 0 when nothing did. */
  send(method: 'POST' | 'PATCH', path: string, body: object, headers: Record<string, string> = {}): Promise<Answer> {
    return fetch(`${this.at}/${path}`, { method, headers: { ...this.headers, ...headers }, body: JSON.stringify(body) }).then(
      async (answer) => ({ status: answer.status, body: (await answer.json().catch(() => null)) as unknown }),
      () => ({ status: 0, body: null }),
    );
  }

  sql(statement: string): string {
    return sql(statement, this.database, this.on);
  }

  private spawned(script: string, ...how: string[]): ChildProcess {
    return spawn('node', [`../packages/server/dist/${script}`, ...how], {
      env: { ...process.env, ...serverEnvironment(databaseUrl(this.database, this.on), this.port) },
      stdio: 'ignore',
    });
  }
}
