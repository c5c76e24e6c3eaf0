import type { AnswerOf, Effect, ParsedBodyOf, PayItemPage, PayItemRow } from '@woodruff/contract';
import { computePayslip, Exact, type PayItem as PayItemFacts, type PayslipInput } from '@woodruff/core';
import { UniqueConstraintError } from 'sequelize';
import { historyOf, record } from '../audit/audit';
import { select } from '../database/connection';
import { factsChanged } from '../employers/facts-version';
import { conflict, invalid, notFound } from '../errors';
import { packFor, type Scope } from '../users/scope';
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

export function treatmentsOf(scope: Scope): AnswerOf<'treatments'> {
  const pack = packFor(scope);
  return Object.values(pack.treatments).map((treatment) => ({
    code: treatment.code,
    label: treatment.label,
    for: [...treatment.for],
    counts: Object.keys(treatment.counts).map((base) => pack.bases.find((candidate) => candidate.code === base)?.label ?? base),
  }));
}

export async function payItemPage(scope: Scope, id: string): Promise<PayItemPage> {
  const item = await itemOf(scope, id);
  const pack = packFor(scope);
  const treatment = pack.treatments[item.definition.treatment];
  const holders = await select<PayItemPage['holders'][number]>(
    scope.database,
    `select p.id as "personId", p.family_name || ', ' || p.given_name as name, pi.amount::text, trim_scale(pi.percent)::text as percent, pi.from_date as "from", pi.to_date as "to",
            coalesce((select b.amount from balances b where b.person_id = p.id and b.code = :code and b.tax_year = :year), 0) as taken
     from person_items pi join people p on p.id = pi.person_id where pi.item_id = :id order by name, pi.from_date`,
    { id, code: item.code, year: pack.taxYearOf(scope.employer.today).label },
  );
  const sourceWords = [treatment?.source?.publication, treatment?.source?.section].filter(Boolean).join('; ');
  return {
    ...item.definition,
    id,
    version: item.version,
    retired: item.retired,
    held: holders.filter((holder) => !holder.to || holder.to >= scope.employer.today).length,
    holders,
    counts: Object.entries(treatment?.counts ?? {}).map(([base, sign]) => ({
      base,
      label: pack.bases.find((candidate) => candidate.code === base)?.label ?? base,
      sign,
    })),
    treatmentSource: sourceWords ? `${sourceWords}${treatment?.source?.unconfirmed ? ' (unconfirmed)' : ''}` : null,
  };
}

export async function addPayItem(scope: Scope, body: Body): Promise<{ id: string }> {
  const definition = checked(scope, body);
  try {
    return await scope.database.transaction(async (transaction) => {
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
  const definition = checked(scope, body);
  return scope.database.transaction(async (transaction) => {
    const item = await PayItem.findOne({ where: { id, employerId: scope.employer.id }, transaction, lock: transaction.LOCK.UPDATE });
    if (!item) throw notFound('pay item');
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

/** Works out the open runs' payslips with the item as it would be; nothing is saved. */
export async function effectOfChange(scope: Scope, id: string, body: Body): Promise<Effect> {
  const definition = checked(scope, body);
  await itemOf(scope, id);
  const rows = await select<{ runId: string; label: string; name: string; input: PayslipInput; net: number }>(
    scope.database,
    `select r.id as "runId", s.name || ', paid ' || to_char(r.pay_date, 'FMDD Mon YYYY') as label, p.given_name || ' ' || p.family_name as name, x.input, x.net
     from payslip_results x join payslips y on y.id = x.payslip_id and y.included join pay_runs r on r.id = x.run_id and r.state = 'open' join pay_schedules s on s.id = r.schedule_id
     join people p on p.id = y.person_id where r.employer_id = :employer order by p.family_name`,
    { employer: scope.employer.id },
  );
  const runs = new Map<string, { runId: string; label: string; people: number }>();
  const people: Effect['people'] = [];
  let unchanged = 0;
  for (const row of rows) {
    const has = JSON.stringify(row.input).includes(`"code":${JSON.stringify(definition.code)}`);
    const after = has ? computePayslip(withItem(row.input, definition)).totals.net : row.net;
    if (after === row.net) {
      unchanged += 1;
      continue;
    }
    people.push({ name: row.name, before: row.net, after });
    const run = runs.get(row.runId) ?? { runId: row.runId, label: row.label, people: 0 };
    runs.set(row.runId, { ...run, people: run.people + 1 });
  }
  return {
    runs: [...runs.values()],
    people: people.sort((a, b) => Math.abs(b.after - b.before) - Math.abs(a.after - a.before)),
    unchanged,
  };
}

const withItem = (input: PayslipInput, item: PayItemFacts): PayslipInput => ({
  ...input,
  items: input.items.map((entry) => (entry.item.code === item.code ? { ...entry, item } : entry)),
  oneOffs: input.oneOffs.map((entry) => (entry.item.code === item.code ? { ...entry, item } : entry)),
  hourItems: input.hourItems.map((entry) => (entry.code === item.code ? item : entry)),
});

function checked(scope: Scope, body: Body): PayItemFacts {
  const treatment = packFor(scope).treatments[body.treatment];
  if (!treatment?.for.includes(body.kind))
    throw invalid('This tax treatment is none for an item of this kind.', [
      { path: 'treatment', expected: 'a treatment that fits the kind of item' },
    ]);
  if (
    body.method.by === 'match' &&
    body.method.tiers.some((tier, index, tiers) => index > 0 && !Exact.of(tier.upTo).isAbove(Exact.of(tiers[index - 1]?.upTo ?? '0')))
  ) {
    throw invalid('Each tier of a match must reach higher than the one before.', [{ path: 'method.tiers', expected: 'rising tiers' }]);
  }
  if (body.method.by === 'percent' && ['earning', 'reimbursement', 'benefit-in-kind'].includes(body.kind)) {
    throw invalid('A per cent of gross pay is for deductions and contributions; gross pay cannot be a per cent of itself.', [
      { path: 'method', expected: 'an amount' },
    ]);
  }
  return body;
}

async function itemOf(scope: Scope, id: string): Promise<PayItem> {
  const item = await PayItem.findOne({ where: { id, employerId: scope.employer.id } });
  if (!item) throw notFound('pay item');
  return item;
}
