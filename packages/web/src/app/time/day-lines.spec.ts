import type { TimePage, TimeRow } from '@woodruff/contract';
import { part } from '../../testing/part';
import { timeRow } from '../../testing/time';
import { datesOf, DayLines } from './day-lines';

const PAGE = {
  from: '2026-11-08',
  to: '2026-11-21',
  items: [
    { code: 'vacation', name: 'Vacation', per: 'hours' },
    { code: 'vases', name: 'Vases', per: 'pieces' },
    { code: 'tips', name: 'Tips', per: 'tips' },
  ],
} as unknown as TimePage;
const line = (date: string, hours: string, more: object = {}) => ({
  date,
  hours,
  begins: null,
  ends: null,
  breakMinutes: 0,
  rate: null,
  item: null,
  place: '',
  ...more,
});
const row = (lines: object[], more: object = {}): TimeRow =>
  timeRow('p', 'Farrow, Edda', { rates: [{ id: '2', label: 'Cold shop: Cold worker' }], lines, ...more });

describe('One person’s days', () => {
  const shown = (of: TimeRow, editable = true) => part(DayLines, { row: of, page: PAGE, editable });
  const saved = async (of: TimeRow, change: (one: Awaited<ReturnType<typeof shown>>) => Promise<void>) => {
    const one = await shown(of);
    const given = one.given(one.fixture.componentInstance.saved);
    await change(one);
    await one.press('Save these days');
    return given[0];
  };

  it('are all days of the period', () => {
    expect(datesOf('2026-10-31', '2026-11-02')).toEqual(['2026-10-31', '2026-11-01', '2026-11-02']);
  });

  it('say why a sheet came back and what is doubtful', async () => {
    const one = await shown(row([], { comment: 'Tuesday is missing', points: ['Nothing on Tue 10 Nov'] }));
    expect(one.text).toContain('Returned: Tuesday is missing');
    expect(one.text).toContain('Nothing on Tue 10 Nov');
    expect(one.text).toContain('No time entered.');
  });

  it('are saved by the clock with the break, and then not by hours', async () => {
    const lines = await saved(row([line('2026-11-09', '8')]), async (one) => {
      await one.fill('Begin, line 1', '07:00');
      await one.fill('End, line 1', '15:30');
      await one.fill('Break in minutes, line 1', '30');
    });
    expect(lines).toEqual([jasmine.objectContaining({ hours: null, begins: '07:00', ends: '15:30', breakMinutes: 30 })]);
  });

  it('take a rate by the position it is for', async () => {
    const lines = await saved(row([line('2026-11-09', '8')]), async (one) => {
      const rate = one.field('Rate, line 1') as unknown as HTMLSelectElement;
      expect([...rate.options].map((option) => option.textContent.trim())).toEqual(['primary rate', 'Cold shop: Cold worker']);
      await one.fill('Rate, line 1', rate.options[1]!.value);
    });
    expect(lines?.[0]?.rate).toBe('2');
  });

  it('ask for pieces or tips where the item counts them, and send them as such', async () => {
    const lines = await saved(row([line('2026-11-09', '8')]), async (one) => {
      const item = () => one.field('Kind, line 1') as unknown as HTMLSelectElement;
      await one.fill('Kind, line 1', item().options[2]!.value);
      expect(one.text).toContain('pieces');
      await one.fill('Pieces, line 1', '12');
    });
    expect(lines).toEqual([jasmine.objectContaining({ item: 'vases', quantity: '12' })]);
  });

  it('get another line on the next day, and lose one', async () => {
    const one = await shown(row([line('2026-11-09', '8')]));
    expect(one.buttons()).not.toContain('Save these days');
    await one.press('Another line');
    expect(one.field('Day, line 2').value).toBe('2026-11-10');
    await one.press('Take line 1 off');
    expect(one.field('Day, line 1').value).toBe('2026-11-10');
    expect(one.buttons()).toContain('Save these days');
  });

  it('of a locked period are read only', async () => {
    const one = await shown(row([line('2026-11-09', '8')]), false);
    expect(one.buttons()).toEqual([]);
    expect(one.element.querySelector('fieldset')?.disabled).toBeTrue();
  });

  it('open hours to the rule that made them', async () => {
    const working = {
      key: 'time:overtime:primary',
      label: 'Hours by the time rules',
      amount: '2.00',
      unit: 'hours',
      steps: [{ operation: 'start', label: 'Fri 13 Nov 2026, over 40 in the week', operand: '2.00', result: '2.00' }],
      sources: [],
      notes: [],
      facts: [],
    };
    const paid = [{ item: 'overtime', label: 'Overtime', hours: '2.00', figure: 'time:overtime:primary' }];
    const one = await shown(row([line('2026-11-13', '10')], { paid, workings: { [working.key]: working } }));
    await one.press('Overtime');
    expect(one.text).toContain('over 40 in the week');
    await one.press('Overtime');
    expect(one.text).not.toContain('over 40 in the week');
  });
});
