import { unusualOf, type PayslipFacts } from './unusual';

const facts = (more: Partial<PayslipFacts> = {}): PayslipFacts => ({
  payslipId: 'p',
  name: 'Ines Halloway',
  net: 180_000,
  gross: 240_000,
  taxes: 40_000,
  previous: { net: 180_000, gross: 240_000, taxes: 40_000 },
  earlierNets: [180_000, 181_000, 178_000],
  overtime: 0,
  earlierOvertime: [0, 0, 0],
  oneOffs: [],
  overrides: [],
  newPayment: null,
  sharesAccountWith: [],
  hours: 80,
  days: 14,
  ...more,
});
const codes = (more: Partial<PayslipFacts>) => unusualOf([facts(more)]).map(({ code }) => code);

describe('What is unusual', () => {
  it('is nothing where all is as usual, and small amounts are not', () => {
    expect(codes({})).toEqual([]);
    expect(codes({ net: 189_000 })).toEqual([]);
    // Half as much again, and still less than a hundred.
    expect(codes({ net: 15_000, earlierNets: [10_000, 10_000] })).toEqual([]);
  });

  it('is ranked by what it would cost if it were wrong', () => {
    const found = unusualOf([
      facts({ name: 'A', net: 240_000 }),
      facts({ name: 'B', overrides: [{ label: 'Federal income tax', given: 0, workedOut: 90_000, reason: 'letter' }] }),
      facts({ name: 'C', newPayment: { what: 'Paid by deposit to an account ending 1234', by: 'O. Mirren' } }),
    ]);
    expect(found.map(({ name, code, cost }) => [name, code, cost])).toEqual([
      ['C', 'payment-changed', 180_000],
      ['B', 'by-hand', 90_000],
      ['A', 'net-unusual', 60_000],
    ]);
    expect(found[2]?.sentence).toBe('Net 2,400.00, where 1,800.00 is usual: 33% more.');
  });

  it('is a first payslip, a large one-off, overtime, a shared account, no tax, too many hours', () => {
    expect(codes({ earlierNets: [], previous: null })).toEqual(['first-pay']);
    expect(codes({ oneOffs: [{ label: 'Bonus', amount: 200_000 }], gross: 440_000 })).toEqual(['one-off-large']);
    expect(codes({ overtime: 60_000, earlierOvertime: [20_000, 25_000] })).toEqual(['overtime']);
    expect(codes({ overtime: 30_000, earlierOvertime: [20_000, 25_000] })).toEqual([]);
    expect(codes({ sharesAccountWith: ['Oda Quarrington'] })).toEqual(['account-shared']);
    expect(codes({ taxes: 0 })).toEqual(['no-tax']);
    expect(codes({ hours: 150 })).toEqual(['hours']);
  });
});
