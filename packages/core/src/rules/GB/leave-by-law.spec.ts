import { addDays } from '../../calendar/dates';
import { decimalOf } from '../../money/amounts';
import { leaveByLaw } from './leave-by-law';
import { latestStart } from './family-leave';
import type { LeaveByLawFacts } from '../leave-by-law';

/** Paid the same on the last day of every month. */
const monthly = (amount: number): LeaveByLawFacts['paid'] =>
  [
    '2025-06-30',
    '2025-07-31',
    '2025-08-29',
    '2025-09-30',
    '2025-10-31',
    '2025-11-28',
    '2025-12-31',
    '2026-03-31',
    '2026-04-30',
    '2026-05-29',
  ].map((payDate) => ({ payDate, amount }));
const assess = (kind: string, from: string, to: string, more: Partial<LeaveByLawFacts> = {}) =>
  leaveByLaw.assess({ kind, from, to, about: {}, hired: '2020-01-06', frequency: 'monthly', paid: monthly(260_000), others: [], ...more });
const failed = (one: ReturnType<typeof assess>) => one.tests.filter(({ holds }) => !holds).map(({ sentence }) => sentence);
const amounts = (one: ReturnType<typeof assess>) => one.parts.map(({ amount }) => decimalOf(amount));
const sum = (one: ReturnType<typeof assess>) => decimalOf(one.parts.reduce((all, { amount }) => all + amount, 0));

describe('Statutory maternity pay', () => {
  // Expected in the week from Sunday 1 March 2026: the qualifying week is 16 to 22 November 2025 (HMRC, table of key dates).
  const about = { due: '2026-03-04', evidence: '2025-12-01' };
  const leave = ['2026-02-16', '2026-11-15'] as const;

  it('is six weeks at 90 per cent and 33 at the weekly rate, which rises with the first Sunday of April', () => {
    // Two months of 2,600.00 × 12 / 2 / 52 = 600.00 a week; 90 per cent are 540.00.
    const one = assess('maternity', ...leave, { about });
    expect(failed(one)).toEqual([]);
    expect(one.parts.length).toBe(39);
    expect(amounts(one).slice(4, 9)).toEqual(['540.00', '540.00', '187.18', '194.32', '194.32']);
    // 6 × 540.00 + 187.18 + 32 × 194.32.
    expect(sum(one)).toBe('9645.42');
    expect(one.parts[6]).toEqual(jasmine.objectContaining({ label: 'week 7 of 39', from: '2026-03-30', to: '2026-04-05' }));
    expect(one.workings['average']?.amount).toBe('600.00');
  });

  it('stays at 90 per cent where that is less: 150.00 a week are 135.00 throughout', () => {
    const one = assess('maternity', ...leave, { about, paid: monthly(65_000) });
    expect(new Set(amounts(one))).toEqual(new Set(['135.00']));
  });

  it('wants the lower earnings limit of the qualifying week: 125.00 a week, not a penny less', () => {
    // 541.67 a month are 125.0008 a week, 541.66 are 124.9985.
    expect(assess('maternity', ...leave, { about, paid: monthly(54_167) }).entitled).toBeTrue();
    const refused = assess('maternity', ...leave, { about, paid: monthly(54_166) });
    expect([refused.entitled, refused.parts.length, failed(refused).length]).toEqual([false, 0, 1]);
    expect(failed(refused)[0]).toContain('lower earnings limit');
  });

  it('wants 26 weeks of employment, of which a part of the first counts', () => {
    expect(latestStart('2025-11-22')).toBe('2025-05-31');
    expect(failed(assess('maternity', ...leave, { about, hired: '2025-05-31' }))).toEqual([]);
    expect(failed(assess('maternity', ...leave, { about, hired: '2025-06-01' }))[0]).toContain('since 31 May 2025 at the latest');
  });

  it('begins not before the eleventh week before the birth, with the certificate on file', () => {
    expect(failed(assess('maternity', '2025-12-14', '2026-09-12', { about }))).toEqual([]);
    expect(failed(assess('maternity', '2025-12-13', '2026-09-12', { about }))[0]).toContain('14 Dec 2025');
    expect(failed(assess('maternity', ...leave, { about: { due: about.due } }))).toEqual(['The maternity certificate is on file']);
    expect(() => assess('maternity', ...leave, { about: {} })).toThrowError(RangeError);
  });

  it('of a part of a week is so many sevenths, rounded up to a penny', () => {
    const one = assess('maternity', '2026-02-16', addDays('2026-02-16', 9), { about });
    // 540.00 × 3 / 7 = 231.4286.
    expect(amounts(one)).toEqual(['540.00', '231.43']);
  });
});

describe('Pay of other parents', () => {
  it('is two weeks after a birth, at the weekly rate, within 52 weeks', () => {
    const about = { due: '2026-03-04', born: '2026-03-02' };
    expect(amounts(assess('paternity', '2026-03-09', '2026-03-22', { about }))).toEqual(['187.18', '187.18']);
    expect(failed(assess('paternity', '2026-03-01', '2026-03-14', { about }))[0]).toContain('not before 2 Mar 2026');
    expect(failed(assess('paternity', '2027-02-22', '2027-03-07', { about }))[0]).toContain('within 52 weeks');
  });

  it('goes no further than the weeks there are, with what was taken before', () => {
    const about = { due: '2026-03-04', born: '2026-03-02' };
    const others = [{ from: '2026-03-09', to: '2026-03-15', about }];
    expect(amounts(assess('paternity', '2026-05-04', '2026-05-17', { about, others }))).toEqual(['194.32']);
  });

  it('of adoption goes by the week of the match; of a bereavement and neonatal care by the week before', () => {
    expect(sum(assess('adoption', '2026-01-05', '2026-02-22', { about: { matched: '2025-11-19', placed: '2026-01-12' } }))).toBe('3427.18');
    expect(amounts(assess('bereavement', '2025-12-01', '2025-12-14', { about: { died: '2025-11-26' } }))).toEqual(['187.18', '187.18']);
    const care = { born: '2025-11-20', care: '2025-11-24', weeks: '3' };
    expect(amounts(assess('neonatal', '2025-12-15', '2026-01-11', { about: care })).length).toBe(3);
    expect(failed(assess('neonatal', '2025-11-28', '2025-12-18', { about: care }))[0]).toContain('1 Dec 2025');
  });
});

describe('Statutory sick pay', () => {
  it('until April 2026 leaves three waiting days unpaid: of two weeks seven days are paid', () => {
    // 118.75 over five days are 23.75.
    expect(amounts(assess('sick', '2025-09-01', '2025-09-12'))).toEqual(['47.50', '118.75']);
  });

  it('is none for three days, nor for four of which only two are qualifying days', () => {
    expect(failed(assess('sick', '2025-09-01', '2025-09-03'))[0]).toContain('four days in a row');
    expect(failed(assess('sick', '2025-09-05', '2025-09-08')).length).toBe(1);
  });

  it('links spells that are eight weeks apart, and no more', () => {
    const others = [{ from: '2025-09-01', to: '2025-09-05', about: {} }];
    expect(amounts(assess('sick', '2025-10-31', '2025-11-06', { others }))).toEqual(['23.75', '95.00']);
    // 57 days lie between: it stands by itself, with three waiting days of its own.
    expect(amounts(assess('sick', '2025-11-02', '2025-11-07', { others }))).toEqual(['47.50']);
  });

  it('wants the lower earnings limit until April 2026', () => {
    expect(failed(assess('sick', '2025-09-01', '2025-09-12', { paid: monthly(54_166) }))[0]).toContain('lower earnings limit');
  });

  it('from 6 April 2026 begins with the first day, at no more than 80 per cent of earnings', () => {
    // 123.25 × 2 / 5 = 49.30; 433.33 a month are 99.9992 a week, 80 per cent 80.00 rounded up, two fifths 32.00.
    expect(amounts(assess('sick', '2026-06-01', '2026-06-02'))).toEqual(['49.30']);
    expect(amounts(assess('sick', '2026-06-01', '2026-06-02', { paid: monthly(43_333) }))).toEqual(['32.00']);
  });

  it('is paid for 28 weeks of a spell and those that link with it', () => {
    const one = assess('sick', '2025-04-07', '2025-12-05', {
      paid: [
        { payDate: '2025-02-28', amount: 260_000 },
        { payDate: '2025-03-31', amount: 260_000 },
      ],
    });
    expect(one.parts.reduce((days, { label }) => days + Number(label.split(' ')[0]), 0)).toBe(140);
    expect(sum(one)).toBe('3325.00');
  });

  it('goes by the qualifying days of the contract, rounded up to a penny', () => {
    // Wednesday to Friday: 118.75 / 3 = 39.5833 a day; two days 79.1667.
    expect(amounts(assess('sick', '2025-09-01', '2025-09-11', { about: { pattern: '345' } }))).toEqual(['79.17']);
  });
});
