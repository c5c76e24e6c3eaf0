import { part, refused } from '../../testing/part';
import { LeaveBalancesFile } from './leave-balances-file';

const READ = {
  problems: [],
  problemCount: 0,
  changed: 1,
  unchanged: 33,
  changes: [{ name: 'Farrow, Edda', plan: 'Vacation', before: 0, after: 7_650 }],
};

describe('Balances of leave from a file', () => {
  const shown = () => part(LeaveBalancesFile, { day: '2026-11-23' });
  const choose = (one: Awaited<ReturnType<typeof shown>>) => one.chooseFile('leave.csv', 'person,plan,balance_hours');

  it('shows what changes before anything is posted, and posts it as of the day', async () => {
    const one = await shown();
    const posted = one.given(one.fixture.componentInstance.posted);
    await choose(one);
    expect(await one.answer('POST', '/leave/balances/check', READ)).toEqual({
      name: 'leave.csv',
      content: btoa('person,plan,balance_hours'),
      date: '2026-11-23',
    });
    expect(one.text).toContain('One balance changes, 33 stay.');
    expect(one.text).toContain('Farrow, Edda Vacation 0.00 76.50 hours');
    await one.press('Post 1 balance');
    await one.answer('POST', '/leave/balances', READ);
    expect(posted.length).toBe(1);
  });

  it('with cells that are not taken names each with what to do, and posts nothing', async () => {
    const one = await shown();
    await choose(one);
    const problems = [{ row: 3, column: 'person', value: 'Z9', remedy: 'the code of somebody who is in a leave plan' }];
    await one.answer('POST', '/leave/balances/check', { ...READ, problems, problemCount: 1 });
    expect(one.text).toContain('Row 3, person Z9 expected: the code of somebody who is in a leave plan');
    expect(one.buttons()).toEqual(['Close']);
  });

  it('that changes nothing has nothing to post', async () => {
    const one = await shown();
    await choose(one);
    await one.answer('POST', '/leave/balances/check', { ...READ, changed: 0, unchanged: 34, changes: [] });
    expect(one.text).toContain('0 balances change, 34 stay.');
    expect(one.buttons()).toEqual(['Close']);
  });

  it('that cannot be read says so', async () => {
    const one = await shown();
    await choose(one);
    await one.answer('POST', '/leave/balances/check', refused('The first row must name the columns person, plan and balance_hours.'), 422);
    expect(one.text).toContain('must name the columns');
  });
});
