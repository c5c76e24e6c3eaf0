import type { AnswerOf, ParsedBodyOf } from '@woodruff/contract';
import { addDays, writtenDate } from '@woodruff/core';
import { record } from '../audit/audit';
import { select, type Transaction } from '../database/connection';
import { factsChanged } from '../employers/facts-version';
import { conflict, invalid } from '../errors';
import { PersonItem } from '../people/models';
import { changing } from '../users/changing';
import type { Scope } from '../scope';
import { itemOf } from './service';

/** Gives an item to many people, changes their amounts or ends it, from a date on. What held before that day stays in the history. */
export async function changeHolders(
  scope: Scope,
  id: string,
  { from, entries }: ParsedBodyOf<'changeHolders'>,
): Promise<AnswerOf<'changeHolders'>> {
  return changing(scope, async (transaction) => {
    const item = await itemOf(scope, id, transaction);
    if (item.retired) throw conflict('retired', `${item.definition.name} is retired. Bring it back first.`);
    await checkPeople(scope, entries, transaction);
    const held = await PersonItem.findAll({
      where: { itemId: id, personId: entries.map((entry) => entry.personId) },
      transaction,
      lock: transaction.LOCK.UPDATE,
    });
    const counts = { given: 0, changed: 0, ended: 0 };
    for (const entry of entries) {
      const current = held
        .filter((candidate) => candidate.personId === entry.personId && (candidate.toDate === null || candidate.toDate >= from))
        .sort((a, b) => (a.fromDate < b.fromDate ? -1 : 1));
      const [first] = current;
      if (entry.end && !first) continue;
      const value = { amount: entry.amount ?? null, percent: entry.percent ?? null };
      const limits = { limits: first?.limits ?? null, orderFacts: first?.orderFacts ?? null };
      for (const one of current) {
        if (one.fromDate >= from) await one.destroy({ transaction });
        else await one.update({ toDate: addDays(from, -1) }, { transaction });
      }
      if (!entry.end)
        await PersonItem.create(
          { personId: entry.personId, itemId: id, ...value, ...limits, fromDate: from, toDate: null },
          { transaction },
        );
      counts[entry.end ? 'ended' : first ? 'changed' : 'given'] += 1;
      const words = entry.end
        ? `ends before ${writtenDate(from)}`
        : `${entry.percent ? `${entry.percent}%` : (entry.amount ?? 'no amount')} from ${writtenDate(from)}`;
      await record(
        scope,
        {
          action: entry.end ? 'end-item' : first ? 'change-item' : 'add-item',
          subject: 'person',
          subjectId: entry.personId,
          what: `${item.definition.name}: ${words}`,
          before: first ? { amount: first.amount, percent: first.percent } : undefined,
          after: entry.end ? undefined : value,
        },
        transaction,
      );
    }
    await record(
      scope,
      {
        action: 'change-holders',
        subject: 'pay-item',
        subjectId: id,
        what: `From ${writtenDate(from)}: given to ${counts.given}, changed for ${counts.changed}, ended for ${counts.ended}`,
        after: entries,
      },
      transaction,
    );
    await factsChanged(scope, transaction);
    return counts;
  });
}

/** Retires an item: nobody can get it any more, and what was paid keeps it. Refused while somebody holds it, unless it is ended for all. */
export async function retirePayItem(
  scope: Scope,
  id: string,
  { endForAll }: ParsedBodyOf<'retirePayItem'>,
): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const item = await itemOf(scope, id, transaction);
    const { today } = scope.employer;
    const holders = await PersonItem.findAll({ where: { itemId: id }, transaction, lock: transaction.LOCK.UPDATE });
    const open = holders.filter((holder) => holder.toDate === null || holder.toDate >= today);
    const people = new Set(open.map((holder) => holder.personId)).size;
    if (people && !endForAll)
      throw conflict(
        'still-held',
        `${people === 1 ? 'One person has' : `${people} people have`} ${item.definition.name}. End it for them first, or retire it and end it for all at once.`,
      );
    const [waiting] = await select<{ one: number }>(
      scope.database,
      'select count(*) as one from one_offs o left join payslips y on y.id = o.payslip_id where o.item_id = :id and (y.id is null or y.state = :draft)',
      { id, draft: 'draft' },
      transaction,
    );
    if (waiting?.one)
      throw conflict(
        'still-waiting',
        `${waiting.one === 1 ? 'A one-off' : `${waiting.one} one-offs`} of ${item.definition.name} ${waiting.one === 1 ? 'waits' : 'wait'} to be paid. Pay or remove ${waiting.one === 1 ? 'it' : 'them'} first.`,
      );
    for (const holder of open) {
      if (holder.fromDate >= today) await holder.destroy({ transaction });
      else await holder.update({ toDate: addDays(today, -1) }, { transaction });
      await record(
        scope,
        { action: 'end-item', subject: 'person', subjectId: holder.personId, what: `${item.definition.name}: ends, the item is retired` },
        transaction,
      );
    }
    await item.update({ retired: true }, { transaction });
    await record(
      scope,
      {
        action: 'retire',
        subject: 'pay-item',
        subjectId: id,
        what: `Retired ${item.definition.name}${people ? `, ended for ${people}` : ''}`,
      },
      transaction,
    );
    await factsChanged(scope, transaction);
    return {};
  });
}

export async function bringBackPayItem(scope: Scope, id: string): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const item = await itemOf(scope, id, transaction);
    await item.update({ retired: false }, { transaction });
    await record(
      scope,
      { action: 'bring-back', subject: 'pay-item', subjectId: id, what: `Brought ${item.definition.name} back` },
      transaction,
    );
    await factsChanged(scope, transaction);
    return {};
  });
}

async function checkPeople(scope: Scope, entries: ParsedBodyOf<'changeHolders'>['entries'], transaction: Transaction): Promise<void> {
  const ids = entries.map((entry) => entry.personId);
  if (new Set(ids).size < ids.length)
    throw invalid('A person is listed twice. Keep one line for each.', [{ path: 'entries', expected: 'each person once' }]);
  const found = await select<{ id: string }>(
    scope.database,
    'select id from people where employer_id = :employer and id in (:ids)',
    { employer: scope.employer.id, ids },
    transaction,
  );
  if (found.length < ids.length)
    throw invalid('Somebody in the list is not a person of this employer.', [{ path: 'entries', expected: 'people of this employer' }]);
}
