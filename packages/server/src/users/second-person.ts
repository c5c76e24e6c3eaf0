import type { SecondPersonFor } from '@woodruff/contract';
import type { Scope } from '../scope';

/** Thrown by what finds out on the way that a second person has to confirm it: the whole change is held then. */
export class SecondPersonNeeded extends Error {
  constructor(readonly kind: SecondPersonFor) {
    super('a second person has to confirm this');
  }
}

/** Whether the employer wants a second person for this. */
export const wantsSecond = (scope: Scope, kind: SecondPersonFor | undefined): kind is SecondPersonFor =>
  kind !== undefined && (scope.employer.facts.secondPersonFor ?? []).includes(kind);

/** Goes on where a second person is not wanted, confirms just now, or is asked by this very attempt. */
export function unlessSecondPersonIsNeeded(scope: Scope, kind: SecondPersonFor): void {
  if (wantsSecond(scope, kind) && !scope.secondPerson) throw new SecondPersonNeeded(kind);
}
