import type { EnrolmentPage, EnrolmentPerson } from '@woodruff/contract';
import {
  counted,
  dutyOf,
  standingOf,
  writtenDate,
  type EnrolmentAssessment,
  type EnrolmentDuty,
  type EnrolmentLaw,
  type EnrolmentStanding,
  type EnrolmentStep,
} from '@woodruff/core';
import { select, type Transaction } from '../database/connection';
import { packFor, type Scope } from '../scope';
import { schemesOf, type Scheme } from './schemes';

interface StoredStep {
  id: string;
  personId: string;
  step: EnrolmentStep['step'];
  on: string;
  about: Record<string, string>;
  by: string;
  undone: string | null;
}

/** Somebody with where they stand, what the law says on the latest pay date, and what is to be done. */
export interface Enrolled {
  personId: string;
  name: string;
  department: string;
  hired: string | null;
  left: string | null;
  payslipId: string | null;
  period: { payDate: string; from: string; to: string; draft: boolean; earnings: number; frequency: string } | null;
  steps: StoredStep[];
  standing: EnrolmentStanding;
  assessed: EnrolmentAssessment | null;
  duty: EnrolmentDuty | undefined;
}

/** Steps as they were entered, with those that were taken back. */
const stepsOf = (scope: Scope, people: readonly string[], transaction?: Transaction): Promise<StoredStep[]> =>
  select<StoredStep>(
    scope.database,
    `select s.id, s.person_id as "personId", s.step, s.on_day as "on", s.about, u.name as by, (select b.about->>'reason' from enrolment_steps b where b.undoes = s.id) as undone
     from enrolment_steps s join users u on u.id = s.user_id where s.employer_id = :employer and s.undoes is null and s.person_id = any(cast(:people as uuid[])) order by s.number`,
    { employer: scope.employer.id, people: `{${people.join()}}` },
    transaction,
  );

export const roundsOf = (scope: Scope, transaction?: Transaction): Promise<string[]> =>
  select<{ on: string }>(
    scope.database,
    'select on_day as "on" from enrolment_rounds where employer_id = :employer order by on_day',
    { employer: scope.employer.id },
    transaction,
  ).then((rows) => rows.map(({ on }) => on));

/**
 * Everybody, or the people of a run or of a list: assessed by the latest regular payslip, which in an open run is its draft, with
 * all that is paid for the same period.
 */
export async function enrolledOf(
  scope: Scope,
  law: EnrolmentLaw,
  of: { run?: string; payslip?: string; people?: readonly string[] } = {},
  transaction?: Transaction,
): Promise<Enrolled[]> {
  const dutiesFrom = law.dutiesFrom(scope.employer.facts.country);
  const rows = await select<Omit<Enrolled, 'steps' | 'standing' | 'assessed' | 'duty'> & { born: string | null }>(
    scope.database,
    `select p.id as "personId", p.family_name || ', ' || p.given_name as name, p.department, p.born, p.hired, p."left", l.id as "payslipId",
            case when l.id is not null then json_build_object('payDate', l.pay_date, 'from', l.period_from, 'to', l.period_to, 'draft', l.state = 'draft', 'frequency', l.frequency,
              'earnings', (select coalesce(sum((e->>'amount')::bigint), 0) from payslips y join pay_runs r on r.id = y.run_id and r.period_from = l.period_from and r.period_to = l.period_to join payslip_results x on x.payslip_id = y.id
                           cross join lateral jsonb_array_elements(x.lines) e where y.person_id = p.id and y.included and y.state in ('draft', 'posted') and e->>'code' = :earnings)) end as period
     from people p left join lateral (
       select y.id, y.state, r.pay_date, r.period_from, r.period_to, s.frequency from payslips y join pay_runs r on r.id = y.run_id and r.kind = 'regular' join pay_schedules s on s.id = r.schedule_id
       where y.person_id = p.id and y.included and y.state in ('draft', 'posted') ${of.run ? 'and y.run_id = :run' : ''} order by r.pay_date desc limit 1) l on true
     where p.employer_id = :employer and p.kind <> 'contractor'
       ${of.run ? 'and l.id is not null' : ''} ${of.payslip ? 'and l.id = :payslip' : ''} ${of.people ? 'and p.id = any(cast(:people as uuid[]))' : ''}
     order by p.family_name, p.given_name, p.code`,
    {
      employer: scope.employer.id,
      earnings: law.earnings,
      run: of.run ?? null,
      payslip: of.payslip ?? null,
      people: `{${(of.people ?? []).join()}}`,
    },
    transaction,
  );
  const steps = new Map<string, StoredStep[]>(rows.map(({ personId }) => [personId, []]));
  for (const step of await stepsOf(scope, [...steps.keys()], transaction)) steps.get(step.personId)?.push(step);
  const rounds = await roundsOf(scope, transaction);
  return rows.map(({ born, ...row }): Enrolled => {
    const own = steps.get(row.personId) ?? [];
    const standing = standingOf(
      own.filter(({ undone }) => undone === null).map(({ step, on, about }) => ({ ...about, step, on }) as unknown as EnrolmentStep),
    );
    const assessed =
      row.period && dutiesFrom
        ? law.assess({ ...row.period, dutiesFrom, ...(born ? { born } : {}), ...(row.hired ? { hired: row.hired } : {}) })
        : null;
    // Who has left has no duty to come, and before the duties there is none.
    const counts =
      assessed && row.period && (!row.left || row.left >= row.period.payDate) && dutiesFrom && row.period.payDate >= dutiesFrom;
    return {
      ...row,
      steps: own,
      standing,
      assessed,
      duty: counts ? dutyOf(law, standing, assessed, { payDate: row.period?.payDate ?? '', rounds }) : undefined,
    };
  });
}

/** Where somebody stands, as a sentence says it. */
export function inWords(law: EnrolmentLaw, schemes: readonly Scheme[], standing: EnrolmentStanding): string {
  const since = standing.since ? writtenDate(standing.since) : '';
  switch (standing.state) {
    case 'in': {
      const scheme = schemes.find(({ id }) => id === standing.scheme);
      const how = {
        enrolled: 'enrolled by law',
        're-enrolled': 'enrolled again',
        'opted-in': 'opted in',
        joined: 'joined',
        agreed: 'by agreement',
      };
      return `In ${scheme?.name ?? 'a scheme'} since ${since}, ${how[standing.because ?? 'agreed']}`;
    }
    case 'postponed':
      return `Postponed until ${writtenDate(standing.until ?? '')}`;
    case 'opted-out':
      return `Opted out on ${since}`;
    case 'ceased':
      return `Membership ended on ${since}`;
    case 'exempt':
      return `Exempt since ${since}: ${law.exemptions.find(({ code }) => code === standing.reason)?.label ?? standing.reason}`;
    case 'out':
      return 'Not in a scheme';
  }
}

/** A step of the past, as its history says it. */
function stepInWords(law: EnrolmentLaw, schemes: readonly Scheme[], { step, about }: StoredStep): string {
  switch (step) {
    case 'enrolled': {
      const scheme = schemes.find(({ id }) => id === about['scheme']);
      return `Into ${scheme?.name ?? 'a scheme'}, ${scheme?.tiers.find(({ code }) => code === about['tier'])?.label ?? ''}`;
    }
    case 'postponed':
      return `Postponed until ${writtenDate(about['until'] ?? '')}, ${law.postponements.find(({ code }) => code === about['kind'])?.label ?? ''}`;
    case 'opted-out':
      return `Opted out, reference ${about['reference'] ?? ''}`;
    case 'ceased':
      return 'Membership ended';
    case 'exempt':
      return `Exempt: ${law.exemptions.find(({ code }) => code === about['reason'])?.label ?? ''}`;
    case 'exempt-no-more':
      return 'Exempt no more';
    case 'letter':
      return `Letter given ${about['how'] === 'inbox' ? 'to the own view' : 'on paper'}: ${law.letters.find(({ code }) => code === about['letter'])?.title ?? ''}`;
  }
}

export function viewOf(law: EnrolmentLaw, schemes: readonly Scheme[], one: Enrolled): EnrolmentPerson {
  const { period, assessed, standing, duty } = one;
  return {
    personId: one.personId,
    name: one.name,
    department: one.department,
    left: one.left,
    assessed:
      period && assessed
        ? {
            payDate: period.payDate,
            draft: period.draft,
            earnings: period.earnings,
            category: assessed.category.code,
            label: assessed.category.label,
            tests: assessed.tests,
            workings: { ...assessed.workings },
            asks: assessed.category.asks ?? null,
          }
        : null,
    state: standing.state,
    standing: inWords(law, schemes, standing),
    optOutUntil: standing.state === 'in' ? (law.optOutUntil(standing) ?? null) : null,
    duty: duty ? { ...duty, letter: duty.letter ?? null } : null,
    steps: one.steps.map(({ id, on, by, undone, ...step }) => ({
      id,
      on,
      by,
      undone,
      sentence: stepInWords(law, schemes, { id, on, by, undone, ...step }),
    })),
  };
}

/** The page of everybody. */
export async function enrolmentPage(scope: Scope): Promise<EnrolmentPage> {
  const law = packFor(scope).enrolment;
  if (!law) return { law: null, dutiesFrom: null, schemes: [], people: [], round: null, declaration: null };
  const dutiesFrom = law.dutiesFrom(scope.employer.facts.country);
  const { today } = scope.employer;
  const schemes = await schemesOf(scope);
  const all = await enrolledOf(scope, law);
  const people = all.filter(({ left, duty }) => !left || left >= today || duty);
  const chosen = await roundsOf(scope);
  const coming = chosen.find((day) => day >= today);
  const round = dutiesFrom ? law.round(dutiesFrom, coming ? chosen.slice(0, -1) : chosen, today) : undefined;
  const declareFirst = dutiesFrom ? law.declareBy(dutiesFrom) : undefined;
  return {
    law: {
      title: law.title,
      noun: law.noun,
      postponements: law.postponements.map((one) => ({ ...one, atMost: law.postponedAtMost(today) })),
      exemptions: [...law.exemptions],
      letters: law.letters.map(({ code, title }) => ({ code, label: title })),
      fields: law.scheme.fields.map(({ key, label, choices }) => ({ key, label, choices: [...(choices ?? [])] })),
    },
    dutiesFrom: dutiesFrom ?? null,
    schemes,
    people: people.map((one) => viewOf(law, schemes, one)),
    round: round ? { ...round, chosen: coming ?? chosen.at(-1) ?? null } : null,
    declaration:
      declareFirst && round
        ? {
            by: declareFirst >= today ? declareFirst : round.declareBy,
            rows: declared(
              law,
              people.filter(({ left }) => !left || left >= today),
            ),
          }
        : null,
  };
}

/** Figures that the declaration to the regulator asks for. */
function declared(law: EnrolmentLaw, people: readonly Enrolled[]): { label: string; people: number }[] {
  const number = (holds: (one: Enrolled) => boolean) => people.filter(holds).length;
  const because = (...of: string[]) => number(({ standing }) => standing.state === 'in' && of.includes(standing.because ?? ''));
  return [
    { label: 'Workers in all', people: people.length },
    { label: 'Members already, by agreement', people: because('agreed') },
    { label: 'Enrolled by law', people: because('enrolled', 're-enrolled') },
    { label: 'Opted in or joined', people: because('opted-in', 'joined') },
    { label: 'Postponed', people: number(({ standing }) => standing.state === 'postponed') },
    { label: 'Exempt', people: number(({ standing }) => standing.state === 'exempt') },
    { label: 'Opted out or ended', people: number(({ standing }) => standing.state === 'opted-out' || standing.state === 'ceased') },
    ...law.categories
      .filter(({ duty }) => duty !== 'enrol')
      .map(({ code, label }) => ({
        label: `Not members: ${label.toLowerCase()}`,
        people: number(({ standing, assessed }) => standing.state === 'out' && assessed?.category.code === code),
      })),
  ];
}

/** What an open run's people have to be enrolled for, as its points say it; with `payslip` of that one only. */
export async function enrolmentPoints(
  scope: Scope,
  of: { run: string; payslip?: string },
  transaction?: Transaction,
): Promise<{ key: string; sentence: string; who: string; payslipId: string | null; personId: string }[]> {
  const law = packFor(scope).enrolment;
  if (!law?.dutiesFrom(scope.employer.facts.country)) return [];
  return (await enrolledOf(scope, law, of, transaction)).flatMap(({ duty, personId, payslipId, name }) =>
    duty && duty.what !== 'letter'
      ? [
          {
            key: `enrol:${personId}:${duty.from}`,
            sentence: `${duty.sentence} Enrol, postpone or exempt on the page ${law.title}.`,
            who: name.split(', ').reverse().join(' '),
            payslipId,
            personId,
          },
        ]
      : [],
  );
}

/** What waits for the employer, for Today: how many, and the earliest day. */
export async function enrolmentWaiting(scope: Scope): Promise<{ title: string; sentence: string; by: string } | null> {
  const law = packFor(scope).enrolment;
  if (!law?.dutiesFrom(scope.employer.facts.country)) return null;
  const due = (await enrolledOf(scope, law)).flatMap(({ duty }) => (duty ? [duty] : []));
  const [first] = due.map(({ by }) => by).sort();
  if (!first) return null;
  const enrol = due.filter(({ what }) => what !== 'letter').length;
  const letters = due.length - enrol;
  return {
    title: law.title,
    sentence: [
      ...(enrol ? [`${counted(enrol, 'person', 'people')} to enrol, postpone or exempt`] : []),
      ...(letters ? [`${counted(letters, 'letter', 'letters')} to give`] : []),
    ].join(', '),
    by: first,
  };
}
