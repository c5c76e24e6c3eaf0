import type { Punch } from '@woodruff/core';
import { select, type Transaction } from '../database/connection';
import type { Scope } from '../scope';

export const PUNCHED_AT = `to_char(c.at, 'YYYY-MM-DD"T"HH24:MI') as at`;

/** Marks lines that came from the clock, so that taking it again changes what it made itself only. */
export const FROM_CLOCK = 'from the clock';

/** Punches of a period by person. */
export async function punchesOf(
  scope: Scope,
  period: { from: string; to: string },
  transaction?: Transaction,
): Promise<Map<string, Punch[]>> {
  const rows = await select<Punch & { personId: string }>(
    scope.database,
    // A night that begins on the last day ends on the one after.
    `select c.person_id as "personId", ${PUNCHED_AT}, c.kind from punches c where c.employer_id = :employer and c.at >= cast(:from as date) and c.at < cast(:to as date) + interval '1 day 12 hours' order by c.at`,
    { employer: scope.employer.id, from: period.from, to: period.to },
    transaction,
  );
  const byPerson = new Map<string, Punch[]>();
  for (const { personId, ...one } of rows) byPerson.set(personId, [...(byPerson.get(personId) ?? []), one]);
  return byPerson;
}
