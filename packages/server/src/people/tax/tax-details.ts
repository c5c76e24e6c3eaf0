import type { ParsedBodyOf } from '@woodruff/contract';
import { writtenDate } from '@woodruff/core';
import { record } from '../../audit/audit';
import { factsChanged } from '../../employers/facts-version';
import { invalid, notFound } from '../../errors';
import { changing } from '../../users/changing';
import { packFor, type Scope } from '../../scope';
import { TaxDetails } from '../models';
import { personOf } from '../person';
import { unique } from '../../database/unique';

export async function addTaxDetails(scope: Scope, id: string, details: ParsedBodyOf<'addTaxDetails'>): Promise<{ id: string }> {
  const facts = parsedTax(scope, details.facts);
  return changing(scope, async (transaction) => {
    const person = await personOf(scope, id, transaction);
    const created = await unique(`There are already tax details from ${writtenDate(details.from)}. Choose another date.`, 'from', () =>
      TaxDetails.create({ personId: person.id, fromDate: details.from, facts }, { transaction }),
    );
    await record(
      scope,
      { action: 'add-tax-details', subject: 'person', subjectId: id, what: `Tax details from ${writtenDate(details.from)}`, after: facts },
      transaction,
    );
    await factsChanged(scope, transaction);
    return { id: created.id };
  });
}

/** Corrects details that were wrong from their first day; taxes paid with them stay, and even out over the year where the law says so. */
export async function correctTaxDetails(
  scope: Scope,
  id: string,
  detailsId: string,
  body: ParsedBodyOf<'correctTaxDetails'>,
): Promise<Record<string, never>> {
  const facts = parsedTax(scope, body.facts);
  return changing(scope, async (transaction) => {
    const person = await personOf(scope, id, transaction);
    const details = await TaxDetails.findOne({ where: { id: detailsId, personId: person.id }, transaction, lock: transaction.LOCK.UPDATE });
    if (!details) throw notFound('entry of tax details');
    const before = details.toJSON();
    await unique(`There are already tax details from ${writtenDate(body.from)}. Choose another date.`, 'from', () =>
      details.update({ fromDate: body.from, facts }, { transaction }),
    );
    await record(
      scope,
      {
        action: 'correct-tax-details',
        subject: 'person',
        subjectId: id,
        what: `Corrected the tax details from ${writtenDate(before.fromDate)}`,
        before,
        after: facts,
      },
      transaction,
    );
    await factsChanged(scope, transaction);
    return {};
  });
}

export function parsedTax(scope: Scope, facts: Record<string, unknown>): Record<string, unknown> {
  const parsed = packFor(scope).taxSchema.safeParse(facts);
  if (parsed.success) return parsed.data as Record<string, unknown>;
  const [first] = parsed.error.issues;
  const label = packFor(scope)
    .taxForm.flatMap(({ fields }) => fields)
    .find(({ key }) => key === first?.path.join('.'))?.label;
  throw invalid(
    `The tax details are not complete.${label && first ? ` ${label}: expected ${first.message}.` : ''}`,
    parsed.error.issues.map((issue) => ({ path: issue.path.join('.'), expected: issue.message })),
  );
}
