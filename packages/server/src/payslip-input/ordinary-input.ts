import type { PayItem, PayslipInput } from '@woodruff/core';
import { select, type Transaction } from '../database/connection';
import { notFound } from '../errors';
import { loadPeopleFacts, loadRunFacts } from './facts';
import { inputOf } from './input';
import type { Scope } from '../scope';

export interface InputOn {
  input: PayslipInput;
  items: PayItem[];
  hasTax: boolean;
}

/** Inputs of payslips on a day, outside any run, by person; null for who has no pay schedule. People of one schedule are read together. */
export async function inputsOn(
  scope: Scope,
  personIds: readonly string[],
  date: string,
  transaction?: Transaction,
): Promise<Map<string, InputOn | null>> {
  const people = await select<{ id: string; scheduleId: string | null }>(
    scope.database,
    'select id, schedule_id as "scheduleId" from people where id in (:personIds) and employer_id = :employer',
    { personIds, employer: scope.employer.id },
    transaction,
  );
  if (people.length < new Set(personIds).size) throw notFound('person');
  const found = new Map<string, InputOn | null>();
  for (const scheduleId of new Set(people.map((person) => person.scheduleId))) {
    const of = people.filter((person) => person.scheduleId === scheduleId).map(({ id }) => id);
    if (scheduleId === null) {
      for (const id of of) found.set(id, null);
      continue;
    }
    const run = { kind: 'opening', scheduleId, periodFrom: date, periodTo: date, payDate: date };
    const facts = await loadRunFacts(scope, run, transaction);
    for (const loaded of await loadPeopleFacts(scope, run, { people: of }, facts, transaction))
      found.set(loaded.personId, { input: inputOf(facts, loaded), items: [...facts.items.values()], hasTax: !!loaded.tax });
  }
  return found;
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
