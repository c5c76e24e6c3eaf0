import type { AnswerOf, ItemChoices, ParsedBodyOf, PayItemPage, PayItemRow } from '@woodruff/contract';
import { basesAt, countsOf, Exact, legalLimits, type PayItem as PayItemFacts, type PercentOf, type Treatment } from '@woodruff/core';
import { isDeepStrictEqual } from 'node:util';
import { UniqueConstraintError } from 'sequelize';
import { historyOf, record } from '../audit/audit';
import { select, type Transaction } from '../database/connection';
import { factsChanged } from '../employers/facts-version';
import { conflict, invalid, notFound, Refusal } from '../errors';
import { may } from '../users/permissions';
import { changing } from '../users/changing';
import { packFor, type Scope } from '../scope';
import { PayItem } from './models';

type Body = ParsedBodyOf<'addPayItem'>;

export async function listPayItems(scope: Scope): Promise<PayItemRow[]> {
  const rows = await select<{ id: string; version: number; retired: boolean; definition: PayItemFacts; held: number }>(
    scope.database,
    `select i.id, i.version, i.retired, i.definition,
            (select count(*) from person_items pi where pi.item_id = i.id and pi.from_date <= :today and (pi.to_date is null or pi.to_date >= :today)) as held
     from pay_items i where i.employer_id = :employer order by (i.definition->>'order')::int, i.definition->>'name'`,
    { employer: scope.employer.id, today: scope.employer.today },
  );
  return rows.map(({ definition, ...row }) => ({ ...definition, ...row }));
}

export function itemChoices(scope: Scope): ItemChoices {
  const pack = packFor(scope);
  const places = pack.placesOf(scope.employer.facts.country);
  return {
    treatments: Object.values(pack.treatments).map((treatment) => ({
      code: treatment.code,
      label: treatment.label,
      for: [...treatment.for],
      taken: treatment.taken ?? null,
      counts: countsOf(pack, treatment, places),
      asks: [...(treatment.asks ?? [])],
      source: sourceWords(treatment),
    })),
    bases: basesAt(pack, places).map(({ code, label }) => ({ code, label })),
    tables: Object.entries(pack.publishedTables ?? {}).map(([code, { label, asks }]) => ({ code, label, asks })),
  };
}

const sourceWords = ({ source }: Pick<Treatment, 'source'>): string | null =>
  source ? `${[source.publication, source.section].filter(Boolean).join('; ')}${source.unconfirmed ? ' (unconfirmed)' : ''}` : null;

export async function payItemPage(scope: Scope, id: string): Promise<PayItemPage> {
  const item = await itemOf(scope, id);
  const pack = packFor(scope);
  const treatment = pack.treatments[item.definition.treatment];
  const holders = await select<PayItemPage['holders'][number]>(
    scope.database,
    `select p.id as "personId", p.family_name || ', ' || p.given_name as name, p.department, pi.amount::text, trim_scale(pi.percent)::text as percent, pi.from_date as "from", pi.to_date as "to",
            coalesce((select b.amount from balances b where b.person_id = p.id and b.code = :code and b.tax_year = :year), 0) as taken
     from person_items pi join people p on p.id = pi.person_id where pi.item_id = :id order by name, pi.from_date`,
    { id, code: item.code, year: pack.taxYearOf(scope.employer.today).label },
  );
  return {
    ...item.definition,
    id,
    version: item.version,
    retired: item.retired,
    held: holders.filter((holder) => !holder.to || holder.to >= scope.employer.today).length,
    holders,
    counts: Object.entries({
      ...(treatment ? countsOf(pack, treatment, pack.placesOf(scope.employer.facts.country)) : {}),
      ...item.definition.countsInstead,
    }).map(([base, sign]) => ({
      base,
      label: pack.bases.find((candidate) => candidate.code === base)?.label ?? base,
      sign,
    })),
    legalLimits: legalLimits(scope.employer.country, item.definition.treatment, scope.employer.today),
    treatmentSource: treatment ? sourceWords(treatment) : null,
    changes: await historyOf(scope.database, id),
  };
}

export async function addPayItem(scope: Scope, body: Body): Promise<{ id: string }> {
  const definition = checked(scope, body);
  try {
    return await changing(scope, async (transaction) => {
      const item = await PayItem.create({ employerId: scope.employer.id, code: definition.code, definition }, { transaction });
      await record(
        scope,
        { action: 'add', subject: 'pay-item', subjectId: item.id, what: `Added ${definition.name}`, after: definition },
        transaction,
      );
      await factsChanged(scope, transaction);
      return { id: item.id };
    });
  } catch (error) {
    if (error instanceof UniqueConstraintError)
      throw invalid(`There is already an item with the code ${definition.code}. Choose another code.`, [
        { path: 'code', expected: 'one not used yet' },
      ]);
    throw error;
  }
}

export async function changePayItem(
  scope: Scope,
  id: string,
  { version, item: body }: ParsedBodyOf<'changePayItem'>,
): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const item = await itemOf(scope, id, transaction);
    const definition = checked(scope, body, item.definition);
    if (item.version !== version)
      throw conflict(
        'changed-meanwhile',
        'Somebody else changed this item meanwhile. Look at what changed, then save again.',
        (await historyOf(scope.database, id)).slice(0, 3),
      );
    if (item.code !== definition.code)
      throw invalid('The code of an item stays as it is: what was paid is summed by it. Change the name instead.', [
        { path: 'code', expected: item.code },
      ]);
    const before = item.definition;
    await item.update({ definition }, { transaction });
    await record(
      scope,
      { action: 'change', subject: 'pay-item', subjectId: id, what: `Changed ${definition.name}`, before, after: definition },
      transaction,
    );
    await factsChanged(scope, transaction);
    return {};
  });
}

/** Standard items of the country, with which of them the employer has. */
export async function readyItems(scope: Scope): Promise<AnswerOf<'readyItems'>> {
  const has = new Set((await listPayItems(scope)).map((item) => item.code));
  return packFor(scope)
    .readyItems(scope.employer.today)
    .map(({ group, item }) => ({
      group,
      item: item,
      taken: has.has(item.code),
    }));
}

export async function takeReadyItems(scope: Scope, { codes }: ParsedBodyOf<'takeReadyItems'>): Promise<{ added: number }> {
  const ready = await readyItems(scope);
  const wanted = codes.map((code) => {
    const found = ready.find((entry) => entry.item.code === code);
    if (!found) throw invalid(`There is no standard item "${code}".`, [{ path: 'codes', expected: 'codes of standard items' }]);
    return found;
  });
  const missing = wanted.filter((entry) => !entry.taken);
  for (const { item } of missing) await addPayItem(scope, item);
  return { added: missing.length };
}

const OF_PAY: readonly string[] = ['earning', 'reimbursement', 'benefit-in-kind'];

/** Refuses what could not be calculated, at the item and not first on a payslip. */
function checked(scope: Scope, body: Body, before?: PayItemFacts): PayItemFacts {
  const pack = packFor(scope);
  const treatment = pack.treatments[body.treatment];
  if (!treatment?.for.includes(body.kind))
    throw invalid('This tax treatment is none for an item of this kind.', [
      { path: 'treatment', expected: 'a treatment that fits the kind of item' },
    ]);
  const { method } = body;
  if (method.by === 'match') {
    if (method.of === body.code)
      throw invalid('An item cannot match itself.', [{ path: 'method.of', expected: 'the code of a deduction' }]);
    rising(
      method.tiers.map((tier) => tier.upTo ?? tier.upToAmount ?? '0'),
      'Each tier of a match must reach higher than the one before.',
      'method.tiers',
    );
    if (new Set(method.tiers.map((tier) => tier.upTo === undefined)).size > 1)
      throw invalid('The tiers of a match are all per cents of pay, or all amounts.', [
        { path: 'method.tiers', expected: 'tiers of one kind' },
      ]);
    checkBase(method.on ?? 'gross', body, treatment.taken);
  }
  if (method.by === 'percent') checkBase(method.of, body, treatment.taken);
  if (method.by === 'table') {
    rising(
      method.rows.map((row) => row.from),
      'Each row of a table must begin higher than the one before.',
      'method.rows',
    );
    if (method.over === 'gross') checkBase('gross', body, treatment.taken);
  }
  if (method.by === 'published-table' && !pack.publishedTables?.[method.table])
    throw invalid(`${pack.name} has no table of this name.`, [
      { path: 'method.table', expected: Object.keys(pack.publishedTables ?? {}).join(', ') },
    ]);
  if (body.goes?.hidden && body.kind !== 'employer-contribution' && body.kind !== 'benefit-in-kind')
    throw invalid('What net pay is made of stands on the payslip: only benefits and what the employer pays can be left off it.', [
      { path: 'goes.hidden', expected: 'no' },
    ]);
  checkCounts(scope, body, before);
  return body;
}

/** A base that is known only after the item's own turn is refused. */
function checkBase(of: PercentOf, body: Body, taken: string | undefined): void {
  if (typeof of === 'object') return;
  if (OF_PAY.includes(body.kind))
    throw invalid('Gross pay cannot be a per cent of itself: pay is a per cent of chosen items, or an amount.', [
      { path: 'method', expected: 'a per cent of chosen items' },
    ]);
  if (of !== 'gross' && taken === 'before-tax')
    throw invalid(`What is taken before tax cannot be a per cent of ${of} pay, which is known only afterwards.`, [
      { path: 'method', expected: 'a per cent of gross pay or of chosen items' },
    ]);
}

/** What an item counts for is adjusted by an administrator, and only for bases there are. */
function checkCounts(scope: Scope, body: Body, before: PayItemFacts | undefined): void {
  const adjusted = body.countsInstead ?? {};
  if (!isDeepStrictEqual(adjusted, before?.countsInstead ?? {}) && !may(scope.role, 'administer'))
    throw new Refusal(403, 'not-allowed', 'What an item counts for is adjusted by an administrator. Ask one, or choose another treatment.');
  const known = new Set(packFor(scope).bases.map((base) => base.code));
  const unknown = Object.keys(adjusted).find((code) => !known.has(code));
  if (unknown) throw invalid(`There is no base "${unknown}".`, [{ path: 'countsInstead', expected: 'bases of the country pack' }]);
}

function rising(values: readonly string[], sentence: string, path: string): void {
  if (values.some((value, index) => index > 0 && !Exact.of(value).isAbove(Exact.of(values[index - 1] ?? '0'))))
    throw invalid(sentence, [{ path, expected: 'rising values' }]);
}

/** Locked when a transaction is given. */
export async function itemOf(scope: Scope, id: string, transaction?: Transaction): Promise<PayItem> {
  const item = await PayItem.findOne({
    where: { id, employerId: scope.employer.id },
    ...(transaction ? { transaction, lock: transaction.LOCK.UPDATE } : {}),
  });
  if (!item) throw notFound('pay item');
  return item;
}
