import PgBoss from 'pg-boss';
import type { Logger } from 'pino';
import type { Progress } from '@woodruff/contract';
import { execute, select, type Database } from '../database/connection';
import { sendWaiting } from '../mail/service';
import { calculateRun } from '../pay-runs/calculation';
import type { Scope } from '../users/scope';
import { scopeOf } from '../users/service';

const QUEUE = 'calculate-run';
const MAIL = 'send-mail';

interface CalculationJob {
  runId: string;
  userId: string;
  employerId: string;
}

/** Long work with progress, queued in PostgreSQL so that a crash loses none of it. */
export class Jobs {
  private constructor(
    private readonly boss: PgBoss,
    private readonly database: Database,
  ) {}

  /** Starts the queue; runs whose calculation was cut off are queued again. */
  static async start(url: string, database: Database, logger: Logger): Promise<Jobs> {
    const boss = new PgBoss({ connectionString: url, max: 3 });
    boss.on('error', (error) => logger.warn({ err: error }, 'job queue'));
    await boss.start();
    await boss.createQueue(QUEUE);
    const jobs = new Jobs(boss, database);
    await boss.work<CalculationJob>(QUEUE, { pollingIntervalSeconds: 0.5 }, async ([job]) => {
      if (job) await jobs.calculate(job.data, logger);
    });
    await boss.createQueue(MAIL);
    await boss.work(MAIL, { pollingIntervalSeconds: 0.5 }, async () => void (await sendWaiting(database)));
    await jobs.resumeCutOff();
    await jobs.queueMail();
    return jobs;
  }

  /** Queues a run's calculation. */
  async queueCalculation(scope: Scope, runId: string): Promise<void> {
    await this.progress(runId, 'waiting', 0, 0, null);
    await this.boss.send(QUEUE, { runId, userId: scope.user.id, employerId: scope.employer.id } satisfies CalculationJob, {
      expireInSeconds: 600,
      retryLimit: 2,
      retryDelay: 1,
    });
  }

  /** Sends what waits in the outbox; also what an earlier server left. */
  async queueMail(): Promise<void> {
    await this.boss.send(MAIL, {}, { retryLimit: 3, retryDelay: 2 });
  }

  async stop(): Promise<void> {
    await this.boss.stop({ graceful: true, timeout: 5000 });
  }

  private async calculate({ runId, userId, employerId }: CalculationJob, logger: Logger): Promise<void> {
    let written = Promise.resolve();
    try {
      const scope = await scopeOf(this.database, userId, employerId);
      await this.progress(runId, 'running', 0, 0, null);
      await calculateRun(scope, runId, (done, of) => {
        written = written.then(() => this.progress(runId, 'running', done, of, null));
      });
      await written;
      await this.progress(runId, 'done', 0, 0, null, true);
    } catch (error) {
      logger.error({ err: error, runId }, 'calculation failed');
      await written.catch(() => undefined);
      const sentence =
        (error as { code?: string }).code === 'no-table'
          ? (error as Error).message
          : 'The calculation did not finish. Nothing was changed; work the run out again.';
      await this.progress(runId, 'failed', 0, 0, sentence);
    }
  }

  /** A server that stopped in the middle left its job behind; nothing of it was saved, so it starts anew. */
  private async resumeCutOff(): Promise<void> {
    const cutOff = await select<CalculationJob>(
      this.database,
      `select g.run_id as "runId", r.employer_id as "employerId", coalesce(r.last_edited_by, (select m.user_id from memberships m where m.employer_id = r.employer_id and m.role <> 'employee' limit 1)) as "userId"
       from run_progress g join pay_runs r on r.id = g.run_id where g.state in ('waiting', 'running') and r.state <> 'approved' and g.beat < now() - interval '5 seconds'`,
    );
    for (const job of cutOff) await this.boss.send(QUEUE, job, { expireInSeconds: 600, retryLimit: 2, retryDelay: 1 });
  }

  private async progress(
    runId: string,
    state: Progress['state'],
    done: number,
    of: number,
    message: string | null,
    keepCount = false,
  ): Promise<void> {
    await execute(
      this.database,
      `insert into run_progress (run_id, state, done, "of", message) select :runId, :state, :done, :of, :message where exists (select 1 from pay_runs where id = :runId)
       on conflict (run_id) do update set state = excluded.state, message = excluded.message, beat = now()${keepCount ? '' : ', done = excluded.done, "of" = excluded."of"'}`,
      { runId, state, done, of, message },
    );
  }
}

export async function progressOf(scope: Scope, runId: string): Promise<Progress> {
  const [progress] = await select<Progress>(
    scope.database,
    `select g.state, g.done, g."of", g.message from run_progress g join pay_runs r on r.id = g.run_id where g.run_id = :runId and r.employer_id = :employer`,
    { runId, employer: scope.employer.id },
  );
  return progress ?? { state: 'done', done: 0, of: 0, message: null };
}
