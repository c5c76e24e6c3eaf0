import type { EndpointName, HeldChanges, SecondPersonFor } from '@woodruff/contract';
import { record } from '../audit/audit';
import { execute, select, takenBack } from '../database/connection';
import { conflict, notFound, Refusal } from '../errors';
import { changing } from '../users/changing';
import { may } from '../users/permissions';
import type { Scope } from '../scope';
import { theVault } from '../vault/vault';

/** What was asked for, as it is done when it is confirmed. */
export interface HeldCall {
  endpoint: EndpointName;
  path: Record<string, string>;
  body: unknown;
}

interface Row {
  id: string;
  endpoint: EndpointName;
  kind: SecondPersonFor;
  what: string;
  sealed: Buffer;
  userId: string;
}

/**
 * Keeps a change until a second person confirms it. It is tried first and taken back, so that what cannot be done is
 * refused at once, and what it would put on the record is shown to who confirms; what it holds is sealed.
 */
export function hold(
  scope: Scope,
  kind: SecondPersonFor,
  call: HeldCall,
  what: string,
  attempt: () => Promise<unknown>,
): Promise<{ held: string }> {
  return changing(scope, async (transaction) => {
    const entries = await takenBack(scope.database, async () => {
      const [last] = await select<{ id: number }>(scope.database, 'select coalesce(max(id), 0)::bigint as id from audit_entries');
      await attempt();
      const recorded = await select<{ what: string }>(
        scope.database,
        'select what from audit_entries where employer_id = :employer and id > :last order by id limit 30',
        { employer: scope.employer.id, last: last?.id ?? 0 },
      );
      return recorded.map((entry) => entry.what);
    });
    const [made] = (await execute(
      scope.database,
      `insert into held_changes (employer_id, endpoint, kind, what, sealed, user_id, entries) values (:employer, :endpoint, :kind, :what, '', :user, :entries) returning id`,
      {
        employer: scope.employer.id,
        endpoint: call.endpoint,
        kind,
        what: `${what}${await aboutWhom(scope, call)}`,
        user: scope.user.id,
        entries: JSON.stringify(entries),
      },
    )) as { id: string }[];
    const id = made?.id ?? '';
    await execute(scope.database, 'update held_changes set sealed = :sealed where id = :id', {
      id,
      sealed: theVault().seal(JSON.stringify(call), `held:${id}`),
    });
    await record(
      scope,
      { action: 'hold', subject: 'employer', subjectId: scope.employer.id, what: `Waits for a second person: ${what}` },
      transaction,
    );
    return { held: id };
  });
}

/** The person, or the person of the payslip, that the path names. */
async function aboutWhom(scope: Scope, { path }: HeldCall): Promise<string> {
  const [found] = await select<{ name: string }>(
    scope.database,
    `select p.given_name || ' ' || p.family_name as name from people p left join payslips y on y.person_id = p.id and y.id = :id
     where p.employer_id = :employer and (p.id = :id or y.id is not null) limit 1`,
    { employer: scope.employer.id, id: path['id'] ?? null },
  );
  return found ? `: ${found.name}` : '';
}

export const heldChanges = (scope: Scope): Promise<HeldChanges> =>
  select(
    scope.database,
    `select h.id, h.kind, h.what, h.entries, u.name as who, to_char(h.at, 'YYYY-MM-DD"T"HH24:MI:SS') as at, h.user_id = :user as own
     from held_changes h join users u on u.id = h.user_id where h.employer_id = :employer and h.state = 'waiting' order by h.at`,
    { employer: scope.employer.id, user: scope.user.id },
  );

async function waiting(scope: Scope, id: string): Promise<Row> {
  const [row] = await select<Row>(
    scope.database,
    `select id, endpoint, kind, what, sealed, user_id as "userId" from held_changes where id = :id and employer_id = :employer and state = 'waiting' for update`,
    { id, employer: scope.employer.id },
  );
  if (!row) throw notFound('change that waits');
  return row;
}

/** Does what was asked for, as the one who confirms it; never the one who asked. */
export function confirm(scope: Scope, id: string, carryOut: (call: HeldCall) => Promise<unknown>): Promise<unknown> {
  return changing(scope, async (transaction) => {
    const row = await waiting(scope, id);
    if (row.userId === scope.user.id)
      throw new Refusal(
        403,
        'second-person',
        'You asked for this yourself, and this employer wants a second pair of eyes. Ask somebody else to confirm it.',
      );
    const answer = await carryOut(JSON.parse(theVault().open(row.sealed, `held:${id}`)) as HeldCall);
    await decide(scope, id, 'confirmed', '');
    await record(
      scope,
      { action: 'confirm', subject: 'employer', subjectId: scope.employer.id, what: `Confirmed as second person: ${row.what}` },
      transaction,
    );
    return answer;
  });
}

export function decline(scope: Scope, id: string, reason: string): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const row = await waiting(scope, id);
    if (row.userId !== scope.user.id && !may(scope.role, 'approve', scope.rights))
      throw conflict('not-yours', 'Only who asked for it withdraws it, and who may approve declines it.');
    await decide(scope, id, 'declined', reason);
    await record(
      scope,
      { action: 'decline', subject: 'employer', subjectId: scope.employer.id, what: `Declined: ${row.what}. ${reason}` },
      transaction,
    );
    return {};
  });
}

const decide = (scope: Scope, id: string, state: 'confirmed' | 'declined', reason: string): Promise<unknown> =>
  execute(
    scope.database,
    'update held_changes set state = :state, decided_by = :user, decided_at = now(), reason = :reason where id = :id',
    { id, state, reason, user: scope.user.id },
  );
