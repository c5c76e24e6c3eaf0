import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { createAction, createFeatureSelector, createReducer, createSelector, on, props } from '@ngrx/store';
import type { AnswerOf, EndpointName, ProblemDetail } from '@woodruff/contract';
import { catchError, map, of, switchMap } from 'rxjs';
import { sessionActions } from '../session/session.store';
import { Api, problemOf, type CallInput } from './api';

export interface PageState<T> {
  data: T | null;
  loading: boolean;
  problem: ProblemDetail | null;
}

/** The store of a page that shows one answer of the server: actions, reducer, effects and selectors by one factory. */
export function createPageStore<N extends EndpointName>(name: string, endpoint: N) {
  type State = PageState<AnswerOf<N>>;
  const load = createAction(`[${name}] Load`, props<{ input: Pick<CallInput<N>, 'path' | 'query'>; keep?: boolean }>());
  const loaded = createAction(`[${name}] Loaded`, props<{ data: AnswerOf<N> }>());
  const failed = createAction(`[${name}] Failed`, props<{ problem: ProblemDetail }>());
  const initial: State = { data: null, loading: false, problem: null };
  const reducer = createReducer<State>(
    initial,
    on(load, (state, { keep }): State => ({ data: keep ? state.data : null, loading: true, problem: null })),
    on(loaded, (_state, { data }): State => ({ data: data, loading: false, problem: null })),
    // Nothing of one employer is seen in another, not even for a moment.
    on(sessionActions.chooseEmployer, sessionActions.signedOut, (): State => initial),
    on(failed, (state, { problem }): State => ({ ...state, loading: false, problem })),
  );
  const select = createFeatureSelector<State>(name);
  const effects = {
    load: createEffect(
      (actions = inject(Actions), api = inject(Api)) =>
        actions.pipe(
          ofType(load),
          switchMap(({ input }) =>
            api.call(endpoint, input as CallInput<N>).pipe(
              map((data) => loaded({ data })),
              catchError((error: unknown) => of(failed({ problem: problemOf(error) }))),
            ),
          ),
        ),
      { functional: true },
    ),
  };
  return {
    name,
    reducer,
    effects,
    load,
    loaded,
    selectData: createSelector(select, (state) => state.data),
    selectLoading: createSelector(select, (state) => state.loading),
    selectProblem: createSelector(select, (state) => state.problem),
  };
}
