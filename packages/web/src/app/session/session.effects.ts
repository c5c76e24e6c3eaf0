import { inject } from '@angular/core';
import { Router } from '@angular/router';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { catchError, exhaustMap, map, of, tap } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { REMEMBERED, sessionActions } from './session.store';

export const sessionEffects = {
  signIn: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(sessionActions.signIn),
        exhaustMap(({ email, password, code, passkey }) =>
          api.call('signIn', { body: { email, password, ...(code ? { code } : {}), ...(passkey ? { passkey } : {}) } }).pipe(
            map((session) => sessionActions.signedIn({ session })),
            catchError((error: unknown) => of(sessionActions.refused({ problem: problemOf(error) }))),
          ),
        ),
      ),
    { functional: true },
  ),
  signOut: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(sessionActions.signOut),
        exhaustMap(() =>
          api.call('signOut').pipe(
            map(() => sessionActions.signedOut()),
            catchError(() => of(sessionActions.signedOut())),
          ),
        ),
      ),
    { functional: true },
  ),
  remember: createEffect(
    (actions = inject(Actions)) =>
      actions.pipe(
        ofType(sessionActions.chooseEmployer),
        tap(({ id }) => sessionStorage.setItem(REMEMBERED, id)),
      ),
    { functional: true, dispatch: false },
  ),
  leave: createEffect(
    (actions = inject(Actions), router = inject(Router)) =>
      actions.pipe(
        ofType(sessionActions.signedOut),
        tap(() => void router.navigateByUrl('/sign-in')),
      ),
    { functional: true, dispatch: false },
  ),
};
