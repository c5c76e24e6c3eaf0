import type { Scale } from '@woodruff/contract';
import { packOf } from '@woodruff/core';
import { part, refused } from '../../testing/part';
import { employerStore } from '../people/people.store';
import { ScalesPage } from './scales-page';

const working = {
  key: 'tax',
  label: 'Withholding',
  amount: '143.00',
  unit: 'money' as const,
  steps: [],
  sources: [],
  notes: [],
  facts: [],
};
const scale: Scale = {
  taxYear: '2026-27',
  before: 20,
  taxes: [
    { code: 'tax', label: 'Withholding', of: 'employee', amount: 14_300, key: 'tax' },
    { code: 'levy', label: 'A levy', of: 'employer', amount: 1200, key: 'levy' },
  ],
  net: 85_700,
  problems: ['Something to look at.'],
  workings: { tax: working, levy: { ...working, key: 'levy', label: 'A levy', amount: '12.00' } },
};
const later = (milliseconds: number) => new Promise((done) => setTimeout(done, milliseconds));

describe('The withholding look-up', () => {
  const shown = async () => {
    const one = await part(
      ScalesPage,
      {},
      {
        country: 'AU',
        stores: [employerStore as never],
        arrives: [employerStore.loaded({ data: { taxForm: packOf('AU').taxForm, entries: {} } as never })],
      },
    );
    await one.answer('GET', '/tables/scale/begins', { details: null });
    await later(260);
    return one;
  };

  it('asks for the taxes of a pay as somebody begins, and shows each with its working', async () => {
    const one = await shown();
    await one.answer('GET', 'pay=1000.00', scale);
    expect(one.text).toContain('Tax year 2026-27');
    expect(one.text).toContain('the same paid with 20 pay dates before');
    expect(one.text).toContain('Withholding 143.00');
    expect(one.text).toContain('A levy from the employer 12.00');
    expect(one.text).toContain('Something to look at.');
    await one.press('A levy');
    expect([...one.element.querySelectorAll('h3')].at(-1)?.textContent).toBe('A levy');
  });

  it('asks again for other details, and says why they cannot be', async () => {
    const one = await shown();
    await one.answer('GET', 'pay=1000.00', scale);
    await one.fill('Pay of a period', '2000');
    await later(260);
    await one.answer('GET', 'pay=2000', refused('Tax details are missing or cannot be. Correct what is marked.'), 422);
    expect(one.text).toContain('Tax details are missing');
  });

  it('prints the table of what is chosen', async () => {
    const one = await shown();
    await one.answer('GET', 'pay=1000.00', scale);
    const link = [...one.element.querySelectorAll('a')].find((found) => found.textContent.includes('Print the table'));
    const query = new URL(link?.href ?? '', 'http://x').searchParams;
    expect([query.get('from'), query.get('to'), query.get('step'), query.get('frequency')]).toEqual([
      '500.00',
      '2500.00',
      '50.00',
      'weekly',
    ]);
    expect(JSON.parse(query.get('details') ?? '{}')).toEqual(jasmine.objectContaining({ status: 'resident', state: 'ACT' }));
  });
});
