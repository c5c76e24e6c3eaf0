import type { SetUp } from '@woodruff/contract';
import { part, refused } from '../../testing/part';
import { PaySchedules } from './pay-schedules';

const schedule = (more: object = {}): SetUp['schedules'][number] => ({
  id: 's',
  name: 'Fortnightly',
  frequency: 'fortnightly',
  anchor: '2025-12-21',
  payDateOffset: 6,
  timeCutOff: null,
  move: 'previous',
  people: 23,
  runs: 30,
  ...more,
});
const DATES = [
  { from: '2026-01-04', to: '2026-01-17', payDate: '2026-01-23', note: '' },
  { from: '2026-12-20', to: '2027-01-02', payDate: '2026-12-31', note: 'one more than usual' },
];
const typed = () => new Promise((resolve) => setTimeout(resolve, 260));

describe('Pay schedules', () => {
  const shown = (schedules = [schedule()], mayChange = true) => part(PaySchedules, { schedules, today: '2026-11-23', mayChange });

  it('are read in words', async () => {
    const one = await shown([
      schedule(),
      schedule({ id: 't', name: 'Staff', payDateOffset: 0 }),
      schedule({ id: 'u', name: 'Ahead', payDateOffset: -3, move: 'next' }),
    ]);
    expect(one.text).toContain('Biweekly, 6 days after the period ends, or the business day before');
    expect(one.text).toContain('on the last day of the period');
    expect(one.text).toContain('3 days before the period ends, or the business day after');
  });

  it('show the pay dates of the year while they are entered, with the one too many', async () => {
    const one = await shown([]);
    expect(one.text).toContain('None yet. People are paid by a schedule.');
    await one.press('Add a schedule');
    expect(one.text).toContain('They appear when the first day of a period is entered.');
    await one.fill('Name', 'Fortnightly');
    await one.fill('A period begins on', '2026-01-04');
    await typed();
    expect(await one.answer('POST', '/schedules/pay-dates', DATES)).toEqual({
      frequency: 'fortnightly',
      anchor: '2026-01-04',
      payDateOffset: 5,
      timeCutOff: null,
      move: 'previous',
      year: 2026,
    });
    expect(one.text).toContain('2 of them');
    expect(one.text).toContain('Thu 31 Dec 2026 one more than usual');
    const saved = one.given(one.fixture.componentInstance.saved);
    await one.press('Save the schedule');
    expect(await one.answer('POST', '/schedules', { id: 'n' })).toEqual(
      jasmine.objectContaining({ name: 'Fortnightly', anchor: '2026-01-04' }),
    );
    expect(saved.length).toBe(1);
  });

  it('are changed with the cut-off for time, and a refusal leaves the form', async () => {
    const one = await shown([schedule({ timeCutOff: 2 })]);
    await one.press('Change Fortnightly');
    expect(one.field('Time handed in until').value).toBe('2');
    await typed();
    await one.answer('POST', '/schedules/pay-dates', []);
    await one.fill('A period begins on', '2026-01-05');
    await typed();
    await one.answer('POST', '/schedules/pay-dates', []);
    await one.press('Save the schedule');
    await one.answer('PUT', '/schedules/s', refused('Runs were started on this schedule: its dates stay.'), 409);
    expect(one.text).toContain('its dates stay');
    expect(one.field('A period begins on').value).toBe('2026-01-05');
  });

  it('are changed by an administrator only', async () => {
    expect((await shown([schedule()], false)).buttons()).toEqual([]);
  });
});
