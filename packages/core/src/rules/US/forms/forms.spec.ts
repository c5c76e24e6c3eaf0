import { packOf } from '../../registry';
import { computePayslip } from '../../../payslip/compute-payslip';
import { inputOf } from '../../../payslip/testing/inputs';

const filings = packOf('US').filings!;

function sumsOf(pay: string, count: number): Record<string, number> {
  const sums: Record<string, number> = {};
  for (let index = 0; index < count; index++) {
    for (const line of computePayslip(inputOf({ pay })).lines) sums[line.code] = (sums[line.code] ?? 0) + line.amount;
  }
  return sums;
}

describe('The quarterly return', () => {
  const days = ['2026-07-10', '2026-07-24', '2026-08-07'].map((payDate) => ({ payDate, payslips: 7, sums: sumsOf('1234.57', 7) }));
  const made = filings.quarterlyReturn('2026-07-01', days, 7, 0);
  const line = (name: string) => made.lines.find((candidate) => candidate.line === name)!.amount;

  it('takes fractions of cents into line 7, so that line 12 is the liability by date', () => {
    expect(line('2')).toBe(21 * 123457);
    // 7,654 cents withheld on each payslip; 12.4% of the quarter's wages is not 42 times that.
    expect(line('5a (2)')).toBe(Math.round(21 * 123457 * 0.124));
    expect(line('7')).not.toBe(0);
    expect(line('12')).toBe(made.liability.reduce((sum, day) => sum + day.amount, 0));
    expect(made.checks.every((check) => check.holds)).toBeTrue();
  });

  it('says when line 7 is more than rounding can make', () => {
    const wrong = days.map((day) => ({ ...day, sums: { ...day.sums, 'us.oasdi': (day.sums['us.oasdi'] ?? 0) + 500 } }));
    const checked = filings.quarterlyReturn('2026-07-01', wrong, 7, 0).checks;
    expect(checked.filter((check) => !check.holds).map((check) => check.sentence)).toEqual([jasmine.stringContaining('Line 7')]);
  });

  it('shows the balance, or the overpayment, against deposits', () => {
    expect(line('14')).toBe(line('12'));
    const over = filings.quarterlyReturn('2026-07-01', days, 7, line('12') + 500);
    expect(over.lines.find((candidate) => candidate.line === '15')?.amount).toBe(500);
    expect(over.lines.find((candidate) => candidate.line === '14')?.amount).toBe(0);
  });
});

describe('The wage statement', () => {
  const boxes = filings.statement(sumsOf('2000.00', 26));
  it('is made of sums of the ledger', () => {
    expect(boxes.find((box) => box.box === '1')?.amount).toBe(5_200_000);
    expect(boxes.find((box) => box.box === '4')?.amount).toBe(26 * 12400);
  });
  it('checks the number: missing, impossible, shared', () => {
    const check = (facts: { number?: string; shared?: boolean }) =>
      filings
        .checkStatement(2026, boxes, {
          name: 'Ines Halloway',
          shared: facts.shared ?? false,
          address: true,
          ...(facts.number ? { number: facts.number } : {}),
        })
        .map((found) => found.code);
    expect(check({ number: '123456789' })).toEqual([]);
    expect(check({})).toEqual(['number-missing']);
    for (const number of ['000123456', '666123456', '912345678', '123004567', '123450000'])
      expect(check({ number })).withContext(number).toEqual(['number-invalid']);
    expect(check({ number: '123456789', shared: true })).toEqual(['number-shared']);
  });
  it('checks box 3 against the wage base and box 4 against box 3', () => {
    const wrong = boxes.map((box) => (box.box === '3' ? { ...box, amount: 18_450_001 } : box));
    expect(
      filings.checkStatement(2026, wrong, { name: 'X', number: '123456789', shared: false, address: true }).map((found) => found.code),
    ).toEqual(['wage-base-exceeded', 'boxes-disagree', 'box-4']);
  });
});
