import type { Client } from 'pg';
import PgBoss from 'pg-boss';
import type { Logger } from 'pino';
import type { Progress } from '@woodruff/contract';
import { currentTransaction, execute, select, type Database } from '../database/connection';
import { QUEUES } from '../database/role';
import { sendWaiting } from '../mail/service';
import { calculateRun } from '../calculation/calculation';
import type { Scope } from '../scope';
import { scopeOf } from '../users/service';

const { calculation: QUEUE, mail: MAIL } = QUEUES;

interface CalculationJob {
  runId: string;
  userId: string;
  employerId: string;
}

/** A calculation whose process gave no sign of life for so long is taken over by another. */
const SILENT = 4;
/** How often a process says that it lives, and looks for calculations that were cut off. */
const BEAT = 1500;

const OPTIONS = { expireInSeconds: 600, retryLimit: 2, retryDelay: 1 };

/**
 * Long work with progress, queued in PostgreSQL so that a crash loses none of it, and shared by as many processes as
 * there are. What a use case queues is queued with it: taken back, nothing is.
 */
export class Jobs {
  private timer: NodeJS.Timeout | undefined;
  private readonly running = new Set<string>();

  private constructor(
    private readonly boss: PgBoss,
    private readonly database: Database,
    private readonly logger: Logger,
  ) {}

  static async start(url: string, database: Database, logger: Logger, { ownsTables = true } = {}): Promise<Jobs> {
    const boss = new PgBoss({ connectionString: url, max: 3, migrate: ownsTables });
    boss.on('error', (error) => logger.warn({ err: error }, 'job queue'));
    await boss.start();
    if (ownsTables) for (const queue of Object.values(QUEUES)) await boss.createQueue(queue);
    const jobs = new Jobs(boss, database, logger);
    await boss.work<CalculationJob>(QUEUE, { pollingIntervalSeconds: 0.5 }, async ([job]) => {
      if (job) await jobs.calculate(job.data);
    });
    await boss.work(MAIL, { pollingIntervalSeconds: 0.5 }, async () => void (await sendWaiting(database)));
    await jobs.queueMail();
    jobs.watch();
    return jobs;
  }

  /** Queues a run's calculation. */
  async queueCalculation(scope: Scope, runId: string): Promise<void> {
    await execute(
      this.database,
      `insert into run_progress (run_id, state) values (:runId, 'waiting')
       on conflict (run_id) do update set state = 'waiting', message = null, done = 0, "of" = 0, beat = now()`,
      { runId },
    );
    await this.send({ runId, userId: scope.user.id, employerId: scope.employer.id });
  }

  /** Sends what waits in the outbox; also what an earlier server left. */
  async queueMail(): Promise<void> {
    await this.boss.send(MAIL, {}, { retryLimit: 3, retryDelay: 2, ...inTransaction() });
  }

  async stop(): Promise<void> {
    clearTimeout(this.timer);
    await this.boss.stop({ graceful: true, timeout: 5000 });
  }

  private async send(job: CalculationJob): Promise<void> {
    await this.boss.send(QUEUE, job, { ...OPTIONS, ...inTransaction() });
  }

  private async calculate({ runId, userId, employerId }: CalculationJob): Promise<void> {
    // Told twice, or told again after another process took it over: it is calculated once.
    if (!(await this.take(runId))) return;
    this.running.add(runId);
    try {
      await calculateRun(await scopeOf(this.database, userId, employerId), runId, (done, of) => void this.tell(runId, { done, of }));
      await this.tell(runId, { state: 'done' });
    } catch (error) {
      this.logger.error(
        { problem: (error as Error).name, at: (error as Error).stack?.split('\n').slice(1, 8), runId },
        'calculation failed',
      );
      const message =
        (error as { code?: string }).code === 'no-table'
          ? (error as Error).message
          : 'The calculation did not finish. Nothing was changed; calculate the run again.';
      await this.tell(runId, { state: 'failed', message });
    } finally {
      this.running.delete(runId);
    }
  }

  /** Whether the calculation waits; from then on it is this process's. */
  private async take(runId: string): Promise<boolean> {
    const rows = await this.database.beside<CalculationJob>(
      `update run_progress set state = 'running', beat = now() where run_id = $1 and state = 'waiting' returning run_id`,
      [runId],
    );
    return rows.length > 0;
  }

  /** Progress is seen by others while the calculation is still one transaction: it goes beside it. */
  private async tell(runId: string, progress: Partial<Progress>): Promise<void> {
    await this.database
      .beside(
        `update run_progress set state = coalesce($2, state), done = coalesce($3, done), "of" = coalesce($4, "of"), message = $5, beat = now() where run_id = $1`,
        [runId, progress.state ?? null, progress.done ?? null, progress.of ?? null, progress.message ?? null],
      )
      .catch((error: unknown) => this.logger.warn({ err: error, runId }, 'progress was not told'));
  }

  /** Says that calculations of this process live, and queues those whose process does not. */
  private watch(): void {
    this.timer = setTimeout(() => {
      this.look()
        .catch((error: unknown) => this.logger.warn({ err: error }, 'looking for calculations that were cut off'))
        .finally(() => this.timer && this.watch());
    }, BEAT);
    this.timer.unref();
  }

  private async look(): Promise<void> {
    if (this.running.size) await this.database.beside('update run_progress set beat = now() where run_id = any($1)', [[...this.running]]);
    // Nothing of it was saved, so it starts anew. What waited and was never taken was queued all the same.
    const rows = await this.database.beside<CalculationJob>(
      `update run_progress g set state = 'waiting', beat = now() from pay_runs r
       where r.id = g.run_id and r.state in ('calculating', 'open') and (g.state = 'running' and g.beat < now() - make_interval(secs => $1) or g.state = 'waiting' and g.beat < now() - make_interval(secs => 10 * $1))
       returning g.run_id as "runId", r.employer_id as "employerId", coalesce((select m.user_id from memberships m where m.employer_id = r.employer_id and m.user_id = r.last_edited_by),
         (select m.user_id from memberships m where m.employer_id = r.employer_id and m.role <> 'employee' limit 1)) as "userId"`,
      [SILENT],
    );
    for (const job of rows) await this.send(job);
  }
}

/** A job is queued over the connection of the use case that one is in. */
function inTransaction(): { db?: PgBoss.Db } {
  const transaction = currentTransaction();
  if (!transaction) return {};
  const client = (transaction as unknown as { connection: Client }).connection;
  return { db: { executeSql: (text: string, values: unknown[]) => client.query(text, values) } };
}

export async function progressOf(scope: Scope, runId: string): Promise<Progress> {
  const [progress] = await select<Progress>(
    scope.database,
    `select g.state, g.done, g."of", g.message from run_progress g join pay_runs r on r.id = g.run_id where g.run_id = :runId and r.employer_id = :employer`,
    { runId, employer: scope.employer.id },
  );
  return progress ?? { state: 'done', done: 0, of: 0, message: null };
}
