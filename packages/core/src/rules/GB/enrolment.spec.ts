import { dutyOf, standingOf, type EnrolmentStep } from '../enrolment';
import { enrolment } from './enrolment';

const MONTH = { payDate: '2025-08-29', from: '2025-08-01', to: '2025-08-31', frequency: 'monthly', dutiesFrom: '2017-05-01' };
const of = (earnings: number, born: string | undefined, more: object = {}) =>
  enrolment.assess({ ...MONTH, earnings, hired: '2024-01-08', ...(born === undefined ? {} : { born }), ...more });
const category = (earnings: number, born: string | undefined, more: object = {}) => of(earnings, born, more).category.code;
const GROWN = '1988-03-04';

// The Pensions Regulator, detailed guidance 3 (assessing the workforce) and its thresholds of 2025-26.
describe('Who is to be enrolled', () => {
  it('earns more than the trigger, is 22 or older and below state pension age', () => {
    expect([category(83_301, GROWN), category(83_300, GROWN)]).toEqual(['eligible', 'non-eligible']);
    // 22 on the pay date itself; a day younger is not.
    expect([category(200_000, '2003-08-29'), category(200_000, '2003-08-30')]).toEqual(['eligible', 'non-eligible']);
    // State pension age: 66 for who is born on 29 August 1959.
    expect([category(200_000, '1959-08-29'), category(200_000, '1960-04-05')]).toEqual(['non-eligible', 'eligible']);
  });

  it('may opt in above the lower limit, and join with less', () => {
    expect([category(52_001, GROWN), category(52_000, GROWN), category(0, GROWN)]).toEqual(['non-eligible', 'entitled', 'entitled']);
    expect([category(52_001, '2009-08-29'), category(52_001, '2009-08-30')]).toEqual(['non-eligible', 'none']);
    expect([category(52_001, '1950-08-30'), category(52_001, '1950-08-29')]).toEqual(['non-eligible', 'none']);
  });

  it('is assessed by the thresholds of the period that is paid', () => {
    const by = (frequency: string, earnings: number) => category(earnings, GROWN, { frequency });
    expect([by('weekly', 19_201), by('weekly', 19_200), by('weekly', 12_000)]).toEqual(['eligible', 'non-eligible', 'entitled']);
    expect([by('fortnightly', 38_401), by('four-weekly', 76_801), by('quarterly', 249_901), by('yearly', 1_000_001)]).toEqual(
      Array.from({ length: 4 }, () => 'eligible'),
    );
    expect([by('fortnightly', 38_400), by('four-weekly', 76_800), by('quarterly', 249_900), by('yearly', 1_000_000)]).toEqual(
      Array.from({ length: 4 }, () => 'non-eligible'),
    );
  });

  it('is a member from the first day of the period, of work, of the duties or from the birthday, whichever is last', () => {
    expect(of(200_000, GROWN).from).toBe('2025-08-01');
    expect(of(200_000, GROWN, { hired: '2025-08-11' }).from).toBe('2025-08-11');
    expect(of(200_000, '2003-08-20').from).toBe('2025-08-20');
    expect(of(200_000, GROWN, { dutiesFrom: '2025-08-05' }).from).toBe('2025-08-05');
  });

  it('cannot be said without a date of birth', () => {
    const { category: none, tests } = of(200_000, undefined);
    expect([none.duty, tests]).toEqual(['nothing', [{ sentence: 'A date of birth is on file', holds: false }]]);
  });
});

describe('What follows for the employer', () => {
  const steps = (...of: EnrolmentStep[]) => standingOf(of);
  const duty = (standing: ReturnType<typeof standingOf>, earnings = 200_000, rounds: string[] = []) =>
    dutyOf(enrolment, standing, of(earnings, GROWN), { payDate: MONTH.payDate, rounds });
  const enrolled: EnrolmentStep = { step: 'enrolled', on: '2025-08-01', scheme: 's', tier: 't', because: 'enrolled' };

  it('is to enrol within six weeks', () => {
    // The six weeks that begin with 1 August 2025 end with 11 September.
    expect(duty(steps())).toEqual(jasmine.objectContaining({ what: 'enrol', from: '2025-08-01', by: '2025-09-11' }));
    expect(duty(steps(enrolled))).toEqual(jasmine.objectContaining({ what: 'letter', letter: 'enrolled', by: '2025-09-11' }));
    expect(duty(steps(enrolled, { step: 'letter', on: '2025-08-20', letter: 'enrolled' }))).toBeUndefined();
  });

  it('is nothing more than a letter while it is postponed, and to enrol from the last day of it', () => {
    const until = (day: string): EnrolmentStep => ({ step: 'postponed', on: '2025-07-10', kind: 'start', until: day });
    const told: EnrolmentStep = { step: 'letter', on: '2025-07-20', letter: 'postponed' };
    expect(duty(steps(until('2025-10-10')))).toEqual(jasmine.objectContaining({ what: 'letter', letter: 'postponed', by: '2025-08-20' }));
    expect(duty(steps(until('2025-10-10'), told))).toBeUndefined();
    expect(duty(steps(until('2025-08-15'), told))).toEqual(jasmine.objectContaining({ what: 'enrol', from: '2025-08-15' }));
    expect(enrolment.postponedAtMost('2025-07-10')).toBe('2025-10-10');
  });

  it('is a letter about their right for who may ask, once', () => {
    expect(duty(steps(), 60_000)).toEqual(jasmine.objectContaining({ what: 'letter', letter: 'may-opt-in' }));
    expect(duty(steps({ step: 'letter', on: '2024-03-01', letter: 'may-opt-in' }), 60_000)).toBeUndefined();
    expect(duty(steps({ step: 'letter', on: '2024-03-01', letter: 'may-opt-in' }), 40_000)?.letter).toBe('may-join');
  });

  it('leaves alone who is exempt or has opted out, until they are to be enrolled again', () => {
    expect(duty(steps({ step: 'exempt', on: '2025-01-01', reason: 'director' }))).toBeUndefined();
    const out: EnrolmentStep = { step: 'opted-out', on: '2023-06-10', reference: 'r' };
    expect(duty(steps(out))).toBeUndefined();
    expect(duty(steps(out), 200_000, ['2025-08-01'])?.what).toBe('re-enrol');
    // Within twelve months before the day it is not wanted; nor of who does not earn so much.
    expect(duty(steps({ ...out, on: '2024-08-02' }), 200_000, ['2025-08-01'])).toBeUndefined();
    expect(duty(steps({ ...out, on: '2024-08-01' }), 200_000, ['2025-08-01'])?.what).toBe('re-enrol');
    expect(duty(steps(out), 60_000, ['2025-08-01'])).toBeUndefined();
  });

  it('ends the month of opting out by the later of membership and letter', () => {
    expect(enrolment.optOutUntil(steps(enrolled))).toBeUndefined();
    expect(enrolment.optOutUntil(steps(enrolled, { step: 'letter', on: '2025-08-20', letter: 'enrolled' }))).toBe('2025-09-19');
    expect(
      enrolment.optOutUntil(steps({ ...enrolled, because: 'joined' }, { step: 'letter', on: '2025-08-20', letter: 'enrolled' })),
    ).toBeUndefined();
  });

  it('comes round every three years, three months on either side', () => {
    expect(enrolment.round('2017-05-01', [], '2025-08-29')).toEqual({
      anniversary: '2026-05-01',
      from: '2026-02-01',
      to: '2026-07-31',
      declareBy: '2026-09-30',
    });
    expect(enrolment.round('2017-05-01', ['2026-03-01'], '2026-11-29').anniversary).toBe('2029-03-01');
    expect(enrolment.declareBy('2017-05-01')).toBe('2017-09-30');
  });
});

describe('A scheme', () => {
  it('makes items of its basis and its tax relief', () => {
    expect(enrolment.scheme.items({ basis: 'qualifying', tax: 'relief-at-source' }).employee).toEqual({
      treatment: 'pension-relief-at-source',
      method: { by: 'published-table', table: 'gb.pension.relief-at-source' },
    });
    expect(enrolment.scheme.items({ basis: 'basic', tax: 'sacrifice', set: '1' }).employee.treatment).toBe('pension-sacrifice');
  });

  it('is refused where its certificate does not fit', () => {
    const wrongs: Record<string, string>[] = [
      { basis: 'basic' },
      { basis: 'basic', set: '3' },
      { basis: 'all', set: '1' },
      { basis: 'qualifying', set: '1' },
      { basis: 'gross' },
    ];
    for (const wrong of wrongs) expect(() => enrolment.scheme.items(wrong)).toThrowError(RangeError);
  });
});
