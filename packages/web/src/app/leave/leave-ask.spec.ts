import type { LeaveCheck } from '@woodruff/contract';
import { part, refused } from '../../testing/part';
import { LeaveAsk } from './leave-ask';

const OF = {
  personId: 'p',
  plans: [
    { planId: 'v', plan: 'Vacation' },
    { planId: 's', plan: 'Sick leave' },
  ],
};
const CHECK: LeaveCheck = {
  days: [
    { date: '2026-12-28', hours: '8' },
    { date: '2026-12-29', hours: '8' },
  ],
  hours: '16.00',
  balance: '70.26',
  before: '76.42',
  after: '60.42',
  against: [],
  away: [],
};
const typed = () => new Promise((resolve) => setTimeout(resolve, 300));

describe('Leave asked for', () => {
  const shown = (more: object = {}) => part(LeaveAsk, { of: OF, day: '2026-11-23', ...more });

  it('says what it comes to while the days are entered, and is asked for by its days', async () => {
    const one = await shown();
    expect(one.button('Ask for leave').disabled).toBeTrue();
    await one.fill('First day', '2026-12-28');
    // The last day follows the first.
    expect(one.field('Last day').value).toBe('2026-12-28');
    await one.fill('Last day', '2026-12-29');
    await typed();
    expect(await one.answer('POST', '/leave/requests/check', CHECK)).toEqual(
      jasmine.objectContaining({ personId: 'p', planId: 'v', from: '2026-12-28', to: '2026-12-29' }),
    );
    expect(one.text).toContain('Asked 16.00 hours 2 workdays');
    expect(one.text).toContain('Left after it 60.42');
    const saved = one.given(one.fixture.componentInstance.saved);
    await one.press('Ask for 2 days');
    await one.answer('POST', '/leave/requests', { id: 'q' });
    expect(saved.length).toBe(1);
  });

  it('shows what is against it, and who is away then', async () => {
    const one = await shown();
    await one.fill('First day', '2026-12-28');
    await typed();
    const against = ['It leaves −8.00 hours, and the plan allows none below zero.'];
    const away = [{ name: 'Edda Farrow', from: '2026-12-28', to: '2026-12-30', state: 'asked' as const }];
    await one.answer('POST', '/leave/requests/check', { ...CHECK, after: '-8.00', against, away });
    expect(one.text).toContain(against[0]!);
    expect(one.text).toContain('Away from the same department: Edda Farrow, 28 – 30 Dec 2026 (asked).');
  });

  it('is checked again after every change, and cannot be sent in between', async () => {
    const one = await shown();
    await one.fill('First day', '2026-12-28');
    await typed();
    await one.answer('POST', '/leave/requests/check', CHECK);
    await one.fill('Hours a day', '4');
    expect(one.button('Ask for leave').disabled).toBeTrue();
    await typed();
    expect(
      await one.answer('POST', '/leave/requests/check', { ...CHECK, hours: '4.00', days: [{ date: '2026-12-28', hours: '4' }] }),
    ).toEqual(jasmine.objectContaining({ hoursPerDay: '4' }));
    expect(one.buttons()).toContain('Ask for Mon 28 Dec 2026');
  });

  it('by the employee goes without naming anybody', async () => {
    const one = await shown({ own: true });
    await one.fill('First day', '2026-12-28');
    await typed();
    expect(Object.keys((await one.answer('POST', '/own/leave/check', CHECK)) as object)).not.toContain('personId');
    await one.press('Ask for 2 days');
    expect(Object.keys((await one.answer('POST', '/own/leave', { id: 'q' })) as object)).not.toContain('personId');
  });

  it('refused keeps what was entered', async () => {
    const one = await shown();
    await one.fill('First day', '2026-12-28');
    await one.fill('Note', 'Visiting family');
    await typed();
    await one.answer('POST', '/leave/requests/check', refused('Those days are asked for already.'), 422);
    expect(one.text).toContain('asked for already');
    expect(one.field('Note').value).toBe('Visiting family');
  });
});
