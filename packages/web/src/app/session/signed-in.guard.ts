import { inject } from '@angular/core';
import { Router, type CanActivateFn, type UrlTree } from '@angular/router';
import { Store } from '@ngrx/store';
import { catchError, map, of } from 'rxjs';
import { Api } from '../api/api';
import { selectEmployer, sessionActions, sessionFeature } from './session.store';

/** Lets through who is signed in; restores the session after the page was loaded anew. Employees have a page of their own and no other. */
export const signedIn: CanActivateFn = (_route, { url }) => {
  const store = inject(Store);
  const router = inject(Router);
  const employer = store.selectSignal(selectEmployer);
  const own = (): boolean | UrlTree => {
    const isOwn = url.startsWith('/own');
    const isEmployee = employer()?.role === 'employee';
    if (isEmployee === isOwn) return true;
    return router.createUrlTree([isEmployee ? '/own' : '/today']);
  };
  if (store.selectSignal(sessionFeature.selectSession)()) return own();
  return inject(Api)
    .call('session')
    .pipe(
      map((session) => {
        store.dispatch(sessionActions.restored({ session }));
        return own();
      }),
      catchError(() => of(router.createUrlTree(['/sign-in']))),
    );
};
