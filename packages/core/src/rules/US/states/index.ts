import { CannotCompute } from '../../country-pack';
import { california } from './california';
import { illinois } from './illinois';
import { newJersey } from './new-jersey';
import { newYork } from './new-york';
import { pennsylvania } from './pennsylvania';
import type { State } from './state';
import { texas } from './texas';
import { virginia } from './virginia';
import { washington } from './washington';

/** The states whose rules are in; each is a file of its own with the tables beside it. */
export const STATES: readonly State[] = [california, illinois, newJersey, newYork, pennsylvania, texas, virginia, washington];

const byPlace = new Map(STATES.map((state) => [state.place, state]));

/** The rules of a state by its place. Throws CannotCompute `no-state` for one without rules. */
export function stateOf(place: string): State {
  const state = byPlace.get(place);
  if (!state)
    throw new CannotCompute(
      'no-state',
      `There are no rules for ${place}. Known are ${STATES.map(({ name }) => name).join(', ')}. Correct where this person lives or works.`,
    );
  return state;
}
