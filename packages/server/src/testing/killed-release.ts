import '../subscriptions';
import { openDatabase } from '../open-database';
import { exchangeWithBank } from '../payments/exchange';
import { releaseBatch } from '../payments/release';
import { holidaysOf } from '../scope';
import { StandInBank } from '../standins/bank/bank';
import { scopeOf } from '../users/service';
import { setVault } from '../vault/vault';

// Releases a batch and hands its file in, and is killed after so many statements to the database.
const { url, key, employer, user, batch, version, after } = JSON.parse(process.env['KILLED'] ?? '{}') as Record<string, string> & {
  version: number;
  after: number;
};
setVault(key ?? '');
const database = openDatabase(url ?? '', 2);
let left = after;
const query = database.query.bind(database) as (...of: unknown[]) => Promise<unknown>;
Object.assign(database, {
  query: async (...of: unknown[]): Promise<unknown> => {
    const answer = await query(...of);
    left -= 1;
    if (left === 0) process.kill(process.pid, 'SIGKILL');
    return answer;
  },
});
const scope = await scopeOf(database, user ?? '', employer ?? '');
// Released by the one before, it is to be handed in.
await releaseBatch(scope, batch ?? '', { version, balanced: true }).catch(() => undefined);
await exchangeWithBank(scope, new StandInBank(database, holidaysOf(scope)));
await database.close();
