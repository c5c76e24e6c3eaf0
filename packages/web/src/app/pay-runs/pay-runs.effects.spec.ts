import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting, type TestRequest } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { Actions, provideEffects } from '@ngrx/effects';
import { provideState, provideStore, Store } from '@ngrx/store';
import type { Changed, Progress, SheetRow } from '@woodruff/contract';
import { refused } from '../../testing/part';
import { sheetOf, sheetRow as row } from '../../testing/sheet';
import { sessionActions, sessionFeature } from '../session/session.store';
import { workingActions, workingFeature } from '../working/working.store';
import { runEffects } from './pay-runs.effects';
import { runActions, runFeature } from './pay-runs.store';

/** Events of the server, as the test sends them. */
class Events {
  static last: Events | undefined;
  onmessage: ((event: { data: string }) => void) | undefined;
  closed = false;
  constructor(readonly url: string) {
    Events.last = this;
  }
  close(): void {
    this.closed = true;
  }
  tell(progress: Partial<Progress>): void {
    this.onmessage?.({ data: JSON.stringify({ state: 'running', done: 0, of: 0, message: null, ...progress }) });
  }
}

describe('What a run asks of the server', () => {
  let store: Store;
  let http: HttpTestingController;
  let went: jasmine.Spy;
  const real = window.EventSource;
  const state = () => TestBed.inject(Store).selectSignal(runFeature.selectPayRunState)();
  const one = (method: string, ending: string): TestRequest =>
    http.expectOne((request) => request.method === method && request.urlWithParams.endsWith(ending), `${method} ${ending}`);
  const hours = (payslipId: string, value: string) =>
    runActions.enter({ payslipId, entry: { hours: { ordinary: value } }, cell: { column: 'hours ordinary', typed: value } });
  const answer = (payslipId: string, more: Partial<SheetRow>, runVersion = 4): Changed => ({
    row: row(payslipId, more),
    runVersion,
    points: [],
  });
  const load = () => store.dispatch(runActions.sheetLoaded({ sheet: sheetOf([row('a'), row('b')]) }));

  beforeEach(() => {
    Object.assign(window, { EventSource: Events });
    Events.last = undefined;
    jasmine.clock().install().mockDate();
    TestBed.configureTestingModule({
      providers: [
        provideStore(),
        provideState(sessionFeature),
        provideState(runFeature),
        provideState(workingFeature),
        provideEffects(runEffects),
        provideRouter([]),
        provideHttpClient(),
        provideHttpClientTesting(),
      ],
    });
    store = TestBed.inject(Store);
    http = TestBed.inject(HttpTestingController);
    const router = TestBed.inject(Router);
    went = spyOn(router, 'navigate').and.resolveTo(true);
    spyOn(router, 'navigateByUrl').and.callFake((url) => Promise.resolve(void went([url])).then(() => true));
    const employers = [
      {
        id: 'e',
        name: 'Works',
        role: 'clerk' as const,
        rights: ['read' as const, 'prepare' as const],
        country: 'US',
        currency: 'USD',
        today: '2026-11-23',
        demo: true,
        beingPlayed: false,
      },
    ];
    store.dispatch(
      sessionActions.signedIn({
        session: {
          user: { id: 'u', name: 'O', email: 'clerk@example.test' },
          csrfToken: '',
          secondFactor: false,
          authenticator: false,
          employers,
        },
      }),
    );
  });
  afterEach(() => {
    jasmine.clock().uninstall();
    Object.assign(window, { EventSource: real });
    http.verify();
  });

  it('one entry after another, each with the version that the one before has left', () => {
    load();
    store.dispatch(hours('a', '70.00'));
    store.dispatch(hours('a', '71.00'));
    const first = one('PATCH', '/pay-runs/run/payslips/a');
    expect(first.request.body).toEqual({ version: 1, edits: { hours: { ordinary: '70.00' } } });
    first.flush(answer('a', { version: 2, edits: { hours: { ordinary: '70.00' } } }));
    const second = one('PATCH', '/pay-runs/run/payslips/a');
    expect(second.request.body).toEqual({ version: 2, edits: { hours: { ordinary: '71.00' } } });
    second.flush(answer('a', { version: 3, edits: { hours: { ordinary: '71.00' } } }, 5));
    expect([state().sheet?.rows[0]?.version, state().held]).toEqual([3, []]);
    jasmine.clock().tick(200);
    one('GET', '/pay-runs/run/totals').flush({ ...sheetOf([]).run, version: 5 });
  });

  it('the sums only after a pause in the entries, and once for all of them', () => {
    load();
    for (const [payslip, version] of [
      ['a', 4],
      ['b', 5],
    ] as const) {
      store.dispatch(hours(payslip, '70.00'));
      one('PATCH', `/payslips/${payslip}`).flush(answer(payslip, { version: 2 }, version));
      jasmine.clock().tick(100);
    }
    http.expectNone((request) => request.url.endsWith('/totals'));
    jasmine.clock().tick(100);
    one('GET', '/pay-runs/run/totals').flush({ ...sheetOf([]).run, version: 5 });
  });

  it('taking back sends what stood before, as an edit of its own', () => {
    load();
    store.dispatch(hours('a', '70.00'));
    one('PATCH', '/payslips/a').flush(answer('a', { version: 2, edits: { hours: { ordinary: '70.00' } } }));
    store.dispatch(runActions.undo());
    const back = one('PATCH', '/payslips/a');
    expect(back.request.body).toEqual({ version: 2, edits: {} });
    back.flush(answer('a', { version: 3 }, 5));
    expect(state().undo).toEqual([]);
    store.dispatch(runActions.undo());
    jasmine.clock().tick(200);
    one('GET', '/totals').flush({ ...sheetOf([]).run, version: 5 });
  });

  it('what is refused stays in its cell with the reason', () => {
    load();
    store.dispatch(hours('a', '999.00'));
    one('PATCH', '/payslips/a').flush(refused('999 hours are not possible.'), { status: 422, statusText: 'refused' });
    expect([state().problem?.detail, state().held]).toEqual([
      '999 hours are not possible.',
      [{ payslipId: 'a', column: 'hours ordinary', typed: '999.00', fault: true }],
    ]);
  });

  it('where somebody else was first, their figures are shown, and the sentence says what to do', () => {
    load();
    store.dispatch(hours('a', '70.00'));
    const detail = 'Somebody else changed this payslip meanwhile. Their change is shown now; make yours again if it still holds.';
    const outrun = { ...refused(detail), code: 'changed-meanwhile' };
    one('PATCH', '/payslips/a').flush(outrun, { status: 409, statusText: 'Conflict' });
    one('GET', '/pay-runs/run').flush(sheetOf([row('a', { version: 7 }), row('b')]));
    expect([state().sheet?.rows[0]?.version, state().held, state().problem?.detail]).toEqual([7, [], detail]);
  });

  it('a calculation is followed to its end; then the sheet and what changed are asked for', () => {
    load();
    store.dispatch(runActions.calculate({ runId: 'run' }));
    one('POST', '/pay-runs/run/calculate').flush({});
    expect(Events.last?.url).toMatch(/\/pay-runs\/run\/events$/);
    Events.last?.tell({ done: 12, of: 22 });
    expect(state().progress).toEqual({ state: 'running', done: 12, of: 22, message: null });
    Events.last?.tell({ state: 'done', done: 22, of: 22 });
    expect(Events.last?.closed).toBeTrue();
    one('GET', '/pay-runs/run').flush(sheetOf([row('a', { version: 9 }), row('b')]));
    one('GET', '/pay-runs/run/recalculation').flush({ at: '', changed: 1, unchanged: 1, people: [] });
    expect([state().sheet?.rows[0]?.version, state().recalculation?.changed]).toEqual([9, 1]);
  });

  it('a calculation that fails says why, and the sheet is as it was', () => {
    load();
    store.dispatch(runActions.calculate({ runId: 'run' }));
    one('POST', '/calculate').flush({});
    Events.last?.tell({ state: 'failed', message: 'There is no table for the pay date.' });
    one('GET', '/pay-runs/run').flush(sheetOf([row('a'), row('b')]));
    expect(state().problem?.detail).toBe('There is no table for the pay date.');
  });

  it('the payslip beside the sheet is refreshed once the run is calculated', () => {
    load();
    store.dispatch(workingActions.open({ frame: { kind: 'payslip', payslipId: 'b' }, anew: true }));
    const happened: unknown[] = [];
    TestBed.inject(Actions).subscribe((action) => happened.push(action));
    store.dispatch(runActions.progress({ runId: 'run', progress: { state: 'done', done: 2, of: 2, message: null } }));
    one('GET', '/pay-runs/run').flush(sheetOf([row('a'), row('b')]));
    one('GET', '/recalculation').flush(null);
    expect(happened).toContain(workingActions.refresh({ payslipId: 'b' }));
  });

  it('approving twice sends once, with its key; a refusal shows the run as it is now', () => {
    load();
    store.dispatch(runActions.approve({ runId: 'run', version: 3, key: 'k' }));
    store.dispatch(runActions.approve({ runId: 'run', version: 3, key: 'other' }));
    const sent = one('POST', '/pay-runs/run/approve');
    expect([sent.request.headers.get('idempotency-key'), sent.request.body]).toEqual(['k', { version: 3 }]);
    sent.flush({ ...refused('The run was changed meanwhile.'), code: 'changed-meanwhile' }, { status: 409, statusText: 'Conflict' });
    one('GET', '/pay-runs/run').flush(sheetOf([row('a')]));
    expect([state().approving, state().problem?.detail]).toEqual([false, 'The run was changed meanwhile.']);
  });

  it('a started run is opened, a deleted one left, a replacement gone to', () => {
    store.dispatch(runActions.start({ body: { scheduleId: 's', from: '2026-11-08', to: '2026-11-21', payDate: '2026-11-27' } }));
    one('POST', '/pay-runs').flush({ id: 'new' });
    expect(went).toHaveBeenCalledWith(['/pay-runs', 'new']);
    store.dispatch(runActions.remove({ runId: 'new', time: 'discard' }));
    one('DELETE', '/pay-runs/new?time=discard').flush({});
    expect(went).toHaveBeenCalledWith(['/pay-runs']);
    store.dispatch(runActions.reverse({ payslipId: 'a', reason: 'wrong', replace: true }));
    const reversal = one('POST', '/payslips/a/reversal');
    expect(reversal.request.body).toEqual({ reason: 'wrong', replace: true });
    reversal.flush({ replacementRun: 'again' });
    expect(went).toHaveBeenCalledWith(['/pay-runs', 'again']);
  });

  it('accepted points are asked for again with the sheet', () => {
    load();
    store.dispatch(runActions.acceptPoints({ runId: 'run', keys: ['a', 'b'], reason: 'agreed' }));
    const sent = one('POST', '/pay-runs/run/points');
    expect(sent.request.body).toEqual({ keys: ['a', 'b'], reason: 'agreed' });
    sent.flush({});
    one('GET', '/pay-runs/run').flush(sheetOf([row('a')]));
    expect(state().sheet?.rows.length).toBe(1);
  });
});
