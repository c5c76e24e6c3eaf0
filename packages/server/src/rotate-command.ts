import { pino } from 'pino';
import { openDatabase } from './open-database';
import { readEnvironment } from './environment';
import { rotate } from './vault/rotate';
import { setVault } from './vault/vault';

// npm run rotate-key: WOODRUFF_KEY is the new key, WOODRUFF_OLD_KEYS those that are to be given up.
const environment = readEnvironment();
setVault(environment.WOODRUFF_KEY, environment.WOODRUFF_OLD_KEYS);
const database = openDatabase(environment.DATABASE_URL);
const done = await rotate(database);
pino().info({ values: done }, 'sealed under the new key; the old ones are not needed any more');
await database.close();
