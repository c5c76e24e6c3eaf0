import type { AnswerOf, EmployerPage, Timeline, TodayView } from '@woodruff/contract';
import {
  addDays,
  extraPayDates,
  nextPeriod,
  packOf,
  payDatesInYear,
  periodOf,
  writtenDate,
  writtenPeriod,
  dateOf,
  yearOf,
  type Due,
  type PaySchedule,
} from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select, type Database } from '../database/connection';
import { invalid, Refusal } from '../errors';
import { letDueChangesCount } from '../people/dated-changes';
import { listPeople } from '../people/service';
import { openPoints } from '../pay-runs/points';
import { listRuns } from '../pay-runs/sheet';
import { openRun } from '../pay-runs/calculation';
import { proposals } from '../pay-runs/start';
import { periodsAsked } from '../time/changes';
import { employerFactsSchema } from '@woodruff/contract';
import type { z } from 'zod';
import { changing } from '../users/changing';
import { holidaysOf, packFor, type Scope } from '../users/scope';
import { schedulesOf } from './schedules-on-file';

/** What an employer is set up with; services of later screens add to it. */
export interface NewEmployer {
  name: string;
  country: string;
  today: string;
  demo: boolean;
  facts: z.input<typeof employerFactsSchema>;
  schedules: (PaySchedule & { name: string })[];
}

export async function addEmployer(database: Database, employer: NewEmployer): Promise<{ id: string; schedules: Record<string, string> }> {
  const pack = packOf(employer.country);
  const all = employerFactsSchema.parse(employer.facts);
  const facts = pack.employerSchema.safeParse(all.country);
  if (!facts.success)
    throw invalid(
      'The facts of the employer are not complete.',
      facts.error.issues.map((issue) => ({ path: issue.path.join('.'), expected: issue.message })),
    );
  return database.transaction(async (transaction) => {
    const [row] = (await execute(
      database,
      `insert into employers (name, country, currency, business_date, demo, facts) values (:name, :country, :currency, :today, :demo, :facts) returning id`,
      {
        name: employer.name,
        country: employer.country,
        currency: pack.currency,
        today: employer.today,
        demo: employer.demo,
        facts: JSON.stringify({ ...all, country: facts.data }),
      },
      transaction,
    )) as { id: string }[];
    if (!row) throw new Error('no employer was made');
    const schedules: Record<string, string> = {};
    for (const schedule of employer.schedules) {
      const [made] = (await execute(
        database,
        'insert into pay_schedules (employer_id, name, frequency, anchor, pay_date_offset, move) values (:employer, :name, :frequency, :anchor, :payDateOffset, :move) returning id',
        { employer: row.id, ...schedule },
        transaction,
      )) as { id: string }[];
      if (made) schedules[schedule.name] = made.id;
    }
    return { id: row.id, schedules };
  });
}

export async function employerPage(scope: Scope): Promise<EmployerPage> {
  const pack = packFor(scope);
  const localities = (scope.employer.facts.country['localities'] ?? {}) as Record<string, { name: string }>;
  return {
    id: scope.employer.id,
    name: scope.employer.name,
    country: scope.employer.country,
    today: scope.employer.today,
    schedules: (await schedulesOf(scope)).map(({ id, name, frequency }) => ({ id, name, frequency })),
    departments: scope.employer.facts.departments,
    worksites: scope.employer.facts.worksites.map((site) => site.name),
    jobs: scope.employer.facts.jobs ?? [],
    ownFields: scope.employer.facts.ownFields ?? [],
    taxForm: pack.taxForm.map((group) => ({ title: group.title, fields: group.fields.map((field) => ({ ...field })) })),
    localities: Object.entries(localities).map(([code, { name }]) => ({ code, name })),
  };
}

/** Moves the demo's business date forward. It never goes back: what was posted stays in the past. */
export async function moveToday(scope: Scope, date: string): Promise<{ today: string }> {
  if (!scope.employer.demo) throw new Refusal(422, 'no-demo', 'Only the demo employer has a business date that can be moved.');
  if (date < scope.employer.today)
    throw invalid(`The business date is ${writtenDate(scope.employer.today)} and only moves forward.`, [
      { path: 'date', expected: 'a later date' },
    ]);
  await changing(scope, async (transaction) => {
    await execute(
      scope.database,
      'update employers set business_date = :date where id = :id',
      { date, id: scope.employer.id },
      transaction,
    );
    await record(
      scope,
      { action: 'move-today', subject: 'employer', subjectId: scope.employer.id, what: `Business date moved to ${writtenDate(date)}` },
      transaction,
    );
  });
  await letDueChangesCount(scope.database, scope.employer.id);
  return { today: date };
}

/** Of a long list of unfinished records Today shows the first; the list of people shows them all. */
const UNFINISHED_SHOWN = 12;

/** What is due and what is waiting, from facts alone. */
export async function todayView(scope: Scope): Promise<TodayView> {
  const { today } = scope.employer;
  const [proposed, runs, people, due] = await Promise.all([
    proposals(scope),
    listRuns(scope),
    listPeople(scope),
    dueBetween(scope, today, addDays(today, 75)),
  ]);
  const open = [];
  for (const run of runs.filter((candidate) => candidate.state !== 'approved' && candidate.state !== 'withdrawn')) {
    open.push({ ...run, points: (await openPoints(scope, await openRun(scope, run.id))).filter((point) => !point.accepted).length });
  }
  const coming = await select<TodayView['coming'][number]>(
    scope.database,
    `select r.from_date as date, p.given_name || ' ' || p.family_name || ': ' || r.label || ' becomes ' || to_char(r.amount, 'FM999,990.00') || case r.per when 'hour' then ' an hour' when 'year' then ' a year' else ' a pay period' end as what, p.id as "personId"
     from pay_rates r join people p on p.id = r.person_id where p.employer_id = :employer and r.from_date > :today and r.from_date <= :until
     union all
     select p."left", p.given_name || ' ' || p.family_name || ' leaves', p.id from people p where p.employer_id = :employer and p."left" >= :today and p."left" <= :until
     union all
     select d.expires_on, p.given_name || ' ' || p.family_name || ': ' || d.name || case when d.expires_on < :today then ' has expired' else ' expires' end, p.id
     from person_documents d join people p on p.id = d.person_id where p.employer_id = :employer and d.expires_on <= :until and (p."left" is null or p."left" >= :today)
     order by 1`,
    { employer: scope.employer.id, today, until: addDays(today, 45) },
  );
  const [waiting] = await select<{ oneOffs: number; leave: number }>(
    scope.database,
    `select (select count(*) from one_offs where employer_id = :employer and payslip_id is null) as "oneOffs",
            (select count(*) from leave_requests where employer_id = :employer and state = 'asked') as leave`,
    { employer: scope.employer.id },
  );
  const costs = await select<TodayView['costs'][number]>(
    scope.database,
    `select pay_date as "payDate", sum((totals->>'gross')::bigint + (totals->>'reimbursements')::bigint)::bigint as gross, sum((totals->>'employerTaxes')::bigint + (totals->>'employerContributions')::bigint)::bigint as employer
     from pay_runs where employer_id = :employer and state in ('approved', 'withdrawn') and kind <> 'opening'
     group by pay_date having sum((totals->>'gross')::bigint + (totals->>'reimbursements')::bigint) <> 0 order by pay_date desc limit 13`,
    { employer: scope.employer.id },
  );
  const unfinished = people.filter((person) => person.missing.length);
  return {
    today,
    proposals: proposed,
    open,
    oneOffs: waiting?.oneOffs ?? 0,
    asked: { leave: waiting?.leave ?? 0, time: await periodsAsked(scope) },
    due: due.map((entry) => toDue(entry, today)),
    unfinished: {
      count: unfinished.length,
      first: unfinished.slice(0, UNFINISHED_SHOWN).map((person) => ({ personId: person.id, name: person.name, missing: person.missing })),
    },
    coming,
    costs: costs.reverse(),
  };
}

/** Periods, pay dates and due dates within a range, for the dateline. */
export async function timeline(scope: Scope, from: string, to: string): Promise<Timeline> {
  if (to < from || to > addDays(from, 800))
    throw invalid('The range of the dateline is at most two years.', [{ path: 'to', expected: 'a date within two years' }]);
  const holiday = holidaysOf(scope);
  const runs = await select<{ id: string; scheduleId: string; from: string; state: string }>(
    scope.database,
    `select id, schedule_id as "scheduleId", period_from as "from", state from pay_runs where employer_id = :employer and kind = 'regular' and state <> 'withdrawn'`,
    { employer: scope.employer.id },
  );
  const rows: Timeline['rows'] = [];
  for (const schedule of await schedulesOf(scope)) {
    const periods: Timeline['rows'][number]['periods'] = [];
    const counts = new Map<number, number>();
    for (let period = periodOf(schedule, from, holiday); period.from <= to; period = nextPeriod(schedule, period, holiday)) {
      const run = runs.find((candidate) => candidate.scheduleId === schedule.id && candidate.from === period.from);
      // A year with one pay date more than usual is flagged on its last one.
      const year = yearOf(period.payDate);
      const count = counts.get(year) ?? payDatesInYear(schedule, year, holiday);
      counts.set(year, count);
      const next = nextPeriod(schedule, period, holiday);
      const extra = extraPayDates(schedule, count) > 0 && yearOf(next.payDate) > yearOf(period.payDate);
      periods.push({ ...period, runId: run?.id ?? null, state: !run ? 'none' : run.state === 'approved' ? 'approved' : 'open', extra });
    }
    rows.push({ schedule: schedule.name, scheduleId: schedule.id, periods });
  }
  return {
    rows,
    due: (await dueBetween(scope, from, to)).map((entry) => toDue(entry, scope.employer.today)),
    holidays: (scope.employer.facts.holidays ?? []).filter(({ date }) => date >= from && date <= to),
  };
}

async function dueBetween(scope: Scope, from: string, to: string): Promise<Due[]> {
  const { filings } = packFor(scope);
  if (!filings) return [];
  const liabilities = await select<{ payDate: string; amount: number }>(
    scope.database,
    `select counts_on as "payDate", sum(amount)::bigint as amount from ledger_lines where employer_id = :employer and code in (:codes) and counts_on >= :since group by counts_on order by counts_on`,
    {
      employer: scope.employer.id,
      codes: [...filings.liabilityCodes],
      since: scope.employer.facts.depositor === 'monthly' ? dateOf(yearOf(from) - 1, 1, 1) : addDays(from, -60),
    },
  );
  // Nothing was due from an employer that has paid nobody yet; what is ahead stays in sight.
  const [paid] = await select<{ any: boolean }>(
    scope.database,
    'select exists (select 1 from ledger_lines where employer_id = :employer) as any',
    { employer: scope.employer.id },
  );
  const since = paid?.any ? from : from > scope.employer.today ? from : scope.employer.today;
  return filings.dueDates(since, to, liabilities, scope.employer.facts.depositor);
}

function toDue(entry: Due, today: string): TodayView['due'][number] {
  const link =
    entry.kind === 'return'
      ? `/returns/quarterly/${entry.year}/${entry.quarter}`
      : entry.kind === 'statements'
        ? `/returns/year-end/${entry.year}`
        : `/returns/quarterly/${yearOf(entry.date)}/${Math.ceil(Number(entry.date.slice(5, 7)) / 3)}`;
  return { date: entry.date, what: entry.what, amount: entry.amount ?? null, link, overdue: entry.date < today };
}

/** People, items and runs whose name, code or dates contain the text. */
export async function find(scope: Scope, text: string): Promise<AnswerOf<'find'>> {
  const wanted = text.trim().toLowerCase();
  if (!wanted) return [];
  const pattern = `%${wanted.replace(/[\\%_]/g, '\\$&')}%`;
  const [people, items, runs] = await Promise.all([
    select<{ id: string; name: string; detail: string }>(
      scope.database,
      `select id, given_name || ' ' || family_name as name, code || case when job <> '' then ', ' || job else '' end as detail from people
       where employer_id = :employer and (lower(given_name || ' ' || family_name) like :pattern or lower(code) like :pattern) order by family_name limit 8`,
      { employer: scope.employer.id, pattern },
    ),
    select<{ id: string; name: string; detail: string }>(
      scope.database,
      `select id, definition->>'name' as name, code as detail from pay_items where employer_id = :employer and (lower(definition->>'name') like :pattern or lower(code) like :pattern) order by 2 limit 5`,
      { employer: scope.employer.id, pattern },
    ),
    listRuns(scope),
  ]);
  return [
    ...people.map((row) => ({ kind: 'person' as const, label: row.name, detail: row.detail, link: `/people/${row.id}` })),
    ...items.map((row) => ({ kind: 'item' as const, label: row.name, detail: row.detail, link: `/pay-items/${row.id}` })),
    ...runs
      .map((run) => ({
        kind: 'run' as const,
        label: `${writtenPeriod(run.from, run.to)}, ${run.schedule}`,
        detail: `paid ${writtenDate(run.payDate)}`,
        link: `/pay-runs/${run.id}`,
      }))
      .filter((run) => `${run.label} ${run.detail}`.toLowerCase().includes(wanted))
      .slice(0, 5),
  ];
}
