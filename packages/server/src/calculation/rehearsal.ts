import { loadedTables } from '../tables/loaded';
import type { Effect } from '@woodruff/contract';
import { select, type Transaction } from '../database/connection';
import { compareBatch } from './threads';
import { lookedAt } from '../users/changing';
import type { Scope } from '../scope';
import { byWeight } from './effect';
import { loadPeopleFacts, loadRunFacts } from '../payslip-input/facts';
import { PayRun } from './models';
import type { PersonFacts, RunFacts } from '../payslip-input/input';

const BATCH = 200;

/**
 * What a change of set-up would do to the open runs: it is really made, looked at, and taken back with its transaction.
 * The payslips are calculated on threads.
 * @param personId looks at this person's payslips only
 */
export async function rehearse(scope: Scope, change: (inside: Scope) => Promise<unknown>, personId?: string): Promise<Effect> {
  return lookedAt(scope, async (transaction) => {
    const runs = await PayRun.findAll({
      where: { employerId: scope.employer.id, state: 'open' },
      order: [['payDate', 'ASC']],
      transaction,
    });
    const before: Details[] = [];
    for (const run of runs) before.push(await detailsOf(scope, run, personId, transaction));
    await change(scope);
    const now = await employerNow(scope, transaction);
    const effect: Effect = { runs: [], people: [], unchanged: 0 };
    for (const [index, run] of runs.entries()) {
      const was = before[index];
      if (was) await compared(effect, run, was, await detailsOf(now, run, personId, transaction));
    }
    effect.people.sort(byWeight);
    return effect;
  });
}

/** The scope with the employer's facts as the change has left them. */
async function employerNow(scope: Scope, transaction: Transaction): Promise<Scope> {
  const [row] = await select<{ facts: Scope['employer']['facts'] }>(
    scope.database,
    'select facts from employers where id = :id',
    { id: scope.employer.id },
    transaction,
  );
  return row ? { ...scope, employer: { ...scope.employer, facts: row.facts } } : scope;
}

/** What the payslips of a run are calculated from. */
interface Details {
  facts: RunFacts;
  people: Map<string, PersonFacts>;
}

async function detailsOf(scope: Scope, run: PayRun, personId: string | undefined, transaction: Transaction): Promise<Details> {
  const payslips = await select<{ id: string }>(
    scope.database,
    `select id from payslips where run_id = :run and included and state = 'draft' ${personId ? 'and person_id = :personId' : ''}`,
    { run: run.id, personId },
    transaction,
  );
  const facts = await loadRunFacts(scope, run, transaction);
  const people = new Map<string, PersonFacts>();
  for (const ids of inBatches(payslips.map(({ id }) => id)))
    for (const person of await loadPeopleFacts(scope, run, ids, facts, transaction)) people.set(person.payslipId, person);
  return { facts, people };
}

async function compared(effect: Effect, run: PayRun, before: Details, after: Details): Promise<void> {
  let touched = 0;
  for (const people of inBatches([...after.people.values()])) {
    const earlier = people.flatMap((person) => before.people.get(person.payslipId) ?? []);
    const batch = {
      tables: loadedTables(after.facts.country),
      before: { facts: before.facts, people: earlier },
      after: { facts: after.facts, people },
    };
    for (const one of await compareBatch(batch)) {
      if (!one) effect.unchanged += 1;
      else {
        touched += 1;
        effect.people.push(one);
      }
    }
  }
  if (touched) effect.runs.push({ runId: run.id, label: run.payDate, people: touched });
}

function inBatches<T>(all: readonly T[]): T[][] {
  const batches: T[][] = [];
  for (let start = 0; start < all.length; start += BATCH) batches.push(all.slice(start, start + BATCH));
  return batches;
}
