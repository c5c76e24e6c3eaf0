import { decimalOf } from '../../money/amounts';
import { computePayslip } from '../../payslip/compute-payslip';
import { anItem, inputOf, type Sketch } from '../../payslip/testing/inputs';

const item = (table: string, kind: 'deduction' | 'employer-contribution', treatment: string, amount: string) => ({
  item: anItem('contribution', kind, treatment, {
    method: { by: 'published-table', table: `gb.pension.${table}` },
    shortfall: 'take-part',
  }),
  amount,
});
const contributed = (sketch: Sketch, of: ReturnType<typeof item>) => {
  const { lines, problems } = computePayslip(inputOf({ country: 'GB', frequency: 'monthly', date: '2025-08-29', ...sketch, items: [of] }), {
    workings: true,
  });
  expect(problems.filter(({ weight }) => weight === 'stop')).toEqual([]);
  return decimalOf(lines.filter(({ code }) => code === 'contribution').reduce((all, { amount }) => all + amount, 0));
};
const netPay = item('qualifying', 'deduction', 'pension-net-pay', '5');
const employer = item('qualifying', 'employer-contribution', 'employer-plan', '3');

// The Pensions Regulator, earnings thresholds of 2025-26; worked by hand.
describe('Contributions on qualifying earnings', () => {
  it('are of pay between the limits of the pay reference period', () => {
    // 3,000.00 − 520.00 = 2,480.00.
    expect([contributed({ pay: '3000.00' }, netPay), contributed({ pay: '3000.00' }, employer)]).toEqual(['124.00', '74.40']);
    // 4,189.00 − 520.00 = 3,669.00, whatever is earned above.
    expect([contributed({ pay: '4189.00' }, netPay), contributed({ pay: '9000.00' }, netPay)]).toEqual(['183.45', '183.45']);
    expect([contributed({ pay: '520.00' }, netPay), contributed({ pay: '520.20' }, netPay)]).toEqual(['0.00', '0.01']);
  });

  it('have limits of their own for weeks', () => {
    expect(contributed({ pay: '400.00', frequency: 'weekly', date: '2025-08-29' }, netPay)).toBe('14.00');
    expect(contributed({ pay: '800.00', frequency: 'fortnightly', date: '2025-08-29' }, netPay)).toBe('28.00');
    expect(contributed({ pay: '1600.00', frequency: 'four-weekly', date: '2025-08-29' }, netPay)).toBe('56.00');
  });

  it('with relief at source are deducted without the tax that the scheme claims, at the basic rate in Scotland, too', () => {
    const relief = item('relief-at-source', 'deduction', 'pension-relief-at-source', '5');
    expect(contributed({ pay: '3000.00' }, relief)).toBe('99.20');
    expect(contributed({ pay: '3000.00', tax: { taxCode: 'S1257L', category: 'A' } }, relief)).toBe('99.20');
  });

  it('count statutory pay, and neither a termination award nor pay that is given up', () => {
    const ssp = { id: 'ssp', item: anItem('ssp', 'earning', 'ssp'), amount: '480.00' };
    expect(contributed({ pay: '2520.00', oneOffs: [ssp] }, netPay)).toBe('124.00');
    const given = { item: anItem('given', 'deduction', 'sacrifice', { order: 5 }), amount: '100.00' };
    const { lines } = computePayslip(
      inputOf({ country: 'GB', frequency: 'monthly', date: '2025-08-29', pay: '3100.00', items: [given, netPay] }),
    );
    expect(lines.find(({ code }) => code === 'contribution')?.amount).toBe(12_400);
    const award = { id: 'award', item: anItem('award', 'earning', 'termination-award'), amount: '480.00' };
    expect(contributed({ pay: '3000.00', oneOffs: [award] }, netPay)).toBe('124.00');
  });
});
