import { leaveTermsSchema } from '@woodruff/contract';
import { hoursText, hoursWords, termsNow, termsWords } from './leave-words';

const terms = (more: object = {}) =>
  leaveTermsSchema.parse({
    name: 'Vacation',
    item: 'leave',
    earns: { by: 'period', steps: [{ fromMonths: 0, hours: '3.08' }] },
    yearBegins: '01-01',
    ...more,
  });
const words = (more: object = {}) => termsWords(terms(more), (code) => (code === 'leave' ? 'Vacation pay' : code)).join('; ');

describe('A leave plan in words', () => {
  it('says how it is earned, with more after years of service', () => {
    const steps = [
      { fromMonths: 60, hours: '4.62' },
      { fromMonths: 0, hours: '3.08' },
    ];
    expect(words({ earns: { by: 'period', steps } })).toContain('3.08 hours a pay period, 4.62 from 5 years of service');
    expect(words({ earns: { by: 'hours-worked', hours: '1', forEvery: '30' } })).toContain('1 hour earned for every 30 worked');
  });

  it('says what is kept, what is lost and what pays it', () => {
    expect(words({ carryOver: '0', mayOwe: '16', atMostBalance: '240.00' })).toContain(
      'until the balance is 240; nothing carried over; down to −16',
    );
    expect(words()).toContain('plan year from 1 Jan; paid through Vacation pay');
    expect(words({ item: undefined, yearBegins: 'hire' })).toContain('plan year from the day of hire; not paid');
  });

  it('says how it may be cashed out, and within which limits', () => {
    expect(words({ cashOutItem: 'cashed' })).toContain('may be cashed out through cashed');
    expect(words({ cashOutItem: 'cashed', cashOutKeeps: '152.00', cashOutAtMost: '76' })).toContain(
      'may be cashed out through cashed, with 152 hours left, at most 76 in twelve months',
    );
    expect(words({ cashOutKeeps: '152' })).not.toContain('cashed out');
  });

  it('holds the terms in force on a day, and those to come while there are no others', () => {
    const plan = {
      id: '1',
      code: 'v',
      people: 0,
      terms: [
        { from: '2027-01-01', terms: terms({ name: 'New' }) },
        { from: '2026-01-01', terms: terms() },
      ],
    };
    expect(termsNow(plan, '2026-11-23')?.name).toBe('Vacation');
    expect(termsNow(plan, '2027-01-01')?.name).toBe('New');
    expect(termsNow({ ...plan, terms: plan.terms.slice(0, 1) }, '2026-11-23')?.name).toBe('New');
  });

  it('writes hours plainly', () => {
    expect([hoursWords(-450), hoursWords(1600), hoursText('8.00'), hoursText('12.50')]).toEqual(['−4.50', '16.00', '8', '12.5']);
  });
});
