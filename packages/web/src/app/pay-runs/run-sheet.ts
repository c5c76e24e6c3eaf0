import { ChangeDetectionStrategy, Component, computed, effect, HostListener, inject, input, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { minorOf } from '@woodruff/core';
import type { Totals } from '@woodruff/core';
import type { Sheet, SheetRow } from '@woodruff/contract';
import { AgGridAngular } from 'ag-grid-angular';
import type {
  CellClickedEvent,
  CellEditRequestEvent,
  CellKeyDownEvent,
  ColDef,
  ColGroupDef,
  FullWidthCellKeyDownEvent,
  GridApi,
  RowClassParams,
} from 'ag-grid-community';
import { gridTheme } from '../kit/grid';
import { MoneyPipe, signed } from '../kit/words';
import { workingActions, workingFeature } from '../working/working.store';
import { notTaken, readAmount, readBlock, readHours, readPieces } from './entries';
import { runActions, runFeature, type Entry, type HeldCell } from './pay-runs.store';

/** The figures of the sheet that open to their working. */
const FIGURES: { column: keyof Totals; key: string; label: string; group: string }[] = [
  { column: 'gross', key: 'gross', label: 'Gross', group: 'Pay' },
  { column: 'deductions', key: 'deductions', label: 'Deductions', group: 'Comes off' },
  { column: 'taxes', key: 'taxes', label: 'Taxes', group: 'Comes off' },
  { column: 'net', key: 'net', label: 'Net pay', group: 'Net' },
];

/** Figures that only the set of money shows. */
const MORE_FIGURES: typeof FIGURES = [
  { column: 'reimbursements', key: 'reimbursements', label: 'Reimbursed', group: 'Pay' },
  { column: 'benefitsInKind', key: 'benefits-in-kind', label: 'In kind', group: 'Pay' },
  { column: 'employerTaxes', key: 'employer-taxes', label: 'Taxes', group: 'Employer' },
  { column: 'employerContributions', key: 'employer-contributions', label: 'Contributions', group: 'Employer' },
  { column: 'employerCost', key: 'employer-cost', label: 'Cost', group: 'Employer' },
];
const ALL_FIGURES = [...FIGURES, ...MORE_FIGURES];

/** Sets of columns to choose from. */
export const COLUMN_SETS = { all: 'hours and money', hours: 'hours', money: 'money and cost' };
export type ColumnSet = keyof typeof COLUMN_SETS;

/** As many rows as are filled at once without a second thought. */
const MOST_FILLED = 200;

export type Filter = 'all' | 'changed' | 'points' | 'edited';

/** One sheet of figures, keyboard first: what can be typed looks different from what is worked out. */
@Component({
  selector: 'wr-run-sheet',
  imports: [AgGridAngular],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ag-grid-angular
      class="grid"
      [theme]="theme"
      [animateRows]="false"
      [suppressRowTransform]="true"
      [columnDefs]="columns()"
      [rowData]="initialRows()"
      [getRowId]="rowId"
      [getRowClass]="rowClass"
      [readOnlyEdit]="true"
      [enterNavigatesVerticallyAfterEdit]="true"
      [enterNavigatesVertically]="false"
      [suppressColumnVirtualisation]="true"
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
  protected readonly theme = gridTheme;
  protected api: GridApi<SheetRow> | undefined;
  private readonly held = this.store.selectSignal(runFeature.selectHeld);
  private readonly lastRow = this.store.selectSignal(runFeature.selectLastRow);
  private readonly frames = this.store.selectSignal(workingFeature.selectFrames);
  private readonly openPayslip = computed(() => {
    const frame = this.frames().find((candidate) => 'payslipId' in candidate);
    return frame && 'payslipId' in frame ? frame.payslipId : null;
  });
  /** Rows as loaded; later changes go to the grid one by one, so that an edit does not depend on the number of people. */
  protected readonly initialRows = computed(() => {
    this.loadKey();
    return untracked(() => this.sheet().rows);
  });
  private readonly loadKey = computed(
    () => `${this.sheet().run.id} ${this.sheet().rows.length} ${this.lastRow() === null ? this.sheet().run.version : 'edited'}`,
  );

  protected readonly columns = computed((): (ColDef<SheetRow> | ColGroupDef<SheetRow>)[] => {
    const { hourColumns } = untracked(() => this.sheet());
    const editable = this.editable();
    const set = this.set();
    return [
      {
        headerName: 'Person',
        colId: 'person',
        field: 'name',
        width: 150,
        minWidth: 120,
        resizable: true,
        cellClass: 'figure-cell',
        valueFormatter: ({ data }) => `${data?.name ?? ''}${data?.points ? ' ◇' : ''}`,
      },
      { headerName: 'Department', colId: 'department', field: 'department', width: 120, hide: set === 'all' },
      {
        headerName: 'Hours',
        headerClass: 'group-start',
        children: (set === 'money' ? [] : hourColumns).map(({ key, label, pieces }, index): ColDef<SheetRow> => ({
          headerName: label,
          colId: `hours ${key}`,
          flex: 1,
          minWidth: 58,
          headerClass: index === 0 ? 'figures group-start' : 'figures',
          editable: ({ data }) => editable && this.takes(data, key, pieces),
          valueGetter: ({ data }) => this.shown(data, `hours ${key}`) ?? data?.hours[key] ?? '',
          valueFormatter: ({ value, data }) =>
            value ? (isFigure(value) ? Number(value).toFixed(2) : String(value)) : this.takes(data, key, pieces) ? '–' : '',
          cellClass: ({ data }) => [
            'figures',
            index === 0 ? 'group-start' : '',
            editable && this.takes(data, key, pieces) ? 'entry-cell' : '',
            data?.edits.hours?.[key] !== undefined ? 'corner' : '',
            this.faultClass(data, `hours ${key}`),
          ],
        })),
      },
      {
        headerName: 'Pay',
        headerClass: 'group-start',
        children: [
          {
            headerName: 'One-offs',
            colId: 'one-offs',
            hide: set === 'money',
            flex: 1,
            minWidth: 64,
            headerClass: 'figures group-start',
            editable: ({ data }) => editable && !!this.oneOffItem() && onlyTyped(data),
            valueGetter: ({ data }) => this.shown(data, 'one-offs') ?? (data?.oneOffs ? new MoneyPipe().transform(data.oneOffs) : ''),
            valueFormatter: ({ value }) => String(value || '–'),
            cellClass: ({ data }) => [
              'figures',
              'group-start',
              editable ? 'entry-cell' : '',
              data?.edits.oneOffs?.length ? 'corner' : '',
              this.faultClass(data, 'one-offs'),
            ],
          },
          this.figureColumn(FIGURES[0]!, set === 'money'),
          ...(set === 'money' ? MORE_FIGURES.slice(0, 2).map((figure) => this.figureColumn(figure, false)) : []),
        ],
      },
      {
        headerName: 'Comes off',
        headerClass: 'group-start',
        children: set === 'hours' ? [] : [this.figureColumn(FIGURES[1]!, true), this.figureColumn(FIGURES[2]!, false)],
      },
      {
        headerName: 'Employer',
        headerClass: 'group-start',
        children: set === 'money' ? MORE_FIGURES.slice(2).map((figure, index) => this.figureColumn(figure, index === 0)) : [],
      },
      {
        headerName: 'Net',
        headerClass: 'group-start',
        children: [
          this.figureColumn(FIGURES[3]!, true),
          {
            headerName: 'Since last',
            colId: 'since',
            flex: 1,
            minWidth: 74,
            cellClass: 'figures figure-cell muted',
            headerClass: 'figures',
            comparator: (a: number, b: number) => a - b,
            valueGetter: ({ data }) => (data?.previousNet === null || !data ? null : data.totals.net - data.previousNet),
            valueFormatter: ({ value, data }) =>
              value === null || !data?.included
                ? data?.included && data.previousNet === null && data.totals.net >= 0
                  ? 'new'
                  : ''
                : signed(Number(value)),
          },
        ],
      },
    ];
  });

  protected readonly rowId = ({ data }: { data: SheetRow }): string => data.payslipId;
  protected readonly rowClass = ({ data }: RowClassParams<SheetRow>): string =>
    `${data?.included ? '' : 'left-out'} ${data?.payslipId === this.openPayslip() ? 'open-row' : ''}`;
  protected readonly filtering = (): boolean => this.filter() !== 'all';
  protected readonly passes = ({ data }: { data?: SheetRow }): boolean => {
    if (!data) return false;
    if (this.filter() === 'changed') return data.previousNet === null || data.totals.net !== data.previousNet;
    if (this.filter() === 'edited') return Object.keys(data.edits).length > 0 || !data.included;
    return data.points > 0;
  };

  constructor() {
    let heldBefore: readonly HeldCell[] = [];
    effect(() => {
      const row = this.lastRow();
      // The row alone: it keeps its place under the fingers, whatever the sheet is sorted or filtered by.
      if (row) this.api?.getRowNode(row.payslipId)?.updateData(row);
    });
    effect(() => {
      const touched = [...heldBefore, ...this.held()].map((cell) => this.api?.getRowNode(cell.payslipId)).filter((node) => !!node);
      heldBefore = this.held();
      if (touched.length) this.api?.refreshCells({ force: true, rowNodes: touched, columns: untracked(() => this.entryColumns()) });
    });
    effect(() => {
      this.openPayslip();
      this.api?.redrawRows();
    });
    effect(() => {
      this.filter();
      this.api?.onFilterChanged();
    });
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
    if (
      (pressed.key === 'Delete' || pressed.key === 'Backspace') &&
      !this.editing() &&
      this.editable() &&
      (column.startsWith('hours ') || column === 'one-offs')
    )
      this.enter(event.data, column, '');
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
      const takes = row && (column === 'one-offs' ? onlyTyped(row) : this.takes(row, column.slice('hours '.length), false));
      if (row && takes) this.enter(row, column, typed);
    }
  }

  private enter(row: SheetRow, column: string, typed: string): void {
    const pieces = this.sheet().hourColumns.some(({ key, pieces }) => pieces && column === `hours ${key}`);
    const read = column === 'one-offs' ? readAmount(typed) : pieces ? readPieces(typed) : readHours(typed);
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

  private figureColumn(figure: (typeof FIGURES)[number], first: boolean): ColDef<SheetRow> {
    return {
      headerName: figure.label,
      colId: figure.column,
      flex: 1.1,
      minWidth: 72,
      headerClass: first ? 'figures group-start' : 'figures',
      cellClass: ({ data }) => [
        'figures',
        'figure-cell',
        first ? 'group-start' : '',
        figure.column === 'taxes' && data?.edits.overrides?.length ? 'corner' : '',
      ],
      valueGetter: ({ data }) => data?.totals[figure.column] ?? 0,
      valueFormatter: ({ value, data }) => (data?.included === false ? '' : new MoneyPipe().transform(Number(value), 'dash')),
    };
  }

  private takes(row: SheetRow | undefined, key: string, pieces: boolean): boolean {
    if (!row?.included) return false;
    return pieces ? row.pieces.includes(key) : row.hourly && (!key.includes('@') || row.rates.includes(key.split('@')[1] ?? ''));
  }

  private shown(row: SheetRow | undefined, column: string): string | undefined {
    return this.held().find((cell) => cell.payslipId === row?.payslipId && cell.column === column)?.typed;
  }

  private faultClass(row: SheetRow | undefined, column: string): string {
    return this.held().some((cell) => cell.fault && cell.payslipId === row?.payslipId && cell.column === column) ? 'error' : '';
  }

  private entryColumns(): string[] {
    return [...this.sheet().hourColumns.map(({ key }) => `hours ${key}`), 'one-offs'];
  }

  private editing(): boolean {
    return (this.api?.getEditingCells().length ?? 0) > 0;
  }
}

const isFigure = (value: unknown): boolean => typeof value === 'string' && /^\d+(\.\d+)?$/.test(value);

/** The column holds one amount; a payslip with several one-offs is edited beside the sheet. */
const onlyTyped = (row: SheetRow | undefined): boolean =>
  !!row?.included &&
  (row.edits.oneOffs ?? []).every((oneOff) => oneOff.id === 'sheet') &&
  (row.oneOffs === 0 ||
    (row.edits.oneOffs?.length === 1 && Math.abs(row.oneOffs) === Math.abs(minorOf(row.edits.oneOffs[0]?.amount ?? '0'))));
