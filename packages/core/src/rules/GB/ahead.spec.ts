import { decimalOf } from '../../money/amounts';
import { computePayslip } from '../../payslip/compute-payslip';
import { anItem, inputOf, type Sketch } from '../../payslip/testing/inputs';

const TAX = { taxCode: '1257L', basis: 'cumulative', category: 'A' };
const paid = (pay: string, date: string, ahead: number, more: Partial<Sketch> = {}) => {
  const input = inputOf({ country: 'GB', frequency: 'weekly', date, pay, tax: TAX, ...more });
  const { lines } = computePayslip({ ...input, pay: { ...input.pay, ...(ahead ? { ahead } : {}) } });
  return (code: string) => decimalOf(lines.filter((line) => line.code === code).reduce((sum, { amount }) => sum + amount, 0));
};

// HMRC, CWG2, 1.10; national insurance of each week by its own threshold, tax by the last week that is paid.
describe('Pay of weeks ahead', () => {
  it('has the free pay of the last week, and each week its own threshold', () => {
    // Week 20 with two weeks of holiday ahead, 500.00 each; 19 weeks of 500.00 before, with their tax.
    const before = { 'gb.paye.pay': 950_000, 'gb.paye': 98_200 };
    const together = paid('1500.00', '2025-08-20', 2, { yearToDate: before });
    // One week after another: 3 × (500 − 242) × 8 % = 61.92, and 3 × (500 − 96) × 15 % = 181.80.
    expect([together('gb.ni'), together('gb.ni.employer')]).toEqual(['61.92', '181.80']);
    // 11,000.00 in week 22: free pay 22 × 241.92 = 5,322.24; 20 % of 5,677 less what was withheld.
    expect(together('gb.paye')).toBe('153.40');
  });

  it('comes to the same as the weeks one by one over them all', () => {
    const sums: Record<string, number> = {};
    for (const date of ['2025-08-20', '2025-08-27', '2025-09-03']) {
      const of = paid('500.00', date, 0, { yearToDate: { ...sums } });
      for (const code of ['gb.paye', 'gb.ni']) sums[code] = (sums[code] ?? 0) + Math.round(Number(of(code)) * 100);
      sums['gb.paye.pay'] = (sums['gb.paye.pay'] ?? 0) + 50_000;
    }
    const together = paid('1500.00', '2025-08-20', 2);
    expect([together('gb.paye'), together('gb.ni')]).toEqual([decimalOf(sums['gb.paye']!), decimalOf(sums['gb.ni']!)]);
  });

  it('is refused over the end of the tax year, into week 53, and for months', () => {
    const refused = (date: string, ahead: number, frequency: 'weekly' | 'monthly' = 'weekly') => {
      const input = inputOf({ country: 'GB', frequency, date, pay: '1000.00', tax: TAX });
      const { problems } = computePayslip({ ...input, pay: { ...input.pay, ahead } });
      return problems.filter(({ weight }) => weight === 'stop').map(({ sentence }) => sentence)[0] ?? 'not refused';
    };
    expect(refused('2026-03-27', 2)).toContain('next tax year');
    expect(refused('2026-03-29', 1)).toContain('Week 53 is taxed by itself');
    expect(refused('2026-03-27', 1)).toBe('not refused');
    expect(refused('2025-08-20', 1, 'monthly')).toContain('by the week');
  });
});

describe('Pay that is given up', () => {
  const given = (amount: string, born: string) => {
    const item = { item: anItem('given', 'deduction', 'sacrifice', { order: 5 }), amount };
    const input = inputOf({
      country: 'GB',
      frequency: 'weekly',
      date: '2025-08-29',
      hours: { rate: '13.00', by: { basic: '40' } },
      items: [item],
      born,
    });
    return computePayslip(input).problems.filter(({ code }) => code === 'given-up-below-minimum-wage');
  };
  it('leaves the minimum wage of the hours paid, by age', () => {
    // 520.00 for 40 hours; from 21 on 12.21 an hour, 488.40; of 18 to 20 10.00.
    expect([given('31.60', '1990-01-01').length, given('31.61', '1990-01-01').length]).toEqual([0, 1]);
    expect([given('120.00', '2006-01-01').length, given('120.01', '2006-01-01').length]).toEqual([0, 1]);
    expect(given('31.61', '1990-01-01')[0]).toEqual(jasmine.objectContaining({ weight: 'stop' }));
  });
});
