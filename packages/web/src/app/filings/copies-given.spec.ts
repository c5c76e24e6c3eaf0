import type { CopiesGiven } from '@woodruff/contract';
import { filing } from '../../testing/filing';
import { part } from '../../testing/part';
import { CopiesGivenPart } from './copies-given';
import { CopyMarks } from './copy-marks';

const person = { control: 1, email: null, electronic: null, consent: null, given: [] };
const given: CopiesGiven = {
  attempt: 1,
  people: [
    { ...person, personId: 'a', name: 'Abernethy, Lucian', electronic: '2026-05-01', email: 'a@example.test' },
    { ...person, personId: 'b', name: 'Lindqvist, Vera', control: 2 },
  ],
};

describe('Statements given to people', () => {
  const shown = async (data: CopiesGiven) => {
    const one = await part(CopiesGivenPart, { filing: filing({ filing: 'w-2', events: [] }) }, { role: 'clerk' });
    await one.answer('GET', '/given', data);
    return one;
  };

  it('are none while nothing is final', async () => {
    const one = await shown({ attempt: null, people: [] });
    expect(one.text).toContain('Drafts can be printed at any time');
    expect(one.text).not.toContain('Print all');
  });

  it('go to who agreed electronically, and are counted for paper otherwise', async () => {
    const one = await shown(given);
    expect(one.text).toContain('0 of 2');
    expect(one.text).toContain('Give 1 to their own view');
    expect(one.text).toContain('Record 2 as handed over on paper');
    await one.press('Give 1 to their own view');
    expect(await one.answer('POST', '/given', { given: 1 })).toEqual({ how: 'inbox' });
    const after = { ...given, people: [{ ...given.people[0]!, given: [{ how: 'inbox' as const, on: '2027-01-12' }] }, given.people[1]!] };
    await one.answer('GET', '/given', after);
    expect(one.text).toContain('1 given: own view.');
    expect(one.text).toContain('Record 1 as handed over on paper');
  });

  it('can be asked about, and agreed to in writing', async () => {
    const one = await shown(given);
    await one.press('Ask');
    expect(await one.answer('POST', '/people/b/forms', {})).toEqual({ step: 'asked', means: 'by letter' });
  });
});

describe('Boxes marked by hand', () => {
  it('are saved with a reason, or let go to what is derived', async () => {
    const marks = [{ box: '13 statutory', label: 'Statutory employee', kind: 'yes-no' as const, help: 'Who sells on commission' }];
    const copyOf = { name: 'Form W-2', first: [], corrected: null, totals: null, some: false, marks };
    const copy = { personId: 'a', name: 'Abernethy', number: null, to: [], control: null, boxes: [], marks: [], checks: [] };
    const one = await part(CopyMarks, { filing: filing({ filing: 'w-2', copyOf }), copy }, { role: 'clerk' });
    await one.press('Mark by hand …');
    const set = (selector: string, value: string, event: string) => {
      const field = one.element.querySelector<HTMLInputElement>(selector)!;
      field.value = value;
      field.dispatchEvent(new Event(event));
    };
    set('select[name="box"]', '13 statutory', 'change');
    set('input[name="reason"]', 'Sells on commission', 'input');
    await one.press('Save');
    expect(await one.answer('POST', '/marks', {})).toEqual({
      personId: 'a',
      box: '13 statutory',
      text: 'X',
      reason: 'Sells on commission',
    });
  });
});
