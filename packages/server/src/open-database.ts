import { definePayItems } from './pay-items/models';
import { definePayRuns } from './calculation/models';
import { definePeople } from './people/models';
import { defineUsers } from './users/models';
import { connect, type Database } from './database/connection';

/** A connected database with all models defined on it. */
export function openDatabase(url: string, pool?: number): Database {
  const database = connect(url, pool);
  defineUsers(database);
  definePeople(database);
  definePayItems(database);
  definePayRuns(database);
  return database;
}
