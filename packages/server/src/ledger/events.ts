import type { Transaction } from '../database/connection';
import { event } from '../events';
import type { Scope } from '../scope';

/** Lines were posted to the ledger: which, as a condition on `l`, and its values. */
export const posted = event<{ scope: Scope; lines: string; values: Record<string, unknown>; transaction: Transaction }>();
