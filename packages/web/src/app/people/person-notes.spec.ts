import type { Person } from '@woodruff/contract';
import { part } from '../../testing/part';
import { PersonNotes } from './person-notes';

const note = (id: string, text: string) => ({ id, text, date: '2026-11-01', who: 'O. Mirren' });
const person = (more: object) => ({ id: 'p', notes: [], documents: [], ...more }) as unknown as Person;

describe('Notes and documents', () => {
  it('warn of what has expired and of what expires soon, not of the rest', async () => {
    const one = await part(PersonNotes, {
      person: person({
        documents: [
          { id: '1', name: 'Work permit', expires: '2026-11-20' },
          { id: '2', name: 'Forklift licence', expires: '2026-12-15' },
          { id: '3', name: 'Passport', expires: '2030-01-01' },
          { id: '4', name: 'Contract', expires: null },
        ],
      }),
    });
    const warned = [...one.element.querySelectorAll('.attention')].map((element) => element.textContent.trim());
    expect(warned).toEqual(['expired Fri 20 Nov 2026', 'expires Tue 15 Dec 2026']);
    expect(one.text).toContain('Contract without an end');
  });

  it('are kept for a day, today unless another is entered', async () => {
    const one = await part(PersonNotes, { person: person({}) });
    expect(one.text).toContain('Nothing noted.');
    await one.press('Add a note');
    expect(one.field('For the day').value).toBe('2026-11-23');
    await one.fill('Note', 'Asked about the pension plan');
    await one.press('Keep this note');
    expect(await one.answer('POST', '/people/p/notes', { id: 'n' })).toEqual({ date: '2026-11-23', text: 'Asked about the pension plan' });
  });

  it('a document is changed under its name, and its end may be open', async () => {
    const one = await part(PersonNotes, { person: person({ documents: [{ id: '1', name: 'Work permit', expires: '2026-11-20' }] }) });
    await one.press('Change Work permit');
    await one.fill('Expires on', '');
    await one.press('Put it on file');
    expect(await one.answer('PUT', '/people/p/documents', {})).toEqual({ name: 'Work permit', expires: null });
  });

  it('long lists of notes are folded', async () => {
    const notes = ['one', 'two', 'three', 'four', 'five', 'six'].map((text, index) => note(String(index), text));
    const one = await part(PersonNotes, { person: person({ notes }) });
    expect(one.text).not.toContain('six');
    await one.press('All 6 notes');
    expect(one.text).toContain('six');
  });

  it('are read only by who may not prepare', async () => {
    const one = await part(
      PersonNotes,
      { person: person({ notes: [note('1', 'one')], documents: [{ id: '1', name: 'Permit', expires: null }] }) },
      { role: 'viewer' },
    );
    expect(one.buttons()).toEqual([]);
  });
});
