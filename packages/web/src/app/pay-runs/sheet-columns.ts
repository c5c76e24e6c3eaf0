import type { Sheet, SheetRow } from '@woodruff/contract';
import { minorOf } from '@woodruff/core';
import type { Totals } from '@woodruff/core';
import type { ColDef, ColGroupDef } from 'ag-grid-community';
import { MoneyPipe, signed } from '../kit/words';

/** The figures of the sheet that open to their working. */
const FIGURES: { column: keyof Totals; key: string; label: string; group: string }[] = [
  { column: 'gross', key: 'gross', label: 'Gross', group: 'Pay' },
  { column: 'deductions', key: 'deductions', label: 'Deductions', group: 'Withheld' },
  { column: 'taxes', key: 'taxes', label: 'Taxes', group: 'Withheld' },
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
/** All of them, by column. */
export const ALL_FIGURES = [...FIGURES, ...MORE_FIGURES];

/** Sets of columns to choose from. */
export const COLUMN_SETS = { all: 'hours and money', hours: 'hours', money: 'money and cost' };
export type ColumnSet = keyof typeof COLUMN_SETS;

/** What the columns ask of the sheet that shows them. */
export interface SheetState {
  hourColumns: Sheet['hourColumns'];
  set: ColumnSet;
  editable: boolean;
  /** Whether an item is chosen on which typed one-offs are paid. */
  oneOffsTaken: () => boolean;
  /** Text that a cell holds until the server has worked it out. */
  shown: (row: SheetRow | undefined, column: string) => string | undefined;
  faulty: (row: SheetRow | undefined, column: string) => boolean;
  /** Whether a point about the row is open. */
  needsLook: (row: SheetRow | undefined) => boolean;
}

/** Person, hours, pay, what comes off, net: groups of columns, with what is typed set off from what is calculated. */
export function sheetColumns(state: SheetState): (ColDef<SheetRow> | ColGroupDef<SheetRow>)[] {
  const { hourColumns, set, editable } = state;
  return [
    {
      headerName: 'Person',
      colId: 'person',
      field: 'name',
      flex: 1.9,
      minWidth: 146,
      maxWidth: 260,
      resizable: true,
      cellClass: ({ data, column }) => ['figure-cell', mayNotFit(data?.name, column.getActualWidth()) ? 'cut' : ''],
      cellClassRules: { 'to-look-at': ({ data }) => state.needsLook(data) },
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
        editable: ({ data }) => editable && takesHours(data, key, pieces),
        valueGetter: ({ data }) => state.shown(data, `hours ${key}`) ?? data?.hours[key] ?? '',
        valueFormatter: ({ value, data }) =>
          value ? (isFigure(value) ? Number(value).toFixed(2) : String(value)) : takesHours(data, key, pieces) ? '–' : '',
        cellClass: ({ data }) => [
          'figures',
          index === 0 ? 'group-start' : '',
          editable && takesHours(data, key, pieces) ? 'entry-cell' : '',
          data?.edits.hours?.[key] !== undefined ? 'corner' : '',
          state.faulty(data, `hours ${key}`) ? 'error' : '',
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
          editable: ({ data }) => editable && state.oneOffsTaken() && onlyTyped(data),
          valueGetter: ({ data }) => state.shown(data, 'one-offs') ?? (data?.oneOffs ? new MoneyPipe().transform(data.oneOffs) : ''),
          valueFormatter: ({ value }) => String(value || '–'),
          cellClass: ({ data }) => [
            'figures',
            'group-start',
            editable ? 'entry-cell' : '',
            data?.edits.oneOffs?.length ? 'corner' : '',
            state.faulty(data, 'one-offs') ? 'error' : '',
          ],
        },
        figureColumn(FIGURES[0]!, set === 'money'),
        ...(set === 'money' ? MORE_FIGURES.slice(0, 2).map((figure) => figureColumn(figure, false)) : []),
      ],
    },
    {
      headerName: 'Withheld',
      headerClass: 'group-start',
      children: set === 'hours' ? [] : [figureColumn(FIGURES[1]!, true), figureColumn(FIGURES[2]!, false)],
    },
    {
      headerName: 'Employer',
      headerClass: 'group-start',
      children: set === 'money' ? MORE_FIGURES.slice(2).map((figure, index) => figureColumn(figure, index === 0)) : [],
    },
    {
      headerName: 'Net',
      headerClass: 'group-start',
      children: [
        figureColumn(FIGURES[3]!, true),
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
}

function figureColumn(figure: (typeof FIGURES)[number], first: boolean): ColDef<SheetRow> {
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
      (figure.column === 'taxes' && data?.edits.overrides?.length) ||
      (figure.column === 'net' && (data?.edits.amounts?.length || data?.edits.leftOut?.length))
        ? 'corner'
        : '',
    ],
    valueGetter: ({ data }) => data?.totals[figure.column] ?? 0,
    valueFormatter: ({ value, data }) => (data?.included === false ? '' : new MoneyPipe().transform(Number(value), 'dash')),
  };
}

/** Whether hours or pieces of a column can be entered for a person: salaried people have none, a rate must be theirs. */
export function takesHours(row: SheetRow | undefined, key: string, pieces: boolean): boolean {
  if (!row?.included) return false;
  return pieces ? row.pieces.includes(key) : row.hourly && (!key.includes('@') || row.rates.includes(key.split('@')[1] ?? ''));
}

/** A cell that has to cut its text off is painted apart from its row, so only names take part in it that may be too wide. */
const mayNotFit = (name: string | undefined, width: number): boolean => (name?.length ?? 0) * WIDEST_AVERAGE + POINT_AND_PADDING > width;
const WIDEST_AVERAGE = 8.5;
const POINT_AND_PADDING = 28;

const isFigure = (value: unknown): boolean => typeof value === 'string' && /^\d+(\.\d+)?$/.test(value);

/** The column holds one amount; a payslip with several one-offs is edited beside the sheet. */
export const onlyTyped = (row: SheetRow | undefined): boolean =>
  !!row?.included &&
  (row.edits.oneOffs ?? []).every((oneOff) => oneOff.id === 'sheet') &&
  (row.oneOffs === 0 ||
    (row.edits.oneOffs?.length === 1 && Math.abs(row.oneOffs) === Math.abs(minorOf(row.edits.oneOffs[0]?.amount ?? '0'))));
