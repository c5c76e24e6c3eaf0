import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { provideState, provideStore, Store } from '@ngrx/store';
import type { Session, Timeline } from '@woodruff/contract';
import { sessionActions, sessionFeature } from '../session/session.store';
import { Dateline } from './dateline';
import { timelineStore } from './timeline.store';

describe('The dateline', () => {
  const timeline: Timeline = {
    rows: [
      {
        schedule: 'Fortnightly',
        scheduleId: 's',
        periods: [
          { from: '2026-10-25', to: '2026-11-07', payDate: '2026-11-13', runId: 'old', state: 'approved', extra: false },
          { from: '2026-11-08', to: '2026-11-21', payDate: '2026-11-27', runId: 'new', state: 'open', extra: false },
          { from: '2026-11-22', to: '2026-12-05', payDate: '2026-12-11', runId: null, state: 'none', extra: true },
        ],
      },
    ],
    due: [{ date: '2026-12-15', what: 'Federal deposit', amount: 100, link: '/filings/941/2026-Q4', overdue: false }],
    holidays: [{ date: '2026-11-25', label: 'Founder’s day' }],
  };

  function line(today = '2026-11-23') {
    TestBed.configureTestingModule({
      providers: [provideStore(), provideState(sessionFeature), provideState(timelineStore.name, timelineStore.reducer), provideRouter([])],
    });
    const store = TestBed.inject(Store);
    store.dispatch(
      sessionActions.signedIn({
        session: {
          user: { id: 'u', name: 'U', email: 'u' },
          csrfToken: '',
          employers: [{ id: 'e', name: 'E', role: 'clerk', country: 'US', currency: 'USD', today, demo: true }],
        } as unknown as Session,
      }),
    );
    const fixture = TestBed.createComponent(Dateline);
    fixture.detectChanges();
    store.dispatch(timelineStore.loaded({ data: timeline }));
    fixture.detectChanges();
    const element = fixture.nativeElement as HTMLElement;
    const mark = (label: string) =>
      [...element.querySelectorAll('g')].find((candidate) => candidate.getAttribute('aria-label')?.includes(label))!;
    return { fixture, element, mark, go: spyOn(TestBed.inject(Router), 'navigateByUrl') };
  }

  it('opens periods, pay dates and what is due', () => {
    const { mark, go } = line();
    mark('8 – 21 Nov 2026').dispatchEvent(new MouseEvent('click'));
    mark('Pay date Fri 13 Nov 2026').dispatchEvent(new MouseEvent('click'));
    mark('Federal deposit, due Tue 15 Dec 2026').dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    mark('22 Nov – 5 Dec 2026').dispatchEvent(new MouseEvent('click'));
    expect(go.calls.allArgs().map(([url]) => url as string)).toEqual(['/pay-runs/new', '/pay-runs/old', '/filings/941/2026-Q4', '/today']);
  });

  it('says in words what its shapes show: the next pay date, and one more than usual', () => {
    const { element, mark } = line();
    expect(element.textContent).toContain('27 pay');
    expect(mark('Pay date Fri 11 Dec 2026').getAttribute('aria-label')).toContain('one more than usual this year');
  });

  it('shows own holidays as days in grey, with their names', () => {
    const { mark } = line();
    expect(mark('Founder’s day, Wed 25 Nov 2026: nothing is paid').querySelector('rect')?.getAttribute('width')).toBe('15');
  });

  it('writes no caption over another: near the first of a month its name moves aside', () => {
    const captions = (today: string) => {
      TestBed.resetTestingModule();
      const { element } = line(today);
      return [...element.querySelectorAll('text')]
        .map((text) => ({ text: text.textContent, from: Number(text.getAttribute('x')) }))
        .sort((a, b) => a.from - b.from);
    };
    for (const today of ['2026-11-26', '2026-11-27', '2026-11-30', '2026-12-01', '2026-12-02', '2026-12-06']) {
      const all = captions(today);
      expect(all.map(({ text }) => text)).toContain('today');
      all.forEach(({ text, from }, index) => {
        const next = all[index + 1];
        if (next)
          expect(next.from)
            .withContext(`${today}: ${text} and ${next.text}`)
            .toBeGreaterThan(from + text.length * 6);
      });
    }
  });

  it('folds to a thin line', () => {
    const { fixture, element } = line();
    element.querySelector<HTMLButtonElement>('.fold')!.click();
    fixture.detectChanges();
    expect(element.querySelector('svg')?.getAttribute('height')).toBe('14');
    expect(element.querySelectorAll('g').length).toBe(0);
  });
});
