import type { TodayView } from '@woodruff/contract';
import { addDays, CannotCompute, yearOf, type CountryPack } from '@woodruff/core';
import { select } from '../database/connection';
import { dueBetween, overdue } from '../filings/due';
import { transfersWhere } from '../payments/transfers';
import { openRun } from '../calculation/calculation';
import { openPoints } from '../pay-runs/sheet/points';
import { listRuns } from '../pay-runs/sheet/sheet';
import { proposals } from '../pay-runs/making/start';
import { listPeople } from '../people/service';
import { periodsAsked } from '../time/changes';
import { enrolmentWaiting } from '../enrolment/standing';
import { packFor, type Scope } from '../scope';
import { outOfTie, PAIRS } from '../tie-outs/tie-outs';

/** So many days ahead Today says what comes. */
const COMING = 45;

/** Of a long list of unfinished records Today shows the first; the list of people shows them all. */
const UNFINISHED_SHOWN = 12;

/** What is due and what is waiting, from facts alone. */
export async function todayView(scope: Scope): Promise<TodayView> {
  const { today } = scope.employer;
  const [proposed, runs, people, due, late, back] = await Promise.all([
    proposals(scope),
    listRuns(scope, 'open'),
    listPeople(scope),
    dueBetween(scope, today, addDays(today, 75)),
    overdue(scope),
    cameBack(scope),
  ]);
  const open = [];
  for (const run of runs) {
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
    { employer: scope.employer.id, today, until: addDays(today, COMING) },
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
    due: [
      ...(await untied(scope)),
      ...back,
      ...late,
      ...[...due.filter(({ done }) => !done), ...(await toEnrol(scope))].sort((a, b) => a.date.localeCompare(b.date)),
    ].map(({ done: _done, ...entry }) => ({
      ...entry,
      overdue: entry.date < today,
    })),
    unfinished: {
      count: unfinished.length,
      first: unfinished.slice(0, UNFINISHED_SHOWN).map((person) => ({ personId: person.id, name: person.name, missing: person.missing })),
    },
    coming: [...coming, ...turnsWithin(scope, addDays(today, COMING))].sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0)),
    costs: costs.reverse(),
  };
}

/** Pairs of the books that do not agree, as they were last compared. */
const untied = async (scope: Scope): Promise<(Omit<TodayView['due'][number], 'overdue'> & { done: boolean })[]> =>
  (await outOfTie(scope)).map(({ code, difference }) => ({
    date: scope.employer.today,
    what: `The books do not agree: ${PAIRS[code] ?? code}`,
    amount: difference,
    link: '/payments/tie-outs',
    done: false,
  }));

/** What the law wants to be done about savings schemes, by the earliest day. */
const toEnrol = async (scope: Scope): Promise<(Omit<TodayView['due'][number], 'overdue'> & { done: boolean })[]> => {
  const waiting = await enrolmentWaiting(scope);
  return waiting
    ? [{ date: waiting.by, what: `${waiting.title}: ${waiting.sentence}`, amount: null, link: '/people/enrolment', done: false }]
    : [];
};

/** Payments that came back and are open. */
async function cameBack(scope: Scope): Promise<(Omit<TodayView['due'][number], 'overdue'> & { done: boolean })[]> {
  const open = await transfersWhere(
    scope,
    `exists (select 1 from transfer_events v where v.transfer_id = t.id and v.step in ('returned', 'refused')) and not exists (select 1 from transfers r where r.replaces = t.id)`,
    {},
  );
  return open
    .filter(({ state }) => state === 'returned')
    .map(({ payee, amount, events }) => ({
      date: events.find(({ step }) => step === 'returned' || step === 'refused')?.on ?? scope.employer.today,
      what: `${payee}: the payment came back`,
      amount,
      link: '/payments',
      done: false,
    }));
}

/** What the turn of a tax year brings, and that the tables of the year to come are not in yet. */
function turnsWithin(scope: Scope, until: string): TodayView['coming'] {
  const { today } = scope.employer;
  const pack = packFor(scope);
  const next = pack.taxYearOf(addDays(pack.taxYearOf(today).to, 1));
  const turns = [yearOf(today) - 1, yearOf(today)].flatMap((year) => pack.yearTurns(year)).map((turn) => ({ ...turn, personId: null }));
  return [
    ...turns.filter(({ date }) => date >= today && date <= until),
    ...(next.from <= until && !hasTables(pack, next.from)
      ? [{ date: next.from, what: `Tables of ${next.label} are needed, and are not in yet`, personId: null }]
      : []),
  ];
}

function hasTables(pack: CountryPack, date: string): boolean {
  try {
    pack.assertTables(date);
    return true;
  } catch (error) {
    if (error instanceof CannotCompute) return false;
    throw error;
  }
}
