import type { ParsedBodyOf, Person as PersonView } from '@woodruff/contract';
import { writtenDate } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select } from '../database/connection';
import { notFound } from '../errors';
import { changing } from '../users/changing';
import type { Scope } from '../scope';
import { personOf } from './person';

export const notesOf = (scope: Scope, id: string): Promise<PersonView['notes']> =>
  select(
    scope.database,
    'select n.id, n.on_date as date, u.name as who, n.text from person_notes n join users u on u.id = n.user_id where n.person_id = :id order by n.on_date desc, n.written_at desc',
    { id },
  );

export const documentsOf = (scope: Scope, id: string): Promise<PersonView['documents']> =>
  select(
    scope.database,
    'select id, name, expires_on as expires from person_documents where person_id = :id order by expires_on nulls last, name',
    { id },
  );

/** A note stays as it was written; a later one can say more. */
export async function addNote(scope: Scope, id: string, { date, text }: ParsedBodyOf<'addNote'>): Promise<{ id: string }> {
  return changing(scope, async (transaction) => {
    await personOf(scope, id, transaction);
    const [row] = (await execute(
      scope.database,
      'insert into person_notes (person_id, on_date, user_id, text) values (:id, :date, :user, :text) returning id',
      { id, date, user: scope.user.id, text },
      transaction,
    )) as { id: string }[];
    if (!row) throw new Error('no note was made');
    await record(scope, { action: 'note', subject: 'person', subjectId: id, what: `Noted for ${writtenDate(date)}` }, transaction);
    return row;
  });
}

/** Puts a document on file, or gives the one of this name another day. */
export async function setDocument(
  scope: Scope,
  id: string,
  { name, expires }: ParsedBodyOf<'setDocument'>,
): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    await personOf(scope, id, transaction);
    await execute(
      scope.database,
      'insert into person_documents (person_id, name, expires_on) values (:id, :name, :expires) on conflict (person_id, name) do update set expires_on = excluded.expires_on',
      { id, name, expires: expires ?? null },
      transaction,
    );
    await record(
      scope,
      {
        action: 'document',
        subject: 'person',
        subjectId: id,
        what: `${name}${expires ? `, expires on ${writtenDate(expires)}` : ', without an end'}`,
      },
      transaction,
    );
    return {};
  });
}

export async function removeDocument(scope: Scope, id: string, documentId: string): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    await personOf(scope, id, transaction);
    const [removed] = (await execute(
      scope.database,
      'delete from person_documents where id = :documentId and person_id = :id returning name',
      { id, documentId },
      transaction,
    )) as { name: string }[];
    if (!removed) throw notFound('document');
    await record(
      scope,
      { action: 'document', subject: 'person', subjectId: id, what: `${removed.name} is not needed any more` },
      transaction,
    );
    return {};
  });
}
