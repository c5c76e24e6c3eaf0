import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import type { CalculationBatch } from './calculation-worker';

let pool: Piscina<CalculationBatch, string> | undefined;

/** Starts the worker threads on which runs are worked out. */
export function startThreads(count: number): void {
  const built = fileURLToPath(new URL('./calculation-worker.js', import.meta.url));
  const source = fileURLToPath(new URL('./calculation-worker.ts', import.meta.url));
  const options = existsSync(built) ? { filename: built } : { filename: source, execArgv: ['--import', 'tsx'] };
  pool = new Piscina({ ...options, minThreads: count, maxThreads: count });
}

export const calculateBatch = (batch: CalculationBatch): Promise<string> => {
  if (!pool) throw new Error('the worker threads are not started');
  return pool.run(batch);
};

export async function stopThreads(): Promise<void> {
  await pool?.destroy();
  pool = undefined;
}
