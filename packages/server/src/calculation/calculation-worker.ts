import type { Effect } from '@woodruff/contract';
import { computePayslip, type Payslip } from '@woodruff/core';
import { effectOn, type Outcome } from './effect';
import { useTables, type LoadedTables } from '../tables/loaded';
import { inputOf, prepared, type PersonFacts, type RunFacts } from '../payslip-input/input';
import { resultRow, summaryOf } from './result';

export interface CalculationBatch {
  /** A thread knows of loaded tables what it is told with its work. */
  tables: LoadedTables;
  runId: string;
  facts: RunFacts;
  people: PersonFacts[];
}

/** Calculates a batch of payslips on a thread of its own; gives rows ready for COPY. */
export function calculate({ tables, runId, facts, people }: CalculationBatch): string {
  useTables(tables);
  return people
    .map((person) => {
      const { input, text, hours } = prepared(facts, person);
      const payslip = computePayslip(input);
      return resultRow(person.payslipId, runId, payslip, summaryOf(input, hours, payslip), text);
    })
    .join('');
}

export interface Comparison {
  tables: LoadedTables;
  before: { facts: RunFacts; people: PersonFacts[] };
  after: { facts: RunFacts; people: PersonFacts[] };
}

/** What is other for each of the people after: only payslips whose input differs are calculated. */
export function compare({ tables, before, after }: Comparison): (Effect['people'][number] | null)[] {
  useTables(tables);
  const earlier = new Map(before.people.map((person) => [person.payslipId, person]));
  return after.people.map((person) => {
    const now = inputOf(after.facts, person);
    const known = earlier.get(person.payslipId);
    const was = known ? inputOf(before.facts, known) : now;
    if (JSON.stringify(was) === JSON.stringify(now)) return null;
    return effectOn(person.name, outcomeOf(computePayslip(was)), outcomeOf(computePayslip(now)));
  });
}

const outcomeOf = ({ totals, problems }: Payslip): Outcome => ({ net: totals.net, employerCost: totals.employerCost, problems });
