import { Parameters, type ParameterEntry, type ParameterFile } from '../parameters';
import federal from './parameters/federal.json';
import minimumWages from './parameters/minimum-wages.json';
import california from './parameters/states/california.json';
import illinois from './parameters/states/illinois.json';
import newJersey from './parameters/states/new-jersey.json';
import newYork from './parameters/states/new-york.json';
import pennsylvania from './parameters/states/pennsylvania.json';
import texas from './parameters/states/texas.json';
import virginia from './parameters/states/virginia.json';
import washington from './parameters/states/washington.json';

const files = [federal, minimumWages, california, illinois, newJersey, newYork, pennsylvania, texas, virginia, washington];

/** The dated tables of the United States pack: federal ones, and each state's beside its rules. */
export const tables = new Parameters(files as ParameterFile[]);

/** Every dated figure of the pack. */
export const entries: readonly ParameterEntry[] = (files as ParameterFile[]).flatMap((file) => file.entries);
