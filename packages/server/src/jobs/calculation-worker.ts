import { computePayslip } from '@woodruff/core';
import { prepared, type PersonFacts, type RunFacts } from '../pay-runs/payslip-input';
import { resultRow, summaryOf } from '../pay-runs/result';

export interface CalculationBatch {
  runId: string;
  facts: RunFacts;
  people: PersonFacts[];
}

/** Works out a batch of payslips on a thread of its own; gives rows ready for COPY. */
export default function calculate({ runId, facts, people }: CalculationBatch): string {
  return people
    .map((person) => {
      const { input, text, hours } = prepared(facts, person);
      const payslip = computePayslip(input);
      return resultRow(person.payslipId, runId, payslip, summaryOf(input, hours, payslip), text);
    })
    .join('');
}
