import { HttpErrorResponse, provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { provideEffects } from '@ngrx/effects';
import { provideState, provideStore, Store } from '@ngrx/store';
import type { Session } from '@woodruff/contract';
import { peopleStore } from '../people/people.store';
import { sessionActions, sessionFeature } from '../session/session.store';
import { Api, problemOf } from './api';

describe('Calls to the server', () => {
  beforeEach(() => {
    TestBed.configureTestingModule({
      providers: [
        provideStore(),
        provideState(sessionFeature),
        provideState(peopleStore.name, peopleStore.reducer),
        provideEffects(peopleStore.effects),
        provideHttpClient(),
        provideHttpClientTesting(),
      ],
    });
    TestBed.inject(Store).dispatch(
      sessionActions.signedIn({
        session: {
          user: { id: 'u', name: 'U', email: 'u' },
          csrfToken: '',
          employers: [{ id: 'emp', name: 'E', role: 'clerk', country: 'US', currency: 'USD', today: '2026-11-23', demo: true }],
        } as unknown as Session,
      }),
    );
  });

  it('go to the employer that is open, by the names of the contract', () => {
    expect(TestBed.inject(Api).url('whyDifferent', { path: { id: 'p/1' }, query: { compared: 'us.fit' } })).toBe(
      '/api/employers/emp/payslips/p%2F1/difference?compared=us.fit',
    );
  });

  it('fill a page’s store, or its problem', () => {
    const store = TestBed.inject(Store);
    const http = TestBed.inject(HttpTestingController);
    const data = store.selectSignal(peopleStore.selectData);
    const problem = store.selectSignal(peopleStore.selectProblem);
    store.dispatch(peopleStore.load({ input: {} }));
    expect(store.selectSignal(peopleStore.selectLoading)()).toBeTrue();
    http.expectOne('/api/employers/emp/people').flush([{ id: '1' }]);
    expect(data()?.length).toBe(1);
    store.dispatch(peopleStore.load({ input: {}, keep: true }));
    http
      .expectOne('/api/employers/emp/people')
      .flush({ detail: 'The database does not answer.', code: 'database' }, { status: 503, statusText: 'x' });
    expect(problem()?.detail).toBe('The database does not answer.');
    expect(data()?.length).withContext('what was there stays').toBe(1);
  });

  it('that find no server say so and that nothing typed is lost', () => {
    expect(problemOf(new HttpErrorResponse({ status: 0 })).detail).toContain('What you typed is kept');
    expect(problemOf(new Error('x')).code).toBe('page');
  });
});
