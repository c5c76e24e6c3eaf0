import type { Effect } from '@woodruff/contract';
import { computePayslip, type Payslip } from '@woodruff/core';
import { select, type Transaction } from '../database/connection';
import { lookedAt } from '../users/changing';
import type { Scope } from '../users/scope';
import { byWeight, effectOn, type Outcome } from './effect';
import { loadPeopleFacts, loadRunFacts } from './facts';
import { PayRun } from './models';
import { inputOf } from './payslip-input';

/**
 * What a change of set-up would do to the open runs: it is really made, looked at, and taken back with its transaction.
 * @param personId looks at this person's payslips only
 */
export async function rehearse(scope: Scope, change: (inside: Scope) => Promise<unknown>, personId?: string): Promise<Effect> {
  return lookedAt(scope, async (transaction) => {
    const runs = await PayRun.findAll({
      where: { employerId: scope.employer.id, state: 'open' },
      order: [['payDate', 'ASC']],
      transaction,
    });
    const before: Map<string, Input>[] = [];
    for (const run of runs) before.push(await inputsOf(scope, run, personId, transaction));
    await change(scope);
    const now = await employerNow(scope, transaction);
    const after: Map<string, Input>[] = [];
    for (const run of runs) after.push(await inputsOf(now, run, personId, transaction));
    return compared(
      runs.map((run, index) => ({
        id: run.id,
        payDate: run.payDate,
        before: before[index] ?? new Map(),
        after: after[index] ?? new Map(),
      })),
    );
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

interface Input {
  name: string;
  input: Parameters<typeof computePayslip>[0];
}

async function inputsOf(scope: Scope, run: PayRun, personId: string | undefined, transaction: Transaction): Promise<Map<string, Input>> {
  const payslips = await select<{ id: string }>(
    scope.database,
    `select id from payslips where run_id = :run and included and state = 'draft' ${personId ? 'and person_id = :personId' : ''}`,
    { run: run.id, personId },
    transaction,
  );
  if (!payslips.length) return new Map();
  const facts = await loadRunFacts(scope, run, transaction);
  const people = await loadPeopleFacts(
    scope,
    run,
    payslips.map(({ id }) => id),
    facts,
    transaction,
  );
  return new Map(people.map((person) => [person.payslipId, { name: person.name, input: inputOf(facts, person) }]));
}

/** Only payslips whose input differs are worked out. */
function compared(runs: { id: string; payDate: string; before: Map<string, Input>; after: Map<string, Input> }[]): Effect {
  const effect: Effect = { runs: [], people: [], unchanged: 0 };
  for (const run of runs) {
    let touched = 0;
    for (const [payslipId, { name, input }] of run.after) {
      const earlier = run.before.get(payslipId)?.input ?? input;
      const same = JSON.stringify(earlier) === JSON.stringify(input);
      const one = same ? null : effectOn(name, outcomeOf(computePayslip(earlier)), outcomeOf(computePayslip(input)));
      if (!one) {
        effect.unchanged += 1;
        continue;
      }
      touched += 1;
      effect.people.push(one);
    }
    if (touched) effect.runs.push({ runId: run.id, label: run.payDate, people: touched });
  }
  effect.people.sort(byWeight);
  return effect;
}

const outcomeOf = ({ totals, problems }: Payslip): Outcome => ({ net: totals.net, employerCost: totals.employerCost, problems });
