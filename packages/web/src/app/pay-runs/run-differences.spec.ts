import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import type { Comparison } from '@woodruff/contract';
import { part } from '../../testing/part';
import { sheetOf, sheetRow } from '../../testing/sheet';
import { workingActions } from '../working/working.store';
import { comparisonStore } from './pay-runs.store';
import { RunDifferences } from './run-differences';

const COMPARISON: Comparison = {
  earlierPayDate: '2026-11-13',
  difference: -44_810,
  groups: [
    { group: 'unexplained', share: 5, people: 1 },
    { group: 'hours', share: -50_000, people: 3 },
    { group: 'by-hand', share: 5_185, people: 1 },
  ],
  people: [
    {
      payslipId: 'bexhill',
      name: 'Bexhill, Roald',
      earlier: 73_448,
      later: 0,
      difference: -73_448,
      causes: [
        { group: 'hours', sentences: ['Ordinary 0.00 instead of 42.00 hours', 'Overtime no longer'], share: -78_000 },
        { group: 'balances', sentences: ['Sums of the year so far'], share: 4_552 },
      ],
    },
  ],
};

describe('Why a run differs', () => {
  const shown = (data: Comparison) =>
    part(
      RunDifferences,
      { sheet: sheetOf([sheetRow('bexhill')]) },
      { stores: [comparisonStore as never], arrives: [comparisonStore.loaded({ data })] },
    );

  it('stands in causes that add up, what is not explained first and marked', async () => {
    const one = await shown(COMPARISON);
    const rows = [...one.element.querySelectorAll('.causes tr')].map((row) =>
      [...row.querySelectorAll('td')]
        .map((cell) => cell.textContent.trim())
        .join(' ')
        .replace(/\s+/g, ' '),
    );
    expect(rows).toEqual([
      'Not explained 1 person +0.05',
      'Hours 3 people −500.00',
      'Taxes overridden 1 person +51.85',
      'Difference −448.10',
    ]);
    expect(one.element.querySelector('td.attention')?.textContent).toBe('Not explained');
  });

  it('names each person’s causes with their shares, and opens the working of the net', async () => {
    const one = await shown(COMPARISON);
    expect(one.text).toContain('Ordinary 0.00 instead of 42.00 hours; Overtime no longer −780.00');
    expect(one.text).toContain('Sums of the year so far +45.52');
    const dispatched = spyOn(TestBed.inject(Store), 'dispatch');
    await one.press('Bexhill, Roald');
    expect(dispatched).toHaveBeenCalledWith(
      workingActions.open({ frame: { kind: 'figure', payslipId: 'bexhill', key: 'net' }, anew: true }),
    );
  });

  it('says that nothing differs, and that a first run has nothing to be held against', async () => {
    expect((await shown({ ...COMPARISON, difference: 0, groups: [], people: [] })).text).toContain('Nothing differs.');
    expect((await shown({ ...COMPARISON, earlierPayDate: null })).text).toContain('This is the first run of the schedule');
  });
});
