import { createActionGroup, createFeature, createReducer, emptyProps, on, props } from '@ngrx/store';
import type { BodyOf, Changed, Edits, OpenPoint, ProblemDetail, Progress, Recalculation, Run, Sheet, SheetRow } from '@woodruff/contract';
import { createPageStore } from '../api/page-store';

export const runsStore = createPageStore('runs', 'runs');
export const reviewStore = createPageStore('review', 'review');
export const comparisonStore = createPageStore('comparison', 'comparison');

/** What is entered on a payslip: whatever is absent stays as it was. */
export interface Entry {
  hours?: Record<string, string | null>;
  oneOffs?: Edits['oneOffs'];
  leftOut?: string[];
  amounts?: Edits['amounts'];
  overrides?: Edits['overrides'];
  note?: string;
  /** Further pay periods paid with it; none takes it back. */
  ahead?: number;
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

const failure = (detail: string): ProblemDetail => ({
  type: '/problems/calculation',
  title: detail,
  detail,
  status: 0,
  code: 'calculation',
});

/** The edits of a row with an entry put in. */
export function withEntry(edits: Edits, entry: Entry): Edits {
  if (entry.all) return entry.all;
  const hours = { ...edits.hours };
  for (const [column, value] of Object.entries(entry.hours ?? {})) {
    if (value === null) delete hours[column];
    else hours[column] = value;
  }
  const { ahead, ...rest } = edits;
  const further = entry.ahead ?? ahead ?? 0;
  return {
    ...rest,
    ...(further ? { ahead: further } : {}),
    hours,
    ...(entry.oneOffs ? { oneOffs: entry.oneOffs } : {}),
    ...(entry.leftOut ? { leftOut: entry.leftOut } : {}),
    ...(entry.amounts ? { amounts: entry.amounts } : {}),
    ...(entry.overrides ? { overrides: entry.overrides } : {}),
    ...(entry.note === undefined ? {} : { note: entry.note }),
    ...(entry.payment ? { payment: entry.payment } : {}),
  };
}
