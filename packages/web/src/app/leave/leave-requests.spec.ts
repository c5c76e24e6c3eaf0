import type { LeaveRequest } from '@woodruff/contract';
import { part, refused } from '../../testing/part';
import { LeaveRequests } from './leave-requests';

const request = (id: string, more: Partial<LeaveRequest> = {}): LeaveRequest => ({
  id,
  personId: 'p',
  name: 'Edda Farrow',
  department: 'Hot shop',
  planId: 'v',
  plan: 'Vacation',
  from: '2026-12-28',
  to: '2026-12-29',
  days: [
    { date: '2026-12-28', hours: '8' },
    { date: '2026-12-29', hours: '8' },
  ],
  hours: '16.00',
  note: '',
  state: 'asked',
  comment: '',
  version: 1,
  by: 'Edda Farrow',
  taken: 0,
  ...more,
});
const EFFECT = { people: [], unchanged: 22, runs: [] };

describe('Requests for leave', () => {
  const shown = (requests: LeaveRequest[], role: 'clerk' | 'viewer' = 'clerk', named = true) =>
    part(LeaveRequests, { requests, named }, { role });

  it('are approved after a look at what it does to the open run', async () => {
    const one = await shown([request('q')]);
    const decided = one.given(one.fixture.componentInstance.decided);
    await one.press('Approve the leave of Edda Farrow');
    await one.answer('POST', '/leave/requests/q/decision?rehearse=true', EFFECT);
    expect(one.text).toContain('No payslip in the open runs changes.');
    await one.fill('Comment', 'Enjoy');
    await one.press('Approve 16.00 hours');
    expect(await one.answer('POST', '/leave/requests/q/decision', {})).toEqual({ state: 'approved', version: 1, comment: 'Enjoy' });
    expect(decided.length).toBe(1);
  });

  it('against the plan say so before they are approved, and again when no comment is given', async () => {
    const one = await shown([request('q')]);
    await one.press('Approve the leave of Edda Farrow');
    await one.answer('POST', '/leave/requests/q/decision?rehearse=true', EFFECT);
    await one.press('Approve 16.00 hours');
    await one.answer(
      'POST',
      '/leave/requests/q/decision',
      refused('It leaves −8.00 hours. Approve it with a comment, or decline it.'),
      422,
    );
    expect(one.text).toContain('Approve it with a comment');
  });

  it('are declined with a reason, without a look at the run', async () => {
    const one = await shown([request('q')]);
    await one.press('Decline the leave of Edda Farrow');
    one.asksNothing();
    await one.fill('Why', 'Stocktaking');
    await one.press('Decline 16.00 hours');
    expect(await one.answer('POST', '/leave/requests/q/decision', {})).toEqual({ state: 'declined', version: 1, comment: 'Stocktaking' });
  });

  it('approved can be withdrawn until a day of them is paid', async () => {
    const one = await shown([
      request('a', { state: 'approved', name: 'Ada A' }),
      request('b', { state: 'approved', taken: 1, name: 'Bea B' }),
      request('c', { state: 'approved', taken: 2, name: 'Cy C' }),
      request('d', { state: 'declined', comment: 'Stocktaking', name: 'Di D' }),
    ]);
    expect(one.buttons()).toEqual(['Withdraw the leave of Ada A']);
    expect(one.text).toContain('approved, 1 of 2 days paid');
    expect(one.text).toContain('taken and paid');
    expect(one.text).toContain('declined Stocktaking');
  });

  it('name nobody on a person’s own page, and say when there are none', async () => {
    expect((await shown([request('q')], 'clerk', false)).text).not.toContain('Hot shop');
    expect((await shown([])).text).toBe('No leave is asked for.');
  });

  it('are read only by who may not prepare', async () => {
    expect((await shown([request('q')], 'viewer')).buttons()).toEqual([]);
  });
});
