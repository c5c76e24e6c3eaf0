import { changeInWords } from './change-in-words';

describe('A change of time in words', () => {
  const change = (hours: string, begins: string | null = null, ends: string | null = null, breakMinutes = 0) =>
    changeInWords({ hours, begins, ends, breakMinutes });

  it('is the hours, with the clock and the break where they were told', () => {
    expect(change('8.5')).toBe('8.50 hours');
    expect(change('8', '07:00', '15:30', 30)).toBe('8.00 hours, 07:00 to 15:30 with 30 minutes of break');
    expect(change('8', '07:00', '15:00')).toBe('8.00 hours, 07:00 to 15:00');
  });

  it('of a day that was not worked says so', () => {
    expect(change('0')).toBe('without time');
  });
});
