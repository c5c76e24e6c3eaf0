import {
  execute,
  migrate,
  openDatabase,
  readEnvironment,
  select,
  setVault,
  startThreads,
  stopThreads,
  type Database,
} from '@woodruff/server';
import { playLampWorks } from './lamp-works';
import { DEMO_DAY, playDemo } from './play';

/** Loads the demo into an empty database. One in which the year was played to its end is left alone; one that was cut off begins again. */
const environment = readEnvironment();
setVault(environment.WOODRUFF_KEY);
const database = openDatabase(environment.DATABASE_URL);

const say = (sentence: string) => process.stderr.write(`${sentence}\n`);

interface Found {
  employers: number;
  real: number;
  whole: boolean;
}
const look = async (): Promise<Found> => {
  const [found] = await select<Found>(
    database,
    'select count(*)::int as employers, count(*) filter (where not demo)::int as real, exists (select 1 from demo_played) as whole from employers',
  );
  return found ?? { employers: 0, real: 0, whole: false };
};

/** The ledger refuses to be emptied: half a demo goes with its whole schema. */
async function beginAgain(on: Database): Promise<void> {
  say('The demo was cut off while it was loaded. It begins again.');
  await execute(on, 'drop schema public cascade');
  await execute(on, 'create schema public');
  await execute(on, 'drop schema if exists pgboss cascade');
  for (const schema of ['bank', 'agency']) await execute(on, `drop schema if exists ${schema} cascade`);
  await migrate(on);
}

try {
  await migrate(database);
  const found = await look();
  const half = found.employers > 0 && found.real === 0 && !found.whole;
  if (half) await beginAgain(database);
  if (found.employers === 0 || half) {
    say('Loading the demo: playing the year of Quillmere Glassworks …');
    startThreads(environment.CALCULATION_THREADS);
    const { viewer: _viewer, ...users } = await playDemo(database, (sentence) => say(`  ${sentence}`));
    say('Playing the years of Tamarind Lamp Works …');
    await playLampWorks(database, DEMO_DAY, users);
    await execute(database, 'insert into demo_played default values');
    await stopThreads();
  }
} catch (error) {
  say(`The demo could not be loaded: ${error instanceof Error ? (error.stack ?? error.message) : String(error)}`);
  process.exitCode = 1;
} finally {
  await database.close();
}
