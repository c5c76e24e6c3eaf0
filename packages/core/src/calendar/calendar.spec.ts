import { packOf } from '../rules/registry';
import { addDays, addMonths, isDate, weekday, writtenPeriod } from './dates';
import { extraPayDates, payDatesInYear, periodOf, periodsPaidWithin, type PaySchedule } from './schedules';

const us = packOf('US');
const schedule = (frequency: PaySchedule['frequency'], anchor: string, payDateOffset = 6): PaySchedule => ({
  frequency,
  anchor,
  payDateOffset,
  move: 'previous',
});

describe('Calendar dates', () => {
  it('exist or not', () => {
    expect(['2026-02-28', '2028-02-29', '2026-12-31'].every(isDate)).toBeTrue();
    expect(['2026-02-29', '2026-13-01', '26-01-01', '2026-1-1', ''].some(isDate)).toBeFalse();
  });
  it('know their weekday and months', () => {
    expect(weekday('2026-11-27')).toBe(5);
    expect(addMonths('2026-01-31', 1)).toBe('2026-02-28');
    expect(writtenPeriod('2026-10-26', '2026-11-08')).toBe('26 Oct – 8 Nov 2026');
  });
});

describe('Federal holidays of the United States', () => {
  // 5 U.S.C. 6103 and the Reserve Banks' holiday list of 2026: a Saturday's holiday is not moved.
  it('of 2026', () => {
    const days = [
      '2026-01-01',
      '2026-01-19',
      '2026-02-16',
      '2026-05-25',
      '2026-06-19',
      '2026-07-04',
      '2026-09-07',
      '2026-10-12',
      '2026-11-11',
      '2026-11-26',
      '2026-12-25',
    ];
    expect(days.every((day) => us.isHoliday(day))).toBeTrue();
    expect(['2026-07-03', '2026-11-27', '2026-12-24'].some((day) => us.isHoliday(day))).toBeFalse();
  });
});

describe('Pay schedules', () => {
  it('fortnightly: 8 to 21 November 2026 is paid on Friday the 27th', () => {
    expect(periodOf(schedule('fortnightly', '2026-01-04'), '2026-11-15', us.isHoliday)).toEqual({
      from: '2026-11-08',
      to: '2026-11-21',
      payDate: '2026-11-27',
    });
  });
  it('move a pay date off weekends and holidays, backwards or forwards', () => {
    expect(periodOf(schedule('twice-a-month', '2026-01-01', 0), '2026-02-10', us.isHoliday).payDate).toBe('2026-02-13');
    const forwards: PaySchedule = { ...schedule('twice-a-month', '2026-01-01', 0), move: 'next' };
    expect(periodOf(forwards, '2026-02-10', us.isHoliday).payDate).toBe('2026-02-17');
  });
  it('four-weekly, quarterly, yearly and daily periods follow one another without a gap', () => {
    const at = (frequency: PaySchedule['frequency'], date: string) => periodOf(schedule(frequency, '2026-01-31', 0), date, () => false);
    expect(at('four-weekly', '2026-02-27')).toEqual({ from: '2026-01-31', to: '2026-02-27', payDate: '2026-02-27' });
    expect(at('quarterly', '2026-04-29')).toEqual({ from: '2026-01-31', to: '2026-04-29', payDate: '2026-04-29' });
    expect(at('quarterly', '2026-04-30').from).toBe('2026-04-30');
    expect(at('yearly', '2027-01-30')).toEqual({ from: '2026-01-31', to: '2027-01-30', payDate: '2027-01-29' });
    // Thursday stands alone; Friday takes the weekend along.
    expect(at('daily', '2026-11-26').to).toBe('2026-11-26');
    expect(at('daily', '2026-11-29')).toEqual({ from: '2026-11-27', to: '2026-11-29', payDate: '2026-11-27' });
    for (const frequency of ['four-weekly', 'quarterly', 'yearly', 'daily', 'monthly'] as const) {
      const periods = periodsPaidWithin(schedule(frequency, '2024-01-31', 3), '2024-01-01', '2028-12-31', us.isHoliday);
      expect(periods.slice(1).every((period, index) => period.from === addDays(periods[index]!.to, 1)))
        .withContext(frequency)
        .toBeTrue();
    }
  });
  it('a 27th fortnightly pay date is unusual, the 261st daily one is not', () => {
    expect(extraPayDates(schedule('fortnightly', '2026-01-04'), 27)).toBe(1);
    expect(extraPayDates(schedule('daily', '2026-01-01'), 261)).toBe(0);
  });
  it('twice a month ends on the 15th and on the last day', () => {
    expect(
      periodsPaidWithin(schedule('twice-a-month', '2026-01-01', 0), '2026-02-01', '2026-02-28', us.isHoliday).map((period) => [
        period.from,
        period.to,
      ]),
    ).toEqual([
      ['2026-02-01', '2026-02-15'],
      ['2026-02-16', '2026-02-28'],
    ]);
  });
  it('monthly periods may begin on any day', () => {
    expect(periodOf(schedule('monthly', '2026-01-21', 0), '2026-03-05', us.isHoliday)).toEqual({
      from: '2026-02-21',
      to: '2026-03-20',
      payDate: '2026-03-20',
    });
  });
  it('count the pay dates of a year, and the year with one more', () => {
    const counts = [2026, 2027, 2028, 2029, 2030, 2031, 2032].map((year) =>
      payDatesInYear(schedule('fortnightly', '2026-01-04'), year, us.isHoliday),
    );
    expect(counts.every((count) => count === 26 || count === 27)).toBeTrue();
    expect(counts).toContain(27);
    expect(payDatesInYear(schedule('weekly', '2026-01-05', 4), 2026, us.isHoliday)).toBe(53 - 1);
    expect(payDatesInYear(schedule('twice-a-month', '2026-01-01', 0), 2026, us.isHoliday)).toBe(24);
  });
});
