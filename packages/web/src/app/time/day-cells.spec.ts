import { hoursOfDay, isPlainDay, readDay, withDay } from './day-cells';

const line = (date: string, hours: string, more: object = {}) => ({ date, hours, breakMinutes: 0, place: '', ...more });

describe('The days of a timesheet', () => {
  it('take figures and hours with minutes, and refuse what no day has', () => {
    expect(['8', '7.5', '7,5', '7:30', '', '–'].map((typed) => readDay(typed))).toEqual([
      { value: '8' },
      { value: '7.5' },
      { value: '7.5' },
      { value: '7.50' },
      { value: null },
      { value: null },
    ]);
    expect('fault' in readDay('25')).toBeTrue();
    expect('fault' in readDay('eight')).toBeTrue();
  });

  it('show the sum of their lines, and are typed over only where one plain line says everything', () => {
    const row = { lines: [line('2026-11-09', '4'), line('2026-11-09', '3.5', { rate: '2' }), line('2026-11-10', '8')] };
    expect([hoursOfDay(row, '2026-11-09'), hoursOfDay(row, '2026-11-11')]).toEqual(['7.50', '']);
    expect([isPlainDay(row, '2026-11-09'), isPlainDay(row, '2026-11-10'), isPlainDay(row, '2026-11-11')]).toEqual([false, true, true]);
    expect(withDay(row.lines, '2026-11-10', '6').map((one) => `${one.date} ${one.hours}`)).toEqual([
      '2026-11-09 4',
      '2026-11-09 3.5',
      '2026-11-10 6',
    ]);
    expect(withDay(row.lines, '2026-11-10', null).length).toBe(2);
  });
});
