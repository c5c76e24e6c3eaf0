import { ChangeDetectionStrategy, Component, computed, effect, HostListener, inject, input, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Sheet, SheetRow } from '@woodruff/contract';
import { AgGridAngular } from 'ag-grid-angular';
import type {
  CellClickedEvent,
  CellEditRequestEvent,
  CellKeyDownEvent,
  FullWidthCellKeyDownEvent,
  GridApi,
  RowClassParams,
} from 'ag-grid-community';
import '../kit/grid';
import { workingActions, workingFeature } from '../working/working.store';
import { notTaken, readAmount, readBlock, readHours, readPieces } from './entries';
import { runActions, runFeature, type Entry, type HeldCell } from './pay-runs.store';
import { ALL_FIGURES, onlyTyped, sheetColumns, takesHours, type ColumnSet } from './sheet-columns';

/** As many rows as are filled at once without a second thought. */
const MOST_FILLED = 200;

export type Filter = 'all' | 'changed' | 'points' | 'edited';

/** One sheet of figures, keyboard first: what can be typed looks different from what is calculated. */
@Component({
  selector: 'wr-run-sheet',
  imports: [AgGridAngular],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ag-grid-angular
      class="grid"
      [columnDefs]="columns()"
      [rowData]="initialRows()"
      [getRowId]="rowId"
      [getRowClass]="rowClass"
      [enterNavigatesVertically]="false"
      [suppressColumnVirtualisation]="true"
      [rowBuffer]="4"
      [suppressAnimationFrame]="true"
      [isExternalFilterPresent]="filtering"
      [doesExternalFilterPass]="passes"
      (gridReady)="api = $event.api"
      (gridSizeChanged)="keepNames($event)"
      (displayedColumnsChanged)="keepNames($event)"
      (columnResized)="keepNames($event)"
      (cellEditRequest)="entered($event)"
      (cellClicked)="clicked($event)"
      (cellKeyDown)="key($event)"
    />
  `,
  styles: ':host, .grid { display: block; height: 100%; }',
})
export class RunSheet {
  private readonly store = inject(Store);
  readonly sheet = input.required<Sheet>();
  readonly filter = input<Filter>('all');
  readonly set = input<ColumnSet>('all');
  readonly editable = input(false);
  /** Code of the item on which amounts typed into the column of one-offs are paid. */
  readonly oneOffItem = input('');
  protected api: GridApi<SheetRow> | undefined;
  private widthOfNames = 0;
  private readonly held = this.store.selectSignal(runFeature.selectHeld);
  private readonly lastRow = this.store.selectSignal(runFeature.selectLastRow);
  private readonly frames = this.store.selectSignal(workingFeature.selectFrames);
  private readonly openPayslip = computed(() => {
    const frame = this.frames().find((candidate) => 'payslipId' in candidate);
    return frame && 'payslipId' in frame ? frame.payslipId : null;
  });
  /** Payslips about which a point is open: neither fixed nor accepted. */
  private readonly needsLook = computed(
    () => new Set(this.sheet().points.flatMap(({ payslipId, accepted }) => (payslipId && !accepted ? [payslipId] : []))),
  );
  /** Rows as loaded; later changes go to the grid one by one, so that an edit does not depend on the number of people. */
  private readonly loaded = computed(() => ({ runId: this.sheet().run.id, rows: this.sheet().rows, edited: this.lastRow() !== null }), {
    equal: (before, now) => now.edited && now.runId === before.runId && now.rows.length === before.rows.length,
  });
  protected readonly initialRows = computed(() => this.loaded().rows);

  protected readonly columns = computed(() =>
    sheetColumns({
      hourColumns: untracked(() => this.sheet()).hourColumns,
      set: this.set(),
      editable: this.editable(),
      oneOffsTaken: () => !!this.oneOffItem(),
      shown: (row, column) => this.heldCell(row, column)?.typed,
      faulty: (row, column) => !!this.heldCell(row, column)?.fault,
      needsLook: (row) => !!row && this.needsLook().has(row.payslipId),
    }),
  );

  protected readonly rowId = ({ data }: { data: SheetRow }): string => data.payslipId;
  protected readonly rowClass = ({ data }: RowClassParams<SheetRow>): string =>
    `${data?.included ? '' : 'left-out'} ${data?.payslipId === this.openPayslip() ? 'open-row' : ''}`;
  protected readonly filtering = (): boolean => this.filter() !== 'all';
  protected readonly passes = ({ data }: { data?: SheetRow }): boolean => {
    if (!data) return false;
    if (this.filter() === 'changed') return data.previousNet === null || data.totals.net !== data.previousNet;
    if (this.filter() === 'edited') return Object.keys(data.edits).length > 0 || !data.included;
    return this.needsLook().has(data.payslipId);
  };

  constructor() {
    // Cells read signals while they are drawn: untracked, or each of these would run again with whatever they read.
    const after = <T>(signal: () => T, then: (value: T, before: T | undefined) => void) => {
      let before: T | undefined;
      effect(() => {
        const value = signal();
        untracked(() => then(value, before));
        before = value;
      });
    };
    // The row alone: it keeps its place under the fingers, whatever the sheet is sorted or filtered by.
    after(this.lastRow, (row) => row && this.api?.getRowNode(row.payslipId)?.updateData(row));
    after(this.held, (held, before = []) => {
      const cells = [...before, ...held];
      this.refresh(
        cells.map((cell) => cell.payslipId),
        this.entryColumns(),
      );
    });
    after(this.needsLook, (now, before = new Set()) =>
      this.refresh(
        [...now, ...before].filter((id) => now.has(id) !== before.has(id)),
        ['person'],
      ),
    );
    after(this.openPayslip, () => this.api?.redrawRows());
    after(this.filter, () => this.api?.onFilterChanged());
  }

  private refresh(payslipIds: readonly string[], columns: string[]): void {
    const rowNodes = payslipIds.flatMap((id) => this.api?.getRowNode(id) ?? []);
    if (rowNodes.length) this.api?.refreshCells({ force: true, rowNodes, columns });
  }

  /**
   * Names stay in sight where the columns do not fit; where they fit, nothing is pinned: a pinned column makes three
   * parts of every row, which costs a third more of each frame while a large sheet scrolls.
   */
  protected keepNames({ api }: { api: GridApi<SheetRow> }): void {
    const columns = api.getAllDisplayedColumns();
    const range = api.getHorizontalPixelRange();
    const names = api.getColumn('person');
    if (!names || range.right <= range.left) return;
    const pinned = names.isPinned();
    const room = range.right - range.left + (pinned ? names.getActualWidth() : 0);
    const needed = columns.reduce((sum, column) => sum + (column.getFlex() ? column.getMinWidth() : column.getActualWidth()), 0);
    if (needed > room !== pinned) api.setColumnsPinned([names], pinned ? null : 'left');
    if (names.getActualWidth() === this.widthOfNames) return;
    this.widthOfNames = names.getActualWidth();
    api.refreshCells({ columns: [names], force: true });
  }

  protected entered(event: CellEditRequestEvent<SheetRow>): void {
    this.enter(event.data, event.column.getColId(), String(event.newValue ?? ''));
  }

  protected clicked(event: CellClickedEvent<SheetRow>): void {
    const column = event.column.getColId();
    if (event.data && (column === 'person' || ALL_FIGURES.some((figure) => figure.column === column) || column === 'since'))
      this.open(event.data, column);
  }

  protected key(event: CellKeyDownEvent<SheetRow> | FullWidthCellKeyDownEvent<SheetRow>): void {
    const pressed = event.event as KeyboardEvent;
    const column = 'column' in event ? event.column.getColId() : '';
    if (!event.data) return;
    if ((pressed.key === 'Enter' || pressed.key === '?') && !this.editing()) {
      if (pressed.key === 'Enter' && (column.startsWith('hours ') || column === 'one-offs') && this.editable()) return;
      pressed.preventDefault();
      this.open(event.data, column);
    }
    // As in a spreadsheet: Ctrl+D takes what stands above; with Shift what stands here goes down to the last row shown.
    if (
      pressed.ctrlKey &&
      pressed.key.toLowerCase() === 'd' &&
      !this.editing() &&
      this.editable() &&
      this.entryColumns().includes(column)
    ) {
      pressed.preventDefault();
      this.fill(event.rowIndex ?? 0, column, pressed.shiftKey);
    }
    if (pressed.key === 'Escape' && this.held().some((cell) => cell.fault)) this.store.dispatch(runActions.dismissProblem());
  }

  /** A block copied from a spreadsheet is entered from the focused cell downwards and to the right. */
  @HostListener('paste', ['$event'])
  protected paste(event: ClipboardEvent): void {
    const focused = this.api?.getFocusedCell();
    if (!this.api || !focused || this.editing() || !this.editable()) return;
    event.preventDefault();
    const columns = this.entryColumns();
    const first = columns.indexOf(focused.column.getColId());
    if (first < 0) return;
    readBlock(event.clipboardData?.getData('text') ?? '').forEach((line, down) => {
      const row = this.api?.getDisplayedRowAtIndex(focused.rowIndex + down)?.data;
      line.forEach((typed, across) => {
        const column = columns[first + across];
        if (row && column) this.enter(row, column, typed);
      });
    });
  }

  private fill(rowIndex: number, column: string, down: boolean): void {
    const rowAt = (index: number) => this.api?.getDisplayedRowAtIndex(index)?.data;
    const source = rowAt(down ? rowIndex : rowIndex - 1);
    if (!source) return;
    const typed = column === 'one-offs' ? (source.edits.oneOffs?.[0]?.amount ?? '') : (source.hours[column.slice('hours '.length)] ?? '');
    const count = this.api?.getDisplayedRowCount() ?? 0;
    const last = down ? count - 1 : rowIndex;
    if (last - rowIndex > MOST_FILLED)
      return this.store.dispatch(
        runActions.refused({
          problem: notTaken(`${last - rowIndex} rows would be filled. Filter the sheet to at most ${MOST_FILLED} first.`),
        }),
      );
    for (let index = down ? rowIndex + 1 : rowIndex; index <= last; index++) {
      const row = rowAt(index);
      const takes = row && (column === 'one-offs' ? onlyTyped(row) : takesHours(row, column.slice('hours '.length), this.isPieces(column)));
      if (row && takes) this.enter(row, column, typed);
    }
  }

  private enter(row: SheetRow, column: string, typed: string): void {
    const read = column === 'one-offs' ? readAmount(typed) : this.isPieces(column) ? readPieces(typed) : readHours(typed);
    if ('fault' in read) {
      this.store.dispatch(
        runActions.notTaken({ payslipId: row.payslipId, column, typed, problem: notTaken(`${row.name}: ${read.fault}`) }),
      );
      return;
    }
    const now = this.sheet().rows.find((candidate) => candidate.payslipId === row.payslipId);
    const entry: Entry =
      column === 'one-offs'
        ? { oneOffs: read.value === null ? [] : [{ id: 'sheet', item: this.oneOffItem(), amount: read.value }] }
        : { hours: { [column.slice('hours '.length)]: read.value } };
    const before =
      column === 'one-offs' ? (now?.edits.oneOffs?.[0]?.amount ?? null) : (now?.edits.hours?.[column.slice('hours '.length)] ?? null);
    if (before === read.value) return;
    this.store.dispatch(runActions.enter({ payslipId: row.payslipId, entry, cell: { column, typed: read.value ?? '' } }));
  }

  private open(row: SheetRow, column: string): void {
    const figure = ALL_FIGURES.find((candidate) => candidate.column === column);
    const key = figure?.key ?? (column === 'since' ? 'net' : column === 'one-offs' || column.startsWith('hours ') ? 'gross' : '');
    const frame = key
      ? ({ kind: 'figure', payslipId: row.payslipId, key } as const)
      : ({ kind: 'payslip', payslipId: row.payslipId } as const);
    this.store.dispatch(workingActions.open({ frame, anew: true }));
  }

  private heldCell(row: SheetRow | undefined, column: string): HeldCell | undefined {
    return this.held().find((cell) => cell.payslipId === row?.payslipId && cell.column === column);
  }

  private isPieces(column: string): boolean {
    return this.sheet().hourColumns.some(({ key, pieces }) => pieces && column === `hours ${key}`);
  }

  private entryColumns(): string[] {
    return [...this.sheet().hourColumns.map(({ key }) => `hours ${key}`), 'one-offs'];
  }

  private editing(): boolean {
    return (this.api?.getEditingCells().length ?? 0) > 0;
  }
}
