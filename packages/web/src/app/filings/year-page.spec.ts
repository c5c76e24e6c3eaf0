import type { BoxMap, YearPlan } from '@woodruff/contract';
import { part } from '../../testing/part';
import { BoxesPage } from './boxes-page';
import { boxMapStore, yearStore } from './filings.store';
import { YearPage } from './year-page';

const step = { date: '2027-02-01', link: null, byHand: null, canBeSaid: false, how: '' };
const plan: YearPlan = {
  year: '2026',
  from: '2026-01-01',
  to: '2026-12-31',
  today: '2027-01-11',
  current: '2027',
  years: ['2027', '2026', '2025'],
  steps: [
    { ...step, code: 'filing', what: 'Form 941, quarter 1', state: 'done', how: 'Accepted.' },
    { ...step, code: 'given', what: 'Form W-2 given to people', state: 'late', link: '/filings/w-2/2026' },
    { ...step, code: 'turn-2026-12-01', what: 'Remind employees', state: 'open', canBeSaid: true },
  ],
  toFix: [
    { sentence: 'A name is long.', weight: 'look', who: { personId: 'p1', name: 'Ada Kiln' }, link: '/people/p1' },
    { sentence: 'A number is missing.', weight: 'stop', who: { personId: 'p2', name: 'Bo Kiln' }, link: '/people/p2' },
  ],
  ahead: [{ code: 'rate', sentence: 'Enter the rate.', done: false, source: 'A notice', link: '/employer#registrations', people: [] }],
  ending: [],
  filings: [
    {
      filing: 'w-2',
      period: '2026',
      title: 'Form W-2, 2026',
      due: '2027-02-01',
      state: 'accepted',
      attempts: 2,
      given: { of: 35, given: 12 },
    },
  ],
};

describe("A year's end", () => {
  const shown = () =>
    part(YearPage, { year: '2026' }, { role: 'clerk', stores: [yearStore as never], arrives: [yearStore.loaded({ data: plan })] });

  it('says which year one is in, what is left, and what stops a statement first', async () => {
    const one = await shown();
    expect(one.text).toContain('a past year: you are in 2027');
    expect(one.text).toContain('2 steps are open now, 1 of 3 are done');
    expect(one.text).not.toContain('Form 941, quarter 1');
    expect(one.text.indexOf('A number is missing')).toBeLessThan(one.text.indexOf('A name is long'));
    await one.press('1 done');
    expect(one.text).toContain('Form 941, quarter 1');
    expect(one.text).toContain('12 of 35 given');
  });

  it('leads to a part of a page', async () => {
    const one = await shown();
    expect(one.element.querySelector('a[href="/employer#registrations"]')).not.toBeNull();
  });

  it('lets a reminder be said to be done', async () => {
    const one = await shown();
    await one.press('Remind employees: done …');
    await one.press('It is done');
    expect(await one.answer('POST', '/years/2026/turn-2026-12-01', {})).toEqual({ done: true, note: '' });
  });
});

describe('Items and boxes', () => {
  const item = { kind: 'deduction', treatment: 'After tax', posted: 100, boxes: [], none: null, put: null, astray: false };
  const map: BoxMap = {
    year: '2026',
    filings: [
      {
        filing: 'w-2',
        name: 'Form W-2',
        items: [
          {
            ...item,
            id: 'i1',
            code: 'pay',
            name: 'Regular',
            open: false,
            offered: [],
            boxes: [{ box: '1', label: 'Wages', lowers: false }],
          },
          {
            ...item,
            id: 'i2',
            code: 'club',
            name: 'Savings club',
            open: true,
            offered: [{ filing: 'w-2', box: '14', label: 'Other', words: true }],
          },
        ],
      },
    ],
  };
  const shown = () =>
    part(BoxesPage, { year: '2026' }, { role: 'clerk', stores: [boxMapStore as never], arrives: [boxMapStore.loaded({ data: map })] });

  it('have those without a box first, and count them', async () => {
    const one = await shown();
    expect(one.text).toContain('1 item has no box yet');
    expect(one.text.indexOf('Savings club')).toBeLessThan(one.text.indexOf('Regular'));
  });

  it('ask for the words that a box wants before the item is put there', async () => {
    const one = await shown();
    const [chooser] = one.element.querySelectorAll('select');
    chooser!.value = 'w-2 14';
    chooser!.dispatchEvent(new Event('change'));
    await one.fixture.whenStable();
    one.fixture.detectChanges();
    const words = one.element.querySelector<HTMLInputElement>('input[name="words"]')!;
    words.value = 'CLUB';
    words.dispatchEvent(new Event('input'));
    await one.press('Put it there');
    expect(await one.answer('PUT', '/filings/boxes', {})).toEqual({
      year: '2026',
      items: [{ id: 'i2', put: { filing: 'w-2', box: '14', label: 'CLUB' } }],
    });
  });
});
