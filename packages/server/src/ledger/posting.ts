import { execute, select, type Transaction } from '../database/connection';
import { changing } from '../users/changing';
import { posted } from './events';
import { packFor, type Scope } from '../scope';

const COLUMNS = 'employer_id, person_id, run_id, payslip_id, pay_date, counts_on, tax_year, kind, code, label, amount, quantity';

/** Sums by person, tax year and code of rows of a person, a tax year, a code and an amount. */
const summed = (rows: string): string =>
  `select person_id, tax_year, jsonb_object_agg(code, amount) as sums from (select person_id, tax_year, code, sum(amount) as amount from (${rows}) as lines group by 1, 2, 3) as by_code group by 1, 2`;

/** Keeps the totals of runs as they stand now that something of them was posted. */
const keepTotals = (scope: Scope, which: string, replacements: Record<string, unknown>, transaction: Transaction): Promise<unknown> =>
  execute(scope.database, `update pay_runs set totals = totals_of_run(id) where ${which}`, replacements, transaction);

/** Inserts lines, and adds their sums by person to those of the tax year. */
async function post(
  scope: Scope,
  lines: string,
  sums: string,
  replacements: Record<string, unknown>,
  transaction: Transaction,
): Promise<void> {
  // Sums of thousands are made in memory.
  await execute(scope.database, `set local work_mem = '128MB'`, {}, transaction);
  const values = { ...replacements, employer: scope.employer.id };
  await execute(scope.database, `insert into ledger_lines (${COLUMNS}) ${lines}`, values, transaction);
  await execute(
    scope.database,
    `insert into year_sums (employer_id, person_id, tax_year, sums) select :employer, person_id, tax_year, sums from (${sums}) as added
     on conflict (person_id, tax_year) do update set sums = sums_added(year_sums.sums, excluded.sums)`,
    values,
    transaction,
  );
}

type Drafts = 'y.run_id = :run' | 'y.id in (:payslips)';

const drafts = (which: Drafts): string =>
  `payslips y join payslip_results x on x.payslip_id = y.id
   cross join lateral jsonb_to_recordset(x.lines) as l(kind text, code text, label text, amount bigint, quantity numeric)
   where ${which} and y.included and y.state = 'draft'`;

const linesOfDrafts = (which: Drafts): string =>
  `select :employer, y.person_id, y.run_id, y.id, :payDate, :payDate, :taxYear, l.kind, l.code, l.label, l.amount, l.quantity from ${drafts(which)}`;

/** A run holds a person once, so that each payslip is summed by itself, which is much cheaper. */
const SUMS_OF_RUN = `select y.person_id, :taxYear as tax_year, (select jsonb_object_agg(code, amount) from (select code, sum(amount) as amount from jsonb_to_recordset(x.lines) as l(code text, amount bigint) group by code) as by_code) as sums
   from payslips y join payslip_results x on x.payslip_id = y.id where y.run_id = :run and y.included and y.state = 'draft' and x.lines <> '[]'`;

/** Posts the lines of a run's payslips to the ledger and adds them to the balances, in the transaction given. */
export async function postRun(scope: Scope, run: { id: string; payDate: string }, transaction: Transaction): Promise<void> {
  const taxYear = packFor(scope).taxYearOf(run.payDate).label;
  await post(scope, linesOfDrafts('y.run_id = :run'), SUMS_OF_RUN, { run: run.id, payDate: run.payDate, taxYear }, transaction);
  await execute(
    scope.database,
    `update payslips set state = 'posted' where run_id = :run and included and state = 'draft'`,
    { run: run.id },
    transaction,
  );
  await keepTotals(scope, 'id = :run', { run: run.id }, transaction);
  await posted.tell({ scope, lines: 'l.run_id = :run', values: { run: run.id }, transaction });
}

/** Posts payslips of a run that is approved already, as opening balances are. */
export async function postPayslips(
  scope: Scope,
  run: { payDate: string },
  payslips: readonly string[],
  transaction: Transaction,
): Promise<void> {
  const taxYear = packFor(scope).taxYearOf(run.payDate).label;
  const sums = summed(`select y.person_id, :taxYear as tax_year, l.code, l.amount from ${drafts('y.id in (:payslips)')}`);
  await post(scope, linesOfDrafts('y.id in (:payslips)'), sums, { payslips, payDate: run.payDate, taxYear }, transaction);
  await execute(scope.database, `update payslips set state = 'posted' where id in (:payslips)`, { payslips }, transaction);
  await keepTotals(scope, 'id in (select run_id from payslips where id in (:payslips))', { payslips }, transaction);
  await posted.tell({ scope, lines: 'l.payslip_id in (:payslips)', values: { payslips }, transaction });
}

/**
 * Posts the negated lines of posted payslips, each under the payslip that reverses it. They are dated by the reversal, and
 * count where the lines counted that they take back: the day, the quarter and the tax year of the original.
 */
export async function postReversals(scope: Scope, reversals: readonly string[], payDate: string, transaction: Transaction): Promise<void> {
  const reversed = 'payslips r join ledger_lines l on l.payslip_id = r.reverses where r.id in (:reversals)';
  await post(
    scope,
    `select l.employer_id, l.person_id, r.run_id, r.id, :payDate, l.counts_on, l.tax_year, l.kind, l.code, l.label, -l.amount, -l.quantity
     from ${reversed} order by l.id`,
    summed(`select l.person_id, l.tax_year, l.code, -l.amount as amount from ${reversed}`),
    { reversals, payDate },
    transaction,
  );
  await keepTotals(scope, 'id in (select run_id from payslips where id in (:reversals))', { reversals }, transaction);
  await posted.tell({ scope, lines: 'l.payslip_id in (:reversals)', values: { reversals }, transaction });
}

/** Each amount by a number of 64 bits that its person, year and code come to: one sum tells whether all of them agree. */
const PRINT = 'coalesce(sum(amount::numeric * uuid_hash_extended(person_id, hashtextextended(code, hashtextextended(tax_year, 0)))), 0)';

/** Balances, of one tax year or of all, that do not equal the sums of the ledger; empty when all is well. */
export const balancesOutOfStep = async (scope: Scope, taxYear?: string): Promise<unknown[]> => {
  const year = taxYear === undefined ? '' : 'and tax_year = :taxYear';
  // Which do not agree is looked for only where the two sides differ: that costs several times as much.
  const [all] = await select<{ agree: boolean }>(
    scope.database,
    `select (select ${PRINT} from balances where employer_id = :employer ${year}) = (select ${PRINT} from ledger_lines where employer_id = :employer ${year}) as agree`,
    { employer: scope.employer.id, taxYear },
  );
  if (all?.agree) return [];
  return execute(
    scope.database,
    `select coalesce(b.person_id, l.person_id) as person, coalesce(b.code, l.code) as code, b.amount as balance, l.amount as ledger
     from (select * from balances where employer_id = :employer ${year}) b
     full join (select person_id, tax_year, code, sum(amount) as amount from ledger_lines where employer_id = :employer ${year} group by person_id, tax_year, code) l
       on l.person_id = b.person_id and l.tax_year = b.tax_year and l.code = b.code
     where b.amount is distinct from l.amount`,
    { employer: scope.employer.id, taxYear },
  );
};

/** Makes the balances anew from the ledger: for use when they were found out of step. */
export async function rebuildBalances(scope: Scope): Promise<void> {
  await changing(scope, async (transaction) => {
    await execute(scope.database, 'delete from year_sums where employer_id = :employer', { employer: scope.employer.id }, transaction);
    await execute(
      scope.database,
      `insert into year_sums (employer_id, person_id, tax_year, sums)
       select employer_id, person_id, tax_year, jsonb_object_agg(code, amount)
       from (select employer_id, person_id, tax_year, code, sum(amount) as amount from ledger_lines where employer_id = :employer group by 1, 2, 3, 4) as summed group by 1, 2, 3`,
      { employer: scope.employer.id },
      transaction,
    );
  });
}
