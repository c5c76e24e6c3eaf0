import fc from 'fast-check';
import { decimalOf } from '../../money/amounts';
import { computePayslip } from '../../payslip/compute-payslip';
import { anItem, inputOf, type Sketch } from '../../payslip/testing/inputs';
import { earningsPeriod } from './tax-year';

const MONTHLY: Sketch = {
  country: 'GB',
  frequency: 'monthly',
  date: '2025-08-29',
  tax: { taxCode: 'BR', basis: 'week-1-month-1', category: 'A', studentLoan: '2' },
};
/** What is posted under each code by pays of one earnings period, one after another. */
function paid(pays: readonly string[], sketch: Sketch): Record<string, number> {
  const sums: Record<string, number> = {};
  for (const pay of pays) {
    const before = Object.fromEntries(
      Object.entries(sums).map(([code, amount]) => [code, { year: amount, inAll: amount, earnings: amount }]),
    );
    for (const { code, amount } of computePayslip(inputOf({ ...sketch, pay, before })).lines) sums[code] = (sums[code] ?? 0) + amount;
  }
  return sums;
}
const CODES = ['gb.ni', 'gb.ni.employer', 'gb.paye', 'gb.student-loan', 'gb.ni.A.to-lower', 'gb.ni.A.to-primary', 'gb.ni.A.to-upper'];
const figures = (sums: Record<string, number>) => CODES.map((code) => decimalOf(sums[code] ?? 0));

describe('Payments of one earnings period', () => {
  it('are reckoned together: a bonus paid beside the salary has no threshold of its own', () => {
    // Together 3,500.00: (3,500 − 1,048) × 8 % = 196.16; (3,500 − 417) × 15 % = 462.45; BR 20 % = 700.00; plan 2: (3,500 − 2,372.50) × 9 % = 101.
    const together = ['196.16', '462.45', '700.00', '101.00', '542.00', '506.00', '2452.00'];
    expect(figures(paid(['3500.00'], MONTHLY))).toEqual(together);
    expect(figures(paid(['3000.00', '500.00'], MONTHLY))).toEqual(together);
    expect(figures(paid(['500.00', '3000.00'], MONTHLY))).toEqual(together);
  });

  it('come to the same however they are divided', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 900_000 }), fc.integer({ min: 0, max: 900_000 }), (first, second) => {
        const tax = { taxCode: 'D0', basis: 'week-1-month-1', category: 'A', studentLoan: '1' };
        const split = paid([decimalOf(first), decimalOf(second)], { ...MONTHLY, tax });
        // Tax apart: of a payment no more than half is withheld.
        const less = (sums: Record<string, number>) => figures({ ...sums, 'gb.paye': 0 });
        expect(less(split)).toEqual(less(paid([decimalOf(first + second)], { ...MONTHLY, tax })));
      }),
      { numRuns: 60 },
    );
  });

  it('share the limits of qualifying earnings', () => {
    const contribution = {
      item: anItem('contribution', 'deduction', 'pension-net-pay', {
        method: { by: 'published-table', table: 'gb.pension.qualifying' },
        shortfall: 'take-part',
      }),
      amount: '5',
    };
    const of = (...pays: string[]) => decimalOf(paid(pays, { ...MONTHLY, items: [contribution] })['contribution'] ?? 0);
    // (3,500 − 520) × 5 %; above the upper limit nothing more: (4,189 − 520) × 5 %.
    expect([of('3500.00'), of('3000.00', '500.00'), of('400.00', '3100.00')]).toEqual(['149.00', '149.00', '149.00']);
    expect([of('9000.00'), of('4000.00', '5000.00')]).toEqual(['183.45', '183.45']);
  });

  it('are found by the weeks and months of the tax year', () => {
    expect(earningsPeriod('2025-08-29', 'monthly')).toEqual({ from: '2025-08-06', to: '2025-09-05' });
    expect(earningsPeriod('2025-09-05', 'monthly').from).toBe('2025-08-06');
    expect(earningsPeriod('2026-04-05', 'weekly')).toEqual({ from: '2026-04-05', to: '2026-04-05' });
    expect(earningsPeriod('2025-04-12', 'weekly')).toEqual({ from: '2025-04-06', to: '2025-04-12' });
    expect(earningsPeriod('2025-04-13', 'fortnightly')).toEqual({ from: '2025-04-06', to: '2025-04-19' });
    expect(earningsPeriod('2025-05-04', 'four-weekly')).toEqual({ from: '2025-05-04', to: '2025-05-31' });
    expect(earningsPeriod('2025-08-29', 'quarterly')).toEqual({ from: '2025-07-06', to: '2025-10-05' });
    expect(earningsPeriod('2025-08-29', 'yearly')).toEqual({ from: '2025-04-06', to: '2026-04-05' });
  });
});
