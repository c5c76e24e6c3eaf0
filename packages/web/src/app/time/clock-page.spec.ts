import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import type { Clock } from '@woodruff/contract';
import { part, refused, type Part } from '../../testing/part';
import { ClockPage } from './clock-page';
import { clockStore } from './time.store';

const CLOCK: Clock = {
  date: '2026-11-12',
  scheduleId: 'fortnightly',
  from: '2026-11-08',
  to: '2026-11-21',
  punches: [{ id: 1, code: 'G-104', name: 'Ines Halloway', at: '2026-11-12 06:58', kind: 'in' }],
  inPeriod: { punches: 41, people: 3 },
};

describe('The time clock', () => {
  let shown: Part<ClockPage>;

  async function clock(role: 'clerk' | 'viewer' = 'clerk'): Promise<void> {
    shown = await part(
      ClockPage,
      { date: '2026-11-12' },
      { stores: [clockStore as never], arrives: [clockStore.loaded({ data: CLOCK })], role },
    );
  }

  it('shows the punches of a day as they came, and how many the period has', async () => {
    await clock();
    expect(shown.text).toContain('06:58 came Ines Halloway G-104');
    expect(shown.text).toContain('41 punches of 3 people.');
  });

  it('takes a badge code and says whose it was', async () => {
    await clock();
    await shown.fill('Code on the badge', 'G-104');
    await shown.fill('At', '15:31');
    await shown.press('Out');
    expect(await shown.answer('POST', '/clock/punches', { name: 'Ines Halloway', at: '2026-11-12 15:31' })).toEqual({
      code: 'G-104',
      kind: 'out',
      at: '2026-11-12T15:31',
    });
    expect(shown.text).toContain('Ines Halloway went at 15:31.');
  });

  it('says when a code is nobody’s, and forgets who punched before', async () => {
    await clock();
    await shown.fill('Code on the badge', 'G-104');
    await shown.press('In');
    await shown.answer('POST', '/clock/punches', { name: 'Ines Halloway', at: '2026-11-12 07:00' });
    await shown.fill('Code on the badge', 'X-1');
    await shown.press('In');
    await shown.answer('POST', '/clock/punches', refused('Nobody has the code X-1.'), 422);
    expect(shown.text).toContain('Nobody has the code X-1.');
    expect(shown.text).not.toContain('Ines Halloway came at');
  });

  it('records a period once only', async () => {
    await clock();
    await shown.press('Let it record the whole period');
    await shown.answer('POST', '/clock/simulation', { punches: 0 });
    expect(shown.text).toContain('The period was recorded already.');
  });

  it('goes from day to day by the address', async () => {
    await clock();
    const navigate = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    await shown.press('Day after');
    expect(navigate).toHaveBeenCalledWith([], { queryParams: { date: '2026-11-13' } });
  });

  it('takes no punch from a viewer', async () => {
    await clock('viewer');
    expect(shown.button('In').disabled).toBeTrue();
    expect(shown.buttons()).not.toContain('Let it record the whole period');
  });
});
