import { select } from '../database/connection';
import { testDatabase } from './database';
import type { Workplace } from './workplace';

/** How the rows of a table belong to an employer. */
const OWNER: [column: string, rows: string][] = [
  ['employer_id', 't.employer_id = :id'],
  ['person_id', 't.person_id in (select id from people where employer_id = :id)'],
  ['run_id', 't.run_id in (select id from pay_runs where employer_id = :id)'],
  ['item_id', 't.item_id in (select id from pay_items where employer_id = :id)'],
  ['plan_id', 't.plan_id in (select id from leave_plans where employer_id = :id)'],
  ['schedule_id', 't.schedule_id in (select id from pay_schedules where employer_id = :id)'],
];
/** What tells when something was done, not what. */
const NOT_COMPARED = ['audit_entries', 'run_progress', 'import_progress', 'recalculations'];

/** The state of an employer without ids and times: rows of every table counted, and money, hours and states by person. */
export async function stateOf(place: Workplace): Promise<Record<string, unknown>> {
  const id = place.employerId;
  const rows = (sql: string) => select<object>(testDatabase(), sql, { id });
  return {
    rows: await counts(id),
    ledger: await rows(
      `select p.code as person, l.kind, l.code, count(*)::int as lines, sum(l.amount)::bigint as amount, sum(l.quantity)::text as quantity
       from ledger_lines l join people p on p.id = l.person_id where l.employer_id = :id group by 1, 2, 3 order by 1, 2, 3`,
    ),
    payslips: await rows(
      `select p.code as person, r.kind, r.period_from, r.state as run, y.state, y.included, y.version, count(*)::int as payslips, sum(x.net)::bigint as net
       from payslips y join pay_runs r on r.id = y.run_id join people p on p.id = y.person_id left join payslip_results x on x.payslip_id = y.id
       where r.employer_id = :id group by 1, 2, 3, 4, 5, 6, 7 order by 1, 2, 3, 4, 5, 6, 7`,
    ),
    payments: await rows(
      `select p.code as person, n.method, n.number, n.amount, n.stopped is null as stands from net_payments n join payslips y on y.id = n.payslip_id join people p on p.id = y.person_id
       where n.employer_id = :id order by 1, 3, 2, 4, 5`,
    ),
    oneOffs: await rows(
      `select p.code as person, i.code as item, o.amount::text, o.take_by, y.state from one_offs o join people p on p.id = o.person_id join pay_items i on i.id = o.item_id left join payslips y on y.id = o.payslip_id
       where o.employer_id = :id order by 1, 2, 3, 4, 5`,
    ),
    time: await rows(
      `select p.code as person, s.period_from, s.state, s.version, (select sum(hours)::text from time_entries e where e.timesheet_id = s.id) as hours
       from timesheets s join people p on p.id = s.person_id where s.employer_id = :id order by 1, 2`,
    ),
    leave: await rows(
      `select p.code as person, q.state, q.from_date, count(*)::int as requests from leave_requests q join people p on p.id = q.person_id where p.employer_id = :id group by 1, 2, 3 order by 1, 2, 3`,
    ),
    versions: await rows('select facts_version, next_cheque from employers where id = :id'),
  };
}

async function counts(id: string): Promise<Record<string, number>> {
  const columns = await select<{ table: string; column: string }>(
    testDatabase(),
    `select c.table_name as table, c.column_name as column from information_schema.columns c join information_schema.tables t on t.table_name = c.table_name and t.table_schema = c.table_schema
     where c.table_schema = 'public' and t.table_type = 'BASE TABLE' order by 1`,
  );
  const counted: Record<string, number> = {};
  for (const table of new Set(columns.map((one) => one.table))) {
    const owner = OWNER.find(([column]) => columns.some((one) => one.table === table && one.column === column));
    if (!owner || NOT_COMPARED.includes(table)) continue;
    const [row] = await select<{ rows: number }>(testDatabase(), `select count(*)::int as rows from ${table} t where ${owner[1]}`, { id });
    counted[table] = row?.rows ?? 0;
  }
  return counted;
}
