import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import { Refusal } from '../errors';
import type * as Heavy from './heavy-worker';

/** What a document or file may take before it is given up. */
const LIMITS = { memory: 700, seconds: 120 };

/** Threads that run the tasks of one file. */
export interface Threads {
  run<A>(task: string, input: unknown, signal?: AbortSignal): Promise<A>;
}

const kinds: { start(count: number): Piscina; running?: Piscina }[] = [];

/**
 * Threads of a worker file beside the file that asks, as built or as source; begun by startThreads.
 * @param file with the name of a task that it has, which is made ready when the threads begin
 * @param from the asking file's import.meta.url
 */
export function threads({ file, task }: { file: string; task: string }, from: string, least = 1, memory?: number): Threads {
  const kind: (typeof kinds)[number] = {
    start(count) {
      const built = fileURLToPath(new URL(`./${file}.js`, from));
      const source = fileURLToPath(new URL(`./${file}.ts`, from));
      const options = existsSync(built) ? { filename: built } : { filename: source, execArgv: ['--import', 'tsx'] };
      const resourceLimits = memory === undefined ? {} : { maxOldGenerationSizeMb: memory };
      return new Piscina({
        ...options,
        name: task,
        minThreads: 1,
        maxThreads: Math.max(least, count),
        idleTimeout: 60_000,
        resourceLimits,
      });
    },
  };
  kinds.push(kind);
  return {
    run(name, input, signal) {
      if (!kind.running) throw new Error('the threads are not started');
      return kind.running.run(input, { name, ...(signal ? { signal } : {}) });
    },
  };
}

/** Starts the threads on which runs are calculated, and those for documents and files. */
export function startThreads(count: number): void {
  for (const kind of kinds) kind.running = kind.start(count);
}

export async function stopThreads(): Promise<void> {
  await Promise.all(kinds.flatMap(({ running }) => (running ? [running.destroy()] : [])));
  for (const kind of kinds) delete kind.running;
}

const heavy = threads({ file: 'heavy-worker', task: 'print' }, import.meta.url, 2, LIMITS.memory);

type Task = keyof typeof Heavy;

/** Does one piece of heavy work on a thread; what takes more than it may is refused, and the thread made anew. */
export async function inThread<T extends Task>(
  task: T,
  input: Parameters<(typeof Heavy)[T]>[0],
): Promise<Awaited<ReturnType<(typeof Heavy)[T]>>> {
  try {
    return await heavy.run<Awaited<ReturnType<(typeof Heavy)[T]>>>(task, input, AbortSignal.timeout(LIMITS.seconds * 1000));
  } catch (error) {
    const { code, name } = error as { code?: string; name?: string };
    if (code === 'ERR_WORKER_OUT_OF_MEMORY' || name === 'AbortError')
      throw new Refusal(
        413,
        'too-large',
        `This takes more than ${name === 'AbortError' ? `${LIMITS.seconds} seconds` : `${LIMITS.memory} MB of memory`}. Do it in parts: a smaller file, or fewer people at once.`,
      );
    throw error;
  }
}
