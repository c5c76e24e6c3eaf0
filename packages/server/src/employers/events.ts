import type { Database } from '../database/connection';
import { event } from '../events';

/** The business date has moved forward. */
export const dayMoved = event<{ database: Database; employerId: string }>();
