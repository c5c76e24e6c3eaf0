import { inject, Injectable } from '@angular/core';
import { Router } from '@angular/router';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import type { Progress } from '@woodruff/contract';
import { catchError, concatMap, debounceTime, EMPTY, exhaustMap, filter, map, Observable, of, switchMap, tap } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { workingActions, workingFeature } from '../working/working.store';
import { runActions, runFeature, withEntry, type Entry } from './pay-runs.store';

/** After so many milliseconds without an entry the sums of the run are asked for. */
const PAUSE = 150;

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

/** What a run asks of the server: one entry after another, calculations followed to their end. */
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
        // The payslip beside the sheet has been recalculated, too.
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
