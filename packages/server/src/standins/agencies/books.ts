import type { AgencyView, ParsedBodyOf } from '@woodruff/contract';
import { execute, select } from '../../database/connection';
import { packFor, type Scope } from '../../scope';

const numberOf = (scope: Scope): string => packFor(scope).employerNumber(scope.employer.facts.country).replace(/[\s-]/g, '');

/** What the agencies have of the employer, for the stand-in's own page. */
export async function agencyView(scope: Scope): Promise<AgencyView> {
  const number = numberOf(scope);
  const files = await select<AgencyView['files'][number]>(
    scope.database,
    `select s.agency, s.name, s.received_on as "on", a.number, a.status, a.faults from agency.submissions s
     cross join lateral (select status, number, faults from agency.answers where submission_id = s.id order by id desc limit 1) a where s.taxpayer = :number or s.taxpayer = '' order by s.id desc limit 60`,
    { number },
  );
  const [settings] = await select<Omit<AgencyView, 'files' | 'knownAs'>>(
    scope.database,
    'select answers_after as "answersAfter", doubles, loses from agency.settings',
  );
  const [known] = await select<{ name: string }>(scope.database, 'select name from agency.taxpayers where number = :number', { number });
  return { answersAfter: 0, doubles: false, loses: false, ...settings, knownAs: known?.name ?? '', files };
}

/** How the agencies answer, and by which name they know the employer's number. */
export async function setAgency(scope: Scope, { answersAfter, doubles, loses, knownAs }: ParsedBodyOf<'setAgency'>): Promise<void> {
  const number = numberOf(scope);
  await execute(
    scope.database,
    'update agency.settings set answers_after = :answersAfter, doubles = :doubles, loses = :loses returning one',
    {
      answersAfter,
      doubles,
      loses,
    },
  );
  if (knownAs)
    await execute(
      scope.database,
      'insert into agency.taxpayers (number, name) values (:number, :knownAs) on conflict (number) do update set name = excluded.name returning number',
      {
        number,
        knownAs,
      },
    );
  else await execute(scope.database, 'delete from agency.taxpayers where number = :number returning number', { number });
}
