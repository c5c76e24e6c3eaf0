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

  describe('without a valid taxpayer number', () => {
    const paid = (before: number) =>
      computePayslip(
        contracted({
          person: { name: 'Otto Lindgren', contractor: true, unidentified: true },
          balances: { 'us.nonemployee': { year: before, inAll: before } },
        }),
      );

    it('is withheld from, the whole payment with which the year reaches what is reported', () => {
      // 499.99 before and 1,500.00 now stay below 2,000.00; a cent more and 24 per cent of 1,500.00 is withheld.
      expect(paid(49_999).totals.taxes).toBe(0);
      const { totals, lines } = paid(50_000);
      expect([totals.taxes, totals.net]).toEqual([36_000, 114_000]);
      expect(lines.find(({ code }) => code === 'us.backup')?.amount).toBe(36_000);
    });

    it('is paid in full once the number is there', () =>
      expect(computePayslip(contracted({ balances: { 'us.nonemployee': { year: 500_000, inAll: 500_000 } } })).totals.taxes).toBe(0));
  });
});
