import type { Transaction } from '../database/connection';
import type { Scope } from '../scope';
import type { Database } from '../database/connection';
import { event } from '../events';

/** The business date has moved forward. */
export const dayMoved = event<{ database: Database; employerId: string }>();

/** Registrations of the employer are others now; the scope has the new ones. */
export const registered = event<{ scope: Scope; transaction: Transaction }>();
