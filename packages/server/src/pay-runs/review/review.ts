import type { AnswerOf, Review } from '@woodruff/contract';
import {
  counted,
  computePayslip,
  Exact,
  unusualOf,
  writtenDate,
  writtenPeriod,
  yearOf,
  type PayslipFacts,
  type PayslipInput,
  type PayslipLine,
} from '@woodruff/core';
import { select } from '../../database/connection';
import { packFor, type Scope } from '../../scope';
import { openRun } from '../../calculation/calculation';
import type { PayRun } from '../../calculation/models';
import { MONEY_KINDS } from '../../calculation/result';
import { openPoints } from '../sheet/points';
import { runView } from '../sheet/sheet';

const KIND_LIST = MONEY_KINDS.map((kind) => `'${kind}'`).join(', ');
const orderOf = (kind: string): number => MONEY_KINDS.findIndex((one) => one === kind);
/** Earlier payslips that say what is usual. */
const USUAL = 6;

/** A run as an approver looks at it; compared with the last one of its schedule, or with any that is chosen. */
export async function reviewOf(scope: Scope, runId: string, against?: string): Promise<Review> {
  const run = await openRun(scope, runId);
  const choices = await select<{ id: string; from: string; to: string; payDate: string; name: string; approvedAt: Date }>(
    scope.database,
    `select r.id, r.period_from as "from", r.period_to as "to", r.pay_date as "payDate", coalesce(nullif(r.name, ''), s.name) as name, r.approved_at as "approvedAt"
     from pay_runs r join pay_schedules s on s.id = r.schedule_id where r.employer_id = :employer and r.state = 'approved' and r.kind in ('regular', 'special') and r.id <> :runId
       and r.pay_date <= :payDate order by r.schedule_id <> :schedule, r.pay_date desc limit 40`,
    { employer: scope.employer.id, runId, payDate: run.payDate, schedule: run.scheduleId },
  );
  const chosen = choices.find((one) => one.id === (against ?? run.comparedWith));
  const compared = chosen ? await openRun(scope, chosen.id) : null;
  const before = compared?.id ?? null;
  // They do not depend on each other: the database works at them side by side.
  const [points, then, lines, facts, changes, nets, departments, history] = await Promise.all([
    openPoints(scope, run),
    compared ? runView(scope, compared.id) : null,
    linesOf(scope, runId, before),
    factsOf(scope, run, compared),
    changesSince(scope, compared),
    netsOf(scope, run),
    departmentsOf(scope, runId, before),
    historyOfRuns(scope, run),
  ]);
  return {
    choices: choices.map((one) => ({
      id: one.id,
      label: `${writtenPeriod(one.from, one.to)}, ${one.name}, paid ${writtenDate(one.payDate)}`,
    })),
    against: compared && then ? { id: compared.id, payDate: compared.payDate, totals: then.totals } : null,
    lines: lines.map(({ payee: _payee, reference: _reference, ...line }) => line),
    unusual: unusualOf(facts),
    changes,
    funding: fundingOf(scope, run, nets, lines),
    departments,
    history,
    accepted: points.flatMap((point) =>
      point.accepted ? [{ ...point.accepted, sentence: point.sentence, who: point.who, payslipId: point.payslipId }] : [],
    ),
  };
}

/** Lines of the payslips of a run as they count; those of reversals with a minus. */
const LINES = `select y.id, y.person_id, y.run_id, l.kind, l.code, l.id as figure, l.label, case when y.state = 'reversal' then -l.amount else l.amount end as amount
  from payslips y join payslip_results x on x.payslip_id = coalesce(y.reverses, y.id) cross join lateral jsonb_to_recordset(x.lines) as l(id text, kind text, code text, label text, amount bigint)
  where y.included and l.kind in (${KIND_LIST})`;

/** A line of the run with whom it goes to. */
type LineOfRun = Review['lines'][number] & { payee: string | null; reference: string | null };

async function linesOf(scope: Scope, runId: string, before: string | null): Promise<LineOfRun[]> {
  const rows = await select<Review['lines'][number]>(
    scope.database,
    `select kind, code, min(label) as label, coalesce(sum(amount) filter (where run_id = :runId), 0)::bigint as amount, coalesce(sum(amount) filter (where run_id <> :runId), 0)::bigint as before,
            count(distinct person_id) filter (where run_id = :runId)::int as people
     from (${LINES} and y.run_id in (:runId, cast(:before as uuid))) l group by kind, code`,
    { runId, before },
  );
  const items = await select<{ code: string; name: string; payee: string | null; reference: string | null }>(
    scope.database,
    `select code, definition->>'name' as name, definition->'goes'->>'payee' as payee, definition->'goes'->>'reference' as reference from pay_items where employer_id = :employer`,
    { employer: scope.employer.id },
  );
  const byCode = new Map(items.map((item) => [item.code, item]));
  return rows
    .map((row) => {
      const item = byCode.get(row.code);
      return { ...row, label: item?.name ?? row.label, payee: item?.payee ?? null, reference: item?.reference ?? null };
    })
    .sort((a, b) => orderOf(a.kind) - orderOf(b.kind) || Math.abs(b.amount) - Math.abs(a.amount) || (a.label < b.label ? -1 : 1));
}

/** The people behind a line, or behind the employer's cost in a department. */
export async function behindRun(
  scope: Scope,
  runId: string,
  query: { code: string; department?: string | undefined },
): Promise<AnswerOf<'behindRun'>> {
  await openRun(scope, runId);
  if (query.department !== undefined)
    return select(
      scope.database,
      `with ${COST_BY_DEPARTMENT}
       select c.id as "payslipId", p.given_name || ' ' || p.family_name as name, sum(c.cost)::bigint as amount, 'employer-cost' as figure
       from costs c join people p on p.id = c.person_id where c.run_id = :runId and c.department = :department group by 1, 2 order by 3 desc, 2`,
      { runId, before: null, department: query.department },
    );
  return select(
    scope.database,
    `select l.id as "payslipId", p.given_name || ' ' || p.family_name as name, sum(l.amount)::bigint as amount, min(l.figure) as figure
     from (${LINES} and y.run_id = :runId and l.code = :code) l join people p on p.id = l.person_id group by 1, 2 order by abs(sum(l.amount)) desc, 2`,
    { runId, code: query.code },
  );
}

interface FactsRow {
  payslipId: string;
  personId: string;
  name: string;
  net: number;
  gross: number;
  taxes: number;
  previous: PayslipFacts['previous'];
  nets: number[] | null;
  overtime: number | null;
  overtimes: number[] | null;
  once: { label: string; amount: number }[] | null;
  hasOverrides: boolean;
  payment: { method?: string; bank?: string; last4?: string } | null;
  newPayment: PayslipFacts['newPayment'];
  hours: string | null;
}

async function factsOf(scope: Scope, run: PayRun, compared: PayRun | null): Promise<PayslipFacts[]> {
  const overtimeItems = (
    await select<{ code: string }>(
      scope.database,
      `select code from pay_items where employer_id = :employer and definition->'method'->>'by' = 'hours' and (definition->'method'->>'multiple')::numeric > 1`,
      { employer: scope.employer.id },
    )
  ).map((item) => item.code);
  const rows = await select<FactsRow>(
    scope.database,
    `select y.id as "payslipId", y.person_id as "personId", p.given_name || ' ' || p.family_name as name, x.net, x.gross, x.taxes, p.payment,
            (select json_build_object('net', px.net, 'gross', px.gross, 'taxes', px.taxes) from payslips py join payslip_results px on px.payslip_id = py.id
             where py.run_id = cast(:compared as uuid) and py.person_id = y.person_id and py.included and py.state <> 'reversal' limit 1) as previous,
            e.nets, e.overtimes,
            w.overtime, w.once, w.hours, coalesce(jsonb_array_length(y.edits->'overrides'), 0) > 0 as "hasOverrides",
            (select json_build_object('what', a.what, 'by', coalesce(u.name, 'Woodruff')) from audit_entries a left join users u on u.id = a.user_id
             where a.subject_id = y.person_id and a.action = 'payment' and a.at > :since order by a.id desc limit 1) as "newPayment"
     from payslips y join people p on p.id = y.person_id join payslip_results x on x.payslip_id = y.id
     cross join lateral (select (sum(l.amount) filter (where l.kind = 'earning' and l.code in (:overtime)))::bigint as overtime,
         json_agg(json_build_object('label', l.label, 'amount', l.amount)) filter (where l.id like 'once:%' and l.kind in ('earning', 'reimbursement')) as once,
         (sum(l.quantity) filter (where l.kind = 'earning' and l.rate is not null and l.id not like '%:premium:%' and l.id not like '%:regular:%'))::text as hours
         from jsonb_to_recordset(x.lines) as l(id text, kind text, code text, label text, amount bigint, quantity numeric, rate text)) w
     left join lateral (select json_agg(z.net) as nets, json_agg(z.overtime) as overtimes from (
         select zx.net, (select coalesce(sum(l.amount), 0)::bigint from jsonb_to_recordset(zx.lines) as l(kind text, code text, amount bigint) where l.kind = 'earning' and l.code in (:overtime)) as overtime
         from payslips zy join pay_runs zr on zr.id = zy.run_id and zr.kind in ('regular', 'correction') join payslip_results zx on zx.payslip_id = zy.id
         where zy.person_id = y.person_id and zy.state = 'posted' and zr.pay_date < :payDate order by zr.pay_date desc limit ${USUAL}) z) e on true
     where y.run_id = :run and y.included and y.state <> 'reversal'`,
    {
      run: run.id,
      compared: compared?.id ?? null,
      since: compared?.approvedAt ?? new Date(0),
      payDate: run.payDate,
      overtime: overtimeItems.length ? overtimeItems : [''],
    },
  );
  const byAccount = new Map<string, string[]>();
  const accountOf = ({ payment }: FactsRow) => (payment?.method === 'deposit' && payment.last4 ? `${payment.bank} ${payment.last4}` : null);
  for (const row of rows) {
    const account = accountOf(row);
    if (account) byAccount.set(account, [...(byAccount.get(account) ?? []), row.name]);
  }
  const overrides = await overridesOf(
    scope,
    rows.filter((row) => row.hasOverrides).map((row) => row.payslipId),
  );
  const days = (Date.parse(run.periodTo) - Date.parse(run.periodFrom)) / 86_400_000 + 1;
  return rows.map((row) => ({
    payslipId: row.payslipId,
    name: row.name,
    net: row.net,
    gross: row.gross,
    taxes: row.taxes,
    previous: row.previous,
    earlierNets: row.nets ?? [],
    overtime: row.overtime ?? 0,
    earlierOvertime: row.overtimes ?? [],
    oneOffs: row.once ?? [],
    overrides: overrides.get(row.payslipId) ?? [],
    newPayment: row.newPayment,
    sharesAccountWith: (byAccount.get(accountOf(row) ?? '') ?? []).filter((name) => name !== row.name),
    hours: run.kind === 'regular' ? Number(row.hours ?? 0) : 0,
    days,
  }));
}

/** Taxes overridden, with what the rules would have given. */
async function overridesOf(scope: Scope, payslips: readonly string[]): Promise<Map<string, PayslipFacts['overrides']>> {
  if (!payslips.length) return new Map();
  const rows = await select<{ payslipId: string; input: PayslipInput; lines: PayslipLine[] }>(
    scope.database,
    'select payslip_id as "payslipId", input, lines from payslip_results where payslip_id in (:payslips)',
    { payslips },
  );
  return new Map(
    rows.map(({ payslipId, input, lines }) => {
      const { workings } = computePayslip(input, { workings: true });
      return [
        payslipId,
        input.overrides.map(({ tax, amount, reason }) => ({
          label: lines.find((line) => line.code === tax)?.label ?? workings[tax]?.label ?? tax,
          given: Exact.of(amount).toMinor(),
          workedOut: Exact.of(workings[`${tax}:worked-out`]?.amount ?? '0').toMinor(),
          reason,
        })),
      ];
    }),
  );
}

/** Entries of the audit trail about set-up: people, items, the employer. What was done in the run itself is on its payslips. */
const changesSince = (scope: Scope, compared: PayRun | null): Promise<Review['changes']> =>
  compared?.approvedAt
    ? select<Review['changes'][number]>(
        scope.database,
        `select to_char(a.at, 'YYYY-MM-DD"T"HH24:MI:SS') as at, coalesce(u.name, 'Woodruff') as who, a.what,
                case a.subject when 'person' then coalesce(p.given_name || ' ' || p.family_name, '') when 'pay-item' then coalesce(i.definition->>'name', '') else 'Employer' end as about,
                case a.subject when 'person' then '/people/' || p.id when 'pay-item' then '/pay-items/' || i.id else '/employer' end as link
         from audit_entries a left join users u on u.id = a.user_id left join people p on a.subject = 'person' and p.id = a.subject_id left join pay_items i on a.subject = 'pay-item' and i.id = a.subject_id
         where a.employer_id = :employer and a.subject in ('person', 'pay-item', 'employer') and a.action not in ('reveal', 'lock-time', 'unlock-time', 'time', 'time-state') and a.at > :since order by a.id desc limit 300`,
        { employer: scope.employer.id, since: compared.approvedAt },
      )
    : Promise.resolve([]);

interface Net {
  method: string;
  amount: number;
  people: number;
}

const netsOf = (scope: Scope, run: PayRun): Promise<Net[]> =>
  select(
    scope.database,
    `select coalesce(y.edits->'payment'->>'method', case when p.payment->>'method' = 'deposit' then 'deposit' else 'cheque' end) as method, sum((case when y.state = 'reversal' then -1 else 1 end) * x.net)::bigint as amount, count(*)::int as people
     from payslips y join people p on p.id = y.person_id join payslip_results x on x.payslip_id = coalesce(y.reverses, y.id) where y.run_id = :run and y.included group by 1`,
    { run: run.id },
  );

const PAID_ON = new Set(['tax', 'employer-tax', 'deduction-before-tax', 'deduction-after-tax', 'employer-contribution']);

/** What has to be paid because of this run, to whom, by when. */
function fundingOf(scope: Scope, run: PayRun, nets: readonly Net[], all: readonly LineOfRun[]): Review['funding'] {
  const lines = all.filter((line) => PAID_ON.has(line.kind) && line.amount !== 0);
  const owed = packFor(scope).moneyOwed(scope.employer.facts.country);
  const together = owed.filter(({ due }) => due);
  const methods: Record<string, string> = { deposit: 'deposited', cheque: `by ${packFor(scope).words.cheque}`, cash: 'in cash' };
  return [
    ...nets.map(({ method, amount, people }) => ({
      date: run.payDate,
      to: counted(people, 'person', 'people'),
      what: `Net pay ${methods[method] ?? method}`,
      amount,
      code: null,
    })),
    ...together.flatMap(({ what, payee, codes, due }) => {
      const amount = lines.filter((line) => codes.includes(line.code)).reduce((sum, line) => sum + line.amount, 0);
      // What is too little to be paid by itself is carried on, until the year's end at the latest.
      const [payment] = [run.payDate, `${yearOf(run.payDate)}-12-31`].flatMap((payDate) => due?.([{ payDate, amount }]) ?? []);
      return amount ? [{ date: payment?.date ?? run.payDate, to: payee, what, amount, code: null }] : [];
    }),
    ...lines
      .filter((line) => !together.some(({ codes }) => codes.includes(line.code)))
      .map((line) => {
        const to = owed.find(({ codes }) => codes.includes(line.code));
        return {
          date: run.payDate,
          to: [line.payee ?? to?.payee ?? 'Payee not named', line.reference ?? to?.reference].filter(Boolean).join(', '),
          what: line.label,
          amount: line.amount,
          code: line.code,
        };
      }),
  ].sort((a, b) => (a.date === b.date ? b.amount - a.amount : a.date < b.date ? -1 : 1));
}

/**
 * What each payslip costs the employer, by department: earnings at the rate of a position beside the main one are its
 * department's, everything else is that of the person. Together they are the employer's cost of the payslip.
 */
const COST_BY_DEPARTMENT = `paid as (
       select y.id, y.run_id, y.person_id, p.department, r.period_from, r.period_to, coalesce(y.reverses, y.id) as worked_out, case when y.state = 'reversal' then -1 else 1 end as sign, x.employer_cost
       from payslips y join people p on p.id = y.person_id join pay_runs r on r.id = y.run_id join payslip_results x on x.payslip_id = coalesce(y.reverses, y.id) where y.run_id in (:runId, cast(:before as uuid)) and y.included),
     moved as (
       select paid.id, paid.run_id, paid.person_id, paid.department as main, s.department, sum(paid.sign * l.amount) as cost
       from person_positions s join paid on paid.person_id = s.person_id and s.from_date <= paid.period_to and coalesce(s.to_date, 'infinity') >= paid.period_from
       join payslip_results x on x.payslip_id = paid.worked_out cross join lateral jsonb_to_recordset(x.lines) as l(id text, kind text, amount bigint)
       where l.kind = 'earning' and s.department not in ('', paid.department) and s.rate_series = split_part(split_part(l.id, ':', 2), '@', 1) group by 1, 2, 3, 4, 5),
     costs as (
       select id, run_id, person_id, department, sign * employer_cost as cost from paid
       union all select id, run_id, person_id, department, cost from moved
       union all select id, run_id, person_id, main, -cost from moved)`;

const departmentsOf = (scope: Scope, runId: string, before: string | null): Promise<Review['departments']> =>
  select<Review['departments'][number]>(
    scope.database,
    `with ${COST_BY_DEPARTMENT}
     select department, count(distinct person_id) filter (where run_id = :runId)::int as people,
            coalesce(sum(cost) filter (where run_id = :runId), 0)::bigint as cost, coalesce(sum(cost) filter (where run_id <> :runId), 0)::bigint as before
     from costs where run_id in (:runId, cast(:before as uuid)) group by 1 order by 3 desc, 1`,
    { runId, before },
  );

/** This run and the twelve of its schedule before it, as they were posted. */
const historyOfRuns = async (scope: Scope, run: PayRun): Promise<Review['history']> =>
  (
    await select<Review['history'][number]>(
      scope.database,
      `select r.id as "runId", r.pay_date as "payDate", (t->>'gross')::bigint + (t->>'reimbursements')::bigint as gross, (t->>'employerTaxes')::bigint + (t->>'employerContributions')::bigint as employer,
              (t->>'net')::bigint as net, (t->>'people')::int as people
       from pay_runs r cross join lateral (select coalesce(r.totals, totals_of_run(r.id)) as t) totals
       where r.employer_id = :employer and r.schedule_id = :schedule and r.kind = 'regular' and (r.state = 'approved' or r.id = :run) and r.pay_date <= :payDate order by r.pay_date desc limit 13`,
      { employer: scope.employer.id, schedule: run.scheduleId, run: run.id, payDate: run.payDate },
    )
  ).reverse();
