import type { PayItem, PayslipInput } from '@woodruff/core';
import { select, type Transaction } from '../database/connection';
import { notFound } from '../errors';
import { loadPeopleFacts, loadRunFacts } from '../pay-runs/facts';
import { inputOf } from '../pay-runs/payslip-input';
import type { Scope } from '../users/scope';

/** A payslip's input for one person on a day, outside any run; null without a pay schedule. */
export async function inputOn(
  scope: Scope,
  id: string,
  date: string,
  transaction?: Transaction,
): Promise<{ input: PayslipInput; items: PayItem[]; hasTax: boolean } | null> {
  const [person] = await select<{ scheduleId: string | null }>(
    scope.database,
    'select schedule_id as "scheduleId" from people where id = :id and employer_id = :employer',
    { id, employer: scope.employer.id },
    transaction,
  );
  if (!person) throw notFound('person');
  if (!person.scheduleId) return null;
  const run = { kind: 'opening', scheduleId: person.scheduleId, periodFrom: date, periodTo: date, payDate: date };
  const facts = await loadRunFacts(scope, run, transaction);
  const [loaded] = await loadPeopleFacts(scope, run, { person: id }, facts, transaction);
  if (!loaded) throw notFound('person');
  return { input: inputOf(facts, loaded), items: [...facts.items.values()], hasTax: !!loaded.tax };
}

/** The same with nothing on it but some pay: its taxes are those that the person has. */
export const ordinary = (input: PayslipInput, pay: PayItem): PayslipInput => ({
  ...input,
  hours: [],
  items: [],
  overrides: [],
  balances: {},
  oneOffs: [{ id: 'any', item: pay, amount: '4000' }],
});
