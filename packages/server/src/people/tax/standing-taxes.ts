import type { ParsedBodyOf, StandingTaxes } from '@woodruff/contract';
import { computePayslip, writtenDate } from '@woodruff/core';
import { record } from '../../audit/audit';
import { select, type Transaction } from '../../database/connection';
import { factsChanged } from '../../employers/facts-version';
import { conflict, invalid, notFound } from '../../errors';
import { changing } from '../../users/changing';
import { packFor, type Scope } from '../../scope';
import { StandingTax } from '../models';
import { inputsOn, ordinary } from '../../payslip-input/ordinary-input';
import { personOf } from '../person';

type Entry = ParsedBodyOf<'addStandingTax'>;

/** Exemptions and taxes fixed by a letter, latest first, and the taxes that can have one. */
export async function standingTaxes(scope: Scope, id: string): Promise<StandingTaxes> {
  await personOf(scope, id);
  const entries = await select<StandingTaxes['entries'][number]>(
    scope.database,
    `select id, tax, tax as label, instead, trim_scale(value)::text as value, reason, from_date as "from", to_date as "to" from standing_taxes where person_id = :id order by from_date desc, tax`,
    { id },
  );
  const taxes = await taxesOf(scope, id);
  const labels = new Map(taxes.map((tax) => [tax.code, tax.label]));
  return { taxes, entries: entries.map((entry) => ({ ...entry, label: labels.get(entry.tax) ?? entry.tax })) };
}

/** The taxes that an ordinary payslip of this person has; those of the employer only where the law excepts whole employments from them. */
async function taxesOf(scope: Scope, id: string): Promise<StandingTaxes['taxes']> {
  const on = (await inputsOn(scope, [id], scope.employer.today)).get(id);
  const pay = on?.items.find((item) => item.kind === 'earning');
  if (!on || !pay) return [];
  const { exemptions } = packFor(scope);
  return computePayslip({ ...ordinary(on.input, pay), standingTaxes: [] })
    .lines.filter((line) => line.kind === 'tax' || (line.kind === 'employer-tax' && line.code in exemptions))
    .map(({ code, label }) => ({ code, label }));
}

export async function addStandingTax(scope: Scope, id: string, body: Entry): Promise<{ id: string }> {
  return changing(scope, async (transaction) => {
    await personOf(scope, id, transaction);
    await checkEntry(scope, id, body, transaction);
    const created = await StandingTax.create({ personId: id, ...columnsOf(body) }, { transaction });
    await recorded(scope, id, 'add-standing-tax', body, undefined, transaction);
    return { id: created.id };
  });
}

export async function changeStandingTax(scope: Scope, id: string, entryId: string, body: Entry): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    await personOf(scope, id, transaction);
    const entry = await StandingTax.findOne({ where: { id: entryId, personId: id }, transaction, lock: transaction.LOCK.UPDATE });
    if (!entry) throw notFound('exemption');
    await checkEntry(scope, id, body, transaction, entryId);
    const before = entry.toJSON();
    await entry.update(columnsOf(body), { transaction });
    await recorded(scope, id, 'change-standing-tax', body, before, transaction);
    return {};
  });
}

const columnsOf = (body: Entry) => ({
  tax: body.tax,
  instead: body.instead,
  value: body.value ?? null,
  reason: body.reason,
  fromDate: body.from,
  toDate: body.to ?? null,
});

async function checkEntry(scope: Scope, id: string, body: Entry, transaction: Transaction, itself?: string): Promise<void> {
  const taxes = await taxesOf(scope, id);
  const tax = taxes.find((candidate) => candidate.code === body.tax);
  if (!tax && taxes.length)
    throw invalid('This person has no such tax. Choose one of theirs.', [{ path: 'tax', expected: 'one of the taxes of this person' }]);
  const others = await StandingTax.findAll({ where: { personId: id, tax: body.tax }, transaction });
  const other = others.find(
    (one) => one.id !== itself && one.fromDate <= (body.to ?? '9999-12-31') && (one.toDate ?? '9999-12-31') >= body.from,
  );
  if (other)
    throw conflict(
      'standing-already',
      `${tax?.label ?? body.tax} has an entry from ${writtenDate(other.fromDate)} already. End that one before another begins.`,
    );
}

async function recorded(scope: Scope, id: string, action: string, body: Entry, before: unknown, transaction: Transaction): Promise<void> {
  const how = { exempt: 'exempt', amount: `fixed at ${body.value ?? ''}`, percent: `fixed at ${body.value ?? ''}%` }[body.instead];
  await record(
    scope,
    {
      action,
      subject: 'person',
      subjectId: id,
      what: `${body.tax}: ${how} from ${writtenDate(body.from)}${body.to ? ` until ${writtenDate(body.to)}` : ''} (${body.reason})`,
      before,
      after: body,
    },
    transaction,
  );
  await factsChanged(scope, transaction);
}
