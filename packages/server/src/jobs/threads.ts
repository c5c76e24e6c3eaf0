import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import { Refusal } from '../errors';
import type { CalculationBatch, Comparison } from './calculation-worker';
import type * as Heavy from './heavy-worker';
import type { Effect } from '@woodruff/contract';

/** What a document or file may take before it is given up. */
const LIMITS = { memory: 700, seconds: 120 };

let calculations: Piscina | undefined;
let heavy: Piscina | undefined;

function workers(file: string, name: string, count: number, resourceLimits: { maxOldGenerationSizeMb?: number } = {}): Piscina {
  const built = fileURLToPath(new URL(`./${file}.js`, import.meta.url));
  const source = fileURLToPath(new URL(`./${file}.ts`, import.meta.url));
  const options = existsSync(built) ? { filename: built } : { filename: source, execArgv: ['--import', 'tsx'] };
  return new Piscina({ ...options, name, minThreads: 1, maxThreads: count, idleTimeout: 60_000, resourceLimits });
}

/** Starts the threads on which runs are calculated, and those for documents and files. */
export function startThreads(count: number): void {
  calculations = workers('calculation-worker', 'calculate', count);
  heavy = workers('heavy-worker', 'print', Math.max(2, count), { maxOldGenerationSizeMb: LIMITS.memory });
}

function started(pool: Piscina | undefined): Piscina {
  if (!pool) throw new Error('the threads are not started');
  return pool;
}

export const calculateBatch = (batch: CalculationBatch): Promise<string> => started(calculations).run(batch, { name: 'calculate' });

/** What changes between two sets of details of the same people. */
export const compareBatch = (comparison: Comparison): Promise<(Effect['people'][number] | null)[]> =>
  started(calculations).run(comparison, { name: 'compare' });

type Task = keyof typeof Heavy;

/** Does one piece of heavy work on a thread; what takes more than it may is refused, and the thread made anew. */
export async function inThread<T extends Task>(
  task: T,
  input: Parameters<(typeof Heavy)[T]>[0],
): Promise<Awaited<ReturnType<(typeof Heavy)[T]>>> {
  try {
    return (await started(heavy).run(input, { name: task, signal: AbortSignal.timeout(LIMITS.seconds * 1000) })) as Awaited<
      ReturnType<(typeof Heavy)[T]>
    >;
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

export async function stopThreads(): Promise<void> {
  await Promise.all([calculations?.destroy(), heavy?.destroy()]);
  calculations = heavy = undefined;
}
