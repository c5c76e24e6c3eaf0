import { HttpTestingController } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import type { ImportCheck } from '@woodruff/contract';
import { part, refused, type Part } from '../../testing/part';
import { PeopleImport } from './people-import';

const CHECK: ImportCheck = {
  rows: 34,
  columns: [
    { heading: 'Staff no.', key: 'code', example: 'G-104' },
    { heading: 'Shoe size', key: null, example: '43' },
  ],
  choices: [
    { key: 'code', label: 'Code' },
    { key: 'job', label: 'Job' },
  ],
  problems: [],
  problemCount: 0,
  added: 3,
  changed: 2,
  unchanged: 29,
  changes: [{ row: 4, name: 'Ines Halloway', what: 'rate 25.50 instead of 24.00' }],
};
const problems = (count: number): Partial<ImportCheck> => ({
  problems: Array.from({ length: count }, (_none, index) => ({
    row: index + 2,
    column: 'Hire date',
    value: '31/02/2026',
    remedy: 'Write a date such as 2026-02-28.',
  })),
  problemCount: count,
});

describe('Import people', () => {
  let shown: Part<PeopleImport>;

  async function chosen(check: Partial<ImportCheck> = {}, holds: 'people' | 'earlier-pay' = 'people'): Promise<unknown> {
    shown = await part(PeopleImport, { holds });
    await shown.chooseFile('people.csv', 'Staff no.,Shoe size\nG-104,43');
    return shown.answer('POST', holds === 'people' ? '/import/check' : '/opening/check', { ...CHECK, ...check });
  }

  it('are checked before anything is imported, and what changes is named row by row', async () => {
    const sent = await chosen();
    expect(sent).toEqual({ name: 'people.csv', content: btoa('Staff no.,Shoe size\nG-104,43') });
    expect(shown.text).toContain('34 rows: 3 new, 2 changed, 29 as they are.');
    expect(shown.text).toContain('4 Ines Halloway rate 25.50 instead of 24.00 and 4 more');
    expect(shown.button('Import 5 people').disabled).toBeFalse();
  });

  it('with a cell that is not taken are not imported at all; each says what to do', async () => {
    await chosen(problems(70));
    expect(shown.text).toContain('70 cells are not taken, so nothing is imported yet.');
    expect(shown.button('Nothing is imported yet').disabled).toBeTrue();
    expect(shown.text).toContain('2 Hire date 31/02/2026 Write a date such as 2026-02-28.');
    expect(shown.element.querySelectorAll('td.error').length).toBe(60);
    await shown.press('Show all 70');
    expect(shown.element.querySelectorAll('td.error').length).toBe(70);
  });

  it('that are all on file already need no import', async () => {
    await chosen({ added: 0, changed: 0, unchanged: 34, changes: [] });
    expect(shown.button('Nothing to import').disabled).toBeTrue();
  });

  it('have their columns matched by hand; a part of the record is said by one column only', async () => {
    await chosen();
    await shown.fill('What Shoe size holds', 'code');
    expect(await shown.answer('POST', '/import/check', CHECK)).toEqual(jasmine.objectContaining({ columns: [null, 'code'] }));
    await shown.fill('What Staff no. holds', '');
    expect(await shown.answer('POST', '/import/check', CHECK)).toEqual(jasmine.objectContaining({ columns: [null, null] }));
  });

  it('are imported with the progress in sight, and counted at the end', async () => {
    await chosen();
    await shown.press('Import 5 people');
    expect(shown.text).toContain('Importing');
    expect(shown.button('Import 5 people').disabled).toBeTrue();
    await new Promise((done) => setTimeout(done, 450));
    const [progress] = TestBed.inject(HttpTestingController).match((one) => one.url.endsWith('/import/progress'));
    progress?.flush({ done: 2, of: 5 });
    await shown.settle();
    expect(shown.text).toContain('Importing 2 of 5 …');
    await shown.answer('POST', '/import', { added: 3, changed: 2, unchanged: 29 });
    expect(shown.text).toContain('3 people added, 2 changed, 29 as they were.');
  });

  it('keep the file chosen when the server refuses it', async () => {
    await chosen();
    await shown.press('Import 5 people');
    await shown.answer('POST', '/import', refused('Somebody else changed Ines Halloway meanwhile.'), 422);
    expect(shown.text).toContain('Somebody else changed Ines Halloway meanwhile.');
    expect(shown.text).toContain('people.csv');
    expect(shown.button('Import 5 people').disabled).toBeFalse();
  });

  it('bring what an earlier system paid, also where it does not tie out, once that is said', async () => {
    const sent = await chosen({}, 'earlier-pay');
    expect(sent).toEqual(jasmine.objectContaining({ acceptDifferences: false }));
    shown.element.querySelector<HTMLInputElement>('input[type=checkbox]')!.click();
    await shown.settle();
    expect(await shown.answer('POST', '/opening/check', CHECK)).toEqual(jasmine.objectContaining({ acceptDifferences: true }));
    expect(shown.buttons()).toContain('Post 5 entries');
  });
});
