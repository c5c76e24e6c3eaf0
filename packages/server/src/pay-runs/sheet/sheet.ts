import type { Changed, Run, Sheet, SheetRow } from '@woodruff/contract';
import { addDays, isBusinessDay, writtenPeriod, type PayItem, type Totals } from '@woodruff/core';
import { select, type Transaction } from '../../database/connection';
import { notFound } from '../../errors';
import { may } from '../../users/permissions';
import { holidaysOf, type Scope } from '../../scope';
import { openRun } from '../../calculation/calculation';
import { columnOf } from '../../payslip-input/input';
import type { PayRun } from '../../calculation/models';
import { edited } from './editors';
import { openPoints } from './points';
import type { Summary } from '../../calculation/result';
import { readyPeople } from '../making/ready';

/** A reversal has no result of its own: it takes back that of the payslip it reverses. */
const RESULT = 'payslip_results x on x.payslip_id = coalesce(y.reverses, y.id)';
const COLUMNS: [column: string, name: keyof Totals][] = [
  ['gross', 'gross'],
  ['reimbursements', 'reimbursements'],
  ['benefits_in_kind', 'benefitsInKind'],
  ['deductions', 'deductions'],
  ['taxes', 'taxes'],
  ['net', 'net'],
  ['employer_taxes', 'employerTaxes'],
  ['employer_contributions', 'employerContributions'],
  ['employer_cost', 'employerCost'],
];
const amount = (column: string): string => `case when y.reverses is null then x.${column} else -x.${column} end`;
const totals = (of: (column: string) => string): string =>
  `json_build_object(${COLUMNS.map(([column, name]) => `'${name}', coalesce(${of(amount(column))}, 0)`).join(', ')}) as totals`;

/** Runs of the employer, latest pay date first: all, those still to be approved, or the one asked for. */
export async function listRuns(scope: Scope, which: 'all' | 'open' | { id: string } = 'all', transaction?: Transaction): Promise<Run[]> {
  const condition = which === 'all' ? '' : which === 'open' ? `and r.state not in ('approved', 'withdrawn')` : 'and r.id = :only';
  const rows = await select<Omit<Run, 'people' | 'totals'> & { sums: Totals & { people: number } }>(
    scope.database,
    `select r.id, r.kind, r.name, r.schedule_id as "scheduleId", s.name as schedule, r.period_from as "from", r.period_to as "to", r.pay_date as "payDate", r.state, r.version, u.name as "approvedBy", su.name as "submittedBy", r.sent_back as "sentBack",
            to_char(r.approved_at, 'YYYY-MM-DD"T"HH24:MI:SS') as "approvedAt", coalesce(r.totals, totals_of_run(r.id)) as sums
     from pay_runs r join pay_schedules s on s.id = r.schedule_id left join users u on u.id = r.approved_by left join users su on su.id = r.submitted_by
     where r.employer_id = :employer ${condition} order by r.pay_date desc, r.period_from desc, r.id`,
    { employer: scope.employer.id, only: typeof which === 'object' ? which.id : null },
    transaction,
  );
  return rows.map(({ sums: { people, ...totals }, ...run }) => ({ ...run, people, totals }));
}

export async function runView(scope: Scope, runId: string, transaction?: Transaction): Promise<Run> {
  const [run] = await listRuns(scope, { id: runId }, transaction);
  if (!run) throw notFound('pay run');
  return run;
}

export async function sheetOf(scope: Scope, runId: string): Promise<Sheet> {
  const run = await openRun(scope, runId);
  const [view, rows, points, items, compared] = await Promise.all([
    runView(scope, runId),
    sheetRows(scope, run),
    openPoints(scope, run),
    select<{ definition: PayItem }>(
      scope.database,
      `select definition from pay_items where employer_id = :employer and not retired order by (definition->>'order')::int`,
      { employer: scope.employer.id },
    ),
    run.comparedWith ? runView(scope, run.comparedWith) : Promise.resolve(null),
  ]);
  const definitions = items.map((item) => item.definition);
  // What only time rules pay has a column where somebody has hours of it.
  const hourItems = definitions.filter(
    (item) => item.method.by === 'hours' && (Number(item.method.multiple) >= 1 || rows.some((row) => row.hours[item.code])),
  );
  const series = [...new Set(rows.flatMap((row) => row.rates))].sort((a, b) => Number(a) - Number(b));
  const held = new Set(rows.flatMap((row) => row.pieces));
  const pieceItems = definitions.filter((item) => held.has(item.code));
  let cashBy = addDays(run.payDate, -1);
  while (!isBusinessDay(cashBy, holidaysOf(scope))) cashBy = addDays(cashBy, -1);
  if (cashBy < scope.employer.today) cashBy = run.payDate;
  const notIn =
    run.kind === 'correction' || (run.state !== 'open' && run.state !== 'calculating' && run.state !== 'submitted')
      ? []
      : await notInRun(scope, run, rows);
  return {
    run: view,
    rows,
    points,
    notIn,
    comparedWith: compared && { id: compared.id, payDate: compared.payDate, totals: compared.totals },
    hourColumns: [
      ...hourItems.flatMap((item, index) => [
        { key: item.code, label: item.name, pieces: false },
        ...(index === 0
          ? series.map((one) => ({
              key: columnOf(item.code, one),
              label: `${one}${one === '2' ? 'nd' : one === '3' ? 'rd' : 'th'} rate`,
              pieces: false,
            }))
          : []),
      ]),
      ...pieceItems.map((item) => ({ key: item.code, label: item.name, pieces: true })),
    ],
    oneOffItems: definitions
      .filter((item) => item.method.by === 'amount' && item.kind !== 'employer-contribution')
      .map((item) => ({ code: item.code, name: item.name, kind: item.kind })),
    cashBy,
    ...(run.state === 'approved' ? await paidOf(scope, run.id) : {}),
    stale: run.state === 'open' && run.factsVersion < scope.employer.factsVersion,
    mayApprove: may(scope.role, 'approve', scope.rights) && !(scope.employer.facts.secondPersonApproves && (await edited(scope, run))),
    timesheets: await timesheetsOf(scope, run),
    withdrawUntil: withdrawUntil(scope, run),
  };
}

/** What of an approved run is still to be gathered for the bank, and where the rest went. */
async function paidOf(scope: Scope, runId: string): Promise<Pick<Sheet, 'toPay' | 'batch' | 'payingAccountId'>> {
  const [found] = await select<{ toPay: number; batch: string | null; payingAccountId: string | null }>(
    scope.database,
    `select count(*) filter (where n.stopped is null and y.state = 'posted' and not n.gathered)::int as "toPay", min(t.batch::text) as batch,
            (select s.paying_account_id from pay_runs r join pay_schedules s on s.id = r.schedule_id where r.id = :runId) as "payingAccountId"
     from net_payments n join payslips y on y.id = n.payslip_id left join lateral (select t.batch_id as batch from transfers t where t.net_payment_id = n.id limit 1) t on true where n.run_id = :runId`,
    { runId },
  );
  return found ?? {};
}

async function timesheetsOf(scope: Scope, run: PayRun): Promise<number> {
  if (run.kind !== 'regular') return 0;
  const [found] = await select<{ sheets: number }>(
    scope.database,
    `select count(*)::int as sheets from timesheets s join payslips y on y.person_id = s.person_id and y.run_id = :run where s.period_from = :from and s.state = 'approved'`,
    { run: run.id, from: run.periodFrom },
  );
  return found?.sheets ?? 0;
}

/** An approved run can be withdrawn until the business day before its pay date; afterwards it is reversed. */
export function withdrawUntil(scope: Scope, run: Pick<PayRun, 'kind' | 'state' | 'payDate'>): string | null {
  if (run.state !== 'approved' || (run.kind !== 'regular' && run.kind !== 'special')) return null;
  let last = addDays(run.payDate, -1);
  while (!isBusinessDay(last, holidaysOf(scope))) last = addDays(last, -1);
  return scope.employer.today <= last ? last : null;
}

async function notInRun(scope: Scope, run: PayRun, rows: SheetRow[]): Promise<Sheet['notIn']> {
  const out = rows
    .filter((row) => !row.included)
    .map((row) => ({ personId: row.personId, name: row.name, why: 'Left out of this run by hand' }));
  if (run.kind === 'special') return out;
  const { in: late, notIn } = await readyPeople(scope, run.scheduleId, run.periodFrom, run.periodTo, run.id);
  const names = late.length
    ? await select<{ id: string; name: string }>(
        scope.database,
        `select id, given_name || ' ' || family_name as name from people where id in (:late)`,
        { late },
      )
    : [];
  return [
    ...notIn,
    ...names.map(({ id, name }) => ({
      personId: id,
      name,
      why: 'Ready now, but not when the run was started: recalculate the run to take them in',
    })),
    ...out,
  ];
}

export async function sheetRows(scope: Scope, run: PayRun, payslipId?: string, transaction?: Transaction): Promise<SheetRow[]> {
  const rows = await select<Omit<SheetRow, keyof Summary> & { summary: Summary | null }>(
    scope.database,
    `select y.id as "payslipId", y.person_id as "personId", p.family_name || ', ' || p.given_name as name, p.code, p.department, y.included, y.version,
            y.edits, ${totals((column) => column)}, x.summary,
            case when y.reverses is null then (select px.net from payslips py join payslip_results px on px.payslip_id = py.id where py.run_id = :compared and py.person_id = y.person_id and py.included and py.state <> 'reversal' limit 1) end as "previousNet"
     from payslips y join people p on p.id = y.person_id left join ${RESULT}
     where y.run_id = :run ${payslipId ? 'and y.id = :payslipId' : ''} order by p.family_name, p.given_name, p.code`,
    { run: run.id, compared: run.comparedWith, payslipId },
    transaction,
  );
  return rows.map(({ summary, ...row }) => ({
    ...row,
    hourly: summary?.hourly ?? false,
    rates: summary?.rates ?? [],
    hours: summary?.hours ?? {},
    oneOffs: summary?.oneOffs ?? 0,
    pieces: summary?.pieces ?? [],
  }));
}

/** What an edit changed: its row and the points. */
export async function changedView(scope: Scope, run: PayRun, payslipId: string, transaction: Transaction): Promise<Changed> {
  const [row] = await sheetRows(scope, run, payslipId, transaction);
  if (!row) throw notFound('payslip');
  return { row, runVersion: run.version, points: await openPoints(scope, run, transaction, payslipId) };
}

export const runTitle = (run: Run): string => `${writtenPeriod(run.from, run.to)}, ${run.name || run.schedule}`;
