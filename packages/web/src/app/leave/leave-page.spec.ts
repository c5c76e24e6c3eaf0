import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import type { LeavePage, LeaveRequest } from '@woodruff/contract';
import { part, type Part } from '../../testing/part';
import { LeavePageView } from './leave-page';
import { leaveStore } from './leave.store';

const request = (id: string, state: LeaveRequest['state']): LeaveRequest => ({
  id,
  personId: 'farrow',
  name: 'Edda Farrow',
  department: 'Hot shop',
  planId: 'vacation',
  plan: 'Vacation',
  from: '2026-11-25',
  to: '2026-11-27',
  days: [{ date: '2026-11-25', hours: '8' }],
  hours: '16.00',
  note: id,
  state,
  comment: '',
  version: 1,
  taken: 0,
  by: 'O. Mirren',
});
const person = (index: number, plans: LeavePage['people'][number]['plans']) => ({
  personId: `p${index}`,
  name: `Person ${String(index).padStart(2, '0')}`,
  code: `P${index}`,
  department: index % 2 ? 'Hot shop' : 'Gallery',
  plans,
});
const PAGE: LeavePage = {
  from: '2026-11-01',
  to: '2026-11-30',
  off: [{ date: '2026-11-26', label: 'Thanksgiving' }],
  plans: [{ id: 'vacation', code: 'vacation', people: 2, terms: [] }],
  requests: [request('asked', 'asked'), request('agreed', 'approved'), request('refused', 'declined')],
  people: [
    person(1, [
      { planId: 'vacation', plan: 'Vacation', balance: 2_684, ahead: 800 },
      { planId: 'sick', plan: 'Sick leave', balance: -400, ahead: 0 },
    ]),
    person(2, [{ planId: 'sick', plan: 'Sick leave', balance: 4_000, ahead: 0 }]),
  ],
};

describe('The page of leave', () => {
  let shown: Part<LeavePageView>;
  async function open(more: Partial<LeavePage> = {}, role: 'clerk' | 'viewer' = 'clerk') {
    shown = await part(
      LeavePageView,
      {},
      {
        role,
        stores: [leaveStore as never],
        arrives: [leaveStore.loaded({ data: { ...PAGE, ...more } })],
      },
    );
  }
  const balances = () => [...shown.element.querySelectorAll('table.lines')].at(-1)!.querySelectorAll<HTMLTableRowElement>('tr');
  const cells = (row: HTMLTableRowElement | undefined) => [...(row?.cells ?? [])].map((cell) => cell.innerText.replace(/\s+/g, ' ').trim());

  it('parts what is to be decided from what is approved; what was declined is with neither', async () => {
    await open();
    const waiting = shown.element.querySelector('.first')!.textContent;
    expect([waiting.includes('asked'), waiting.includes('agreed'), shown.text.includes('refused')]).toEqual([true, false, false]);
    expect(shown.text).toContain('The approved leave of this month');
    await open({ requests: [] });
    expect(shown.text).toContain('Nothing waits for a decision.');
  });

  it('lists balances by plan, with what is approved ahead, and marks those below zero', async () => {
    await open();
    const rows = [...balances()];
    expect(rows.map(cells)).toEqual([
      ['Person', 'Department', 'Vacation', 'Sick leave'],
      ['Person 01', 'Hot shop', '8.00 approved ahead of 26.84', '−4.00'],
      ['Person 02', 'Gallery', '–', '40.00'],
    ]);
    expect(rows[1]?.querySelector('.attention')?.textContent).toBe('−4.00');
  });

  it('finds somebody among many, of whom fifty are shown at first', async () => {
    await open({ people: Array.from({ length: 60 }, (_none, index) => person(index, PAGE.people[1]!.plans)) });
    expect(balances().length).toBe(51);
    await shown.press('Show all 60');
    expect(balances().length).toBe(61);
    await shown.fill('Find somebody among the balances', 'person 59');
    expect([...balances()].slice(1).map((row) => cells(row)[0])).toEqual(['Person 59']);
  });

  it('goes from month to month', async () => {
    await open();
    expect(shown.text).toContain('November 2026');
    const went = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    await shown.press('Month after');
    await shown.press('Month before');
    expect(went.calls.allArgs().map(([, more]) => more?.queryParams)).toEqual([{ month: '2026-12' }, { month: '2026-10' }]);
  });

  it('says what to do first, and lets a viewer only read', async () => {
    await open({ plans: [], people: [], requests: [] });
    expect(shown.text).toContain('No leave plan yet.');
    expect(shown.buttons()).not.toContain('Ask for leave');
    await open({ people: [] });
    expect(shown.text).toContain('Nobody is in a leave plan yet.');
    await open({}, 'viewer');
    expect(shown.buttons()).not.toContain('Ask for leave');
    await open();
    expect(shown.buttons()).toContain('Ask for leave');
  });
});
