import { inject, Injectable } from '@angular/core';
import { Router } from '@angular/router';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { createActionGroup, createFeature, createReducer, emptyProps, on, props, Store } from '@ngrx/store';
import type { BodyOf, Changed, Edits, OpenPoint, ProblemDetail, Progress, Recalculation, Run, Sheet, SheetRow } from '@woodruff/contract';
import { catchError, concatMap, debounceTime, EMPTY, exhaustMap, filter, map, Observable, of, switchMap, tap } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { createPageStore } from '../api/page-store';
import { workingActions, workingFeature } from '../working/working.store';

export const runsStore = createPageStore('runs', 'runs');
export const reviewStore = createPageStore('review', 'review');
export const comparisonStore = createPageStore('comparison', 'comparison');

/** What is entered on a payslip: whatever is absent stays as it was. */
export interface Entry {
  hours?: Record<string, string | null>;
  oneOffs?: Edits['oneOffs'];
  leftOut?: string[];
  overrides?: Edits['overrides'];
  note?: string;
  payment?: Edits['payment'];
  included?: boolean;
  /** All edits at once: for taking a change back. */
  all?: Edits;
}

export const runActions = createActionGroup({
  source: 'Pay run',
  events: {
    Start: props<{ body: BodyOf<'startRun'> }>(),
    Open: props<{ runId: string }>(),
    Reload: props<{ runId: string }>(),
    'Sheet loaded': props<{ sheet: Sheet }>(),
    Progress: props<{ runId: string; progress: Progress }>(),
    /** `cell` marks what was typed until the server has worked it out. */
    Enter: props<{ payslipId: string; entry: Entry; cell?: { column: string; typed: string } }>(),
    'Not taken': props<{ payslipId: string; column: string; typed: string; problem: ProblemDetail }>(),
    /** `undone`: the change took the last entry back. */
    Changed: props<{ runId: string; payslipId: string; changed: Changed; before: Edits; column: string | null; undone: boolean }>(),
    /** The run's own figures, asked for after its rows have changed. */
    Totals: props<{ run: Run }>(),
    Refused: props<{ problem: ProblemDetail; payslipId?: string; column?: string | null }>(),
    Undo: emptyProps(),
    Calculate: props<{ runId: string }>(),
    'Import hours': props<{ runId: string; csv: string }>(),
    Rebuild: props<{ runId: string; payslip?: string }>(),
    'Accept points': props<{ runId: string; keys: string[]; reason: string }>(),
    Approve: props<{ runId: string; version: number; key: string }>(),
    Approved: props<{ run: Run }>(),
    Remove: props<{ runId: string; time: 'keep' | 'discard' }>(),
    Reverse: props<{ payslipId: string; reason: string; replace: boolean }>(),
    Reversed: props<{ payslipId: string; replacementRun: string | null }>(),
    /** What working the run out again has changed. */
    Recalculated: props<{ recalculation: Recalculation }>(),
    'Dismiss problem': emptyProps(),
    'Dismiss recalculation': emptyProps(),
  },
});

/** A cell whose text the sheet still holds: being saved, or not taken. */
export interface HeldCell {
  payslipId: string;
  column: string;
  typed: string;
  fault: boolean;
}

interface State {
  sheet: Sheet | null;
  /** The row that changed last, for the grid. */
  lastRow: SheetRow | null;
  held: HeldCell[];
  progress: Progress | null;
  problem: ProblemDetail | null;
  starting: boolean;
  approving: boolean;
  undo: { payslipId: string; before: Edits }[];
  recalculation: Recalculation;
}

const initial: State = {
  sheet: null,
  lastRow: null,
  held: [],
  progress: null,
  problem: null,
  starting: false,
  approving: false,
  undo: [],
  recalculation: null,
};
const without = (held: HeldCell[], payslipId: string | undefined, column: string | null | undefined): HeldCell[] =>
  held.filter((cell) => cell.payslipId !== payslipId || cell.column !== column);

export const runFeature = createFeature({
  name: 'payRun',
  reducer: createReducer(
    initial,
    on(runActions.start, (state): State => ({ ...state, starting: true, problem: null })),
    on(runActions.open, (state, { runId }): State =>
      state.sheet?.run.id === runId ? { ...state, problem: null, starting: false } : { ...initial },
    ),
    on(runActions.sheetLoaded, (state, { sheet }): State => ({
      ...state,
      sheet,
      lastRow: null,
      starting: false,
      held: state.held.filter((cell) => cell.fault),
    })),
    on(runActions.progress, (state, { progress }): State => ({
      ...state,
      progress,
      ...(progress.state === 'failed' && progress.message ? { problem: failure(progress.message) } : {}),
    })),
    on(runActions.enter, (state, { payslipId, cell }): State =>
      cell
        ? { ...state, problem: null, held: [...without(state.held, payslipId, cell.column), { payslipId, ...cell, fault: false }] }
        : { ...state, problem: null },
    ),
    on(runActions.notTaken, (state, { payslipId, column, typed, problem }): State => ({
      ...state,
      problem,
      held: [...without(state.held, payslipId, column), { payslipId, column, typed, fault: true }],
    })),
    on(runActions.changed, (state, { runId, payslipId, changed, before, column, undone }): State => {
      if (!state.sheet || state.sheet.run.id !== runId) return state;
      return {
        ...state,
        lastRow: changed.row,
        held: without(state.held, payslipId, column),
        undo: undone ? state.undo.slice(0, -1) : [...state.undo, { payslipId, before }].slice(-100),
        sheet: {
          ...state.sheet,
          run: { ...state.sheet.run, version: changed.runVersion },
          points: pointsAfter(state.sheet, changed),
          rows: state.sheet.rows.map((row) => (row.payslipId === payslipId ? changed.row : row)),
        },
      };
    }),
    on(runActions.totals, (state, { run }): State =>
      state.sheet?.run.id === run.id && run.version >= state.sheet.run.version ? { ...state, sheet: { ...state.sheet, run } } : state,
    ),
    on(runActions.refused, (state, { problem, payslipId, column }): State => ({
      ...state,
      problem,
      starting: false,
      approving: false,
      held: state.held.map((cell) => (cell.payslipId === payslipId && cell.column === column ? { ...cell, fault: true } : cell)),
    })),
    on(runActions.calculate, runActions.rebuild, (state): State => ({
      ...state,
      problem: null,
      undo: [],
      recalculation: null,
      progress: { state: 'waiting', done: 0, of: 0, message: null },
    })),
    on(runActions.approve, (state): State => ({ ...state, approving: true, problem: null })),
    on(runActions.approved, (state): State => ({ ...state, approving: false, undo: [] })),
    on(runActions.recalculated, (state, { recalculation }): State => ({ ...state, recalculation })),
    on(runActions.dismissRecalculation, (state): State => ({ ...state, recalculation: null })),
    on(runActions.dismissProblem, (state): State => ({ ...state, problem: null, held: state.held.filter((cell) => !cell.fault) })),
  ),
});

/** An edit answers with the points it can have changed; all others stand as they were, in the order of the sheet. */
export function pointsAfter({ points, rows }: Pick<Sheet, 'points' | 'rows'>, { row, points: now }: Changed): OpenPoint[] {
  const places = new Map(rows.map(({ payslipId }, index) => [payslipId, index]));
  const placeOf = ({ payslipId }: OpenPoint): number => (payslipId === null ? -1 : (places.get(payslipId) ?? rows.length));
  return [
    ...points.filter(
      (point) =>
        point.key.startsWith('gives-nothing:') ||
        point.key.startsWith('time:') ||
        (point.payslipId !== null && point.payslipId !== row.payslipId && !point.key.startsWith('limit-is-zero:')),
    ),
    ...now,
  ].sort((a, b) => (a.weight === b.weight ? placeOf(a) - placeOf(b) : a.weight === 'stop' ? -1 : 1));
}

/** After so many milliseconds without an entry the sums of the run are asked for. */
const PAUSE = 150;

const failure = (detail: string): ProblemDetail => ({
  type: '/problems/calculation',
  title: detail,
  detail,
  status: 0,
  code: 'calculation',
});

/** What effects read of the run. */
@Injectable({ providedIn: 'root' })
export class RunState {
  private readonly store = inject(Store);
  readonly sheet = this.store.selectSignal(runFeature.selectSheet);
  readonly undo = this.store.selectSignal(runFeature.selectUndo);
  private readonly frames = this.store.selectSignal(workingFeature.selectFrames);

  /** The payslip that the panel shows, itself or through one of its figures. */
  openPayslip(): string | null {
    const frame = this.frames().at(-1);
    return frame && 'payslipId' in frame ? frame.payslipId : null;
  }
}

/** The edits of a row with an entry put in. */
export function withEntry(edits: Edits, entry: Entry): Edits {
  if (entry.all) return entry.all;
  const hours = { ...edits.hours };
  for (const [column, value] of Object.entries(entry.hours ?? {})) {
    if (value === null) delete hours[column];
    else hours[column] = value;
  }
  return {
    ...edits,
    hours,
    ...(entry.oneOffs ? { oneOffs: entry.oneOffs } : {}),
    ...(entry.leftOut ? { leftOut: entry.leftOut } : {}),
    ...(entry.overrides ? { overrides: entry.overrides } : {}),
    ...(entry.note === undefined ? {} : { note: entry.note }),
    ...(entry.payment ? { payment: entry.payment } : {}),
  };
}

export const runEffects = {
  start: createEffect(
    (actions = inject(Actions), api = inject(Api), router = inject(Router)) =>
      actions.pipe(
        ofType(runActions.start),
        exhaustMap(({ body }) =>
          api.call('startRun', { body }).pipe(
            tap(({ id }) => void router.navigate(['/pay-runs', id])),
            switchMap(() => EMPTY),
            catchError((error: unknown) => of(runActions.refused({ problem: problemOf(error) }))),
          ),
        ),
      ),
    { functional: true },
  ),
  open: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(runActions.open, runActions.reload),
        switchMap(({ runId }) => load(api, runId)),
      ),
    { functional: true },
  ),
  follow: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(runActions.sheetLoaded),
        filter(({ sheet }) => sheet.run.state === 'calculating'),
        switchMap(({ sheet }) => followProgress(api, sheet.run.id)),
      ),
    { functional: true },
  ),
  whenDone: createEffect(
    (actions = inject(Actions), api = inject(Api), state = inject(RunState)) =>
      actions.pipe(
        ofType(runActions.progress),
        filter(({ progress }) => progress.state === 'done' || progress.state === 'failed'),
        switchMap(({ runId }) => load(api, runId)),
        // The payslip beside the sheet has been worked out again, too.
        switchMap((loaded) => {
          const payslipId = state.openPayslip();
          return payslipId && loaded.type === runActions.sheetLoaded.type ? [loaded, workingActions.refresh({ payslipId })] : [loaded];
        }),
      ),
    { functional: true },
  ),
  whatChanged: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(runActions.progress),
        filter(({ progress }) => progress.state === 'done'),
        switchMap(({ runId }) =>
          api.call('recalculation', { path: { id: runId } }).pipe(
            map((recalculation) => runActions.recalculated({ recalculation })),
            catchError((error: unknown) => of(runActions.refused({ problem: problemOf(error) }))),
          ),
        ),
      ),
    { functional: true },
  ),
  // One entry after another: each is sent with the version that the one before has left, and taking back waits its turn.
  enter: createEffect(
    (actions = inject(Actions), api = inject(Api), state = inject(RunState)) =>
      actions.pipe(
        ofType(runActions.enter, runActions.undo),
        concatMap((action) => {
          const sheet = state.sheet();
          const undone = action.type === runActions.undo.type;
          const last = state.undo().at(-1);
          const wanted = undone
            ? last && { payslipId: last.payslipId, entry: { all: last.before } satisfies Entry, cell: undefined }
            : action;
          const row = sheet?.rows.find((candidate) => candidate.payslipId === wanted?.payslipId);
          if (!sheet || !row || !wanted) return EMPTY;
          const { payslipId, entry, cell } = wanted as { payslipId: string; entry: Entry; cell?: { column: string } };
          const column = cell?.column ?? null;
          const change = {
            version: row.version,
            ...(entry.included === undefined ? {} : { included: entry.included }),
            edits: withEntry(row.edits, entry),
          };
          return api.call('changePayslip', { path: { id: sheet.run.id, payslip: payslipId }, body: change }).pipe(
            switchMap((changed) => [
              runActions.changed({ runId: sheet.run.id, payslipId, changed, before: row.edits, column, undone }),
              workingActions.refresh({ payslipId }),
            ]),
            catchError((error: unknown) => {
              const problem = problemOf(error);
              const refused = runActions.refused({ problem, payslipId, column });
              // Somebody else was first: their figures are shown, and the sentence says what they changed.
              const outrun = problem.code === 'changed-meanwhile' || problem.code === 'approved';
              return outrun ? load(api, sheet.run.id).pipe(switchMap((loaded) => [loaded, refused])) : of(refused);
            }),
          );
        }),
      ),
    { functional: true },
  ),
  // The foot follows the last of several quick entries; none of them waits for it, or shares the server with its sum.
  totals: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(runActions.changed),
        debounceTime(PAUSE),
        switchMap(({ runId }) =>
          api.call('runTotals', { path: { id: runId } }).pipe(
            map((run) => runActions.totals({ run })),
            catchError((error: unknown) => of(runActions.refused({ problem: problemOf(error) }))),
          ),
        ),
      ),
    { functional: true },
  ),
  calculate: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(runActions.calculate),
        exhaustMap(({ runId }) =>
          api.call('calculateRun', { path: { id: runId }, body: {} }).pipe(
            switchMap(() => followProgress(api, runId)),
            catchError((error: unknown) => of(runActions.refused({ problem: problemOf(error) }))),
          ),
        ),
      ),
    { functional: true },
  ),
  importHours: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(runActions.importHours),
        exhaustMap(({ runId, csv }) =>
          api.call('importHours', { path: { id: runId }, body: { csv } }).pipe(
            switchMap(() => followProgress(api, runId)),
            catchError((error: unknown) => of(runActions.refused({ problem: problemOf(error) }))),
          ),
        ),
      ),
    { functional: true },
  ),
  rebuild: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(runActions.rebuild),
        exhaustMap(({ runId, payslip }) =>
          api.call('rebuild', { path: { id: runId }, body: payslip ? { payslip } : {} }).pipe(
            switchMap(() => followProgress(api, runId)),
            catchError((error: unknown) => of(runActions.refused({ problem: problemOf(error) }))),
          ),
        ),
      ),
    { functional: true },
  ),
  accept: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(runActions.acceptPoints),
        concatMap(({ runId, keys, reason }) =>
          api.call('acceptPoints', { path: { id: runId }, body: { keys, reason } }).pipe(
            switchMap(() => load(api, runId)),
            catchError((error: unknown) => of(runActions.refused({ problem: problemOf(error) }))),
          ),
        ),
      ),
    { functional: true },
  ),
  approve: createEffect(
    (actions = inject(Actions), api = inject(Api)) =>
      actions.pipe(
        ofType(runActions.approve),
        exhaustMap(({ runId, version, key }) =>
          api.call('approve', { path: { id: runId }, body: { version }, headers: { 'idempotency-key': key } }).pipe(
            switchMap((run) => [runActions.approved({ run }), runActions.open({ runId })]),
            catchError((error: unknown) => {
              const problem = problemOf(error);
              return of(runActions.open({ runId }), runActions.refused({ problem }));
            }),
          ),
        ),
      ),
    { functional: true },
  ),
  remove: createEffect(
    (actions = inject(Actions), api = inject(Api), router = inject(Router)) =>
      actions.pipe(
        ofType(runActions.remove),
        exhaustMap(({ runId, time }) =>
          api.call('deleteRun', { path: { id: runId }, query: { time } }).pipe(
            tap(() => void router.navigateByUrl('/pay-runs')),
            switchMap(() => EMPTY),
            catchError((error: unknown) => of(runActions.refused({ problem: problemOf(error) }))),
          ),
        ),
      ),
    { functional: true },
  ),
  reverse: createEffect(
    (actions = inject(Actions), api = inject(Api), router = inject(Router), state = inject(RunState)) =>
      actions.pipe(
        ofType(runActions.reverse),
        exhaustMap(({ payslipId, reason, replace }) =>
          api.call('reverse', { path: { id: payslipId }, body: { reason, replace } }).pipe(
            switchMap(({ replacementRun }) => {
              if (replacementRun) void router.navigate(['/pay-runs', replacementRun]);
              const runId = state.sheet()?.run.id;
              return replacementRun || !runId
                ? [runActions.reversed({ payslipId, replacementRun })]
                : [runActions.reversed({ payslipId, replacementRun }), runActions.open({ runId }), workingActions.refresh({ payslipId })];
            }),
            catchError((error: unknown) => of(runActions.refused({ problem: problemOf(error) }))),
          ),
        ),
      ),
    { functional: true },
  ),
};

const load = (api: Api, runId: string) =>
  api.call('sheet', { path: { id: runId } }).pipe(
    map((sheet) => runActions.sheetLoaded({ sheet })),
    catchError((error: unknown) => of(runActions.refused({ problem: problemOf(error) }))),
  );

/** The server's events about a run's calculation, until it is done. */
const followProgress = (api: Api, runId: string): Observable<ReturnType<typeof runActions.progress>> =>
  new Observable((subscriber) => {
    const events = new EventSource(api.url('progress', { path: { id: runId } }).replace(/\/progress$/, '/events'));
    events.onmessage = (event) => {
      const progress = JSON.parse(String(event.data)) as Progress;
      subscriber.next(runActions.progress({ runId, progress }));
      if (progress.state === 'done' || progress.state === 'failed') subscriber.complete();
    };
    // The browser tries again by itself after a break; the queue keeps the work meanwhile.
    return () => events.close();
  });
