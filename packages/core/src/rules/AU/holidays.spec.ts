import { isPublicHoliday } from './holidays';

const kept = (year: number, place: string, from = '01-01', to = '12-31'): string[] => {
  const days: string[] = [];
  for (let day = new Date(`${year}-${from}T00:00:00Z`); day <= new Date(`${year}-${to}T00:00:00Z`); day.setUTCDate(day.getUTCDate() + 1)) {
    const date = day.toISOString().slice(0, 10);
    if (isPublicHoliday(date, place)) days.push(date.slice(5));
  }
  return days;
};

describe('Public holidays in Australia', () => {
  it('of all states, by which the banks clear: 2026 with Boxing Day on a Saturday', () => {
    // Good Friday is 3 April 2026; 26 December is a Saturday, and Monday 28 is kept, too.
    expect(kept(2026, '')).toEqual(['01-01', '01-26', '04-03', '04-06', '04-25', '12-25', '12-26', '12-28']);
  });

  it('of each state beside them', () => {
    const own = (state: string) => kept(2026, `AU-${state}`).filter((day) => !kept(2026, '').includes(day));
    expect(own('TAS')).toEqual(['03-09', '06-08']);
    expect(own('VIC')).toEqual(['03-09', '04-04', '04-05', '06-08', '09-25', '11-03']);
    // Anzac Day 2026 is a Saturday: Monday 27 in New South Wales and Western Australia.
    expect(own('NSW')).toEqual(['04-04', '04-05', '04-27', '06-08', '10-05']);
    expect(own('QLD')).toEqual(['04-04', '04-05', '05-04', '10-05']);
    expect(own('SA')).toEqual(['03-09', '04-04', '04-05', '06-08', '10-05']);
    expect(own('WA')).toEqual(['03-02', '04-05', '04-27', '06-01', '09-28']);
    expect(own('NT')).toEqual(['04-04', '05-04', '06-08', '08-03']);
    expect(own('ACT')).toEqual(['03-09', '04-04', '04-05', '06-01', '06-08', '10-05']);
  });

  it('that fall on weekends have a day after: New Year 2028 on a Saturday, Christmas 2027, Australia Day 2025', () => {
    expect(kept(2028, '', '01-01', '01-10')).toEqual(['01-01', '01-03']);
    // 25 December 2027 is a Saturday, 26 a Sunday.
    expect(kept(2027, '', '12-20')).toEqual(['12-25', '12-26', '12-27', '12-28']);
    // 26 January 2025 is a Sunday: Monday in its place.
    expect(kept(2025, '', '01-20', '01-31')).toEqual(['01-27']);
  });
});
