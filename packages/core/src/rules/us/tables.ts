import { Parameters, type ParameterFile } from '../parameters';
import federal from './parameters/federal.json';
import minimumWages from './parameters/minimum-wages.json';
import states from './parameters/states.json';

/** The dated tables of the United States pack. */
export const tables = new Parameters([federal as ParameterFile, states as ParameterFile, minimumWages as ParameterFile]);
