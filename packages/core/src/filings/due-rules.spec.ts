import type { IsoDate } from '../calendar/dates';
import { dueBy, dueDay, ruleInWords, type DueRule } from './due-rules';

// Thanksgiving, 26 November 2026, and Christmas.
const isHoliday = (date: IsoDate): boolean => date === '2026-11-26' || date === '2026-12-25';
const due = (rule: DueRule, date: IsoDate) => dueDay(rule, date, isHoliday).due;

describe('By when a payee is paid', () => {
  it('counts business days after a pay date, holidays left out', () => {
    // Fri 20 November: Mon 23, Tue 24, Wed 25, Fri 27, Mon 30, Tue 1, Wed 2.
    expect(due({ by: 'pay-date', days: 7, business: true }, '2026-11-20')).toBe('2026-12-02');
    expect(due({ by: 'pay-date', days: 0 }, '2026-11-20')).toBe('2026-11-20');
    // Six days later is Thanksgiving.
    expect(due({ by: 'pay-date', days: 6 }, '2026-11-20')).toBe('2026-11-27');
  });

  it('takes the month after, the last day where a month is short, and December by itself', () => {
    expect(due({ by: 'month', day: 15 }, '2026-10-09')).toBe('2026-11-16');
    expect(due({ by: 'month', day: 31 }, '2026-01-09')).toBe('2026-03-02');
    expect(due({ by: 'month', day: 15, december: 31 }, '2026-12-11')).toBe('2027-02-01');
    expect(due({ by: 'month', day: 15, december: 31 }, '2026-11-27')).toBe('2026-12-15');
  });

  it('takes quarters, halves of months, weeks and years', () => {
    expect(due({ by: 'quarter', day: 31 }, '2026-08-14')).toBe('2026-11-02');
    expect(due({ by: 'quarter', day: 30 }, '2026-12-31')).toBe('2027-02-01');
    expect(due({ by: 'half-month', days: 3 }, '2026-11-15')).toBe('2026-11-18');
    expect(due({ by: 'half-month', days: 3 }, '2026-11-16')).toBe('2026-12-03');
    // The week ends on Saturday the 14th; four days later is a Wednesday.
    expect(due({ by: 'week', ends: 6, days: 4 }, '2026-11-13')).toBe('2026-11-18');
    expect(due({ by: 'year', month: 1, day: 31 }, '2026-03-06')).toBe('2027-02-01');
  });

  it('adds up what falls into one period', () => {
    const made = dueBy(
      { by: 'month', day: 15 },
      'Dues',
      isHoliday,
    )([
      { payDate: '2026-11-13', amount: 500 },
      { payDate: '2026-10-16', amount: 200 },
      { payDate: '2026-10-30', amount: 300 },
      { payDate: '2026-10-30', amount: -50 },
    ]);
    expect(made).toEqual([
      { date: '2026-11-16', what: 'Dues', amount: 450, upTo: '2026-10-31' },
      { date: '2026-12-15', what: 'Dues', amount: 500, upTo: '2026-11-30' },
    ]);
  });

  it('says itself in words', () => {
    expect(ruleInWords({ by: 'pay-date', days: 7, business: true })).toBe('7 business days after each pay date');
    expect(ruleInWords({ by: 'quarter', day: 31 })).toBe('on the last day of the month after the quarter');
    expect(ruleInWords({ by: 'month', day: 22 })).toBe('on the 22nd of the following month');
  });
});
