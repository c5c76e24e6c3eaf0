import { Parameters, type ParameterFile } from '../parameters';
import rates from './parameters/rates.json';

/** The dated tables of the United Kingdom pack. */
export const tables = new Parameters([rates as ParameterFile]);
