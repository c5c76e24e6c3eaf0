import { HttpErrorResponse, type HttpInterceptorFn } from '@angular/common/http';
import { inject } from '@angular/core';
import { Actions, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { catchError, switchMap, take, throwError } from 'rxjs';
import { sessionActions, sessionFeature } from './session.store';

/**
 * Sends the session's token with every change. When the session has ended, the request waits until somebody signs in
 * again over the open page and is then sent once more: nothing typed is lost.
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
      store.dispatch(sessionActions.expired());
      return actions.pipe(
        ofType(sessionActions.signedIn),
        take(1),
        switchMap(() => next(withToken())),
      );
    }),
  );
};
