import { decimalOf } from '../../money/amounts';
import { Exact } from '../../money/exact';
import { Paper } from '../../working/reckoning';
import { leastNotice, redundancyPay, yearsOfService } from './redundancy';

const of = (hired: string, lastDay: string, born: string | undefined, week = '500.00', kind = 'redundant') => {
  const paper = new Paper(true);
  const pay = paper.reckon('week', 'Pay of a week').start('Rate', Exact.of(week)).done();
  return redundancyPay({ kind, hired, lastDay, ...(born ? { born } : {}), week: pay }, paper);
};
const amount = (...args: Parameters<typeof of>) => of(...args)[0]?.figure?.amount.toDecimal(2) ?? of(...args)[0]?.sentence;

// Employment Rights Act 1996; by the official ready reckoner of the Department for Business: age and years to weeks.
describe('Statutory redundancy pay', () => {
  it('is a week for each year from 22 on, and a week and a half from 41 on', () => {
    // Aged 30 with 5 years: 5 weeks. Aged 45 with 10 years: 12 weeks. Aged 61 with 20 years: 30 weeks. Aged 23 with 4: 2 × 1/2 + ... = 2.5.
    expect(amount('2020-07-01', '2025-06-30', '1995-03-01')).toBe('2500.00');
    expect(amount('2015-07-01', '2025-06-30', '1980-03-01')).toBe('6000.00');
    expect(amount('1990-07-01', '2025-06-30', '1964-03-01')).toBe('15000.00');
    expect(amount('2021-07-01', '2025-06-30', '2002-03-01')).toBe('1250.00');
  });

  it('needs two whole years to the day, and counts no more than twenty', () => {
    expect(amount('2023-07-01', '2025-06-29', '1990-01-01')).toContain('2 are needed');
    expect(amount('2023-07-01', '2025-06-30', '1990-01-01')).toBe('1000.00');
    expect([yearsOfService('2023-07-01', '2025-06-29'), yearsOfService('2023-07-01', '2025-06-30')]).toEqual([1, 2]);
    expect(amount('1980-01-01', '2025-06-30', '1960-01-01')).toBe(amount('2005-07-01', '2025-06-30', '1960-01-01'));
  });

  it('goes by no more than the limit of a week of pay, in force on the last day', () => {
    expect(amount('2015-07-01', '2025-06-30', '1990-01-01', '900.00')).toBe('7190.00');
    expect(amount('2015-07-01', '2026-06-30', '1990-01-01', '900.00')).toBe(decimalOf(11 * 75_100));
    expect(amount('2015-07-01', '2025-06-30', '1990-01-01', '718.99')).toBe('7189.90');
  });

  it('is owed to nobody else, and says what is missing', () => {
    expect(of('2015-07-01', '2025-06-30', '1990-01-01', '500.00', 'resigned')).toEqual([]);
    expect(amount('2015-07-01', '2025-06-30', undefined)).toContain('date of birth');
  });
});

describe('Notice of the employer', () => {
  const weeks = (hired: string, lastDay: string) => leastNotice({ kind: '', hired, lastDay }).weeks;
  it('is a week after a month, and a week for each year from two on, twelve at most', () => {
    expect([weeks('2025-06-01', '2025-06-20'), weeks('2025-06-01', '2025-06-30')]).toEqual([0, 1]);
    expect([weeks('2023-07-01', '2025-06-29'), weeks('2023-07-01', '2025-06-30'), weeks('2000-07-01', '2025-06-30')]).toEqual([1, 2, 12]);
  });
});
