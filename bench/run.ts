import { spawn } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { addDays, computePayslip, type PayslipInput } from '@woodruff/core';
import {
  acceptPoint,
  approveRun,
  calculateRun,
  copyInto,
  execute,
  migrate,
  openDatabase,
  openPoints,
  openRun,
  readEnvironment,
  RESULT_COLUMNS,
  runView,
  scopeOf,
  select,
  setVault,
  startRun,
  startThreads,
  stopThreads,
  type Database,
  type Scope,
} from '@woodruff/server';
import { company, PASSWORD } from './company';
import { measureSheet } from './sheet';

/** Results of a run as printed and kept; times in milliseconds. */
interface Row {
  what: string;
  value: number;
  unit: string;
}
const rows: Row[] = [];
const note = (what: string, value: number, unit: string) => {
  rows.push({ what, value: Math.round(value * 100) / 100, unit });
  process.stderr.write(`  ${what}: ${Math.round(value * 100) / 100} ${unit}\n`);
};
const timed = async (work: () => Promise<unknown>): Promise<number> => {
  const start = performance.now();
  await work();
  return performance.now() - start;
};
const median = (values: number[]): number => values.sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0;

function core(): void {
  const input = JSON.parse(readFileSync('docs/examples/payslip-glassblower.json', 'utf8')) as PayslipInput;
  for (const workings of [false, true]) {
    for (let warm = 0; warm < 1500; warm++) computePayslip(input, { workings });
    const count = 4000;
    const start = performance.now();
    for (let index = 0; index < count; index++) computePayslip(input, { workings });
    note(`core, one thread, ${workings ? 'with' : 'without'} workings`, count / ((performance.now() - start) / 1000), 'payslips/s');
  }
}

const PERIOD = (index: number) => {
  const from = addDays('2025-12-21', index * 14);
  return { from, to: addDays(from, 13), payDate: index === 25 ? '2026-12-24' : addDays(from, 19) };
};

async function calculated(scope: Scope, scheduleId: string, index: number): Promise<{ id: string; ms: number }> {
  const { id } = await startRun(scope, { scheduleId, ...PERIOD(index) });
  await calculateRun(scope, id);
  const times: number[] = [];
  for (let turn = 0; turn < 3; turn++) times.push(await timed(() => calculateRun(scope, id)));
  return { id, ms: median(times) };
}

/** The same rows written by COPY alone, into a table with the same columns, checks and indexes. */
async function copyAlone(database: Database, runId: string): Promise<number> {
  const columns = RESULT_COLUMNS.join(', ');
  await execute(database, 'drop table if exists copied');
  await execute(database, 'create table copied (like payslip_results including all)');
  const stored = await select<Record<string, unknown>>(
    database,
    `select ${RESULT_COLUMNS.map((column) => `${column}::text as ${column}`).join(', ')} from payslip_results where run_id = :runId`,
    { runId },
  );
  const text = stored.map(
    (row) =>
      `${RESULT_COLUMNS.map((column) => String(row[column]).replace(/\\/g, '\\\\').replace(/\t/g, '\\t').replace(/\n/g, '\\n')).join('\t')}\n`,
  );
  const times: number[] = [];
  for (let turn = 0; turn < 3; turn++) {
    await execute(database, 'truncate copied');
    times.push(await timed(() => database.transaction((transaction) => copyInto(transaction, `copied`, RESULT_COLUMNS, text))));
  }
  await execute(database, `select count(${columns.split(',')[0]}) from copied`);
  return median(times);
}

async function runs(database: Database): Promise<{ runId: string; email: string; employer: string }> {
  let large = { runId: '', email: '', employer: '' };
  for (const people of [100, 1000, 10_000]) {
    const { scope, scheduleId, email } = await company(database, people);
    const { id, ms } = await calculated(scope, scheduleId, 0);
    note(`run of ${people} people, calculated and saved`, ms, 'ms');
    note(`cost per person at ${people} people`, ms / people, 'ms');
    if (people === 10_000) {
      const copy = await copyAlone(database, id);
      note('COPY of the same 10,000 rows', copy, 'ms');
      note('calculated and saved ÷ COPY (wanted: at most 3)', ms / copy, 'times');
      large = { runId: id, email, employer: scope.employer.id };
    }
  }
  const { scope, scheduleId } = await company(database, 1000);
  for (let index = 0; index <= 25; index++) {
    const { id, ms } = await calculated(scope, scheduleId, index);
    if (index === 0 || index === 12 || index === 25)
      note(`cost per person at 1,000 people with ${index} earlier runs in the year`, ms / 1000, 'ms');
    const fresh = await scopeOf(database, scope.user.id, scope.employer.id);
    for (const point of await openPoints(fresh, await openRun(fresh, id)))
      if (point.weight === 'look') await acceptPoint(fresh, id, point.key, 'bench');
    const approval = await timed(async () => approveRun(fresh, id, (await runView(fresh, id)).version, `bench-${index}`));
    if (index === 0 || index === 24) note(`approving and posting 1,000 people, run ${index + 1}`, approval, 'ms');
  }
  return large;
}

const environment = readEnvironment();
setVault(environment.WOODRUFF_KEY);
const database = openDatabase(environment.DATABASE_URL);
await migrate(database);
startThreads(environment.CALCULATION_THREADS);

/** A run of 10,000 people to look at, when only the sheet is measured. */
async function largeRun(): Promise<{ runId: string; email: string }> {
  const { scope, scheduleId, email } = await company(database, 10_000);
  return { runId: (await calculated(scope, scheduleId, 0)).id, email };
}

// `npm run bench -- sheet` measures the sheet alone.
const onlySheet = process.argv[2] === 'sheet';
if (!onlySheet) core();
const large = onlySheet ? await largeRun() : await runs(database);
await stopThreads();
const server = spawn('node', ['packages/server/dist/main.js'], { stdio: 'inherit' });
try {
  for (const [what, value, unit] of await measureSheet(environment.PORT, large.runId, large.email, PASSWORD)) note(what, value, unit);
} finally {
  server.kill('SIGTERM');
  await database.close();
}
process.stdout.write(`${rows.map((row) => `${row.what.padEnd(72)} ${String(row.value).padStart(10)} ${row.unit}`).join('\n')}\n`);
mkdirSync('bench/results', { recursive: true });
writeFileSync(`bench/results/${onlySheet ? 'sheet' : 'latest'}.json`, `${JSON.stringify(rows, null, 2)}\n`);
