import type { Person, PersonLawLeaves } from '@woodruff/contract';
import { part, refused } from '../../testing/part';
import { PersonLeaveByLaw } from './person-leave-by-law';

const person = { id: 'p' } as unknown as Person;
const WORKING = { key: 'week', label: 'A week', amount: '123.25', unit: 'money', steps: [], sources: [], notes: [], facts: [] };
const paid = {
  tests: [{ sentence: 'At least four days in a row are sick: 5', holds: true }],
  entitled: true,
  parts: [{ from: '2026-11-09', to: '2026-11-13', label: '5 days', amount: 12_325, key: 'week' }],
  total: 12_325,
  workings: { week: WORKING },
};
const none = { tests: [{ sentence: 'Earnings reach the limit', holds: false }], entitled: false, parts: [], total: 0, workings: {} };
const kinds: PersonLawLeaves['kinds'] = [
  {
    code: 'sick',
    label: 'Sickness',
    refusal: 'SSP1',
    fields: [{ key: 'pattern', label: 'Qualifying days', kind: 'choice', choices: [{ value: '12345', label: 'Mon to Fri' }] }],
  },
  { code: 'maternity', label: 'Maternity', refusal: null, fields: [{ key: 'due', label: 'Child expected on', kind: 'date' }] },
];
const leave = (more: object) => ({
  id: 'l',
  version: 1,
  kind: 'sick',
  from: '2026-11-09',
  to: '2026-11-13',
  about: {},
  paid: 0,
  waiting: 12_325,
  undone: null,
  by: 'O',
  at: '',
  assessed: paid,
  ...more,
});

async function opened(leaves: object[] = []) {
  const one = await part(PersonLeaveByLaw, { person });
  await one.answer('GET', '/people/p/leave-by-law', { kinds, leaves });
  return one;
}

describe('Leave by law', () => {
  it('is looked at before it is put on file: tests, weeks, and how a week came about', async () => {
    const one = await opened();
    await one.press('Enter a leave');
    await one.fill('First day', '2026-11-09');
    await one.fill('Last day', '2026-11-13');
    await one.press('See what the law says');
    const body = { kind: 'sick', from: '2026-11-09', to: '2026-11-13', about: { pattern: '12345' }, paysOn: false };
    expect(await one.answer('POST', '/people/p/leave-by-law/assess', paid)).toEqual(body);
    expect(one.text).toContain('● At least four days in a row are sick: 5');
    expect(one.text).toContain('Together 123.25');
    await one.press('5 days, how it came about');
    expect(one.element.querySelector('wr-figure-working')).not.toBeNull();
    await one.press('Put it on file and pay it');
    expect(await one.answer('POST', '/people/p/leave-by-law', { id: 'l' })).toEqual(body);
    await one.answer('GET', '/people/p/leave-by-law', { kinds, leaves: [leave({})] });
    expect(one.text).toContain('paid 0.00, 123.25 waits for the runs to come');
  });

  it('that is not paid says which test fails, and offers the paper with the reasons', async () => {
    const one = await opened([leave({ assessed: none, waiting: 0 })]);
    expect(one.text).toContain('not paid by law');
    expect(one.element.querySelector<HTMLAnchorElement>('a.quiet')?.textContent).toContain('SSP1 with the reasons');
    await one.press('Tests and weeks');
    expect(one.text).toContain('○ Earnings reach the limit: not so');
  });

  it('gets another last day, or is taken back with a reason; what was refused stays to be corrected', async () => {
    const one = await opened([leave({})]);
    await one.press('Change');
    await one.fill('Last day', '2026-11-11');
    await one.press('Save the last day');
    await one.answer('PUT', '/people/p/leave-by-law/l', refused('Somebody else changed the leave meanwhile.'), 409);
    expect(one.text).toContain('Somebody else changed the leave meanwhile.');
    expect(one.field('Last day').value).toBe('2026-11-11');
    await one.fill('Why it is taken back', 'entered twice');
    await one.press('Take the leave back');
    expect(await one.answer('POST', '/people/p/leave-by-law/l/undo', {})).toEqual({ version: 1, reason: 'entered twice' });
    await one.answer('GET', '/people/p/leave-by-law', { kinds, leaves: [leave({ undone: 'entered twice' })] });
    expect(one.text).toContain('taken back: entered twice');
  });

  it('asks for what the kind wants, and is not there where the law knows none', async () => {
    const one = await opened();
    await one.press('Enter a leave');
    await one.fill('Leave', 'maternity');
    expect(one.field('Child expected on').type).toBe('date');
    const other = await part(PersonLeaveByLaw, { person });
    await other.answer('GET', '/people/p/leave-by-law', { kinds: [], leaves: [] });
    expect(other.text).toBe('');
  });
});
