import { Parameters, type ParameterEntry, type ParameterFile } from '../parameters';
import rates from './parameters/rates.json';

/** The dated tables of the Australian pack. */
export const tables = new Parameters([rates as ParameterFile]);

/** Every dated figure of the pack. */
export const entries: readonly ParameterEntry[] = (rates as ParameterFile).entries;
