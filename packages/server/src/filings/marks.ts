import type { ParsedBodyOf } from '@woodruff/contract';
import { record } from '../audit/audit';
import { execute } from '../database/connection';
import { conflict, invalid } from '../errors';
import { personOf } from '../people/person';
import type { Scope } from '../scope';
import { changing } from '../users/changing';
import { eventsOf } from './events';
import { filingOf } from './make';

/** Marks or writes a box of somebody's statement by hand, or lets it be as derived. What was there before stays on record. */
export async function markCopy(
  scope: Scope,
  code: string,
  key: string,
  { personId, box, text, reason }: ParsedBodyOf<'markCopy'>,
): Promise<void> {
  const { filing, period } = filingOf(scope, code, key);
  const rule = filing.copies?.marks?.find((one) => one.box === box);
  if (!rule)
    throw invalid(`Box ${box} of ${filing.form} follows from what was posted and is not marked by hand.`, [
      { path: 'box', expected: filing.copies?.marks?.map((one) => one.box).join(', ') || 'none: nothing is marked by hand' },
    ]);
  if (rule.kind === 'yes-no' && text !== null && text !== '' && text !== 'X')
    throw invalid(`Box ${box} is marked or not.`, [{ path: 'text', expected: 'X, or nothing' }]);
  await changing(scope, async (transaction) => {
    const person = await personOf(scope, personId, transaction);
    if (['prepared', 'agreed'].includes((await eventsOf(scope, code, key)).at(-1)?.step ?? ''))
      throw conflict('filing-prepared', `${filing.form}, ${period.label} is prepared. Take it back first, then mark the box.`);
    await execute(
      scope.database,
      `insert into copy_marks (employer_id, filing, period, person_id, box, text, reason, user_id) values (:employer, :code, :key, :personId, :box, :text, :reason, :user) returning id`,
      { employer: scope.employer.id, code, key, personId, box, text, reason, user: scope.user.id },
      transaction,
    );
    const how = text === null ? 'as derived again' : text === '' ? 'not marked' : text;
    const what = `${filing.form}, ${period.label}, box ${box} of ${person.givenName} ${person.familyName}: ${how}. ${reason}`;
    await record(scope, { action: 'filing', subject: 'person', subjectId: personId, what }, transaction);
  });
}
