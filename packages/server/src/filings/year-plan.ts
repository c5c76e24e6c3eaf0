import type { ParsedBodyOf, YearPlan, YearStep } from '@woodruff/contract';
import {
  addDays,
  counted,
  stateOfFiling,
  writtenDate,
  yearOf,
  type CountryPack,
  type Filing,
  type FilingPeriod,
  periodsPaidWithin,
} from '@woodruff/core';
import { record } from '../audit/audit';
import { schedulesOf } from '../employers/schedules-on-file';
import { execute, select } from '../database/connection';
import { notFound } from '../errors';
import { holidaysOf, packFor, type Scope } from '../scope';
import { changing } from '../users/changing';
import { carriedOver } from '../leave/carried-over';
import { boxMap } from './boxes';
import { contentOf, eventsOf, type Happened } from './events';
import { wantedOf } from './files';
import { copiesGiven } from './give';
import { filingsWanted, madeNow } from './make';
import { unexplainedOf } from './reconciled';
import { yearCalled, type TaxYear } from './tax-years';

/** On its way to the agency, or there. */
const ARRIVED = ['queued', 'received', 'accepted', 'amended'];

/** The end of a tax year as a plan. Every state follows from facts of today; nothing of it keeps the next year waiting. */
export async function yearPlan(scope: Scope, called: string): Promise<YearPlan> {
  const pack = packFor(scope);
  const { today } = scope.employer;
  const year = called === 'now' ? pack.taxYearOf(today) : yearCalled(pack, called);
  const { label } = year;
  const events = await eventsOf(scope);
  const filed = (await filingsWanted(scope)).flatMap((filing) =>
    [...new Set([yearOf(year.from), yearOf(year.to)])]
      .flatMap((one) => (filing.every === 'pay-date' ? [] : filing.periods(one)))
      .filter(({ taxYear }) => taxYear === label)
      .map((period) => ({ filing, period, events: events.filter((one) => one.filing === filing.code && one.period === period.key) })),
  );
  const statements = await statementsOf(scope, filed);
  const ahead = await aheadOf(scope, year);
  return {
    year: label,
    from: year.from,
    to: year.to,
    today,
    current: pack.taxYearOf(today).label,
    years: await yearsOf(scope, label),
    steps: [
      ...(await runSteps(scope, year)),
      ...(await boxStep(scope, year)),
      await reconciledStep(scope, year),
      ...statements.steps,
      ...filed.map((one) => filingStep(one, today)),
      await tableStep(scope, year),
      ...(await turnSteps(scope, year)),
    ].sort((a, b) => ((a.date ?? '9') < (b.date ?? '9') ? -1 : (a.date ?? '9') > (b.date ?? '9') ? 1 : 0)),
    toFix: statements.toFix,
    ahead,
    ending: [...(await endingIn(scope, year)), ...(await carriedOver(scope, nextOf(pack, year)))],
    filings: await Promise.all(
      filed.map(async ({ filing, period, events: happened }) => {
        const given = filing.copies && happened.length ? await copiesGiven(scope, filing.code, period.key) : null;
        return {
          filing: filing.code,
          period: period.key,
          title: `${filing.form}, ${period.label}`,
          due: period.due,
          state: stateOfFiling(period, today, happened),
          attempts: Math.max(0, ...happened.map(({ attempt }) => attempt)),
          given: given && { of: given.people.length, given: given.people.filter((one) => one.given.length).length },
        };
      }),
    ),
  };
}

const yearsOf = async (scope: Scope, shown: string): Promise<string[]> => {
  const rows = await select<{ year: string }>(
    scope.database,
    'select distinct tax_year as year from balances where employer_id = :employer',
    {
      employer: scope.employer.id,
    },
  );
  return [...new Set([...rows.map(({ year }) => year), shown, packFor(scope).taxYearOf(scope.employer.today).label])].sort().reverse();
};

const step = (code: string, more: Partial<YearStep> & Pick<YearStep, 'what' | 'how' | 'state'>): YearStep => ({
  code,
  date: null,
  link: null,
  byHand: null,
  canBeSaid: false,
  ...more,
});

/** Runs with a pay date of the year: all of them posted, and nobody's beginning left out. */
async function runSteps(scope: Scope, { from, to }: TaxYear): Promise<YearStep[]> {
  const [row] = await select<{ open: number; posted: number; last: string | null }>(
    scope.database,
    `select count(*) filter (where state <> 'approved')::int as open, count(*) filter (where state = 'approved')::int as posted, max(pay_date) as last
     from pay_runs where employer_id = :employer and kind in ('regular', 'special', 'correction') and pay_date between :from and :to`,
    { employer: scope.employer.id, from, to },
  );
  const { open = 0, posted = 0, last = null } = row ?? {};
  const over = scope.employer.today > to;
  return [
    step('runs', {
      date: to,
      what: 'Pay everything that has a pay date in the year',
      how: `${counted(posted, 'run', 'runs')} posted${open ? `, ${open} open` : ''}${last ? `; the last pay date is ${writtenDate(last)}` : ''}.`,
      state: open ? (over ? 'late' : 'open') : over ? 'done' : 'later',
      link: '/pay-runs',
    }),
  ];
}

async function boxStep(scope: Scope, { label, to }: TaxYear): Promise<YearStep[]> {
  const { filings } = await boxMap(scope, label);
  if (!filings.length) return [];
  const open = filings.flatMap(({ items }) => items).filter((item) => item.open).length;
  return [
    step('boxes', {
      date: to,
      what: 'Every pay item has its box, or is in none on purpose',
      how: open ? `${counted(open, 'item has', 'items have')} no box yet.` : 'Each has.',
      state: open ? 'open' : 'done',
      link: `/filings/year/${label}/boxes`,
    }),
  ];
}

/** Before anything of the year is filed: the register by item against the ledger that it is made from. */
async function reconciledStep(scope: Scope, { label, to }: TaxYear): Promise<YearStep> {
  const unexplained = await unexplainedOf(scope, label);
  return step('reconciled', {
    date: to,
    what: 'Reconcile the register with the ledger, item by item',
    how: unexplained
      ? `${counted(unexplained, 'item differs', 'items differ')} by what nothing explains.`
      : 'Nothing differs that is not explained.',
    state: unexplained ? 'open' : scope.employer.today > to ? 'done' : 'later',
    link: `/filings/year/${label}/reconcile`,
  });
}

interface Filed {
  filing: Filing;
  period: FilingPeriod;
  events: Happened[];
}

const NAMES: Record<string, string> = {
  'not-due-yet': 'Its period runs.',
  due: 'Not filed yet.',
  overdue: 'Not filed yet.',
  prepared: 'Prepared, and to be agreed to.',
  agreed: 'Agreed to, and to be sent.',
  queued: 'Sent; the agency has not answered.',
  received: 'Received by the agency.',
  accepted: 'Accepted.',
  rejected: 'Rejected by the agency.',
  amended: 'Amended, and accepted.',
};

function filingStep({ filing, period, events }: Filed, today: string): YearStep {
  const state = stateOfFiling(period, today, events);
  return step(`filing-${filing.code}-${period.key}`, {
    date: period.due,
    what: `${filing.form}, ${period.label}`,
    how: NAMES[state] ?? '',
    state: ARRIVED.includes(state) ? 'done' : today > period.due ? 'late' : today > period.to ? 'open' : 'later',
    link: `/filings/${filing.code}/${period.key}`,
  });
}

/** Of yearly statements: what is to be fixed, and how many were given. */
async function statementsOf(scope: Scope, filed: readonly Filed[]): Promise<{ steps: YearStep[]; toFix: YearPlan['toFix'] }> {
  const steps: YearStep[] = [];
  const toFix: YearPlan['toFix'] = [];
  const { today } = scope.employer;
  for (const { filing, period, events } of filed.filter((one) => one.filing.copies)) {
    const link = `/filings/${filing.code}/${period.key}`;
    const { copies } = await madeNow(scope, { filing, period });
    const wants = await wantedOf(scope, { filing, period });
    const last = events.at(-1);
    const final = last && (await contentOf(scope, filing.code, period.key, last.attempt));
    const addressed = new Map((final?.copies ?? []).map(({ personId, to }) => [personId, to.join(', ')]));
    const wrong = copies.flatMap((copy) => copy.checks.map((check) => ({ copy, check })));
    toFix.push(
      ...wants.map(({ sentence, part }) => ({
        sentence: `${sentence} is missing.`,
        weight: 'look' as const,
        who: null,
        link: `/employer#${part}`,
      })),
      ...copies.flatMap(({ personId, name, to }) => {
        const before = addressed.get(personId);
        if (before === undefined || before === to.join(', ')) return [];
        const sentence = `Name or address of ${name} have changed since the statement was made final; it has: ${before}.`;
        return [{ sentence, weight: 'look' as const, who: { personId, name }, link: `/people/${personId}` }];
      }),
      ...wrong.map(({ copy: { personId, name }, check: { sentence, weight } }) => ({
        sentence,
        weight,
        who: { personId, name },
        link: `/people/${personId}`,
      })),
    );
    const stops = wrong.filter(({ check }) => check.weight === 'stop').length;
    const fix = stops + wants.length;
    steps.push(
      step(`facts-${filing.code}`, {
        date: period.to,
        what: `Facts that ${filing.copies?.name} needs`,
        how: fix
          ? `${counted(fix, 'thing is', 'things are')} to be fixed.`
          : copies.length
            ? `Nothing is missing on ${counted(copies.length, 'statement', 'statements')}.`
            : 'Nobody is to be given one yet.',
        state: fix ? 'open' : copies.length ? 'done' : 'later',
        link,
      }),
    );
    const later = final ? copies.filter(({ personId }) => !addressed.has(personId)) : [];
    if (filing.copies?.some && later.length)
      steps.push(
        step(`held-${filing.code}`, {
          date: period.due,
          what: `${filing.form} of who was held back`,
          how: `${later[0]?.name ?? ''}${later.length > 1 ? ` and ${later.length - 1} more` : ''} still ${later.length > 1 ? 'follow' : 'follows'}.`,
          state: today > period.due ? 'late' : 'open',
          link,
        }),
      );
    const { attempt, people } = await copiesGiven(scope, filing.code, period.key);
    const given = people.filter((one) => one.given.length).length;
    steps.push(
      step(`given-${filing.code}`, {
        date: period.due,
        what: `${filing.copies?.name} given to people`,
        how: attempt === null ? 'A draft; nothing is final.' : `${given} of ${people.length} given.`,
        state: attempt !== null && given === people.length ? 'done' : today > period.due ? 'late' : today > period.to ? 'open' : 'later',
        link,
      }),
    );
  }
  return { steps, toFix };
}

const nextOf = (pack: CountryPack, { to }: TaxYear): TaxYear => pack.taxYearOf(addDays(to, 1));

async function tableStep(scope: Scope, year: TaxYear): Promise<YearStep> {
  const pack = packFor(scope);
  const next = nextOf(pack, year);
  const later = new Set(pack.tables.inForceOn(next.from).map(({ code }) => code));
  const missing = pack.tables.inForceOn(year.to).filter(({ code }) => !later.has(code)).length;
  return Promise.resolve(
    step('tables', {
      date: year.to,
      what: `Tables of ${next.label}`,
      how: missing ? `${counted(missing, 'table has', 'tables have')} no figures of ${next.label} yet.` : 'All are in.',
      state: missing ? (scope.employer.today > year.to ? 'late' : 'open') : 'done',
      link: '/filings/tables',
    }),
  );
}

/** Reminders of the country's year: nothing on file says whether they were done, so somebody does. */
async function turnSteps(scope: Scope, year: TaxYear): Promise<YearStep[]> {
  const said = await select<{ step: string; done: boolean; on: string; who: string; note: string }>(
    scope.database,
    `select distinct on (s.step) s.step, s.done, s.on_day as "on", u.name as who, s.note from year_steps s join users u on u.id = s.user_id where s.employer_id = :employer and s.year = :year order by s.step, s.id desc`,
    { employer: scope.employer.id, year: year.label },
  );
  return turnsOf(scope, year).map(({ date, what }) => {
    const code = `turn-${date}`;
    const one = said.find(({ step: known, done }) => known === code && done);
    return step(code, {
      date,
      what,
      how: '',
      state: one ? 'done' : scope.employer.today >= date ? 'open' : 'later',
      byHand: one ? { on: one.on, who: one.who, note: one.note } : null,
      canBeSaid: true,
    });
  });
}

const turnsOf = (scope: Scope, { to }: TaxYear): readonly { date: string; what: string }[] => packFor(scope).yearTurns(yearOf(to));

/** Somebody has done a reminder of the plan, or has not after all. */
export async function sayYearStep(scope: Scope, label: string, code: string, { done, note }: ParsedBodyOf<'sayYearStep'>): Promise<void> {
  const turn = turnsOf(scope, yearCalled(packFor(scope), label)).find(({ date }) => `turn-${date}` === code);
  if (!turn) throw notFound('step');
  await changing(scope, async (transaction) => {
    await execute(
      scope.database,
      'insert into year_steps (employer_id, year, step, done, note, on_day, user_id) values (:employer, :label, :code, :done, :note, :today, :user) returning id',
      { employer: scope.employer.id, label, code, done, note, today: scope.employer.today, user: scope.user.id },
      transaction,
    );
    const what = `${turn.what}: ${done ? 'done' : 'not done after all'}${note ? `. ${note}` : ''}`;
    await record(scope, { action: 'year', subject: 'employer', subjectId: scope.employer.id, what }, transaction);
  });
}

/** What the country's law asks for before the next tax year. */
async function aheadOf(scope: Scope, year: TaxYear): Promise<YearPlan['ahead']> {
  const pack = packFor(scope);
  const next = nextOf(pack, year);
  const people = await select<{ personId: string; name: string; details: Record<string, unknown> | null }>(
    scope.database,
    `select p.id as "personId", p.given_name || ' ' || p.family_name as name, (select t.facts from tax_details t where t.person_id = p.id and t.from_date <= :on order by t.from_date desc limit 1) as details
     from people p where p.employer_id = :employer and (p."left" is null or p."left" > :on) order by name`,
    { employer: scope.employer.id, on: year.to },
  );
  const days = await select<{ code: string; on: string; amount: number }>(
    scope.database,
    'select code, counts_on as "on", amount from owed_days where employer_id = :employer',
    { employer: scope.employer.id },
  );
  const payDates = (await schedulesOf(scope)).flatMap((schedule) =>
    periodsPaidWithin(schedule, year.from, year.to, holidaysOf(scope)).map(({ payDate }) => ({
      schedule: schedule.name,
      frequency: schedule.frequency,
      date: payDate,
    })),
  );
  const points = pack.yearAhead({
    payDates,
    year: yearOf(next.from),
    employer: scope.employer.facts.country,
    posted: (codes, from, to) =>
      days.reduce((sum, day) => (codes.includes(day.code) && day.on >= from && day.on <= to ? sum + day.amount : sum), 0),
    people: people.map(({ details, ...one }) => ({ ...one, details: details ?? {} })),
  });
  return points.map(({ code, sentence, done, source, part, people: named }) => ({
    code,
    sentence,
    done,
    source: [source.publication, source.section].filter(Boolean).join('; '),
    link: part === 'registrations' ? '/employer#registrations' : named?.[0] ? `/people/${named[0].personId}` : '/people',
    people: [...(named ?? [])],
  }));
}

/** What ends within the year by what is on file: people's items. */
async function endingIn(scope: Scope, { from, to }: TaxYear): Promise<YearPlan['ending']> {
  const rows = await select<{ item: string; id: string; people: number; last: string }>(
    scope.database,
    `select i.definition->>'name' as item, i.id, count(distinct pi.person_id)::int as people, max(pi.to_date) as last from person_items pi join pay_items i on i.id = pi.item_id
     where i.employer_id = :employer and pi.to_date between :from and :to
       and not exists (select 1 from person_items o where o.person_id = pi.person_id and o.item_id = pi.item_id and o.from_date > pi.to_date) group by 1, 2 order by 1`,
    { employer: scope.employer.id, from, to },
  );
  return rows.map(({ item, id, people, last }) => ({
    sentence: `${item} ends for ${counted(people, 'person', 'people')}, last on ${writtenDate(last)}.`,
    link: `/pay-items/${id}`,
  }));
}
