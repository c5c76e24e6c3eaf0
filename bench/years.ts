import { execute, select, type Database, type Scope } from '@woodruff/server';

/**
 * Gives an employer of few people a history: its one approved run with all lines and sums, copied so many fortnights back.
 * Posted rows are copied as they are, with other days; nothing is calculated.
 */
export async function backInTime(
  database: Database,
  { employer }: Scope,
  runId: string,
  fortnights: { from: number; to: number },
): Promise<void> {
  const columns = async (table: string, without: string[]): Promise<string> =>
    (
      await select<{ name: string }>(
        database,
        `select column_name as name from information_schema.columns where table_schema = 'public' and table_name = :table and is_generated = 'NEVER' and is_identity = 'NO' order by ordinal_position`,
        { table },
      )
    )
      .map(({ name }) => name)
      .filter((name) => !without.includes(name))
      .join(', ');
  const ofRun = await columns('pay_runs', ['id', 'period_from', 'period_to', 'pay_date', 'approval_key']);
  const ofLine = await columns('ledger_lines', ['id', 'run_id', 'pay_date', 'counts_on', 'tax_year']);
  // The database wants a line to be of a payslip of its run; these are of the one copied.
  const untended = (work: () => Promise<void>) =>
    database.transaction(async (transaction) => {
      await execute(database, 'set local session_replication_role = replica', {}, transaction);
      await work();
    });
  for (let back = fortnights.from; back <= fortnights.to; back++) {
    const values = { runId, days: back * 14 };
    const [run] = (await execute(
      database,
      `insert into pay_runs (id, period_from, period_to, pay_date, ${ofRun}) select gen_random_uuid(), period_from - :days, period_to - :days, pay_date - :days, ${ofRun} from pay_runs where id = :runId returning id`,
      values,
    )) as { id: string }[];
    await untended(async () => {
      await execute(
        database,
        `insert into ledger_lines (run_id, pay_date, counts_on, tax_year, ${ofLine}) select :run, pay_date - :days, pay_date - :days, extract(year from pay_date - :days)::text, ${ofLine} from ledger_lines where run_id = :runId returning 1`,
        { ...values, run: run?.id },
      );
    });
  }
  await execute(database, 'delete from owed_days where employer_id = :employer returning 1', { employer: employer.id });
  await execute(
    database,
    `insert into owed_days (employer_id, code, counts_on, amount) select employer_id, code, counts_on, sum(amount) from ledger_lines
     where employer_id = :employer and kind in ('tax', 'employer-tax', 'deduction-before-tax', 'deduction-after-tax', 'employer-contribution') group by 1, 2, 3 returning 1`,
    { employer: employer.id },
  );
  await execute(database, 'delete from year_sums where employer_id = :employer returning 1', { employer: employer.id });
  await execute(
    database,
    `insert into year_sums (employer_id, person_id, tax_year, sums) select employer_id, person_id, tax_year, jsonb_object_agg(code, amount)
     from (select employer_id, person_id, tax_year, code, sum(amount) as amount from ledger_lines where employer_id = :employer group by 1, 2, 3, 4) as summed group by 1, 2, 3 returning 1`,
    { employer: employer.id },
  );
  await execute(database, 'analyze');
}
