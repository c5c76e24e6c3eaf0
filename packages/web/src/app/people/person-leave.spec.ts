import type { Person, PersonLeave } from '@woodruff/contract';
import { part, refused } from '../../testing/part';
import { PersonLeavePart } from './person-leave';

const movement = (on: string, amount: number, balance: number, more: object = {}) => ({
  on,
  label: 'Vacation, earned',
  amount,
  balance,
  runId: 'r',
  payslipId: 'y',
  figure: 'leave:vacation:earned',
  what: '',
  ...more,
});
const plan = (more: object = {}) => ({
  memberId: 'm',
  planId: 'v',
  plan: 'Vacation',
  code: 'vacation',
  from: '2025-01-01',
  to: null,
  unpaid: false,
  balance: 7_026,
  ahead: 2_400,
  usableFrom: null,
  movements: [],
  ...more,
});
const leave = (...plans: object[]) => ({ plans, requests: [] }) as unknown as PersonLeave;

describe('A person’s leave', () => {
  async function shown(of: PersonLeave, role: 'clerk' | 'viewer' = 'clerk') {
    const one = await part(PersonLeavePart, { person: { id: 'p' } as unknown as Person }, { role });
    await one.answer('GET', '/people/p/leave', of);
    return one;
  }

  it('is what is left and how it came about, each movement open to its working', async () => {
    const movements = [
      movement('2026-11-07', 308, 7_026),
      movement('2026-10-24', -1_600, 6_718, { label: 'Vacation, taken' }),
      movement('2026-10-10', 308, 8_318),
      movement('2026-09-26', 308, 8_010),
      movement('2026-09-12', 308, 7_702),
    ];
    const one = await shown(leave(plan({ movements })));
    expect(one.text).toContain('70.26 hours, 24.00 of them approved ahead');
    expect(one.buttons()).toContain('+3.08');
    expect(one.element.querySelectorAll('.plan tr').length).toBe(4);
    await one.press('All 5 movements');
    expect(one.element.querySelectorAll('.plan tr').length).toBe(5);
  });

  it('without a plan leads to the plans, and asks for nothing', async () => {
    const one = await shown(leave());
    expect(one.text).toContain('In no leave plan.');
    expect(one.buttons()).not.toContain('Ask for leave');
  });

  it('of a plan that was left is not asked for any more', async () => {
    expect((await shown(leave(plan({ to: '2026-10-31' })))).buttons()).not.toContain('Ask for leave');
    expect((await shown(leave(plan({ to: '2026-12-31' })))).buttons()).toContain('Ask for leave');
  });

  it('is set right after a look at what it becomes, with its reason', async () => {
    const one = await shown(leave(plan()));
    await one.press('Adjust a balance');
    await one.answer('GET', '/people/p/adjustable', [{ code: 'leave:vacation', label: 'Vacation', unit: 'hours', year: 0, inAll: 7_026 }]);
    await one.fill('Balance', 'leave:vacation');
    await one.fill('Add, or take off with a minus', '-8.00');
    await one.fill('Reason', 'A day taken and not entered');
    await one.press('Show what it changes');
    const checked = { posted: 0, changes: [{ name: 'Ines Halloway', label: 'Vacation', unit: 'hours', before: 7_026, after: 6_226 }] };
    await one.answer('POST', '/adjustments/check', checked);
    expect(one.text).toContain('Vacation: 70.26 becomes 62.26 hours. Nothing is paid.');
    await one.press('Post the adjustment');
    expect(await one.answer('POST', '/adjustments', { posted: 1, changes: [] })).toEqual({
      date: '2026-11-23',
      reason: 'A day taken and not entered',
      entries: [{ person: 'p', balance: 'leave:vacation', amount: '-8.00' }],
    });
  });

  it('keeps what was typed when it is refused', async () => {
    const one = await shown(leave(plan()));
    await one.press('Adjust a balance');
    await one.answer('GET', '/people/p/adjustable', [{ code: 'leave:vacation', label: 'Vacation', unit: 'hours', year: 0, inAll: 7_026 }]);
    await one.fill('Balance', 'leave:vacation');
    await one.fill('Add, or take off with a minus', '8');
    await one.press('Show what it changes');
    await one.answer('POST', '/adjustments/check', refused('reason: expected a reason of at least three letters.'), 422);
    expect(one.text).toContain('a reason of at least three letters');
    expect(one.field('Add, or take off with a minus').value).toBe('8');
  });

  it('is read only by who may not prepare', async () => {
    expect((await shown(leave(plan()), 'viewer')).buttons()).toEqual([]);
  });
});
