/**
 * Loads the demo into an empty database: the first employer, whose people may sign in as soon as its year is played, and the
 * others behind it. `first` stops before those. What was played to its end is left alone; what was cut off begins again, unless
 * somebody has been at work since.
 */
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
import tarrant from './tarrant/employer.json';
import { playLampWorks } from './lamp-works';
import rhoslan from './rhoslan/employer.json';
import tamarind from './tamarind/employer.json';
import { playRopeworks } from './ropeworks';
import { playWeavers } from './weavers';
import { DEMO_DAY, playDemo } from './play';
import quillmere from './quillmere/employer.json';

/** Played behind the first. */
const OTHERS = [
  { name: tamarind.name, play: playLampWorks },
  { name: rhoslan.name, play: playWeavers },
  { name: tarrant.name, play: playRopeworks },
];
const firstOnly = process.argv[2] === 'first';
const environment = readEnvironment();
setVault(environment.WOODRUFF_KEY);
const database = openDatabase(environment.DATABASE_URL);

const say = (sentence: string) => process.stderr.write(`${sentence}\n`);

interface Found {
  employers: number;
  real: number;
  /** The first employer was played to its end. */
  whole: boolean;
  /** Another one was cut off while it was played. */
  cutOff: string | null;
  signedIn: boolean;
  names: string[];
}
const look = async (): Promise<Found> => {
  const [found] = await select<Found>(
    database,
    `select count(*)::int as employers, count(*) filter (where not demo)::int as real, exists (select 1 from demo_played) as whole,
            min(name) filter (where being_played) as "cutOff", coalesce(json_agg(name), '[]') as names,
            exists (select 1 from audit_entries where action = 'sign-in') as "signedIn" from employers`,
  );
  return found ?? { employers: 0, real: 0, whole: false, cutOff: null, signedIn: false, names: [] };
};

/** Who works at the demo's employers, by role: the first one's people. */
async function usersOf(on: Database): Promise<Record<string, string>> {
  const rows = await select<{ role: string; user: string }>(
    on,
    `select m.role, m.user_id as user from memberships m join employers e on e.id = m.employer_id
     where e.demo and e.name = :name and m.role in ('administrator', 'clerk', 'approver')`,
    { name: quillmere.name },
  );
  return Object.fromEntries(rows.map(({ role, user }) => [role, user]));
}

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
  let found = await look();
  const half = found.employers > 0 && found.real === 0 && (!found.whole || (found.cutOff && !found.signedIn));
  if (half) {
    await beginAgain(database);
    found = await look();
  }
  startThreads(environment.CALCULATION_THREADS);
  if (found.employers === 0) {
    say('Loading the demo: playing the year of Quillmere Glassworks …');
    await playDemo(database, (sentence) => say(`  ${sentence}`));
    await execute(database, 'insert into demo_played default values');
    found = await look();
  }
  // Beside employers of one's own there is no demo to add to.
  if (!firstOnly && found.real === 0 && found.whole)
    for (const { name, play } of OTHERS) {
      if (name === found.cutOff)
        say(
          `${name} was cut off while its years were played, and somebody has worked since: it stays closed. ./start --fresh begins the whole demo again.`,
        );
      if (found.names.includes(name)) continue;
      say(`Playing the years of ${name} …`);
      await play(database, DEMO_DAY, await usersOf(database));
      say(`${name} is open.`);
    }
  await stopThreads();
} catch (error) {
  say(`The demo could not be loaded: ${error instanceof Error ? (error.stack ?? error.message) : String(error)}`);
  process.exitCode = 1;
} finally {
  await database.close();
}
