import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import type { SheetRow } from '@woodruff/contract';
import { part, type Part } from '../../testing/part';
import { sheetOf, sheetRow as row, TOTALS } from '../../testing/sheet';
import { workingActions, workingFeature } from '../working/working.store';
import { runActions, runFeature } from './pay-runs.store';
import { RunSheet, type Filter } from './run-sheet';
import type { ColumnSet } from './sheet-columns';

const PEOPLE = [
  row('amsden', { name: 'Bertil Amsden', hours: { ordinary: '80.00' }, totals: { ...TOTALS, gross: 276_800, net: 212_505 } }),
  row('farrow', { name: 'Edda Farrow', hours: { ordinary: '64.50' }, rates: ['store'], previousNet: 100 }),
  row('pomfret', { name: 'Gareth Pomfret', hourly: false, previousNet: 90 }),
  row('quarrington', { name: 'Oda Quarrington', hours: { ordinary: '72.00' }, pieces: ['vases'], included: true }),
];

const POINTS = [
  { key: 'no-hours:farrow', payslipId: 'farrow', accepted: null },
  { key: 'hours-unlikely:pomfret', payslipId: 'pomfret', accepted: { reason: 'stocktaking', by: 'O' } },
  { key: 'gives-nothing:bonus', payslipId: null, accepted: null },
];

describe('The sheet of a run', () => {
  let shown: Part<RunSheet>;
  let dispatched: jasmine.Spy;

  async function sheet({ rows = PEOPLE, ...more }: { rows?: SheetRow[]; filter?: Filter; set?: ColumnSet; editable?: boolean } = {}) {
    const loaded = sheetOf(rows, { points: POINTS });
    shown = await part(
      RunSheet,
      { sheet: loaded, editable: true, oneOffItem: 'bonus', ...more },
      { stores: [runFeature as never, workingFeature as never], actions: [runActions.sheetLoaded({ sheet: loaded })], size: [1200, 400] },
    );
    await shown.drawn();
    dispatched = spyOn(TestBed.inject(Store), 'dispatch').and.callThrough();
  }
  const cell = (name: string, column: string): HTMLElement => {
    const line = [...shown.element.querySelectorAll('.ag-row')].find((one) => one.textContent.includes(name));
    const found = line?.querySelector<HTMLElement>(`[col-id="${column}"]`);
    if (!found) throw new Error(`there is no cell ${column} of ${name}`);
    return found;
  };
  const names = () =>
    [...shown.element.querySelectorAll('.ag-row [col-id="person"]')].map(
      (one) => `${one.textContent.trim()}${one.classList.contains('to-look-at') ? ' ◇' : ''}`,
    );
  const heads = () => [...shown.element.querySelectorAll('.ag-header-cell')].map((one) => one.textContent.trim());
  const stand = async (name: string, column: string) => {
    const line = Number(cell(name, column).closest('.ag-row')?.getAttribute('row-index'));
    shown.fixture.componentInstance['api']?.setFocusedCell(line, column);
    await shown.drawn();
  };
  const press = async (on: HTMLElement, key: string, more: KeyboardEventInit = {}) => {
    on.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }));
    await shown.drawn();
  };
  const write = async (input: HTMLInputElement, value: string) => {
    input.value = value;
    input.dispatchEvent(new Event('input', { bubbles: true }));
    await press(input, 'Enter');
  };
  const entered = () =>
    dispatched.calls
      .allArgs()
      .map(([action]) => action as ReturnType<typeof runActions.enter>)
      .filter((action) => action.type === runActions.enter.type)
      .map(({ payslipId, entry }) => ({ payslipId, ...entry }));

  it('shows what is typed, what is calculated, and what differs from last time', async () => {
    await sheet();
    expect(names()).toEqual(['Bertil Amsden', 'Edda Farrow ◇', 'Gareth Pomfret', 'Oda Quarrington']);
    expect(cell('Amsden', 'hours ordinary').textContent).toBe('80.00');
    expect(cell('Amsden', 'net').textContent).toBe('2,125.05');
    expect(cell('Amsden', 'since').textContent).toBe('new');
    expect(cell('Pomfret', 'since').textContent).toBe('+0.10');
    expect(cell('Pomfret', 'hours ordinary').textContent).withContext('salaried: no hours to enter').toBe('');
  });

  it('offers hours at a rate only to those who have it, and pieces only where they are paid', async () => {
    await sheet();
    const open = (column: string) =>
      PEOPLE.filter(({ name }) => cell(name, column).classList.contains('entry-cell')).map(({ payslipId }) => payslipId);
    expect(open('hours ordinary')).toEqual(['amsden', 'farrow', 'quarrington']);
    expect(open('hours ordinary@store')).toEqual(['farrow']);
    expect(open('hours vases')).toEqual(['quarrington']);
  });

  it('takes hours typed into a cell', async () => {
    await sheet();
    await stand('Amsden', 'hours overtime');
    await press(cell('Amsden', 'hours overtime'), '4');
    const input = cell('Amsden', 'hours overtime').querySelector('input')!;
    await write(input, '4.5');
    expect(entered()).toEqual([{ payslipId: 'amsden', hours: { overtime: '4.50' } }]);
  });

  it('keeps what it cannot read in its cell, and says what to write', async () => {
    await sheet();
    await stand('Amsden', 'hours overtime');
    await press(cell('Amsden', 'hours overtime'), 'x');
    const input = cell('Amsden', 'hours overtime').querySelector('input')!;
    await write(input, 'four');
    expect(entered()).toEqual([]);
    expect(cell('Amsden', 'hours overtime').textContent).toBe('four');
    expect(cell('Amsden', 'hours overtime').classList).toContain('error');
  });

  it('clears a cell with Delete, once something stands in it', async () => {
    await sheet({ rows: [row('amsden', { name: 'Bertil Amsden', hours: { overtime: '4.50' }, edits: { hours: { overtime: '4.50' } } })] });
    await stand('Amsden', 'hours ordinary');
    await press(cell('Amsden', 'hours ordinary'), 'Delete');
    expect(entered()).toEqual([]);
    await stand('Amsden', 'hours overtime');
    await press(cell('Amsden', 'hours overtime'), 'Delete');
    expect(entered()).toEqual([{ payslipId: 'amsden', hours: { overtime: null } }]);
  });

  it('fills down from the row above, and to the last row, past those who take no hours', async () => {
    await sheet();
    await stand('Farrow', 'hours ordinary');
    await press(cell('Farrow', 'hours ordinary'), 'd', { ctrlKey: true });
    expect(entered()).toEqual([{ payslipId: 'farrow', hours: { ordinary: '80.00' } }]);
    dispatched.calls.reset();
    await stand('Amsden', 'hours ordinary');
    await press(cell('Amsden', 'hours ordinary'), 'D', { ctrlKey: true, shiftKey: true });
    expect(entered().map((entry) => entry.payslipId)).toEqual(['farrow', 'quarrington']);
  });

  it('does not fill more rows than one looks over', async () => {
    await sheet({
      rows: Array.from({ length: 300 }, (_none, index) => row(`p${index}`, { name: `Person ${index}`, hours: { ordinary: '8.00' } })),
    });
    await stand('Person 0', 'hours ordinary');
    await press(cell('Person 0', 'hours ordinary'), 'D', { ctrlKey: true, shiftKey: true });
    expect(entered()).toEqual([]);
    expect(dispatched).toHaveBeenCalledWith(jasmine.objectContaining({ type: runActions.refused.type }));
  });

  it('takes a block copied from a spreadsheet, downwards and to the right', async () => {
    await sheet();
    await stand('Amsden', 'hours ordinary');
    await shown.paste('70\t3.5\n72\t1');
    expect(entered()).toEqual([
      { payslipId: 'amsden', hours: { ordinary: '70.00' } },
      { payslipId: 'amsden', hours: { overtime: '3.50' } },
      { payslipId: 'farrow', hours: { ordinary: '72.00' } },
      { payslipId: 'farrow', hours: { overtime: '1.00' } },
    ]);
  });

  it('takes nothing once the run is approved', async () => {
    await sheet({ editable: false });
    await stand('Amsden', 'hours ordinary');
    await shown.paste('70');
    await press(cell('Amsden', 'hours ordinary'), 'Delete');
    expect(entered()).toEqual([]);
    expect(shown.element.querySelector('.entry-cell')).toBeNull();
  });

  it('opens a figure to its working, and the name to the payslip', async () => {
    await sheet();
    cell('Amsden', 'gross').click();
    await shown.drawn();
    expect(dispatched).toHaveBeenCalledWith(
      workingActions.open({ frame: { kind: 'figure', payslipId: 'amsden', key: 'gross' }, anew: true }),
    );
    expect(cell('Amsden', 'gross').closest('.ag-row')?.classList).toContain('open-row');
    cell('Farrow', 'person').click();
    await shown.drawn();
    expect(dispatched).toHaveBeenCalledWith(workingActions.open({ frame: { kind: 'payslip', payslipId: 'farrow' }, anew: true }));
  });

  it('is filtered to what changed and to open points', async () => {
    await sheet({ filter: 'changed' });
    expect(names()).toEqual(['Bertil Amsden', 'Gareth Pomfret', 'Oda Quarrington']);
    shown.fixture.componentRef.setInput('filter', 'points');
    await shown.drawn();
    expect(names()).toEqual(['Edda Farrow ◇']);
  });

  it('keeps a changed row in its place, whatever the filter, until it is filtered again', async () => {
    await sheet({ filter: 'points' });
    const done = row('farrow', { name: 'Edda Farrow', version: 2, totals: { ...TOTALS, net: 99_900 } });
    const changed = { row: done, runVersion: 4, points: [] };
    TestBed.inject(Store).dispatch(
      runActions.changed({ runId: 'run', payslipId: 'farrow', changed, before: {}, column: null, undone: false }),
    );
    shown.fixture.componentRef.setInput('sheet', sheetOf(PEOPLE.map((one) => (one.payslipId === 'farrow' ? done : one))));
    await shown.drawn();
    expect(names()).withContext('fixed, and no longer marked').toEqual(['Edda Farrow']);
    expect(cell('Farrow', 'net').textContent).toBe('999.00');
  });

  it('shows the columns of the set chosen', async () => {
    await sheet({ set: 'hours' });
    expect(heads()).toContain('Overtime');
    expect(heads()).not.toContain('Deductions');
    shown.fixture.componentRef.setInput('set', 'money');
    await shown.drawn();
    expect(heads()).toContain('Cost');
    expect(heads()).not.toContain('Overtime');
  });

  it('keeps names in sight where its columns do not fit, and pins nothing where they do', async () => {
    await sheet();
    expect(shown.element.querySelector('.ag-row .ag-grid-pinned-left-cells [col-id="person"]')).toBeNull();
    shown.element.style.width = '500px';
    await new Promise((done) => setTimeout(done, 300));
    await shown.drawn();
    expect(shown.element.querySelector('.ag-row .ag-grid-pinned-left-cells [col-id="person"]')).not.toBeNull();
    expect(names().length).toBe(4);
  });
});
