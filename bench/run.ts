import { spawn } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { addDays, computePayslip, type PayslipInput } from '@woodruff/core';
import {
  acceptPoint,
  approveRun,
  behindRun,
  calculateRun,
  checkImport,
  checkOpenings,
  copyInto,
  execute,
  find,
  importOpenings,
  importPeople,
  importTime,
  listOfFilings,
  listRuns,
  migrate,
  openDatabase,
  openPoints,
  openRun,
  readEnvironment,
  RESULT_COLUMNS,
  reviewOf,
  runView,
  scopeOf,
  select,
  setTimeState,
  setVault,
  startRun,
  startThreads,
  stopThreads,
  timePage,
  todayView,
  type Database,
  type Scope,
} from '@woodruff/server';
import { company, PASSWORD } from './company';
import { measureLoad } from './load';
import { byDeposit, journalOfRun, payments, tieOuts } from './money';
import { measureSheet } from './sheet';
import { yearEnd } from './year-end';
import { backInTime } from './years';

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
const count = (number: number): string => number.toLocaleString('en');
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
      note('review of 10,000 people', await timed(() => reviewOf(scope, id)), 'ms');
      note('the people behind a sum of 10,000', await timed(() => behindRun(scope, id, { code: 'us.oasdi' })), 'ms');
      await search(scope);
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

/** 5,000 people with a rate, a second rate, tax details and three recurring items, from a CSV file; then the same file again. */
async function people(database: Database): Promise<void> {
  const { scope } = await company(database, 1);
  const head =
    'Code,Given names,Family name,Date of birth,Hire date,Pay schedule,Standard hours,Rate,Rate per,Second rate,National number,Routing number,Account number,Form used,"Filing status, step 1(c)",Lives in,Works in,health,deferral,dues';
  const rows = Array.from({ length: 5000 }, (_none, index) =>
    [
      `I${index}`,
      'Person',
      `Imported ${index}`,
      addDays('1965-01-01', (index * 37) % 14_000),
      '2025-06-02',
      'Fortnightly',
      '80',
      (18 + (index % 40) / 2).toFixed(2),
      'hour',
      '17.25',
      `${100 + (index % 500)}-${String(10 + (index % 89))}-${String(1 + index).padStart(4, '0')}`,
      '123456780',
      String(4_000_000 + index),
      '2020',
      'single',
      'TX',
      'TX',
      '49.50',
      '5',
      '18.50',
    ].join(','),
  );
  const file = { name: 'people.csv', content: Buffer.from([head, ...rows].join('\n')).toString('base64') };
  const problems: unknown[] = [];
  note('5,000 people from a file, checked', await timed(async () => problems.push(...(await checkImport(scope, file)).problems)), 'ms');
  if (problems.length) throw new Error(`the file of the benchmark is not taken: ${JSON.stringify(problems[0])}`);
  note('5,000 people from a file, imported', await timed(() => importPeople(scope, file)), 'ms');
  note('the same file again', await timed(() => importPeople(scope, file)), 'ms');
  await openings(scope, rows.length);
}

/** What an earlier system paid to those 5,000, from a file, posted as lines of their own kind. */
async function openings(scope: Scope, count: number): Promise<void> {
  const head = 'Code,Paid until,ordinary,health,dues,Federal income tax,Social security,Medicare';
  const lines = Array.from({ length: count }, (_none, index) => {
    const pay = 40_000 + (index % 200) * 100;
    const tax = (rate: number) => (pay * rate).toFixed(2);
    return [`I${index}`, '2025-12-26', pay.toFixed(2), '1287.00', '481.00', tax(0.09), tax(0.062), tax(0.0145)].join(',');
  });
  const file = {
    name: 'earlier.csv',
    content: Buffer.from([head, ...lines].join('\n')).toString('base64'),
    acceptDifferences: true,
  };
  const { problems } = await checkOpenings(scope, file);
  if (problems.length) throw new Error(`the file of earlier pay is not taken: ${JSON.stringify(problems[0])}`);
  note('earlier pay of 5,000 people from a file, checked', await timed(() => checkOpenings(scope, file)), 'ms');
  note('earlier pay of 5,000 people from a file, posted', await timed(() => importOpenings(scope, file)), 'ms');
}

/** A fortnight of 1,000 people day by day: from a file, approved into an open run, and looked at. */
async function time(database: Database): Promise<void> {
  const { scope, scheduleId } = await company(database, 1000);
  const { id, ms } = await calculated(scope, scheduleId, 0);
  const { from } = PERIOD(0);
  const days = Array.from({ length: 14 }, (_none, day) => addDays(from, day)).filter((_day, index) => ![0, 6].includes(index % 7));
  const lines = Array.from({ length: 1000 }, (_none, index) =>
    days.map((day) => `B${index + 1},${day},07:00,16:${10 + (index % 50)},30`),
  ).flat();
  const file = {
    scheduleId,
    from,
    name: 'time.csv',
    content: Buffer.from(['code,date,begin,end,break', ...lines].join('\n')).toString('base64'),
  };
  note('10,000 lines of time of 1,000 people from a file', await timed(() => importTime(scope, file)), 'ms');
  const page = await timePage(scope, { scheduleId, from });
  const approved = { scheduleId, from, personIds: page.rows.map((row) => row.personId), state: 'approved' as const, comment: '' };
  const approval = await timed(() => setTimeState(scope, approved));
  note('1,000 sheets approved; so many ask for the run to be worked out again', approval, 'ms');
  note('the same ÷ the run worked out without them', approval / ms, 'times');
  note('the time page of 1,000 people', await timed(() => timePage(scope, { scheduleId, from })), 'ms');
  note('the run with time kept by day, worked out', await timed(() => calculateRun(scope, id)), 'ms');
}

/** What is typed into the bar's box, among 10,000 people. */
async function search(scope: Scope): Promise<void> {
  const times: number[] = [];
  for (const text of ['0', 'person 09', '09999', 'B77', 'health', 'jan 2026', 'nobody at all', 'ers', 'P', '5000'])
    times.push(await timed(() => find(scope, text)));
  note('search among 10,000 people, median of 10', median(times), 'ms');
  note('search among 10,000 people, slowest of 10', Math.max(...times), 'ms');
}

const environment = readEnvironment();
setVault(environment.WOODRUFF_KEY);
const database = openDatabase(environment.DATABASE_URL);
await migrate(database);
startThreads(environment.CALCULATION_THREADS);

/** A run of 10,000 people to look at, when only the sheet is measured. */
async function largeRun(): Promise<{ runId: string; email: string }> {
  const { scope, scheduleId, email } = await company(database, 10_000);
  const { id } = await calculated(scope, scheduleId, 0);
  note('review of 10,000 people', await timed(() => reviewOf(scope, id)), 'ms');
  note('the people behind a sum of 10,000', await timed(() => behindRun(scope, id, { code: 'us.oasdi' })), 'ms');
  return { runId: id, email };
}

/** Approving many people, against COPY of the same ledger lines into a table with the same columns and indexes. */
async function approval(people: number): Promise<void> {
  const { scope, scheduleId } = await company(database, people);
  const { id } = await calculated(scope, scheduleId, 0);
  const fresh = await scopeOf(database, scope.user.id, scope.employer.id);
  for (const point of await openPoints(fresh, await openRun(fresh, id)))
    if (point.weight === 'look') await acceptPoint(fresh, id, point.key, 'bench');
  const took = await timed(async () => approveRun(fresh, id, (await runView(fresh, id)).version, 'bench-approval'));
  const columns = 'employer_id, person_id, run_id, payslip_id, pay_date, counts_on, tax_year, kind, code, label, amount, quantity';
  await execute(database, 'drop table if exists copied_lines');
  await execute(database, 'create table copied_lines (like ledger_lines including all)');
  const lines = await select<{ line: string }>(
    database,
    `select array_to_string(array[employer_id::text, person_id::text, run_id::text, payslip_id::text, pay_date::text, counts_on::text, tax_year, kind, code, label, amount::text, coalesce(quantity::text, '\\N')], E'\t') || E'\n' as line from ledger_lines where run_id = :id`,
    { id },
  );
  const copy = await timed(() =>
    database.transaction((transaction) =>
      copyInto(
        transaction,
        'copied_lines',
        columns.split(', '),
        lines.map(({ line }) => line),
      ),
    ),
  );
  note(`approving and posting ${count(people)} people`, took, 'ms');
  note(`COPY of the same ${count(lines.length)} ledger lines`, copy, 'ms');
  note('approved and posted ÷ COPY (wanted: at most 2)', took / copy, 'times');
}

/** Money out: 10,000 payments with their file and journal, and the tie-outs of a year. */
async function money(): Promise<void> {
  const { scope, scheduleId } = await company(database, 10_000);
  await byDeposit(database, scope);
  const { id } = await calculated(scope, scheduleId, 0);
  await approved(scope, id, 'bench-money');
  await journalOfRun(scope, id, 10_000, note);
  await yearEnd(await scopeOf(database, scope.user.id, scope.employer.id), 10_000, note);
  await payments(database, scope, PERIOD(0).payDate, note);
  const year = await company(database, 1000);
  await byDeposit(database, year.scope);
  for (let index = 0; index <= 25; index++) {
    const { id: run } = await startRun(year.scope, { scheduleId: year.scheduleId, ...PERIOD(index) });
    await calculateRun(year.scope, run);
    await approved(year.scope, run, `bench-money-${index}`);
  }
  await tieOuts(year.scope, 26, 1000, note);
}

async function approved(scope: Scope, run: string, key: string): Promise<void> {
  const fresh = await scopeOf(database, scope.user.id, scope.employer.id);
  for (const point of await openPoints(fresh, await openRun(fresh, run)))
    if (point.weight === 'look') await acceptPoint(fresh, run, point.key, 'bench');
  await approveRun(fresh, run, (await runView(fresh, run)).version, key);
}

/** Today, the list of runs and that of returns with one, five and ten years behind them; wanted: flat. */
async function years(): Promise<void> {
  const { scope, scheduleId } = await company(database, 100);
  const { id } = await calculated(scope, scheduleId, 0);
  const fresh = await scopeOf(database, scope.user.id, scope.employer.id);
  for (const point of await openPoints(fresh, await openRun(fresh, id)))
    if (point.weight === 'look') await acceptPoint(fresh, id, point.key, 'bench');
  await approveRun(fresh, id, (await runView(fresh, id)).version, 'bench-years');
  let known = 0;
  const first: Record<string, number> = {};
  for (const past of [1, 5, 10]) {
    await backInTime(database, fresh, id, { from: known + 1, to: past * 26 - 1 });
    known = past * 26 - 1;
    for (const [what, look] of Object.entries({ Today: todayView, 'the list of runs': listRuns, 'the list of returns': listOfFilings })) {
      const times: number[] = [];
      for (let turn = 0; turn < 9; turn++) times.push(await timed(() => look(fresh)));
      const took = median(times);
      note(`${what}, ${past} ${past === 1 ? 'year' : 'years'} behind it`, took, 'ms');
      first[what] ??= took;
      if (past === 10) note(`${what}, ten years ÷ one`, took / (first[what] ?? took), 'times');
    }
  }
}

// `npm run bench -- money` measures payments, journal and tie-outs, `-- years` lists with history, `-- sheet` the sheet alone, `-- approval` approving, `-- load` many at once.
const onlyLoad = process.argv[2] === 'load';
const onlySheet = process.argv[2] === 'sheet';
if (!onlySheet && !onlyLoad && process.argv[2] !== 'years' && process.argv[2] !== 'money')
  for (const people of [4000, 10_000]) await approval(people);
if (process.argv[2] === 'approval') process.exit(0);
if (process.argv[2] === 'money' || (!onlySheet && !onlyLoad && process.argv[2] !== 'years')) await money();
if (process.argv[2] === 'money') process.exit(0);
if (process.argv[2] === 'years' || (!onlySheet && !onlyLoad)) await years();
if (process.argv[2] === 'years') process.exit(0);
if (!onlySheet && !onlyLoad) {
  core();
  await people(database);
  await time(database);
}
const many = onlySheet ? null : await company(database, 1000);
const manyRun = many && (await calculated(many.scope, many.scheduleId, 0)).id;
const large = onlyLoad ? null : onlySheet ? await largeRun() : await runs(database);
await stopThreads();
// PostgreSQL tidies up after the bulk of it once, now, and not on one of two cores while the sheet is measured.
await execute(database, 'vacuum analyze');
const server = spawn('node', ['packages/server/dist/main.js'], { stdio: 'inherit' });
try {
  const address = `http://127.0.0.1:${environment.PORT}`;
  if (many && manyRun)
    for (const [what, value, unit] of await measureLoad(address, { email: many.email, password: PASSWORD, run: manyRun, seconds: 120 }))
      note(what, value, unit);
  if (large)
    for (const [what, value, unit] of await measureSheet(environment.PORT, large.runId, large.email, PASSWORD)) note(what, value, unit);
} finally {
  server.kill('SIGTERM');
  await database.close();
}
process.stdout.write(`${rows.map((row) => `${row.what.padEnd(72)} ${String(row.value).padStart(10)} ${row.unit}`).join('\n')}\n`);
mkdirSync('bench/results', { recursive: true });
writeFileSync(`bench/results/${onlySheet ? 'sheet' : onlyLoad ? 'load' : 'latest'}.json`, `${JSON.stringify(rows, null, 2)}\n`);
