import type { Transaction } from '../database/connection';
import { event } from '../events';
import type { Scope } from '../scope';
import type { Person } from './models';

/** A new person joins a group, which supplies what its people have in common. */
export const personJoins = event<{ scope: Scope; groupId: string; person: Person; transaction: Transaction }>();
