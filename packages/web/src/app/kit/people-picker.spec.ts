import type { PersonRow } from '@woodruff/contract';
import { part } from '../../testing/part';
import { PeoplePicker } from './people-picker';

const row = (id: string, name: string, more: object = {}) =>
  ({ id, name, job: '', department: '', left: null, ...more }) as unknown as PersonRow;
const PEOPLE = [
  row('1', 'Amsden, Bertil', { job: 'Gaffer', department: 'Hot shop' }),
  row('2', 'Farrow, Edda', { job: 'Glassblower', department: 'Hot shop' }),
  row('3', 'Marchbanks, Liv', { job: 'Café lead', department: 'Café' }),
  row('4', 'Quarrington, Oda', { left: '2026-10-31' }),
];

describe('People to choose from', () => {
  const shown = () => part(PeoplePicker, { people: PEOPLE, except: new Set(['1']), label: 'People to move' });
  const names = (element: HTMLElement) =>
    [...element.querySelectorAll('.candidates label')].map((one) => one.textContent.trim().split(' ')[0]);

  it('are those employed on the day, without those who are there already', async () => {
    const one = await shown();
    expect(names(one.element)).toEqual(['Farrow,', 'Marchbanks,', 'Quarrington,']);
    await one.fill('From', '2026-11-23');
    expect(names(one.element)).toEqual(['Farrow,', 'Marchbanks,']);
  });

  it('are found by name, job or department', async () => {
    const one = await shown();
    await one.fill('Find', 'hot SHOP');
    expect(names(one.element)).toEqual(['Farrow,']);
    await one.fill('Find', 'lead');
    expect(names(one.element)).toEqual(['Marchbanks,']);
    await one.fill('Find', 'nobody at all');
    expect(one.text).toContain('Nobody.');
  });

  it('stay chosen while others are looked for', async () => {
    const one = await shown();
    one.element.querySelector<HTMLInputElement>('.candidates input')!.click();
    await one.settle();
    expect(one.text).toContain('1 chosen');
    await one.fill('Find', 'café');
    await one.press('Choose all 1 shown');
    expect(one.text).toContain('2 chosen');
    await one.fill('Find', 'farrow');
    one.element.querySelector<HTMLInputElement>('.candidates input')!.click();
    await one.settle();
    expect([...one.fixture.componentInstance.chosen()]).toEqual(['3']);
  });
});
