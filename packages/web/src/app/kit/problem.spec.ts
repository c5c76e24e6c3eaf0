import type { ProblemDetail } from '@woodruff/contract';
import { part } from '../../testing/part';
import { Problem } from './problem';

const problem = (more: object): ProblemDetail =>
  ({ title: 'Refused', status: 422, code: 'invalid', detail: 'It is not complete.', ...more }) as ProblemDetail;

describe('A problem', () => {
  it('is told in one sentence, and announced', async () => {
    const one = await part(Problem, { problem: problem({}) });
    expect(one.text).toBe('It is not complete.');
    expect(one.element.querySelector('[role="alert"]')).toBeTruthy();
  });

  it('names each field only where there are several', async () => {
    const one = await part(Problem, { problem: problem({ fields: [{ path: 'from', expected: 'a date' }] }) });
    expect(one.text).not.toContain('a date');
    const fields = [
      { path: 'from', expected: 'a date' },
      { path: 'amount', expected: 'an amount' },
    ];
    one.fixture.componentRef.setInput('problem', problem({ fields }));
    await one.settle();
    expect(one.text).toContain('from: a date');
    expect(one.text).toContain('amount: an amount');
  });

  it('shows who changed what meanwhile', async () => {
    const { text } = await part(Problem, {
      problem: problem({ changed: [{ who: 'O. Mirren', what: 'overtime 4.00 instead of 2.00', at: '' }] }),
    });
    expect(text).toContain('O. Mirren: overtime 4.00 instead of 2.00');
  });

  it('is nothing while there is none', async () => {
    expect((await part(Problem, { problem: null })).text).toBe('');
  });
});
