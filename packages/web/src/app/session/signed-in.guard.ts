import { inject } from '@angular/core';
import { Router, type CanActivateFn } from '@angular/router';
import { Store } from '@ngrx/store';
import { catchError, map, of } from 'rxjs';
import { Api } from '../api/api';
import { sessionActions, sessionFeature } from './session.store';

/** Lets through who is signed in; restores the session after the page was loaded anew. */
export const signedIn: CanActivateFn = () => {
  const store = inject(Store);
  const router = inject(Router);
  if (store.selectSignal(sessionFeature.selectSession)()) return true;
  return inject(Api)
    .call('session')
    .pipe(
      map((session) => {
        store.dispatch(sessionActions.restored({ session }));
        return true;
      }),
      catchError(() => of(router.createUrlTree(['/sign-in']))),
    );
};
