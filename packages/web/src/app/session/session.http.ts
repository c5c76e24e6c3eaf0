import { HttpErrorResponse, type HttpInterceptorFn } from '@angular/common/http';
import { inject } from '@angular/core';
import { Actions, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { catchError, switchMap, take, throwError } from 'rxjs';
import { sessionActions, sessionFeature } from './session.store';

const SENTENCE =
  'Somebody else has signed in. What was typed here was not sent: it stays on this page until its own author signs in again.';
const notTheirs = new HttpErrorResponse({
  status: 409,
  error: { code: 'somebody-else', status: 409, title: SENTENCE, detail: SENTENCE, type: '/problems/somebody-else' },
});

/**
 * Sends the session's token with every change. When the session has ended, the request waits until somebody signs in
 * again over the open page; a change is then sent once more if it is the same person: nothing typed is lost.
 */
export const sessionInterceptor: HttpInterceptorFn = (request, next) => {
  const store = inject(Store);
  const actions = inject(Actions);
  const session = store.selectSignal(sessionFeature.selectSession);
  const withToken = () =>
    request.method === 'GET' ? request : request.clone({ setHeaders: { 'x-csrf-token': session()?.csrfToken ?? '' } });
  return next(withToken()).pipe(
    catchError((error: unknown) => {
      const ended =
        error instanceof HttpErrorResponse && error.status === 401 && !request.url.endsWith('/api/session') && session() !== null;
      if (!ended) return throwError(() => error);
      const who = session()?.user.id;
      store.dispatch(sessionActions.expired());
      return actions.pipe(
        ofType(sessionActions.signedIn),
        take(1),
        // Somebody else's change is not theirs to make: it stays on the page, not sent.
        switchMap(({ session: { user } }) =>
          request.method === 'GET' || user.id === who ? next(withToken()) : throwError(() => notTheirs),
        ),
      );
    }),
  );
};
