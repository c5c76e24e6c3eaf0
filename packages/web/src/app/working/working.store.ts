import { inject, Injectable } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { createActionGroup, createFeature, createReducer, createSelector, emptyProps, on, props, Store } from '@ngrx/store';
import type { Behind, Difference, PayslipView, ProblemDetail } from '@woodruff/contract';
import { catchError, filter, forkJoin, map, of, switchMap } from 'rxjs';
import { Api, problemOf } from '../api/api';

/** What the panel shows: a payslip, the working of one of its figures, the people behind a total, or posted lines. */
export type Frame =
  | { kind: 'payslip'; payslipId: string }
  | { kind: 'figure'; payslipId: string; key: string }
  | { kind: 'total'; title: string; figure: string; entries: { payslipId: string; name: string; amount: number; figure?: string }[] }
  | { kind: 'behind'; title: string; note: string; codes: string[]; from: string; to: string; person?: string };

export const workingActions = createActionGroup({
  source: 'Working',
  events: {
    /** Opens a frame on top of the ones open, or in place of all. */
    Open: props<{ frame: Frame; anew?: boolean }>(),
    Back: emptyProps(),
    Close: emptyProps(),
    /** The payslip shown was changed: load it again. */
    Refresh: props<{ payslipId: string }>(),
    'Payslip loaded': props<{ payslip: PayslipView }>(),
    'Difference loaded': props<{ difference: Difference | null }>(),
    'Behind loaded': props<{ behind: Behind }>(),
    Failed: props<{ problem: ProblemDetail }>(),
  },
});

interface State {
  frames: Frame[];
  payslip: PayslipView | null;
  difference: Difference | null;
  behind: Behind | null;
  problem: ProblemDetail | null;
}

const initial: State = { frames: [], payslip: null, difference: null, behind: null, problem: null };

export const workingFeature = createFeature({
  name: 'working',
  reducer: createReducer(
    initial,
    on(workingActions.open, (state, { frame, anew }): State => ({
      ...state,
      frames: anew ? [frame] : [...state.frames, frame],
      difference: null,
      behind: null,
      problem: null,
    })),
    on(workingActions.back, (state): State => ({
      ...state,
      frames: state.frames.slice(0, -1),
      difference: null,
      behind: null,
      problem: null,
    })),
    on(workingActions.close, (): State => initial),
    on(workingActions.payslipLoaded, (state, { payslip }): State => ({ ...state, payslip })),
    on(workingActions.differenceLoaded, (state, { difference }): State => ({ ...state, difference })),
    on(workingActions.behindLoaded, (state, { behind }): State => ({ ...state, behind })),
    on(workingActions.failed, (state, { problem }): State => ({ ...state, problem })),
  ),
  extraSelectors: ({ selectFrames }) => ({
    selectFrame: createSelector(selectFrames, (frames) => frames.at(-1) ?? null),
  }),
});

/** Amounts whose difference from the last payslip is explained beside their working. */
export const comparable = (key: string): string =>
  ({
    'employer-taxes': 'employerTaxes',
    'employer-contributions': 'employerContributions',
    'employer-cost': 'employerCost',
    'benefits-in-kind': 'benefitsInKind',
  })[key] ?? key;

/** What effects read of the panel. */
@Injectable({ providedIn: 'root' })
export class WorkingState {
  private readonly store = inject(Store);
  readonly frame = this.store.selectSignal(workingFeature.selectFrame);
  readonly payslip = this.store.selectSignal(workingFeature.selectPayslip);
}

export const workingEffects = {
  load: createEffect(
    (actions = inject(Actions), api = inject(Api), state = inject(WorkingState)) =>
      actions.pipe(
        ofType(workingActions.open, workingActions.back, workingActions.refresh),
        map((action) => ({
          frame: state.frame(),
          refreshed: action.type === workingActions.refresh.type ? (action as { payslipId: string }).payslipId : null,
        })),
        filter(
          ({ frame, refreshed }) =>
            frame !== null && frame.kind !== 'total' && (refreshed === null || ('payslipId' in frame && frame.payslipId === refreshed)),
        ),
        switchMap(({ frame, refreshed }) => {
          if (frame?.kind === 'behind') {
            return api
              .call('behind', { query: { codes: frame.codes.join(','), from: frame.from, to: frame.to, person: frame.person } })
              .pipe(
                map((behind) => workingActions.behindLoaded({ behind })),
                catchError((error: unknown) => of(workingActions.failed({ problem: problemOf(error) }))),
              );
          }
          if (frame?.kind !== 'payslip' && frame?.kind !== 'figure') return of();
          const known = state.payslip();
          const payslip =
            known?.id === frame.payslipId && refreshed === null ? of(known) : api.call('payslip', { path: { id: frame.payslipId } });
          const difference =
            frame.kind === 'figure'
              ? api.call('whyDifferent', { path: { id: frame.payslipId }, query: { compared: comparable(frame.key) } })
              : of(null);
          return forkJoin({ payslip, difference }).pipe(
            switchMap((loaded) => [
              workingActions.payslipLoaded({ payslip: loaded.payslip }),
              workingActions.differenceLoaded({ difference: loaded.difference }),
            ]),
            catchError((error: unknown) => of(workingActions.failed({ problem: problemOf(error) }))),
          );
        }),
      ),
    { functional: true },
  ),
};
