import { execute, type Transaction } from '../database/connection';
import { packFor, type Scope } from '../users/scope';

const COLUMNS = 'employer_id, person_id, run_id, payslip_id, pay_date, tax_year, kind, code, label, amount, quantity';

/** Inserts lines and adds them to the balances in one statement, so that nothing is read twice. */
async function post(scope: Scope, lines: string, replacements: Record<string, unknown>, transaction: Transaction): Promise<void> {
  // Lines of thousands are grouped in memory.
  await execute(scope.database, `set local work_mem = '128MB'`, {}, transaction);
  await execute(
    scope.database,
    `with posted as (insert into ledger_lines (${COLUMNS}) ${lines} returning employer_id, person_id, tax_year, code, amount)
     insert into balances (employer_id, person_id, tax_year, code, amount)
     select employer_id, person_id, tax_year, code, sum(amount) from posted group by employer_id, person_id, tax_year, code
     on conflict (person_id, tax_year, code) do update set amount = balances.amount + excluded.amount`,
    replacements,
    transaction,
  );
}

const linesOfDrafts = (which: 'y.run_id = :run' | 'y.id in (:payslips)'): string =>
  `select :employer, y.person_id, y.run_id, y.id, :payDate, :taxYear, l.kind, l.code, l.label, l.amount, l.quantity
   from payslips y join payslip_results x on x.payslip_id = y.id
   cross join lateral jsonb_to_recordset(x.lines) as l(kind text, code text, label text, amount bigint, quantity numeric)
   where ${which} and y.included and y.state = 'draft'`;

/** Posts the lines of a run's payslips to the ledger and adds them to the balances, in the transaction given. */
export async function postRun(scope: Scope, run: { id: string; payDate: string }, transaction: Transaction): Promise<void> {
  const taxYear = packFor(scope).taxYearOf(run.payDate).label;
  const replacements = { employer: scope.employer.id, run: run.id, payDate: run.payDate, taxYear };
  await post(scope, linesOfDrafts('y.run_id = :run'), replacements, transaction);
  await execute(
    scope.database,
    `update payslips set state = 'posted' where run_id = :run and included and state = 'draft'`,
    { run: run.id },
    transaction,
  );
}

/** Posts payslips of a run that is approved already, as opening balances are. */
export async function postPayslips(
  scope: Scope,
  run: { payDate: string },
  payslips: readonly string[],
  transaction: Transaction,
): Promise<void> {
  const taxYear = packFor(scope).taxYearOf(run.payDate).label;
  const replacements = { employer: scope.employer.id, payslips, payDate: run.payDate, taxYear };
  await post(scope, linesOfDrafts('y.id in (:payslips)'), replacements, transaction);
  await execute(scope.database, `update payslips set state = 'posted' where id in (:payslips)`, { payslips }, transaction);
}

/** Posts the negated lines of posted payslips, each under the payslip that reverses it. */
export async function postReversals(scope: Scope, reversals: readonly string[], payDate: string, transaction: Transaction): Promise<void> {
  const taxYear = packFor(scope).taxYearOf(payDate).label;
  await post(
    scope,
    `select l.employer_id, l.person_id, r.run_id, r.id, :payDate, :taxYear, l.kind, l.code, l.label, -l.amount, -l.quantity
     from payslips r join ledger_lines l on l.payslip_id = r.reverses where r.id in (:reversals) order by l.id`,
    { reversals, payDate, taxYear },
    transaction,
  );
}

/** Balances that do not equal the sums of the ledger; empty when all is well. */
export const balancesOutOfStep = (scope: Scope): Promise<unknown[]> =>
  execute(
    scope.database,
    `select coalesce(b.person_id, l.person_id) as person, coalesce(b.code, l.code) as code, b.amount as balance, l.amount as ledger
     from (select * from balances where employer_id = :employer) b
     full join (select person_id, tax_year, code, sum(amount) as amount from ledger_lines where employer_id = :employer group by person_id, tax_year, code) l
       on l.person_id = b.person_id and l.tax_year = b.tax_year and l.code = b.code
     where b.amount is distinct from l.amount`,
    { employer: scope.employer.id },
  );
