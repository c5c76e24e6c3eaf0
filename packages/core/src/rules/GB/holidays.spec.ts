import { addDays, type IsoDate } from '../../calendar/dates';
import { isBankHoliday } from './holidays';

const ofYear = (year: number, place?: string): IsoDate[] => {
  const days: IsoDate[] = [];
  for (let date = `${year}-01-01`; date <= `${year}-12-31`; date = addDays(date, 1)) if (isBankHoliday(date, place)) days.push(date);
  return days;
};

// As published at gov.uk/bank-holidays.
describe('Bank holidays of the United Kingdom', () => {
  it('England and Wales: Easter moves, Christmas and Boxing Day on a weekend are kept after it', () => {
    expect(ofYear(2025)).toEqual([
      '2025-01-01',
      '2025-04-18',
      '2025-04-21',
      '2025-05-05',
      '2025-05-26',
      '2025-08-25',
      '2025-12-25',
      '2025-12-26',
    ]);
    // 26 December 2026 is a Saturday: kept on Monday the 28th. In 2027 both days fall on the weekend.
    expect(ofYear(2026).slice(-2)).toEqual(['2026-12-25', '2026-12-28']);
    expect(ofYear(2027).slice(-2)).toEqual(['2027-12-27', '2027-12-28']);
    expect(ofYear(2022)[0]).toBe('2022-01-03');
  });

  it('Scotland has the second of January, an early August and St Andrew’s, and no Easter Monday', () => {
    const days = ofYear(2025, 'GB-SCT');
    expect(days).toEqual([
      '2025-01-01',
      '2025-01-02',
      '2025-04-18',
      '2025-05-05',
      '2025-05-26',
      '2025-08-04',
      '2025-12-01',
      '2025-12-25',
      '2025-12-26',
    ]);
  });

  it('Northern Ireland adds St Patrick’s Day and the Battle of the Boyne', () => {
    const days = ofYear(2026, 'GB-NIR');
    expect(days).toContain('2026-03-17');
    // 12 July 2026 is a Sunday.
    expect(days).toContain('2026-07-13');
    expect(days).toContain('2026-04-06');
  });

  it('a place without days of its own keeps those by which banks clear', () => {
    expect(ofYear(2026, 'GB-WLS')).toEqual(ofYear(2026));
  });
});
