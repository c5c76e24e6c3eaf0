import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { LeavePage, LeaveRequest } from '@woodruff/contract';
import { LeaveCalendar } from './leave-calendar';

const request = (name: string, state: LeaveRequest['state'], ...dates: string[]): LeaveRequest => ({
  id: name,
  personId: name,
  name,
  department: 'Hot shop',
  planId: 'v',
  plan: 'Vacation',
  from: dates[0] ?? '',
  to: dates.at(-1) ?? '',
  days: dates.map((date) => ({ date, hours: '8' })),
  hours: '8',
  note: '',
  state,
  comment: '',
  version: 1,
  taken: 0,
  by: '',
});

describe('The calendar of leave', () => {
  function shown(...requests: LeaveRequest[]): HTMLElement {
    TestBed.configureTestingModule({ providers: [provideRouter([])] });
    const fixture = TestBed.createComponent(LeaveCalendar);
    const page: LeavePage = {
      from: '2026-11-01',
      to: '2026-11-30',
      off: [{ date: '2026-11-26', label: 'Bank holiday' }],
      plans: [],
      requests,
      people: [],
    };
    fixture.componentRef.setInput('page', page);
    fixture.detectChanges();
    return fixture.nativeElement as HTMLElement;
  }

  it('marks days, and counts in a department who is away for certain', () => {
    const element = shown(request('Ines', 'approved', '2026-11-24', '2026-11-25'), request('Oda', 'asked', '2026-11-25'));
    const counts = [...element.querySelectorAll('tr.department td')].map((cell) => cell.textContent.trim());
    expect([counts[23], counts[24]]).toEqual(['1', '1']);
    expect(element.querySelectorAll('td.away').length).toBe(3);
    expect(element.querySelectorAll('td.asked').length).toBe(1);
    expect(element.querySelector('td.asked span')?.getAttribute('aria-label')).toBe('Oda, Wed 25 Nov 2026: Vacation, 8 hours, asked');
  });

  it('leaves out days of other months, and says so when nobody is away', () => {
    expect(shown(request('Ines', 'approved', '2026-12-01')).textContent).toContain('Nobody is away this month.');
  });
});
