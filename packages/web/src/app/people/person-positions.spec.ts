import type { EmployerPage, Person } from '@woodruff/contract';
import { part, refused } from '../../testing/part';
import { employerStore } from './people.store';
import { PersonPositions } from './person-positions';

const PERSON = {
  id: 'p',
  facts: { job: 'Glassblower', department: 'Hot shop', worksite: 'Corbel Falls' },
  rates: [
    { id: '1', series: 'primary', label: 'Hot shop', primary: true, from: '2025-01-01' },
    { id: '2', series: '2', label: 'Cold shop', primary: false, from: '2026-01-01' },
    { id: '3', series: '2', label: 'Cold shop', primary: false, from: '2025-01-01' },
  ],
  positions: [
    { id: 's', job: 'Cold worker', department: 'Cold shop', worksite: '', rate: '2', rateLabel: 'Cold shop', from: '2025-01-01', to: null },
  ],
} as unknown as Person;

describe('Positions of a person', () => {
  const shown = (person: object = {}, role: 'clerk' | 'viewer' = 'clerk') =>
    part(
      PersonPositions,
      { person: { ...PERSON, ...person } },
      {
        role,
        stores: [employerStore as never],
        actions: [
          employerStore.loaded({
            data: { departments: ['Hot shop', 'Cold shop'], worksites: ['Corbel Falls'] } as unknown as EmployerPage,
          }),
        ],
      },
    );

  it('are the main one of the record and those beside it, with their rate', async () => {
    const { text } = await shown();
    expect(text).toContain('Glassblower Hot shop, Corbel Falls main position');
    expect(text).toContain('Cold worker Cold shop paid at Cold shop, from Wed 1 Jan 2025');
  });

  it('are added from today on, each rate offered once', async () => {
    const one = await shown();
    const saved = one.given(one.fixture.componentInstance.saved);
    await one.press('Add a position');
    expect([...one.field('Paid at').querySelectorAll('option')].map((option) => option.textContent.trim())).toEqual([
      'the primary rate',
      'Cold shop',
    ]);
    await one.fill('Job', 'Packer');
    await one.fill('Department', 'Cold shop');
    await one.fill('Paid at', '2');
    await one.press('Save the position');
    expect(await one.answer('POST', '/people/p/positions', { id: 'n' })).toEqual({
      job: 'Packer',
      department: 'Cold shop',
      worksite: '',
      rate: '2',
      share: null,
      from: '2026-11-23',
      to: null,
    });
    expect(saved.length).toBe(1);
  });

  it('are ended on a day, and a refusal leaves the form as it was', async () => {
    const one = await shown();
    await one.press('Change the position Cold worker');
    await one.fill('To', '2024-12-31');
    await one.press('Save the position');
    const sent = await one.answer('PUT', '/people/p/positions/s', refused('The position ends before it begins.'), 422);
    expect(sent).toEqual(jasmine.objectContaining({ job: 'Cold worker', to: '2024-12-31' }));
    expect(one.text).toContain('The position ends before it begins.');
    expect(one.field('To').value).toBe('2024-12-31');
  });

  it('entered by mistake are taken off', async () => {
    const one = await shown();
    await one.press('Change the position Cold worker');
    await one.press('It was entered by mistake');
    await one.answer('DELETE', '/people/p/positions/s', {});
    expect(one.buttons()).toContain('Add a position');
  });

  it('are read only by who may not prepare', async () => {
    expect((await shown({}, 'viewer')).buttons()).toEqual([]);
  });
});
