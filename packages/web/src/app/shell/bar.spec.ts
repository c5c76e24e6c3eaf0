import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { provideState, provideStore, Store } from '@ngrx/store';
import type { Session } from '@woodruff/contract';
import { of } from 'rxjs';
import { Api } from '../api/api';
import { sessionActions, sessionFeature } from '../session/session.store';
import { Bar } from './bar';

describe('The bar', () => {
  const employer = (name: string, beingPlayed: boolean) => ({
    id: name,
    name,
    role: 'clerk',
    today: '2026-03-04',
    demo: true,
    beingPlayed,
  });
  const session = (beingPlayed: boolean): Session =>
    ({
      user: { id: 'u', name: 'Una Works', email: 'u' },
      csrfToken: '',
      employers: [employer('Quillmere', false), employer('Tamarind', beingPlayed)],
    }) as unknown as Session;

  it('keeps closed an employer that the demo still plays, and looks again each time the list is opened', () => {
    let asked = 0;
    TestBed.configureTestingModule({
      providers: [
        provideStore(),
        provideState(sessionFeature),
        provideRouter([]),
        { provide: Api, useValue: { call: () => (asked++, of(session(false))) } },
      ],
    });
    TestBed.inject(Store).dispatch(sessionActions.signedIn({ session: session(true) }));
    const fixture = TestBed.createComponent(Bar);
    fixture.detectChanges();
    const page = fixture.nativeElement as HTMLElement;
    const other = () =>
      [...page.querySelectorAll<HTMLButtonElement>('.employer [ngbDropdownItem]')].find((item) => item.textContent?.includes('Tamarind'));
    expect(other()?.disabled).toBeTrue();
    expect(other()?.textContent).toContain('still being played, now at Wed 4 Mar 2026');
    for (let turn = 0; turn < 3; turn++) {
      page.querySelector<HTMLButtonElement>('.employer [ngbDropdownToggle]')!.click();
      fixture.detectChanges();
    }
    expect(asked).withContext('asked while something was closed, and then no more').toBe(1);
    expect(other()?.disabled).toBeFalse();
  });
});
