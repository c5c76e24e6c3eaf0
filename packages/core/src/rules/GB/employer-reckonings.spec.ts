import { decimalOf } from '../../money/amounts';
import { employerReckonings } from './employer-reckonings';

const LAST = { 4: '2025-04-30', 5: '2025-05-30', 6: '2025-06-30', 7: '2025-07-31', 3: '2026-03-31' } as const;
type Day = readonly [payDate: string, sums: Record<string, number>];
const of = (employer: Record<string, unknown>, ...days: Day[]) =>
  employerReckonings
    .of({ employer, days: days.map(([payDate, sums]) => ({ payDate, sums })) })
    .map(({ code, on, amount }) => `${code} ${on} ${decimalOf(amount)}`);

describe("The employer's own reckonings", () => {
  it('take the allowance off contributions until its 10,500.00 are used up, and not where it is not claimed', () => {
    // NICs Act 2014 as of 2025-26: 4,500 and 4,500 leave 1,500 for the third month, and nothing for the fourth.
    const days: Day[] = ([4, 5, 6, 7] as const).map((month) => [LAST[month], { 'gb.ni.employer': 450_000 }]);
    expect(of({ employmentAllowance: true }, ...days)).toEqual([
      'gb.allowance 2025-04-30 -4500.00',
      'gb.allowance 2025-05-30 -4500.00',
      'gb.allowance 2025-06-30 -1500.00',
    ]);
    expect(of({}, ...days)).toEqual([]);
  });

  it('give back of the allowance what a correction takes from the contributions', () => {
    expect(of({ employmentAllowance: true }, [LAST[4], { 'gb.ni.employer': 100_000 }], [LAST[5], { 'gb.ni.employer': -40_000 }])).toEqual([
      'gb.allowance 2025-04-30 -1000.00',
      'gb.allowance 2025-05-30 400.00',
    ]);
  });

  it('make the levy half a per cent of the pay bill less a twelfth of 15,000.00 a month', () => {
    // 300,000 × 0.5 % = 1,500 − 1,250 = 250; the second month 200,000: 1,000 − 1,250, so that the year is 0 and 250 come back.
    expect(of({}, [LAST[4], { 'gb.ni.earnings': 30_000_000 }], [LAST[5], { 'gb.ni.earnings': 20_000_000 }])).toEqual([
      'gb.levy 2025-04-30 250.00',
      'gb.levy 2025-05-30 -250.00',
    ]);
    // The whole year by the law's own schedule: 4,000,000 × 0.5 % = 20,000 − 15,000 = 5,000, whatever the months.
    const months = Array.from({ length: 12 }, (_, index): Day => [
      `${index < 9 ? 2025 : 2026}-${String(((index + 3) % 12) + 1).padStart(2, '0')}-28`,
      { 'gb.ni.earnings': index % 2 ? 20_000_000 : 46_666_667 },
    ]);
    const levies = employerReckonings.of({ employer: {}, days: months.map(([payDate, sums]) => ({ payDate, sums })) });
    expect(levies.reduce((sum, { amount }) => sum + amount, 0)).toBe(500_000);
  });

  it('know months in which nobody was paid, and a share of the allowance', () => {
    // Month 4 with all earnings so far: four twelfths of the allowance are 5,000.00; of 6,000.00 they are 2,000.00.
    expect(of({}, [LAST[7], { 'gb.ni.earnings': 120_000_000 }])).toEqual(['gb.levy 2025-07-31 1000.00']);
    expect(of({ levyAllowance: '6000' }, [LAST[7], { 'gb.ni.earnings': 120_000_000 }])).toEqual(['gb.levy 2025-07-31 4000.00']);
  });

  it('recover 92 per cent of family payments, of a small employer all of it and 8.5 per cent beside', () => {
    expect(of({}, [LAST[4], { 'gb.smp': 74_872 }])).toEqual(['gb.smp.recovered 2025-04-30 -688.82']);
    expect(of({ smallEmployer: true }, [LAST[4], { 'gb.smp': 74_872 }])).toEqual([
      'gb.smp.recovered 2025-04-30 -748.72',
      'gb.smp.compensation 2025-04-30 -63.64',
    ]);
  });

  it('stand with the first pay date of the tax month, to which the 5th still belongs', () => {
    expect(
      of(
        { employmentAllowance: true },
        ['2025-05-02', { 'gb.ni.employer': 100 }],
        ['2025-05-05', { 'gb.ni.employer': 100 }],
        ['2025-05-06', { 'gb.ni.employer': 100 }],
      ),
    ).toEqual(['gb.allowance 2025-05-02 -2.00', 'gb.allowance 2025-05-06 -1.00']);
  });

  it('explain themselves down to the table', () => {
    const [levy] = employerReckonings.of({ employer: {}, days: [{ payDate: LAST[4], sums: { 'gb.ni.earnings': 30_000_000 } }] });
    expect(Object.keys(levy?.workings ?? {})).toEqual(['gb.levy.allowed', 'gb.levy.to-date', 'gb.levy']);
    expect(levy?.workings['gb.levy']?.amount).toBe('250.00');
  });
});
