import { part } from '../../testing/part';
import { Problem } from './problem';

const asks = {
  type: '/problems/which-date',
  title: 'Which date',
  status: 422,
  code: 'which-date',
  detail: 'time.csv has dates such as 03/04/2026, which can be read in two ways. Say which is right, or write dates as 2026-11-27.',
  fields: [
    { path: 'dates.month-first', expected: '03/04/2026 is 4 March 2026' },
    { path: 'dates.day-first', expected: '03/04/2026 is 3 April 2026' },
  ],
};

describe('What went wrong', () => {
  it('asks how a file is to be read, with each way as a button', async () => {
    const one = await part(Problem, { problem: asks }, { role: 'clerk' });
    const answered = one.given(one.fixture.componentInstance.answered);
    expect(one.text).toContain('Which is right?');
    expect(one.text).not.toContain('dates.day-first');
    await one.press('03/04/2026 is 3 April 2026');
    expect(answered).toEqual([{ dates: 'day-first' }]);
  });

  it('names fields at fault where there are several', async () => {
    const one = await part(Problem, { problem: { ...asks, code: 'invalid', detail: 'Two fields are wrong.' } }, { role: 'clerk' });
    expect(one.text).toContain('Two fields are wrong.');
    expect(one.text).toContain('dates.day-first: 03/04/2026 is 3 April 2026');
  });
});
