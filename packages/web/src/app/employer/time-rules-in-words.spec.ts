import { timeSettingsSchema } from '@woodruff/contract';
import { timeRulesInWords } from './time-rules-in-words';

const LAW = [
  { code: 'weekly', label: 'Over 40 hours a week' },
  { code: 'daily', label: 'Over 8 a day' },
];
const words = (time: object, more: object = {}) =>
  timeRulesInWords({ time: timeSettingsSchema.parse(time), holidays: [], overtimeRules: 'weekly', ...more }, LAW, [
    { id: '7f3e0a52-5a0f-4c86-9d43-0c1f6cf3a001', name: 'Hot shop' },
  ]).map((line) => `${line.label}: ${line.words}`);

describe('Rules of time in words', () => {
  it('tell what holds for everybody, and nothing of what the employer does not have', () => {
    expect(words({})).toEqual([
      'Overtime: Over 40 hours a week',
      'A workweek begins on: Sunday',
      'Timesheets are expected of: nobody',
      'Times of the clock are taken: to the minute',
    ]);
    expect(words({}, { overtimeRules: '' })[0]).toBe('Overtime: not chosen');
  });

  it('tell rules of a group or a state with their first day', () => {
    const other = [
      { from: '2026-07-01', groupId: '7f3e0a52-5a0f-4c86-9d43-0c1f6cf3a001', overtimeRules: 'daily' },
      { from: '2026-01-01', state: 'VA', overtimeRules: 'weekly', premiums: false },
    ];
    expect(words({ other }).slice(1, 3)).toEqual([
      'Overtime, Hot shop: Over 8 a day, from 1 Jul 2026',
      'Overtime, worksites in VA: Over 40 hours a week, from 1 Jan 2026, without premiums',
    ]);
  });

  it('tell rounding, premiums, minimum wages of places and own holidays', () => {
    const told = words(
      {
        clockStep: 6,
        premiums: [{ label: 'Night', from: '22:00', to: '06:00', perHour: '1.25', item: 'night' }],
        minimumWages: [{ worksite: 'Saltmarsh Landing', from: '2026-07-01', amount: '15.50' }],
      },
      { holidays: [{ date: '2026-12-24', label: 'Christmas Eve' }] },
    );
    expect(told.slice(-4)).toEqual([
      'Times of the clock are taken: to the nearest tenth of an hour',
      'Premium, Night: 1.25 an hour from 22:00 to 06:00',
      'Minimum wage, Saltmarsh Landing: 15.50 an hour from 1 Jul 2026',
      'Extra holidays: Christmas Eve, 24 Dec 2026',
    ]);
  });
});
