import { Umzug, type UmzugStorage } from 'umzug';
import { execute, select, type Database } from './connection';
import { foundation } from './migrations/0001-foundation';
import { lighterResults } from './migrations/0002-lighter-results';
import { itemsWhole } from './migrations/0003-items-whole';
import { setUp } from './migrations/0004-set-up';
import { payPeriod } from './migrations/0006-pay-period';
import { time } from './migrations/0007-time';
import { leaving } from './migrations/0008-leaving';
import { leave } from './migrations/0009-leave';
import { clock } from './migrations/0011-clock';
import { quantities } from './migrations/0012-quantities';
import { cutOff } from './migrations/0013-cut-off';
import { ownView } from './migrations/0014-own-view';
import { sheetSpeed } from './migrations/0015-sheet-speed';
import { timeChanges } from './migrations/0016-time-changes';
import { positions } from './migrations/0017-positions';
import { recalculations } from './migrations/0018-recalculations';
import { orderOfOneOffs } from './migrations/0019-order-of-one-offs';
import { leavingsAsEntered } from './migrations/0020-leavings-as-entered';
import { runSummaryByMail } from './migrations/0021-run-summary-by-mail';
import { twoAtOnce } from './migrations/0022-two-at-once';
import { postingInSets } from './migrations/0023-posting-in-sets';
import { signingIn } from './migrations/0024-signing-in';
import { businessDays } from './migrations/0025-business-days';
import { timeZones } from './migrations/0033-time-zones';
import { taxMethods } from './migrations/0034-tax-methods';
import { filingEntries } from './migrations/0035-filing-entries';
import { payments } from './migrations/0036-payments';
import { journal } from './migrations/0037-journal';
import { moneyWhole } from './migrations/0038-money-whole';
import { agencies } from './migrations/0039-agencies';
import { yearEnd } from './migrations/0040-year-end';
import { beforeThisSystem } from './migrations/0041-before-this-system';
import { beingPlayed } from './migrations/0042-being-played';
import { reckonings } from './migrations/0043-reckonings';
import { leaveByLaw } from './migrations/0044-leave-by-law';
import { enrolment } from './migrations/0045-enrolment';
import { notices } from './migrations/0046-notices';
import { movedItems } from './migrations/0047-moved-items';
import { earnedIn } from './migrations/0048-earned-in';
import { filings } from './migrations/0032-filings';
import { destinations } from './migrations/0031-destinations';
import { countsOn } from './migrations/0030-counts-on';
import { places } from './migrations/0029-places';
import { runTotals } from './migrations/0028-run-totals';
import { passkeys } from './migrations/0027-passkeys';
import { sumsByYear } from './migrations/0026-sums-by-year';
import { corrections } from './migrations/0010-corrections';
import { peopleWhole } from './migrations/0005-people-whole';

const MIGRATIONS = [
  { name: '0001-foundation', sql: foundation },
  { name: '0002-lighter-results', sql: lighterResults },
  { name: '0003-items-whole', sql: itemsWhole },
  { name: '0004-set-up', sql: setUp },
  { name: '0005-people-whole', sql: peopleWhole },
  { name: '0006-pay-period', sql: payPeriod },
  { name: '0007-time', sql: time },
  { name: '0008-leaving', sql: leaving },
  { name: '0009-leave', sql: leave },
  { name: '0010-corrections', sql: corrections },
  { name: '0011-clock', sql: clock },
  { name: '0012-quantities', sql: quantities },
  { name: '0013-cut-off', sql: cutOff },
  { name: '0014-own-view', sql: ownView },
  { name: '0015-sheet-speed', sql: sheetSpeed },
  { name: '0016-time-changes', sql: timeChanges },
  { name: '0017-positions', sql: positions },
  { name: '0018-recalculations', sql: recalculations },
  { name: '0019-order-of-one-offs', sql: orderOfOneOffs },
  { name: '0020-leavings-as-entered', sql: leavingsAsEntered },
  { name: '0021-run-summary-by-mail', sql: runSummaryByMail },
  { name: '0022-two-at-once', sql: twoAtOnce },
  { name: '0023-posting-in-sets', sql: postingInSets },
  { name: '0024-signing-in', sql: signingIn },
  { name: '0025-business-days', sql: businessDays },
  { name: '0026-sums-by-year', sql: sumsByYear },
  { name: '0027-passkeys', sql: passkeys },
  { name: '0028-run-totals', sql: runTotals },
  { name: '0029-places', sql: places },
  { name: '0030-counts-on', sql: countsOn },
  { name: '0031-destinations', sql: destinations },
  { name: '0032-filings', sql: filings },
  { name: '0033-time-zones', sql: timeZones },
  { name: '0034-tax-methods', sql: taxMethods },
  { name: '0035-filing-entries', sql: filingEntries },
  { name: '0036-payments', sql: payments },
  { name: '0037-journal', sql: journal },
  { name: '0038-money-whole', sql: moneyWhole },
  { name: '0039-agencies', sql: agencies },
  { name: '0040-year-end', sql: yearEnd },
  { name: '0041-before-this-system', sql: beforeThisSystem },
  { name: '0042-being-played', sql: beingPlayed },
  { name: '0043-reckonings', sql: reckonings },
  { name: '0044-leave-by-law', sql: leaveByLaw },
  { name: '0045-enrolment', sql: enrolment },
  { name: '0046-notices', sql: notices },
  { name: '0047-moved-items', sql: movedItems },
  { name: '0048-earned-in', sql: earnedIn },
];

/** Brings the database to the newest schema: all that is missing or nothing. Forward only. */
export async function migrate(database: Database): Promise<string[]> {
  await execute(database, 'create table if not exists migrations (name text primary key, applied_at timestamptz not null default now())');
  const storage: UmzugStorage = {
    logMigration: async ({ name }) => void (await execute(database, 'insert into migrations (name) values (:name)', { name })),
    unlogMigration: async () => Promise.reject(new Error('migrations go forward only')),
    executed: async () => (await select<{ name: string }>(database, 'select name from migrations order by name')).map((row) => row.name),
  };
  const umzug = new Umzug({
    migrations: MIGRATIONS.map(({ name, sql }) => ({
      name,
      up: () => database.transaction(async (transaction) => void (await database.query(sql, { transaction }))),
    })),
    storage,
    logger: undefined,
  });
  // Of several processes that start at once, one brings the schema up to date and the others find it so.
  return database.transaction(async () => {
    await execute(database, `select pg_advisory_xact_lock(hashtextextended('woodruff migrations', 0))`);
    return (await umzug.up()).map((migration) => migration.name);
  });
}
