import { part } from '../../testing/part';
import { AskedChanges } from './asked-changes';

const CHANGE = {
  id: 'c',
  date: '2026-11-20',
  hours: '8',
  begins: '07:00',
  ends: '15:30',
  breakMinutes: 30,
  reason: 'Forgot the clock',
  state: 'asked' as const,
  answer: '',
};

describe('Changes that an employee asks for', () => {
  it('say what the day should be and why, and are accepted at once', async () => {
    const one = await part(AskedChanges, { changes: [CHANGE], mayAnswer: true });
    const answered = one.given(one.fixture.componentInstance.answered);
    expect(one.text).toContain('Fri 20 Nov 2026 to be 8.00 hours, 07:00 to 15:30 with 30 minutes of break. “Forgot the clock”');
    await one.press('Accept the change of Fri 20 Nov 2026');
    expect(answered).toEqual([{ id: 'c', accept: true, answer: '' }]);
  });

  it('are declined with words for the employee, or left waiting', async () => {
    const one = await part(AskedChanges, { changes: [CHANGE], mayAnswer: true });
    const answered = one.given(one.fixture.componentInstance.answered);
    await one.press('Decline the change of Fri 20 Nov 2026');
    await one.press('Cancel');
    await one.press('Decline the change of Fri 20 Nov 2026');
    await one.fill('Why it is declined', 'The shop was closed');
    await one.press('Decline it');
    expect(answered).toEqual([{ id: 'c', accept: false, answer: 'The shop was closed' }]);
  });

  it('are read, not answered, while the period is locked', async () => {
    const one = await part(AskedChanges, { changes: [CHANGE], mayAnswer: false });
    expect(one.buttons()).toEqual([]);
  });
});
