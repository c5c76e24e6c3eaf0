import { payrollTax } from './payroll-tax';

/** Tax of each month by state, from wages of so much in each month of 2025-26; `more` of each registration. */
function year(wages: Readonly<Record<string, number>>, more: Readonly<Record<string, object>> = {}, months = 12) {
  const days = Array.from({ length: months }, (_, month) => ({
    payDate: month < 6 ? `2025-${String(month + 7).padStart(2, '0')}-15` : `2026-${String(month - 5).padStart(2, '0')}-15`,
    sums: Object.fromEntries(Object.entries(wages).map(([state, amount]) => [`au.payroll-tax.wages@AU-${state}`, amount * 100])),
  }));
  const states = Object.fromEntries(Object.keys(wages).map((state) => [state, { payrollTaxNumber: '1234567', ...more[state] }]));
  const made = payrollTax.of({ employer: { states }, days });
  const of = (state: string) => made.filter(({ code }) => code === `au.payroll-tax@AU-${state}`).map(({ amount }) => amount / 100);
  return { made, of, total: (state: string) => Math.round(of(state).reduce((sum, amount) => sum + amount, 0) * 100) / 100 };
}

// Each by the year as a whole: wages of a year over the threshold, at the published rate.
describe('Payroll tax', () => {
  it('is nothing up to the threshold, and begins with the dollar over it', () => {
    expect(year({ NSW: 100_000 }).total('NSW')).toBe(0);
    // 1,200,012 a year: 5.45 per cent of 12.
    expect(year({ NSW: 100_001 }).total('NSW')).toBe(0.65);
  });

  it('comes month by month, and the months come to the year', () => {
    const { of, total } = year({ NSW: 200_000 });
    // 200,000 − 100,000 at 5.45 per cent each month.
    expect(of('NSW')).toEqual(Array(12).fill(5450));
    expect(total('NSW')).toBe(65_400);
  });

  it('has a second rate in Tasmania over two million', () => {
    // 3,000,000: 4 per cent of 750,000, 6.1 of 1,000,000.
    expect(year({ TAS: 250_000 }).total('TAS')).toBe(91_000);
  });

  it('lets the deduction shrink in Victoria over three million until nothing of it is left at five', () => {
    // 2,400,000: 4.85 per cent of 1,400,000.
    expect(year({ VIC: 200_000 }).total('VIC')).toBe(67_900);
    // 4,200,000: the deduction is 1,000,000 − 600,000; 4.85 per cent of 3,800,000.
    expect(year({ VIC: 350_000 }).total('VIC')).toBe(184_300);
    // 6,000,000: 4.85 per cent of all.
    expect(year({ VIC: 500_000 }).total('VIC')).toBe(291_000);
    // A regional employer: 1.2125 per cent of 1,400,000.
    expect(year({ VIC: 200_000 }, { VIC: { regional: true } }).total('VIC')).toBe(16_975);
  });

  it('has levies for mental health in Victoria over ten million', () => {
    // 12,000,000: 4.85 per cent of all, and 1 per cent of 2,000,000.
    expect(year({ VIC: 1_000_000 }).total('VIC')).toBe(602_000);
  });

  it('has one rate on all over 6.5 million in Queensland, a discount for the regional, and a deduction that shrinks', () => {
    // 7,800,000: the deduction is 1,300,000 less a seventh of 6,500,000; 4.95 per cent of the rest.
    expect(year({ QLD: 650_000 }).total('QLD')).toBeCloseTo(0.0495 * (7_800_000 - (1_300_000 - 6_500_000 / 7)), 0);
    expect(year({ QLD: 650_000 }, { QLD: { regional: true } }).total('QLD')).toBeCloseTo(
      0.0395 * (7_800_000 - (1_300_000 - 6_500_000 / 7)),
      0,
    );
  });

  it('rises in South Australia between 1.5 and 1.7 million, over a deduction of 600,000', () => {
    expect(year({ SA: 125_000 }).total('SA')).toBe(0);
    // 1,608,000: 4.95 × 108 / 200 per cent of 1,008,000.
    expect(year({ SA: 134_000 }).total('SA')).toBeCloseTo(1_008_000 * 0.0495 * 0.54, 1);
    // 2,400,000: 4.95 per cent of 1,800,000.
    expect(year({ SA: 200_000 }).total('SA')).toBe(89_100);
  });

  it('shares the threshold over states by wages, and with the group', () => {
    // Together 3,600,000, a third of it in New South Wales: 1,200,000 less a third of 1,200,000, at 5.45 per cent.
    expect(year({ NSW: 100_000, TAS: 200_000 }).total('NSW')).toBe(43_600);
    // 1,200,000 beside 2,400,000 of the group: the same.
    expect(year({ NSW: 100_000 }, { NSW: { groupWages: '2400000' } }).total('NSW')).toBe(43_600);
    // Another member claims it.
    expect(year({ NSW: 100_000 }, { NSW: { withoutThreshold: true } }).total('NSW')).toBe(65_400);
  });

  it('adds only what differs: a month of less takes back what the months before had too much', () => {
    const days = [
      { payDate: '2025-07-15', sums: { 'au.payroll-tax.wages@AU-NSW': 20_000_000 } },
      { payDate: '2025-08-15', sums: { 'au.payroll-tax.wages@AU-NSW': 5_000_000 } },
    ];
    const made = payrollTax.of({ employer: { states: { NSW: { payrollTaxNumber: '1234567' } } }, days });
    // 5.45 per cent of 100,000, then of 250,000 − 200,000 in all.
    expect(made.map(({ amount, period }) => [period, amount])).toEqual([
      ['July 2025', 545_000],
      ['August 2025', -272_500],
    ]);
    expect(Object.keys(made[1]!.workings)).toContain('au.payroll-tax@AU-NSW');
  });

  it('is reckoned only where the employer is registered', () => {
    const days = [{ payDate: '2025-07-15', sums: { 'au.payroll-tax.wages@AU-NSW': 20_000_000 } }];
    expect(payrollTax.of({ employer: { states: { NSW: {} } }, days })).toEqual([]);
    expect(payrollTax.of({ employer: {}, days })).toEqual([]);
  });
});
