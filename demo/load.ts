import { migrate, openDatabase, readEnvironment, select, setVault, startThreads, stopThreads } from '@woodruff/server';
import { playDemo } from './play';

/** Loads the demo into an empty database; a database with an employer in it is left alone. */
const environment = readEnvironment();
setVault(environment.WOODRUFF_KEY);
const database = openDatabase(environment.DATABASE_URL);
try {
  await migrate(database);
  const [found] = await select<{ employers: number }>(database, 'select count(*) as employers from employers');
  if (found?.employers === 0) {
    process.stderr.write('Loading the demo: playing the year of Quillmere Glassworks …\n');
    startThreads(environment.CALCULATION_THREADS);
    await playDemo(database, (sentence) => process.stderr.write(`  ${sentence}\n`));
    await stopThreads();
  }
} catch (error) {
  process.stderr.write(`The demo could not be loaded: ${error instanceof Error ? (error.stack ?? error.message) : String(error)}\n`);
  process.exitCode = 1;
} finally {
  await database.close();
}
