import { attemptFor, differencesOf, filedAttempt, stateOfFiling, type FilingEvent, type FilingState, type FilingStep } from './life';

const period = { to: '2026-09-30', due: '2026-11-02' };
/** Steps as "1 prepared", "1 agreed" … */
const events = (...steps: string[]): FilingEvent[] =>
  steps.map((step) => {
    const [attempt, name] = step.split(' ');
    return { attempt: Number(attempt), step: name as FilingStep, on: '2026-10-20' };
  });
const state = (...steps: string[]): FilingState => stateOfFiling(period, '2026-10-20', events(...steps));

describe('The state of a filing', () => {
  it('follows the day until it is prepared', () => {
    expect(stateOfFiling(period, '2026-09-30', [])).toBe('not-due-yet');
    expect(stateOfFiling(period, '2026-10-01', [])).toBe('due');
    expect(stateOfFiling(period, '2026-11-02', [])).toBe('due');
    expect(stateOfFiling(period, '2026-11-03', [])).toBe('overdue');
  });

  it('follows what happened', () => {
    expect(state('1 prepared')).toBe('prepared');
    expect(state('1 prepared', '1 agreed')).toBe('agreed');
    expect(state('1 prepared', '1 withdrawn')).toBe('due');
    expect(state('1 prepared', '1 agreed', '1 sent')).toBe('queued');
    expect(state('1 prepared', '1 agreed', '1 sent', '1 received')).toBe('received');
    expect(state('1 prepared', '1 agreed', '1 sent', '1 rejected')).toBe('rejected');
    expect(state('1 prepared', '1 agreed', '1 sent', '1 accepted')).toBe('accepted');
  });

  it('knows an amendment from a first filing, and from another try', () => {
    const first = ['1 prepared', '1 agreed', '1 sent', '1 accepted'];
    expect(state(...first, '2 prepared')).toBe('prepared');
    expect(state(...first, '2 prepared', '2 withdrawn')).toBe('accepted');
    expect(state(...first, '2 prepared', '2 agreed', '2 sent', '2 accepted')).toBe('amended');
    const refused = ['1 prepared', '1 agreed', '1 sent', '1 rejected'];
    expect(state(...refused, '2 prepared', '2 agreed', '2 sent', '2 accepted')).toBe('accepted');
  });

  it('takes each step once, in its order', () => {
    expect(attemptFor('prepared', [])).toBe(1);
    expect(attemptFor('agreed', [])).toBeUndefined();
    expect(attemptFor('prepared', events('1 prepared'))).toBeUndefined();
    expect(attemptFor('sent', events('1 prepared'))).toBeUndefined();
    expect(attemptFor('sent', events('1 prepared', '1 agreed'))).toBe(1);
    expect(attemptFor('sent', events('1 prepared', '1 agreed', '1 sent')))
      .withContext('never twice')
      .toBeUndefined();
    expect(attemptFor('withdrawn', events('1 prepared', '1 agreed', '1 sent')))
      .withContext('it is on its way')
      .toBeUndefined();
    expect(attemptFor('accepted', events('1 prepared', '1 agreed', '1 sent'))).toBe(1);
    expect(attemptFor('rejected', events('1 prepared', '1 agreed', '1 sent', '1 accepted'))).toBeUndefined();
    expect(attemptFor('prepared', events('1 prepared', '1 agreed', '1 sent', '1 rejected'))).toBe(2);
  });

  it('compares with what the agency has: nothing that was refused or never sent', () => {
    expect(filedAttempt(events('1 prepared', '1 agreed'))).toBeUndefined();
    expect(filedAttempt(events('1 prepared', '1 agreed', '1 sent'))).toBe(1);
    expect(filedAttempt(events('1 prepared', '1 agreed', '1 sent', '1 rejected', '2 prepared'))).toBeUndefined();
    expect(filedAttempt(events('1 prepared', '1 agreed', '1 sent', '1 accepted', '2 prepared', '2 withdrawn'))).toBe(1);
  });
});

describe('What was filed and what is posted now', () => {
  const line = (name: string, amount: number) => ({ line: name, label: name, amount, unit: 'money' as const, codes: [], working: '' });
  it('differ by line, also where a line is new or gone', () => {
    expect(differencesOf([line('2', 100), line('5b', 7), line('3', 5)], [line('2', 90), line('3', 5), line('7', 1)])).toEqual([
      { line: '2', label: '2', unit: 'money', filed: 100, now: 90 },
      { line: '5b', label: '5b', unit: 'money', filed: 7, now: 0 },
      { line: '7', label: '7', unit: 'money', filed: 0, now: 1 },
    ]);
    expect(differencesOf([line('2', 100)], [line('2', 100)])).toEqual([]);
    // That it was paid since is no correction.
    expect(differencesOf([line('14', 100)], [{ ...line('14', 0), settles: true }])).toEqual([]);
  });
});
