import type { ParsedBodyOf, Person as PersonView } from '@woodruff/contract';
import { writtenDate } from '@woodruff/core';
import { record } from '../../audit/audit';
import { execute, select, type Transaction } from '../../database/connection';
import { invalid, notFound } from '../../errors';
import { changing } from '../../users/changing';
import type { Scope } from '../../scope';
import { PayRate } from '../models';
import { personOf } from '../person';

type Position = ParsedBodyOf<'addPosition'>;

/** Positions beside the main one, latest first. */
export function positionsOf(scope: Scope, personId: string): Promise<PersonView['positions']> {
  return select<PersonView['positions'][number]>(
    scope.database,
    `select s.id, s.job, s.department, s.worksite, s.rate_series as rate, trim_scale(s.share)::text as share, s.from_date as "from", s.to_date as "to",
            (select r.label from pay_rates r where r.person_id = s.person_id and r.series = s.rate_series order by r.from_date desc limit 1) as "rateLabel"
     from person_positions s where s.person_id = :personId order by s.to_date is not null, s.from_date desc, s.job`,
    { personId },
  );
}

export async function addPosition(scope: Scope, personId: string, position: Position): Promise<{ id: string }> {
  return changing(scope, async (transaction) => {
    await check(scope, personId, position, null, transaction);
    const [made] = (await execute(
      scope.database,
      `insert into person_positions (person_id, job, department, worksite, rate_series, share, from_date, to_date) values (:personId, :job, :department, :worksite, :rate, :share, :from, :to) returning id`,
      { personId, ...valuesOf(position) },
      transaction,
    )) as { id: string }[];
    await recorded(scope, personId, `Position ${words(position)}`, transaction);
    return { id: made?.id ?? '' };
  });
}

export async function changePosition(scope: Scope, personId: string, id: string, position: Position): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    await check(scope, personId, position, id, transaction);
    const changed = (await execute(
      scope.database,
      `update person_positions set job = :job, department = :department, worksite = :worksite, rate_series = :rate, share = :share, from_date = :from, to_date = :to
       where id = :id and person_id = :personId returning id`,
      { id, personId, ...valuesOf(position) },
      transaction,
    )) as object[];
    if (!changed.length) throw notFound('position');
    await recorded(scope, personId, `Position changed: ${words(position)}`, transaction);
    return {};
  });
}

export async function removePosition(scope: Scope, personId: string, id: string): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    await personOf(scope, personId, transaction);
    const [gone] = (await execute(
      scope.database,
      'delete from person_positions where id = :id and person_id = :personId returning job',
      { id, personId },
      transaction,
    )) as { job: string }[];
    if (!gone) throw notFound('position');
    await recorded(scope, personId, `Position ${gone.job} taken off: entered by mistake`, transaction);
    return {};
  });
}

async function check(
  scope: Scope,
  personId: string,
  { rate, share, from, to, department, worksite }: Position,
  id: string | null,
  transaction: Transaction,
): Promise<void> {
  const person = await personOf(scope, personId, transaction);
  if (person.hired && from < person.hired)
    throw invalid(`The position begins before the hire date, ${writtenDate(person.hired)}.`, [
      { path: 'from', expected: 'the hire date or later' },
    ]);
  if (to && to < from) throw invalid('The position ends before it begins.', [{ path: 'to', expected: 'the first day or later' }]);
  const { departments, worksites } = scope.employer.facts;
  if (department && !departments.includes(department))
    throw invalid(`${department} is no department here.`, [{ path: 'department', expected: 'one of the departments' }]);
  if (worksite && !worksites.some((site) => site.name === worksite))
    throw invalid(`${worksite} is no worksite here.`, [{ path: 'worksite', expected: 'one of the worksites' }]);
  if (rate && !(await PayRate.count({ where: { personId, series: rate }, transaction })))
    throw invalid('The person has no such rate. Add it first.', [{ path: 'rate', expected: 'one of the rates of the person' }]);
  if (!share) return;
  const [others] = await select<{ shares: number }>(
    scope.database,
    `select coalesce(sum(share), 0)::float as shares from person_positions where person_id = :personId and (cast(:id as uuid) is null or id <> cast(:id as uuid))
       and from_date <= coalesce(cast(:to as date), 'infinity') and (to_date is null or to_date >= :from)`,
    { personId, id, from, to: to || null },
    transaction,
  );
  if (Number(share) <= 0 || Number(share) + (others?.shares ?? 0) >= 100)
    throw invalid('The shares of cost of positions at one time are less than 100 per cent: the rest is that of the main position.', [
      { path: 'share', expected: `more than 0, and less than ${100 - (others?.shares ?? 0)}` },
    ]);
}

const valuesOf = ({ job, department, worksite, rate, share, from, to }: Position) => ({
  job,
  department,
  worksite,
  rate: rate || null,
  share: share || null,
  from,
  to: to || null,
});

const words = ({ job, department, from, to }: Position): string =>
  `${job}${department ? `, ${department}` : ''} from ${writtenDate(from)}${to ? ` to ${writtenDate(to)}` : ''}`;

const recorded = (scope: Scope, personId: string, what: string, transaction: Transaction): Promise<void> =>
  record(scope, { action: 'position', subject: 'person', subjectId: personId, what }, transaction);
