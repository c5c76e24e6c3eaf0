import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import type { PayslipView } from '@woodruff/contract';
import { part, refused, type Part } from '../../testing/part';
import { sheetOf, sheetRow } from '../../testing/sheet';
import { workingActions } from '../working/working.store';
import { runActions } from './pay-runs.store';
import { PayslipByHand } from './payslip-by-hand';

const PAYSLIP = {
  id: 'farrow',
  lines: [
    { id: 'health', code: 'health', kind: 'deduction-before-tax', label: 'Health premium', amount: 6_000, yearToDate: 0 },
    { id: 'us.fit', code: 'us.fit', kind: 'tax', label: 'Federal income tax', amount: 5_000, yearToDate: 0 },
  ],
  notDue: [{ code: 'dues', label: 'Union dues', why: 'Left out of this payslip by hand' }],
  taken: [{ id: 'waited', item: 'Bonus', amount: '400.00', note: 'open day' }],
} as unknown as PayslipView;
const EDITS = {
  oneOffs: [{ id: 'beside-1', item: 'bonus', amount: '84.20', note: 'late shift' }],
  amounts: [{ item: 'health', amount: '60.00' }],
  leftOut: ['dues'],
  overrides: [{ tax: 'us.fit', amount: '50.00', reason: 'agency letter' }],
};

describe('What is by hand on a payslip', () => {
  let shown: Part<PayslipByHand>;
  let dispatched: jasmine.Spy;
  beforeEach(async () => {
    const row = sheetRow('farrow', { edits: EDITS });
    const sheet = sheetOf([row], { oneOffItems: [{ code: 'bonus', name: 'Bonus', kind: 'earning' }] });
    shown = await part(PayslipByHand, { sheet, row, shown: PAYSLIP });
    dispatched = spyOn(TestBed.inject(Store), 'dispatch');
  });

  it('reads as one line each, by the names on the payslip', () => {
    expect([...shown.element.querySelectorAll('p')].map((line) => line.innerText.replace(/\s+/g, ' ').trim())).toEqual([
      'Bonus 84.20, late shift change remove',
      'Bonus 400.00, from the one-offs, open day put back',
      'Health premium 60.00 this once as set up',
      'Left out: Union dues include again',
      'Federal income tax given as 50.00: agency letter recalculate it',
    ]);
  });

  it('is taken back one by one; the others stay', async () => {
    for (const [name, entry] of [
      ['Take Bonus off', { oneOffs: [] }],
      ['as set up', { amounts: [] }],
      ['include again', { leftOut: [] }],
      ['recalculate it', { overrides: [] }],
    ] as const) {
      await shown.press(name);
      expect(dispatched.calls.mostRecent().args[0] as unknown).toEqual(runActions.enter({ payslipId: 'farrow', entry: entry as never }));
    }
  });

  it('a one-off that waited goes back to waiting, and the sheet and the payslip follow', async () => {
    await shown.press('Put Bonus back');
    await shown.answer('POST', '/one-offs/waited/put-back', {});
    expect(dispatched.calls.allArgs().flat()).toEqual([
      runActions.reload({ runId: 'run' }),
      workingActions.refresh({ payslipId: 'farrow' }),
    ]);
  });

  it('what the server refuses is told', async () => {
    const told = shown.given(shown.fixture.componentInstance.refused);
    await shown.press('Put Bonus back');
    await shown.answer('POST', '/one-offs/waited/put-back', refused('It is paid already.'), 409);
    expect(told.map((problem) => problem.detail)).toEqual(['It is paid already.']);
  });
});
