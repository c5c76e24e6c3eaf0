import type { Effect } from '@woodruff/contract';
import { threads } from '../threads/threads';
import type { CalculationBatch, Comparison } from './calculation-worker';

const calculations = threads({ file: 'calculation-worker', task: 'calculate' }, import.meta.url);

export const calculateBatch = (batch: CalculationBatch): Promise<string> => calculations.run('calculate', batch);

/** What changes between two sets of details of the same people. */
export const compareBatch = (comparison: Comparison): Promise<(Effect['people'][number] | null)[]> =>
  calculations.run('compare', comparison);
