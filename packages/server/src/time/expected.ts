import type { Scope } from '../scope';

/** Whether the employer waits for a sheet of somebody. */
export const isExpected = (scope: Scope, standardHours: string | null): boolean => {
  const expected = scope.employer.facts.time?.expected ?? 'nobody';
  return expected === 'hourly' || (expected === 'without-standard-hours' && standardHours === null);
};
