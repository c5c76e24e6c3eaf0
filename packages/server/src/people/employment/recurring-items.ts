import { amount, type ParsedBodyOf } from '@woodruff/contract';
import { writtenDate } from '@woodruff/core';
import { historyOf, record } from '../../audit/audit';
import { select } from '../../database/connection';
import { factsChanged } from '../../employers/facts-version';
import { conflict, invalid, notFound } from '../../errors';
import { changing } from '../../users/changing';
import { packFor, type Scope } from '../../scope';
import { PersonItem } from '../models';
import { personOf } from '../person';

export async function addPersonItem(scope: Scope, id: string, body: ParsedBodyOf<'addPersonItem'>): Promise<{ id: string }> {
  return changing(scope, async (transaction) => {
    const person = await personOf(scope, id, transaction);
    const { name: item, treatment } = await itemOf(scope, body.itemId);
    checkFacts(scope, treatment, body.orderFacts);
    await refuseHeldTwice(scope, id, item, body);
    const created = await PersonItem.create({ personId: person.id, ...itemColumns(body) }, { transaction });
    await record(
      scope,
      {
        action: 'add-item',
        subject: 'person',
        subjectId: id,
        what: `${item}: ${amountWords(body)} from ${writtenDate(body.from)}`,
        after: body,
      },
      transaction,
    );
    await factsChanged(scope, transaction);
    return { id: created.id };
  });
}

export async function changePersonItem(
  scope: Scope,
  id: string,
  itemId: string,
  body: ParsedBodyOf<'changePersonItem'>,
): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const person = await personOf(scope, id, transaction);
    const held = await PersonItem.findOne({ where: { id: itemId, personId: person.id }, transaction, lock: transaction.LOCK.UPDATE });
    if (!held) throw notFound('recurring item');
    if (held.version !== body.version)
      throw conflict(
        'changed-meanwhile',
        'Somebody else changed this item meanwhile. Look at what changed, then save again.',
        (await historyOf(scope.database, id)).slice(0, 3),
      );
    const { name: item, treatment } = await itemOf(scope, body.itemId);
    checkFacts(scope, treatment, body.orderFacts);
    const before = held.toJSON();
    await held.update(itemColumns(body), { transaction });
    await record(
      scope,
      {
        action: 'change-item',
        subject: 'person',
        subjectId: id,
        what: `${item}: ${amountWords(body)}${body.to ? `, ends ${writtenDate(body.to)}` : ''}`,
        before,
        after: body,
      },
      transaction,
    );
    await factsChanged(scope, transaction);
    return {};
  });
}

/** The same item twice at the same time would be paid or taken twice; only orders come several at once. */
async function refuseHeldTwice(scope: Scope, personId: string, item: string, body: ParsedBodyOf<'addPersonItem'>): Promise<void> {
  if (body.orderFacts) return;
  const [held] = await select<{ from: string; to: string | null }>(
    scope.database,
    `select from_date as "from", to_date as "to" from person_items where person_id = :personId and item_id = :itemId
       and coalesce(to_date, 'infinity') >= cast(:from as date) and from_date <= coalesce(cast(:to as date), 'infinity') order by from_date limit 1`,
    { personId, itemId: body.itemId, from: body.from, to: body.to ?? null },
  );
  if (held)
    throw conflict(
      'held-already',
      `${item} is a recurring item already, from ${writtenDate(held.from)}${held.to ? ` to ${writtenDate(held.to)}` : ''}. Change that one, or end it first.`,
    );
}

async function itemOf(scope: Scope, itemId: string): Promise<{ name: string; treatment: string }> {
  const [item] = await select<{ name: string; treatment: string }>(
    scope.database,
    `select definition->>'name' as name, definition->>'treatment' as treatment from pay_items where id = :itemId and employer_id = :employer`,
    { itemId, employer: scope.employer.id },
  );
  if (!item) throw notFound('pay item');
  return item;
}

/** Facts of an order are those that its kind asks for, in the form it asks for them. */
function checkFacts(scope: Scope, treatment: string, facts: ParsedBodyOf<'addPersonItem'>['orderFacts']): void {
  const asked = new Map((packFor(scope).treatments[treatment]?.asks ?? []).map((field) => [field.key, field]));
  const wrong = Object.entries(facts ?? {}).flatMap(([key, value]) => {
    if (key === 'reference' || key === 'fee') return [];
    const field = asked.get(key);
    if (!field) return [{ path: `orderFacts.${key}`, expected: 'nothing: this kind of order does not ask for it' }];
    if (field.kind === 'yes-no') return typeof value === 'boolean' ? [] : [{ path: `orderFacts.${key}`, expected: 'yes or no' }];
    return field.kind === 'amount' && !amount.safeParse(value).success
      ? [{ path: `orderFacts.${key}`, expected: 'an amount such as 125.00' }]
      : [];
  });
  if (wrong.length) throw invalid('A fact of the order is not what its kind asks for. Correct it.', wrong);
}

const itemColumns = (body: ParsedBodyOf<'addPersonItem'>) => ({
  itemId: body.itemId,
  amount: body.amount ?? null,
  percent: body.percent ?? null,
  limits: body.limits ?? null,
  orderFacts: body.orderFacts ?? null,
  fromDate: body.from,
  toDate: body.to ?? null,
});

const amountWords = (body: { amount?: string | null | undefined; percent?: string | null | undefined }): string =>
  body.percent ? `${body.percent}%` : (body.amount ?? 'no amount');
