import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import type { TimePage } from '@woodruff/contract';
import { part, refused, type Part } from '../../testing/part';
import { timeRow as row } from '../../testing/time';
import { employerStore } from '../people/people.store';
import { TimePageView } from './time-page';
import { timeStore } from './time.store';

const worked = { date: '2026-11-09', hours: '8.00', breakMinutes: 0, place: '' };
const PAGE: TimePage = {
  scheduleId: 'fortnightly',
  schedule: 'Fortnightly',
  from: '2026-11-08',
  to: '2026-11-21',
  payDate: '2026-11-27',
  handInBy: '2026-11-23',
  earlier: '2026-10-25',
  later: '2026-11-22',
  rules: 'Overtime over 40 hours a week.',
  locked: null,
  items: [],
  rows: [
    row('pomfret', 'Gareth Pomfret', {
      state: 'submitted',
      lines: [worked],
      paid: [{ item: 'o', label: 'Ordinary', hours: '8.00', figure: '' }],
    }),
    row('dunmore', 'Imke Dunmore', {
      state: 'none',
      points: ['No sheet yet'],
      leave: [{ date: '2026-11-10', hours: '8.00', plan: 'Vacation' }],
    }),
    row('marchbanks', 'Liv Marchbanks', { state: 'approved' }),
  ],
};

describe('The time of a period', () => {
  let shown: Part<TimePageView>;

  async function page(more: Partial<TimePage> = {}, role: 'clerk' | 'viewer' = 'clerk', person = ''): Promise<void> {
    shown = await part(
      TimePageView,
      { person },
      {
        stores: [timeStore as never, employerStore as never],
        arrives: [timeStore.loaded({ data: { ...PAGE, ...more } })],
        role,
        size: [1240, 500],
      },
    );
    shown.element.querySelector<HTMLElement>('ag-grid-angular')?.style.setProperty('height', '300px');
    await shown.drawn();
  }
  const cell = (name: string, column: string): HTMLElement => {
    const line = [...shown.element.querySelectorAll('.ag-row')].find((one) => one.textContent.includes(name));
    return line!.querySelector<HTMLElement>(`[col-id="${column}"]`)!;
  };
  const focus = async (line: number, column: string) => {
    shown.fixture.componentInstance['grid']?.setFocusedCell(line, column);
    await shown.drawn();
  };

  it('is told day by day: what was worked, what was leave, what is missing', async () => {
    await page();
    expect(shown.text).toContain('3 paid by the hour, 1 approved, 1 to look at');
    expect(cell('Pomfret', '2026-11-09').textContent).toContain('8');
    expect(cell('Dunmore', '2026-11-10').textContent.trim()).toBe('V 8.00');
    expect(cell('Dunmore', '2026-11-09').textContent.trim()).toBe('–');
    expect(shown.text).toContain('No sheet yet');
  });

  it('is typed into a day, and saved on top of what the sheet holds by now', async () => {
    await page();
    await focus(0, '2026-11-10');
    cell('Pomfret', '2026-11-10').dispatchEvent(new KeyboardEvent('keydown', { key: '7', bubbles: true }));
    await shown.drawn();
    const input = cell('Pomfret', '2026-11-10').querySelector('input')!;
    input.value = '7.5';
    input.dispatchEvent(new Event('input', { bubbles: true }));
    input.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
    await shown.drawn();
    const sent = (await shown.answer('PUT', '/time', {})) as { sheets: { version: number; lines: { date: string; hours: string }[] }[] };
    expect(sent.sheets[0]?.version).toBe(1);
    expect(sent.sheets[0]?.lines.map((line) => [line.date, Number(line.hours)])).toEqual([
      ['2026-11-09', 8],
      ['2026-11-10', 7.5],
    ]);
    const now = row('pomfret', 'Gareth Pomfret', { version: 2, lines: [worked, { ...worked, date: '2026-11-10', hours: '7.50' }] });
    await shown.answer('GET', '&person=pomfret', { ...PAGE, rows: [now] });
    await shown.drawn();
    expect(cell('Pomfret', '2026-11-10').textContent).toContain('7.5');
  });

  it('takes a block from a spreadsheet, a sheet for each of its lines, one after another', async () => {
    await page();
    await focus(0, '2026-11-09');
    await shown.paste('8\t8\n6\t6.25');
    const first = (await shown.answer('PUT', '/time', {})) as { sheets: { personId: string; lines: unknown[] }[] };
    expect([first.sheets[0]?.personId, first.sheets[0]?.lines.length]).toEqual(['pomfret', 2]);
    await shown.answer('GET', '&person=pomfret', { ...PAGE, rows: [PAGE.rows[0]] });
    const second = (await shown.answer('PUT', '/time', {})) as { sheets: { personId: string; lines: unknown[] }[] };
    expect([second.sheets[0]?.personId, second.sheets[0]?.lines.length]).toEqual(['dunmore', 2]);
  });

  it('does not stop at a sheet that somebody else changed meanwhile', async () => {
    await page();
    await focus(0, '2026-11-09');
    await shown.paste('8\n6');
    await shown.answer('PUT', '/time', refused('Somebody else changed the sheet of Gareth Pomfret meanwhile.'), 409);
    expect(shown.text).toContain('Somebody else changed the sheet of Gareth Pomfret meanwhile.');
    const next = (await shown.answer('PUT', '/time', {})) as { sheets: { personId: string }[] };
    expect(next.sheets[0]?.personId).toBe('dunmore');
  });

  it('says what it cannot read, and sends nothing of it', async () => {
    await page();
    await focus(0, '2026-11-09');
    await shown.paste('eight');
    expect(shown.text).toContain('“eight”');
    shown.asksNothing();
  });

  it('is approved for all who handed in or were keyed, not for those without a sheet', async () => {
    await page();
    await shown.press('Approve 1 sheet');
    expect(await shown.answer('POST', '/time/state', {})).toEqual(
      jasmine.objectContaining({ personIds: ['pomfret'], state: 'approved', from: '2026-11-08' }),
    );
  });

  it('is approved after what was typed is saved, and not where that was not taken', async () => {
    await page();
    await focus(0, '2026-11-09');
    await shown.paste('8');
    await shown.press('Approve 1 sheet');
    await shown.answer('PUT', '/time', {});
    await shown.answer('GET', '&person=pomfret', { ...PAGE, rows: [PAGE.rows[0]] });
    expect(await shown.answer('POST', '/time/state', {})).toEqual(jasmine.objectContaining({ personIds: ['pomfret'] }));
    await focus(0, '2026-11-09');
    await shown.paste('9');
    await shown.press('Approve 1 sheet');
    await shown.answer('PUT', '/time', refused('Somebody else changed the sheet of Gareth Pomfret meanwhile.'), 409);
    shown.asksNothing();
    expect(shown.text).toContain('Somebody else changed the sheet of Gareth Pomfret meanwhile.');
  });

  it('goes to the period before and after by the address', async () => {
    await page();
    const navigate = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    await shown.press('Earlier period');
    expect(navigate).toHaveBeenCalledWith([], { queryParams: { from: '2026-10-25', person: null }, queryParamsHandling: 'merge' });
  });

  it('once locked is unlocked with a reason only', async () => {
    await page({ locked: { by: 'O. Mirren', at: '2026-11-23T08:00:00Z' } });
    expect(shown.text).toContain('locked by O. Mirren');
    expect(shown.buttons()).not.toContain('Lock the period');
    expect(shown.element.querySelector('.entry-cell')).toBeNull();
    await shown.press('Unlock …');
    await shown.fill('Why it is unlocked', 'a sheet came late');
    await shown.press('Unlock the period');
    expect(await shown.answer('POST', '/time/unlock', {})).toEqual(jasmine.objectContaining({ reason: 'a sheet came late' }));
  });

  it('taken from the clock tells what was left aside and which punches stand open', async () => {
    await page();
    await shown.press('Import from time clock');
    await shown.answer('POST', '/time/from-clock', {
      lines: 14,
      people: 1,
      doubled: 2,
      left: ['Gareth Pomfret'],
      open: [{ name: 'Imke Dunmore', kind: 'in', at: '2026-11-12 06:58' }],
    });
    expect(shown.text).toContain('14 lines of 1 person, 2 doubled punches left aside.');
    expect(shown.text).toContain('Not touched, for they were typed or handed in: Gareth Pomfret.');
    expect(shown.text).toContain('Imke Dunmore: in at 06:58 on Thu 12 Nov 2026, and no out.');
  });

  it('is returned to one person with what is to be changed', async () => {
    await page({}, 'clerk', 'pomfret');
    await shown.answer('GET', '&person=pomfret', { ...PAGE, rows: [PAGE.rows[0]] });
    await shown.press('Return …');
    await shown.fill('What is to be changed', 'the break on Monday');
    await shown.press('Return the sheet');
    expect(await shown.answer('POST', '/time/state', {})).toEqual(
      jasmine.objectContaining({ personIds: ['pomfret'], state: 'returned', comment: 'the break on Monday' }),
    );
  });

  it('is only looked at by a viewer', async () => {
    await page({}, 'viewer');
    for (const name of ['Lock the period', 'Import from time clock', 'Approve 1 sheet']) expect(shown.buttons()).not.toContain(name);
    expect(shown.element.querySelector('.entry-cell')).toBeNull();
  });

  it('says that time is not turned into pay while its items are not chosen', async () => {
    await page({ rules: null, rows: [] });
    expect(shown.text).toContain('Time is kept, and not yet turned into pay');
    expect(shown.text).toContain('Nobody on this schedule is paid by the hour in this period.');
  });
});
