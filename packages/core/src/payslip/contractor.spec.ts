import { computePayslip } from './compute-payslip';
import type { PayslipInput } from './input';
import { anItem, inputOf } from './testing/inputs';

const contracted = (more: Partial<PayslipInput> = {}): PayslipInput => {
  const input = inputOf({ hours: { rate: '60', by: { fee: '25' } } });
  return { ...input, person: { name: 'Otto Lindgren', contractor: true }, tax: {}, items: [], ...more };
};

describe('A contractor’s payslip', () => {
  it('has no taxes of anybody, and counts for the information return alone', () => {
    const { lines, totals, problems } = computePayslip(contracted());
    expect([totals.gross, totals.taxes, totals.employerTaxes, totals.net, totals.employerCost]).toEqual([150_000, 0, 0, 150_000, 150_000]);
    expect(lines.filter((line) => line.kind === 'base').map((line) => [line.code, line.amount])).toEqual([['us.nonemployee', 150_000]]);
    expect(problems).toEqual([]);
  });

  it('pays costs back beside the fee, and takes what was agreed off', () => {
    const travel = { id: 't', item: anItem('travel', 'reimbursement', 'expenses'), amount: '84.20' };
    const advance = { item: anItem('advance', 'deduction', 'after-tax'), amount: '200.00' };
    const { totals, lines } = computePayslip(contracted({ oneOffs: [travel], items: [advance] }));
    expect(totals.net).toBe(150_000 + 8_420 - 20_000);
    // Reimbursed expenses are no compensation.
    expect(lines.find((line) => line.code === 'us.nonemployee')?.amount).toBe(150_000);
  });
});
