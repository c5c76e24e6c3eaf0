import { legalLimits } from './legal-limits';
import { limitsLeft } from './limits-left';
import { anItem, inputOf } from './testing/inputs';

describe('What is left of limits', () => {
  it('by the year, in all, and by law with catch-up for the age reached in the year', () => {
    const loan = anItem('loan', 'deduction', 'after-tax', { limits: { inAll: '1200.00' } });
    const dues = anItem('dues', 'deduction', 'after-tax', { limits: { perYear: '480.00' } });
    const left = limitsLeft(
      inputOf({
        date: '2026-11-27',
        born: '1970-05-01',
        deferral: '300.00',
        items: [
          { item: loan, amount: '100.00' },
          { item: dues, amount: '20.00', limits: { perYear: '500.00' } },
        ],
        before: {
          loan: { year: 30_000, inAll: 90_000 },
          dues: { year: 44_000, inAll: 90_000 },
          'us.elective-deferrals': { year: 3_000_000, inAll: 3_000_000 },
        },
      }),
    );
    expect(left.map(({ item, limit, of, left: rest }) => [item, limit, of, rest])).toEqual([
      // 24,500.00 and 8,000.00 more from age 50 in 2026 (IRS Notice 2025-67).
      ['deferral', 'law', 3_250_000, 250_000],
      ['loan', 'in-all', 120_000, 30_000],
      // The person's own limit goes before the item's.
      ['dues', 'year', 50_000, 6_000],
    ]);
  });

  it('never below zero, and none where the law has no table for the date', () => {
    const deferral = { deferral: '300.00', yearToDate: { 'us.elective-deferrals': 9_000_000 } };
    expect(limitsLeft(inputOf(deferral))[0]?.left).toBe(0);
    expect(limitsLeft(inputOf({ ...deferral, date: '2031-11-28' }))).toEqual([]);
  });
});

describe('Legal limits of an item', () => {
  it('are the year’s, with what older people may add (Notice 2025-67: 24,500; 8,000 from 50, 11,250 from 60 to 63)', () => {
    const limits = legalLimits('US', 'deferral', '2026-11-23');
    expect(limits.map(({ fromAge, amount }) => [fromAge, amount])).toEqual([
      [null, 2_450_000],
      [50, 3_250_000],
      [60, 3_575_000],
      [64, 3_250_000],
    ]);
    expect(limits[1]?.working.sources.length).toBe(2);
  });

  it('are none for what the law does not limit, or in a year without tables', () => {
    expect(legalLimits('US', 'union-dues', '2026-11-23')).toEqual([]);
    expect(legalLimits('US', 'deferral', '2031-01-01')).toEqual([]);
  });
});
