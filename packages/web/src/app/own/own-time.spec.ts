import { part, refused } from '../../testing/part';
import { OwnTime } from './own-time';

const CHANGE = {
  id: 'c',
  date: '2026-11-20',
  hours: '9.5',
  begins: null,
  ends: null,
  breakMinutes: 0,
  reason: 'Stayed for the kiln',
  state: 'asked' as const,
  answer: '',
};
const TIME = {
  periods: [
    { from: '2026-11-22', to: '2026-12-05', state: 'none' as const, days: [] },
    { from: '2026-11-08', to: '2026-11-21', state: 'approved' as const, days: [{ date: '2026-11-20', hours: '8' }] },
  ],
  changes: [],
};

describe('An employee’s own time', () => {
  const shown = (time: object = {}) => part(OwnTime, { time: { ...TIME, ...time }, today: '2026-11-23' });

  it('stands day by day with the state of the sheet', async () => {
    const one = await shown();
    expect(one.text).toContain('22 Nov – 5 Dec 2026 no sheet yet');
    expect(one.text).toContain('No time is entered.');
    expect(one.text).toContain('8 – 21 Nov 2026 approved');
    expect(one.buttons()).toContain('Ask for a change of Fri 20 Nov 2026');
  });

  it('begins a change with the day and the hours that were pressed', async () => {
    const one = await shown();
    await one.press('Ask for a change of Fri 20 Nov 2026');
    expect([one.field('Day').value, one.field('Hours that it should be').value]).toEqual(['2026-11-20', '8']);
  });

  it('asks for hours, or for begin and end with the break', async () => {
    const one = await shown();
    const changed = one.given(one.fixture.componentInstance.changed);
    await one.press('Ask for a change');
    await one.fill('Day', '2026-11-20');
    await one.fill('Hours that it should be', '9.5');
    await one.fill('Why', 'Stayed for the kiln');
    await one.press('Ask for this change');
    expect(await one.answer('POST', '/own/time-changes', { id: 'c' })).toEqual({
      date: '2026-11-20',
      reason: 'Stayed for the kiln',
      hours: '9.5',
    });
    expect(changed.length).toBe(1);
    await one.press('Ask for a change');
    await one.fill('Begin', '07:00');
    await one.fill('End', '15:30');
    await one.fill('Break in minutes', '30');
    await one.fill('Why', 'Forgot the clock');
    await one.press('Ask for this change');
    expect(await one.answer('POST', '/own/time-changes', { id: 'd' })).toEqual({
      date: '2026-11-23',
      reason: 'Forgot the clock',
      begins: '07:00',
      ends: '15:30',
      breakMinutes: 30,
    });
  });

  it('keeps what was typed when it is refused, and says why', async () => {
    const one = await shown();
    await one.press('Ask for a change');
    await one.fill('Why', 'No');
    await one.press('Ask for this change');
    await one.answer('POST', '/own/time-changes', refused('A change of that day was asked for already.'), 422);
    expect(one.text).toContain('asked for already');
    expect(one.field('Why').value).toBe('No');
  });

  it('shows what became of each change, and takes back only what waits', async () => {
    const one = await shown({
      changes: [CHANGE, { ...CHANGE, id: 'd', date: '2026-11-19', state: 'declined', answer: 'The shop was closed' }],
    });
    expect(one.text).toContain('9.50 hours asked, to be decided');
    expect(one.text).toContain('declined The shop was closed');
    expect(one.buttons().filter((name) => name.startsWith('Take back'))).toEqual(['Take back Fri 20 Nov 2026']);
    await one.press('Take back Fri 20 Nov 2026');
    await one.answer('DELETE', '/own/time-changes/c', {});
    one.asksNothing();
  });
});
