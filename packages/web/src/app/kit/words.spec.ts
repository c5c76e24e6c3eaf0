import { CountedPipe, DayPipe, DecimalPipe, listed, MoneyPipe, PeriodPipe, RunKindPipe, signed } from './words';

describe('Words and figures', () => {
  it('money: grouped, a true minus sign, zero as a dash where asked for', () => {
    const money = new MoneyPipe();
    expect([money.transform(123456), money.transform(-5), money.transform(0), money.transform(0, 'dash'), money.transform(null)]).toEqual([
      '1,234.56',
      '−0.05',
      '0.00',
      '–',
      '',
    ]);
  });
  it('changes always with their sign', () => expect([signed(360), signed(-36800), signed(0)]).toEqual(['+3.60', '−368.00', '–']));
  it('dates with their day, periods in short', () => {
    expect(new DayPipe().transform('2026-11-27')).toBe('Fri 27 Nov 2026');
    expect(new DayPipe().transform(null)).toBe('');
    expect(new PeriodPipe().transform({ from: '2026-11-08', to: '2026-11-21' })).toBe('8 – 21 Nov 2026');
  });
  it('runs by what they are', () => {
    const kinds = (['regular', 'correction', 'opening'] as const).map((kind) =>
      new RunKindPipe().transform({ kind, schedule: 'Fortnightly' }),
    );
    expect(kinds).toEqual(['fortnightly', 'correction', 'opening balances']);
  });
  it('short sentences in one, with one capital', () => {
    expect(listed(['No tax details', 'No national number'])).toBe('No tax details, no national number');
    expect(listed([])).toBe('');
  });
  it('counts with the word that goes with them, or alone', () => {
    const counted = (count: number) => new CountedPipe().transform(count, 'person', 'people');
    expect([counted(1), counted(34), counted(10_000), new CountedPipe().transform(1_234)]).toEqual([
      '1 person',
      '34 people',
      '10,000 people',
      '1,234',
    ]);
  });
  it('decimals keep the places they have, amounts have cents', () => {
    expect(new DecimalPipe().transform('1240.5')).toBe('1,240.5');
    expect(new DecimalPipe().transform('1240.5', 2)).toBe('1,240.50');
    expect(new DecimalPipe().transform('-18', 2)).toBe('−18.00');
    expect(new DecimalPipe().transform('27.3125', 2)).toBe('27.3125');
  });
});
