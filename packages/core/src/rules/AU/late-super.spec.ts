import { lateSuper } from './late-super';

const amounts = (facts: Parameters<typeof lateSuper>[0]) => lateSuper(facts).lines.map(({ key, amount }) => [key, amount]);

describe('The charge on late super', () => {
  it('until June 2026 is ten per cent from the first day of the quarter, and 20 for each employee', () => {
    const quarter = { due: '2026-01-28', upTo: '2025-12-18', people: 4, today: '2026-03-31' };
    // From 1 October to 12 February are 135 days: 3,000 × 10% × 135 / 365 = 110.96.
    expect(amounts({ ...quarter, late: [{ amount: 300_000, on: '2026-02-12' }] })).toEqual([
      ['interest', 110_96],
      ['fee', 80_00],
    ]);
    // A part of it then, and 1,000 not yet: to 31 March 182 days, 49.86; 2,000 for 135 days, 73.97.
    expect(
      amounts({
        ...quarter,
        late: [
          { amount: 200_000, on: '2026-02-12' },
          { amount: 100_000, on: null },
        ],
      })[0],
    ).toEqual(['interest', 123_84]);
  });

  it('since July 2026 is what the fund has missed day by day, and at most sixty per cent on what is left', () => {
    const payDay = { due: '2026-07-13', upTo: '2026-07-02', people: 2, today: '2026-08-12' };
    // 30 days at 10.61 per cent compounding daily: 1,000 grows by 8.7574; 60 per cent of 8.76 are 5.26.
    expect(amounts({ ...payDay, late: [{ amount: 100_000, on: '2026-08-12' }] })).toEqual([
      ['earnings', 8_76],
      ['uplift', 5_26],
    ]);
    // Not paid yet it is a shortfall too: 60 per cent of 1,008.76.
    expect(amounts({ ...payDay, late: [{ amount: 100_000, on: null }] })).toEqual([
      ['earnings', 8_76],
      ['uplift', 605_26],
    ]);
    expect(amounts({ ...payDay, late: [{ amount: 100_000, on: '2026-07-14' }] })[0]).toEqual(['earnings', 29]);
  });

  it('shows where each figure comes from, and that the rate is not confirmed', () => {
    const { workings, note } = lateSuper({
      due: '2026-07-13',
      upTo: '2026-07-02',
      people: 2,
      today: '2026-08-12',
      late: [{ amount: 100_000, on: null }],
    });
    expect(workings['part-0']?.steps.some(({ label }) => label === '30 days at 10.61 per cent a year, compounding daily')).toBeTrue();
    expect(workings['part-0']?.sources[0]?.unconfirmed).toBeTrue();
    expect(note).toContain('disclose');
  });
});
