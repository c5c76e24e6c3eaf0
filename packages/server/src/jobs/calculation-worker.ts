import { computePayslip, type PayslipInput } from '@woodruff/core';
import { resultRow, summaryOf } from '../pay-runs/result';

export interface CalculationBatch {
  runId: string;
  payslips: { id: string; input: string; hours: Record<string, string> }[];
}

/** Works out a batch of payslips on a thread of its own; gives rows ready for COPY. */
export default function calculate({ runId, payslips }: CalculationBatch): string {
  return payslips
    .map(({ id, input: text, hours }) => {
      const input = JSON.parse(text) as PayslipInput;
      const payslip = computePayslip(input);
      return resultRow(id, runId, payslip, summaryOf(input, hours, payslip), text);
    })
    .join('');
}
