import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import type { PersonRow } from '@woodruff/contract';
import { part, type Part } from '../../testing/part';
import { PeopleList } from './people-list';
import { peopleStore } from './people.store';

const person = (id: string, name: string, more: Partial<PersonRow> = {}): PersonRow =>
  ({
    id,
    name,
    code: id.toUpperCase(),
    job: 'Glassblower',
    department: 'Hot shop',
    worksite: 'Corbel Falls',
    schedule: 'Fortnightly',
    pay: '25.40 an hour',
    hired: '2024-02-19',
    left: null,
    missing: [],
    payable: true,
    ...more,
  }) as PersonRow;
const PEOPLE = [
  person('amsden', 'Amsden, Bertil'),
  person('hartnoll', 'Hartnoll, Solveig', {
    missing: ['No tax details', 'no national number', 'no method of payment'],
    department: 'Gallery',
  }),
  person('tarleton', 'Tarleton, Ruf', { left: '2026-06-30' }),
  person('vexford', 'Vexford, Tamsin', { left: '2026-12-24' }),
];

describe('The list of people', () => {
  let shown: Part<PeopleList>;
  let went: jasmine.Spy;
  async function open(inputs: { show?: string; text?: string; order?: string } = {}, data = PEOPLE, role: 'clerk' | 'viewer' = 'clerk') {
    shown = await part(PeopleList, inputs as never, {
      role,
      stores: [peopleStore as never],
      arrives: [peopleStore.loaded({ data })],
      size: [1280, 600],
    });
    await shown.drawn();
    went = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
  }
  const names = () =>
    [...shown.element.querySelectorAll<HTMLElement>('.ag-row')]
      .sort((a, b) => Number(a.getAttribute('row-index')) - Number(b.getAttribute('row-index')))
      .map((row) => row.querySelector('[col-id="name"]')?.textContent.trim());

  it('shows who is employed; who leaves later still is, and leavers stay to be found', async () => {
    await open();
    expect(shown.text).toContain('3 employed, 1 left');
    expect(names()).toEqual(['Amsden, Bertil', 'Hartnoll, Solveig', 'Vexford, Tamsin']);
    await open({ show: 'left' });
    expect(names()).toEqual(['Tarleton, Ruf']);
    await open({ show: 'unfinished' });
    expect(names()).toEqual(['Hartnoll, Solveig']);
    expect(shown.text).toContain('No tax details, no national number, no method of payment');
    await open({ show: 'all' });
    expect(names().length).toBe(4);
  });

  it('filters by what is in the address and puts there what is typed, so that back returns to it', async () => {
    await open({ text: 'gallery' });
    expect(names()).toEqual(['Hartnoll, Solveig']);
    await shown.fill('Filter', 'hot');
    expect(went.calls.mostRecent().args[1]).toEqual({ queryParams: { text: 'hot' }, queryParamsHandling: 'merge', replaceUrl: true });
    await shown.press('Everyone');
    expect((went.calls.mostRecent().args[1] as { queryParams: object }).queryParams).toEqual({ show: 'all' });
  });

  it('is ordered as the address says', async () => {
    await open({ order: 'name desc' });
    expect(names()).toEqual(['Vexford, Tamsin', 'Hartnoll, Solveig', 'Amsden, Bertil']);
  });

  it('opens a person, and remembers the row', async () => {
    await open();
    shown.element.querySelector<HTMLElement>('.ag-row [col-id="name"]')!.click();
    await shown.drawn();
    expect((went.calls.allArgs() as [unknown[], { queryParams?: object }?][]).map(([path, more]) => [path, more?.queryParams])).toEqual([
      [[], { at: 'amsden' }],
      [['/people', 'amsden'], undefined],
    ]);
  });

  it('with nobody on file says what to do first', async () => {
    await open({}, []);
    expect(shown.text).toContain('Nobody is on file yet. Add the first person, or bring everybody over from a file');
  });

  it('offers no adding to who may only read', async () => {
    const links = () => [...shown.element.querySelectorAll('a')].map((link) => link.getAttribute('href'));
    await open({}, PEOPLE, 'viewer');
    expect(links()).not.toContain('/people/new');
    expect(links()).toContain('/api/employers/e/people/export.xlsx');
    await open();
    expect(links()).toContain('/people/new');
  });
});
