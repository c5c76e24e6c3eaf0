import type { NoticesPage, NoticesRead } from '@woodruff/contract';
import { part, refused, type Part } from '../../testing/part';
import { NoticesPageView } from './notices-page';
import { noticesStore } from './notices.store';

const ID = '00000000-0000-4000-8000-000000000001';
const PAGE: NoticesPage = {
  rules: {
    title: 'Notices of the tax agency',
    format: 'XML of coding notices',
    general: {
      title: 'Codes of the new tax year',
      help: 'As form P9X says it.',
      fields: [
        { key: 'L', label: 'Added to codes with L', kind: 'count', choices: [] },
        { key: 'marks', label: 'Week 1 / month 1', kind: 'choice', choices: [{ value: 'drop', label: 'Marks are gone' }] },
      ],
    },
  },
  used: [{ personId: ID, name: 'Pugh, Huw', label: 'tax code 1257L', issued: '2026-03-01', from: '2026-04-06', by: 'A. Clerk', at: '' }],
};
const READ: NoticesRead = {
  faults: ['Notice 3, Nia Harries: the code “1257Q” cannot exist.'],
  rows: [
    { label: 'tax code 1100L', name: 'Lewis, Sioned', issued: '2026-11-10', from: '2026-11-16', personId: ID, problem: null, used: false },
    {
      label: 'tax code 900L',
      name: 'Pugh, Huw',
      issued: '2026-01-10',
      from: '2026-01-16',
      personId: ID,
      problem: 'a later notice is on file',
      used: false,
    },
    { label: 'tax code 1257L', name: 'Pugh, Huw', issued: '2026-03-01', from: '2026-04-06', personId: ID, problem: null, used: true },
  ],
};

describe('The page of notices', () => {
  let shown: Part<NoticesPageView>;
  const open = async (role: 'clerk' | 'viewer' = 'clerk') => {
    shown = await part(NoticesPageView, {}, { role, stores: [noticesStore as never], arrives: [noticesStore.loaded({ data: PAGE })] });
  };
  const fetch = async () => {
    await shown.press('Fetch from the agency');
    await shown.answer('POST', '/notices/fetch', { content: '<x/>' });
    expect(await shown.answer('POST', '/notices/check', READ)).toEqual({ content: '<x/>' });
  };

  it('fetches notices, says what is against each, and uses those that were chosen after showing what they change', async () => {
    await open();
    await fetch();
    expect(shown.text).toContain('the code “1257Q” cannot exist');
    expect(shown.text).toContain('a later notice is on file');
    expect([...shown.element.querySelectorAll('input[type=checkbox]')].length).toBe(1);
    await shown.press('Show what it changes');
    await shown.answer('POST', '/notices?rehearse=true', { people: [], unchanged: 4, runs: [] });
    await shown.press('Use 1 notice');
    expect(await shown.answer('POST', '/notices', { changed: 1 })).toEqual({ content: '<x/>', chosen: [0] });
  });

  it('keeps the list when it is refused', async () => {
    await open();
    await fetch();
    await shown.press('Show what it changes');
    await shown.answer('POST', '/notices?rehearse=true', refused('Lewis, Sioned: no tax details are on file.'), 400);
    expect(shown.text).toContain('no tax details are on file');
    expect(shown.text).toContain('tax code 1100L');
  });

  it('shows whose codes a general change changes, before it is made', async () => {
    await open();
    await shown.fill('Added to codes with L', '30');
    await shown.press('Show whose details change');
    const rows = [{ personId: ID, name: 'Pugh, Huw', before: '1257L', after: '1287L', problem: null }];
    const asked = await shown.answer('POST', '/notices/general/check', { rows, unchanged: 2 });
    expect((asked as { entered: unknown }).entered).toEqual({ L: '30', marks: 'drop' });
    expect(shown.text).toContain('1287L');
    await shown.press('Change 1 person');
    await shown.answer('POST', '/notices/general', { changed: 1 });
  });

  it('shows a reader what was used, and nothing to press', async () => {
    await open('viewer');
    expect(shown.text).toContain('tax code 1257L');
    expect(shown.buttons()).toEqual([]);
  });
});
