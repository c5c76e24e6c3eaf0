import { balancesOf, linesToPost, reversalOf, type LedgerLine } from './ledger';
import { computePayslip } from '../payslip/compute-payslip';
import { inputOf } from '../payslip/testing/inputs';

const line = (payDate: string, code: string, amount: number): LedgerLine => ({ payDate, kind: 'earning', code, label: code, amount });
const YEAR = { from: '2026-01-01', to: '2026-12-31' };

describe('The ledger', () => {
  it('sums by year, quarter and in all', () => {
    const lines = [line('2025-12-26', 'pay', 100), line('2026-02-06', 'pay', 20), line('2026-05-15', 'pay', 3)];
    expect(balancesOf(lines, YEAR, 2)).toEqual({ pay: { year: 23, inAll: 123, quarter: 3 } });
  });

  it('posts every line of a payslip, bases included, dated by its pay date', () => {
    const payslip = computePayslip(inputOf({ pay: '2000.00' }));
    const lines = linesToPost(payslip, '2026-11-27');
    expect(lines.length).toBe(payslip.lines.length);
    expect(lines.some((posted) => posted.kind === 'base' && posted.code === 'us.fit.wages')).toBeTrue();
  });

  it('a reversal has its own date: it counts in the quarter in which it is made', () => {
    const lines = [line('2026-03-27', 'pay', 100)];
    const balances = balancesOf([...lines, ...reversalOf(lines, '2026-04-03')], YEAR, 2);
    expect(balances['pay']).toEqual({ year: 0, inAll: 0, quarter: -100 });
  });

  it('reverses hours too', () => {
    expect(reversalOf([{ ...line('2026-03-27', 'pay', 100), quantity: '8.00' }], '2026-04-03')[0]).toEqual(
      jasmine.objectContaining({ amount: -100, quantity: '-8.00' }),
    );
  });
});
