import { largeDue, owedSuper, owedWithheld, payrollTaxDue, quarterDue, superDue } from './owed';
import { activityStatement } from './forms/activity-statement';
import { superContributions } from './forms/super-contributions';

const dueOf = (owed: ReturnType<typeof owedWithheld>, ...days: string[]) =>
  owed.due!(days.map((payDate) => ({ payDate, amount: 100_00 }))).map(({ date, amount }) => [date, amount]);

describe('What an Australian employer owes', () => {
  it('is withheld by the month, the quarter or the day, as the employer is registered', () => {
    // The 21st of the month after; 21 June 2026 is a Sunday.
    expect(dueOf(owedWithheld({ withholder: 'medium' }), '2026-04-02', '2026-04-30', '2026-05-07')).toEqual([
      ['2026-05-21', 200_00],
      ['2026-06-22', 100_00],
    ]);
    // The 28th after the quarter, of the quarter to December 28 February.
    expect(['2026-09-30', '2026-12-31', '2026-03-31', '2026-06-30'].map(quarterDue)).toEqual([
      '2026-10-28',
      '2027-02-28',
      '2026-04-28',
      '2026-07-28',
    ]);
    // Sunday and Saturday, the second Monday; Monday and Tuesday, the first; Wednesday, the second Thursday; Thursday and Friday, the first.
    expect(['2026-11-21', '2026-11-22', '2026-11-23', '2026-11-24', '2026-11-25', '2026-11-26', '2026-11-27'].map(largeDue)).toEqual([
      '2026-11-30',
      '2026-11-30',
      '2026-11-30',
      '2026-11-30',
      '2026-12-03',
      '2026-12-03',
      '2026-12-03',
    ]);
    expect(owedWithheld({ abn: '51824753556', branch: '2' }).reference).toBe('51824753556 002');
  });

  it('is super within seven business days of each pay day since July 2026, twenty for the first; before by the quarter', () => {
    expect(['2025-09-30', '2025-12-31', '2026-03-31', '2026-06-30'].map((day) => superDue(day))).toEqual([
      '2025-10-28',
      '2026-01-28',
      '2026-04-28',
      '2026-07-28',
    ]);
    // Thursday 2 July 2026: seven business days are Monday 13 July; twenty are Thursday 30 July.
    expect(superDue('2026-07-02')).toBe('2026-07-13');
    expect(superDue('2026-07-02', 20)).toBe('2026-07-30');
    // Christmas and Boxing Day with its Monday, and New Year's Day, do not count.
    expect(superDue('2026-12-24')).toBe('2027-01-07');
    const [all, first] = owedSuper({});
    expect([dueOf(all!, '2026-07-02'), dueOf(first!, '2026-07-02')]).toEqual([[['2026-07-13', 100_00]], [['2026-07-30', 100_00]]]);
  });

  it('is payroll tax on the 7th, of June on 21 July', () => {
    expect(['2026-04-15', '2026-05-15', '2026-06-15'].map(payrollTaxDue)).toEqual(['2026-05-07', '2026-06-08', '2026-07-21']);
  });

  it('is stated by the periods that it is owed by', () => {
    expect(
      activityStatement({ withholder: 'small' })
        .periods(2026)
        .map(({ key, due }) => [key, due])[3],
    ).toEqual(['2026-Q4', '2027-02-28']);
    expect(activityStatement({}).periods(2026)[4]).toEqual(
      jasmine.objectContaining({ key: '2026-05', due: '2026-06-22', taxYear: '2025-26' }),
    );
    const days = superContributions.periods(2026, ['2026-06-25', '2026-07-02', '2026-07-09']);
    expect(days.map(({ key, due }) => [key, due])).toEqual([
      ['2026-Q1', '2026-04-28'],
      ['2026-Q2', '2026-07-28'],
      ['2026-07-02', '2026-07-13'],
      ['2026-07-09', '2026-07-20'],
    ]);
  });
});
