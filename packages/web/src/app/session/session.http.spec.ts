import { HttpClient, provideHttpClient, withInterceptors } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { provideEffects } from '@ngrx/effects';
import { provideState, provideStore, Store } from '@ngrx/store';
import type { Session } from '@woodruff/contract';
import { sessionInterceptor } from './session.http';
import { sessionActions, sessionFeature } from './session.store';

const session = (csrfToken: string, id = 'u'): Session => ({
  user: { id, name: 'U', email: 'u@example.test' },
  csrfToken,
  secondFactor: false,
  authenticator: false,
  employers: [],
});

describe('A session that ends mid-edit', () => {
  it('holds the request until somebody signs in again, and sends it once more with the new token', () => {
    TestBed.configureTestingModule({
      providers: [
        provideStore(),
        provideState(sessionFeature),
        provideEffects(),
        provideHttpClient(withInterceptors([sessionInterceptor])),
        provideHttpClientTesting(),
      ],
    });
    const store = TestBed.inject(Store);
    const http = TestBed.inject(HttpTestingController);
    store.dispatch(sessionActions.signedIn({ session: session('old') }));
    const answers: unknown[] = [];
    TestBed.inject(HttpClient)
      .patch('/api/x', { hours: '70.00' })
      .subscribe((answer) => answers.push(answer));
    const first = http.expectOne('/api/x');
    expect(first.request.headers.get('x-csrf-token')).toBe('old');
    first.flush({ code: 'signed-out' }, { status: 401, statusText: 'Unauthorized' });
    expect(store.selectSignal(sessionFeature.selectExpired)()).toBeTrue();
    http.expectNone('/api/x');
    store.dispatch(sessionActions.signedIn({ session: session('new') }));
    const second = http.expectOne('/api/x');
    expect(second.request.headers.get('x-csrf-token')).toBe('new');
    expect(second.request.body).toEqual({ hours: '70.00' });
    second.flush({ saved: true });
    expect(answers).toEqual([{ saved: true }]);
    expect(store.selectSignal(sessionFeature.selectExpired)()).toBeFalse();
  });

  it('is not sent as somebody else: it stays on the page', () => {
    TestBed.configureTestingModule({
      providers: [
        provideStore(),
        provideState(sessionFeature),
        provideEffects(),
        provideHttpClient(withInterceptors([sessionInterceptor])),
        provideHttpClientTesting(),
      ],
    });
    const store = TestBed.inject(Store);
    const http = TestBed.inject(HttpTestingController);
    store.dispatch(sessionActions.signedIn({ session: session('old') }));
    const problems: unknown[] = [];
    TestBed.inject(HttpClient)
      .patch('/api/x', { hours: '70.00' })
      .subscribe({ error: (error: unknown) => problems.push(error) });
    http.expectOne('/api/x').flush({ code: 'signed-out' }, { status: 401, statusText: 'Unauthorized' });
    store.dispatch(sessionActions.signedIn({ session: session('new', 'somebody-else') }));
    http.expectNone('/api/x');
    expect(problems.length).toBe(1);
  });
});
