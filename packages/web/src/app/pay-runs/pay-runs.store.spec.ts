import type { OpenPoint, Changed } from '@woodruff/contract';
import { sheetOf, sheetRow as row, TOTALS as totals } from '../../testing/sheet';
import { notTaken } from './entries';
import { runActions, runFeature, withEntry, pointsAfter } from './pay-runs.store';

const sheet = sheetOf([row('a'), row('b')]);
const { reducer } = runFeature;
const opened = reducer(reducer(undefined, runActions.open({ runId: 'run' })), runActions.sheetLoaded({ sheet }));

describe('The state of a run', () => {
  it('shows what was typed until the server has worked it out', () => {
    const typed = reducer(
      opened,
      runActions.enter({ payslipId: 'a', entry: { hours: { ordinary: '70.00' } }, cell: { column: 'hours ordinary', typed: '70.00' } }),
    );
    expect(typed.held).toEqual([{ payslipId: 'a', column: 'hours ordinary', typed: '70.00', fault: false }]);
    const changed: Changed = { row: row('a', { version: 2 }), runVersion: 4, points: [] };
    const done = reducer(
      typed,
      runActions.changed({ runId: 'run', payslipId: 'a', changed, before: {}, column: 'hours ordinary', undone: false }),
    );
    expect(done.held).toEqual([]);
    expect(done.sheet?.rows.map((candidate) => candidate.version)).toEqual([2, 1]);
    expect(done.sheet?.run.version).toBe(4);
    expect(done.undo).toEqual([{ payslipId: 'a', before: {} }]);
    const back = reducer(done, runActions.changed({ runId: 'run', payslipId: 'a', changed, before: {}, column: null, undone: true }));
    expect(back.undo).toEqual([]);
  });

  it('keeps what was not taken in its cell, so that nothing typed is lost', () => {
    const state = reducer(opened, runActions.notTaken({ payslipId: 'a', column: 'hours ordinary', typed: 'abc', problem: notTaken('x') }));
    expect(state.held[0]).toEqual({ payslipId: 'a', column: 'hours ordinary', typed: 'abc', fault: true });
    expect(reducer(state, runActions.sheetLoaded({ sheet })).held.length)
      .withContext('also when the sheet is loaded again')
      .toBe(1);
    expect(reducer(state, runActions.dismissProblem()).held).toEqual([]);
  });

  it('takes the totals of the run when they come, but not older ones than it has', () => {
    const edited = reducer(
      opened,
      runActions.changed({
        runId: 'run',
        payslipId: 'a',
        changed: { row: row('a'), runVersion: 4, points: [] },
        before: {},
        column: null,
        undone: false,
      }),
    );
    const older = { ...sheet.run, version: 3, totals: { ...totals, gross: 1 } };
    expect(reducer(edited, runActions.totals({ run: older })).sheet?.run.version).toBe(4);
    const newer = { ...sheet.run, version: 4, totals: { ...totals, gross: 2 } };
    expect(reducer(edited, runActions.totals({ run: newer })).sheet?.run.totals.gross).toBe(2);
    const other = { ...newer, id: 'other', version: 9 };
    expect(reducer(edited, runActions.totals({ run: other })).sheet?.run.id)
      .withContext('the answer of a run that is no longer shown')
      .toBe('run');
  });

  it('forgets another run’s sheet', () => {
    expect(reducer(opened, runActions.open({ runId: 'other' })).sheet).toBeNull();
    expect(reducer(opened, runActions.open({ runId: 'run' })).sheet).toBe(sheet);
  });
});

describe('An entry', () => {
  it('changes what it names and leaves the rest', () => {
    const edits = { hours: { ordinary: '70.00', overtime: '2.00' }, note: 'kept' };
    expect(withEntry(edits, { hours: { overtime: null, leave: '8.00' } })).toEqual({
      hours: { ordinary: '70.00', leave: '8.00' },
      note: 'kept',
    });
    expect(withEntry(edits, { all: {} })).toEqual({});
  });
});

describe('Open points after an edit', () => {
  const point = (key: string, payslipId: string | null, weight: 'stop' | 'look' = 'look', who = key): OpenPoint => ({
    key,
    payslipId,
    weight,
    who,
    stage: 'check',
    sentence: key,
    personId: null,
    itemId: null,
    figure: null,
    accepted: null,
  });
  const after = (before: OpenPoint[], now: OpenPoint[]) =>
    pointsAfter({ points: before, rows: sheet.rows }, { row: { payslipId: 'a' }, points: now } as unknown as Parameters<
      typeof pointsAfter
    >[1]).map(({ key }) => key);

  it('are those of the payslip as answered, and those of all others as they stood', () => {
    const before = [point('no-hours:a', 'a'), point('no-hours:b', 'b'), point('gives-nothing:x', null)];
    expect(after(before, [point('order:a', 'a')])).toEqual(['gives-nothing:x', 'order:a', 'no-hours:b']);
    expect(after(before, [])).toEqual(['gives-nothing:x', 'no-hours:b']);
  });

  it('about limits of zero and the run as a whole are taken from the answer; what stops comes first', () => {
    const before = [
      point('stale', null, 'stop'),
      point('limit-is-zero:x', null),
      point('limit-is-zero:x:b', 'b'),
      point('net:b', 'b', 'stop'),
    ];
    expect(after(before, [point('limit-is-zero:x:c', 'c')])).toEqual(['net:b', 'limit-is-zero:x:c']);
  });
});
