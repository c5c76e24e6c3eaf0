import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { NgbConfig, NgbModal } from '@ng-bootstrap/ng-bootstrap';
import { Store } from '@ngrx/store';
import type { OpenPoint, Sheet } from '@woodruff/contract';
import { part, refused, type Part } from '../../testing/part';
import { sheetOf, sheetRow as row, TOTALS } from '../../testing/sheet';
import { workingActions, workingFeature } from '../working/working.store';
import { comparisonStore, reviewStore, runActions, runFeature } from './pay-runs.store';
import { RunPage } from './run-page';

const point = (key: string, more: Partial<OpenPoint> = {}): OpenPoint => ({
  key,
  weight: 'look',
  stage: 'gather',
  sentence: 'No hours yet.',
  who: 'Imke Dunmore',
  payslipId: 'dunmore',
  personId: 'dunmore',
  itemId: null,
  figure: null,
  accepted: null,
  ...more,
});
const ROWS = [
  row('amsden', { name: 'Amsden, Bertil', totals: { ...TOTALS, gross: 276_800, net: 212_505 }, previousNet: 212_505 }),
  row('dunmore', { name: 'Dunmore, Imke', totals: { ...TOTALS, net: 0 }, previousNet: 70_749 }),
  row('farrow', {
    name: 'Farrow, Edda',
    totals: { ...TOTALS, gross: 203_200, net: 156_925 },
    previousNet: 156_925,
    edits: { note: 'late' },
  }),
  row('halloway', { name: 'Halloway, Ines', included: false }),
];

describe('The page of a run', () => {
  let shown: Part<RunPage>;
  let went: jasmine.Spy;
  let dispatched: jasmine.Spy;

  async function open(
    more: Partial<Omit<Sheet, 'run'>> & { run?: Partial<Sheet['run']> } = {},
    inputs: object = {},
    role: 'clerk' | 'viewer' = 'clerk',
  ) {
    const { run, ...rest } = more;
    const sheet = sheetOf(ROWS, {
      notIn: [{ personId: 'hartnoll', name: 'Solveig Hartnoll', why: 'No tax details' }],
      comparedWith: null,
      oneOffItems: [{ code: 'bonus', name: 'Bonus', kind: 'earning' }],
      cashBy: '2026-11-25',
      mayApprove: true,
      timesheets: 0,
      withdrawUntil: null,
      ...rest,
      run: {
        id: 'run',
        kind: 'regular',
        name: '',
        schedule: 'Fortnightly',
        scheduleId: 's',
        from: '2026-11-08',
        to: '2026-11-21',
        payDate: '2026-11-27',
        people: 3,
        state: 'open',
        version: 3,
        totals: { ...TOTALS, gross: 480_000, taxes: 90_000, deductions: 20_570, net: 369_430, employerCost: 560_000 },
        approvedBy: null,
        submittedBy: null,
        sentBack: null,
        ...run,
      },
    });
    shown = await part(RunPage, { id: 'run', view: 'points', ...inputs } as never, {
      role,
      stores: [runFeature as never, workingFeature as never, comparisonStore as never, reviewStore as never],
      arrives: [runActions.sheetLoaded({ sheet })],
    });
    TestBed.inject(NgbConfig).animation = false;
    went = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    dispatched = spyOn(TestBed.inject(Store), 'dispatch').and.callThrough();
  }
  const dialog = () => document.querySelector<HTMLElement>('ngb-modal-window');
  const inDialog = (name: string) =>
    [...(dialog()?.querySelectorAll('button') ?? [])].find((one) => one.textContent.trim() === name)?.click();
  const queryOf = () => (went.calls.mostRecent().args[1] as { queryParams: object }).queryParams;
  afterEach(() => TestBed.inject(NgbModal).dismissAll());

  it('says where the run stands from facts: what is open in each stage, never a tick', async () => {
    await open({ points: [point('a'), point('b', { stage: 'check' }), point('c', { accepted: { reason: 'agreed', by: 'O' } })] });
    expect(shown.text).toContain('Gather 1 open Check 1 open Approve by Wed 25 Nov 2026 Pay Fri 27 Nov 2026 Post');
    expect(shown.buttons()).toContain('Look at 2 open points');
    await open({ points: [], run: { state: 'approved', approvedBy: 'Tobias Fennimore' } });
    expect(shown.text).toContain('Gather all in Check nothing open Approve by Tobias Fennimore Pay Fri 27 Nov 2026 Post in the ledger');
  });

  it('counts who changed, who is by hand and who is not in it, and filters to them', async () => {
    await open();
    expect(shown.buttons()).toEqual(jasmine.arrayContaining(['Changed 1', 'By hand 2', 'Open points 0', 'Not in it 1']));
    await shown.press('Changed 1');
    expect(queryOf()).toEqual({ view: null, filter: 'changed' });
    await open({}, { view: 'not-in' });
    expect(shown.text).toContain('Solveig Hartnoll No tax details');
  });

  it('leads to the open points before it is approved', async () => {
    await open({ points: [point('a')] });
    await shown.press('Look at 1 open point');
    expect(queryOf()).toEqual({ view: 'points' });
    expect(dialog()).toBeNull();
  });

  it('says in figures what approving does, and sends the version that was looked at with a key', async () => {
    await open();
    await shown.press('Approve run');
    expect(dialog()?.innerText).toContain('Pay 3 people 3,694.30 on Fri 27 Nov 2026');
    expect(dialog()?.innerText).toContain('Total employer cost: 5,600.00.');
    inDialog('Not yet');
    expect(dispatched).not.toHaveBeenCalled();
    await shown.press('Approve run');
    inDialog('Approve run');
    const sent = dispatched.calls.mostRecent().args[0] as ReturnType<typeof runActions.approve>;
    expect([sent.type, sent.runId, sent.version, sent.key.length > 20]).toEqual([runActions.approve.type, 'run', 3, true]);
  });

  it('is submitted by who may not approve, and fetched back', async () => {
    await open({ mayApprove: false });
    await shown.press('Submit for approval');
    expect(await shown.answer('POST', '/pay-runs/run/submit', refused('Somebody changed it meanwhile.'), 409)).toEqual({ version: 3 });
    expect(shown.text).toContain('Somebody changed it meanwhile.');
    await open({ mayApprove: false, run: { state: 'submitted', submittedBy: 'O. Mirren' } });
    expect(shown.text).toContain('Approve submitted by O. Mirren');
    await shown.press('Fetch it back');
    expect(await shown.answer('POST', '/pay-runs/run/send-back', {})).toEqual({ comment: '' });
  });

  it('shows the approver’s comment when it was sent back', async () => {
    await open({ run: { sentBack: 'The approver: hours of the shop are missing' } });
    expect(shown.text).toContain('Sent back. The approver: hours of the shop are missing');
  });

  it('asks what becomes of the time when a draft is deleted', async () => {
    await open({ timesheets: 2 });
    await shown.press('More');
    await shown.press('Delete this run …');
    expect(dialog()?.innerText).toContain('2 approved timesheets of the period');
    dialog()?.querySelectorAll<HTMLInputElement>('input[type=radio]')[1]?.click();
    await shown.settle();
    inDialog('Delete run');
    expect(dispatched).toHaveBeenCalledWith(runActions.remove({ runId: 'run', time: 'discard' }));
  });

  it('lists what rebuilding would lose before it discards it', async () => {
    await open();
    await shown.press('More');
    await shown.press('Rebuild all from set-up …');
    await shown.answer('GET', '/pay-runs/run/rebuild', [{ payslipId: 'farrow', name: 'Edda Farrow', lost: ['A note', 'health left out'] }]);
    expect(dialog()?.innerText).toContain('Edda Farrow: A note; health left out');
    inDialog('Keep everything');
    expect(dispatched).not.toHaveBeenCalled();
  });

  it('opens a total to the people behind it, largest first, without those left out', async () => {
    await open();
    shown.element.querySelector<HTMLButtonElement>('footer button')!.click();
    expect(dispatched).toHaveBeenCalledWith(
      workingActions.open({
        frame: {
          kind: 'total',
          title: 'Gross',
          figure: 'gross',
          entries: [
            { payslipId: 'amsden', name: 'Amsden, Bertil', amount: 276_800 },
            { payslipId: 'farrow', name: 'Farrow, Edda', amount: 203_200 },
          ],
        },
        anew: true,
      }),
    );
  });

  it('shows how far a calculation is', async () => {
    await open({ run: { state: 'calculating' } });
    TestBed.inject(Store).dispatch(
      runActions.progress({ runId: 'run', progress: { state: 'running', done: 1200, of: 10_000, message: null } }),
    );
    await shown.settle();
    expect(shown.text).toMatch(/Working out the payslips ?: 1,200 of 10,000/);
    expect(shown.element.querySelector('[role=progressbar]')?.getAttribute('aria-valuenow')).toBe('1200');
  });

  it('is only read by a viewer', async () => {
    await open({ mayApprove: false }, {}, 'viewer');
    await shown.press('More');
    for (const name of ['Approve run', 'Submit for approval', 'Recalculate the run', 'Delete this run …'])
      expect(shown.buttons()).not.toContain(name);
  });
});
