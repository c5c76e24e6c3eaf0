import { readBlock } from '../pay-runs/entries';
import type { GridApi } from 'ag-grid-community';
import {
  CellApiModule,
  CellStyleModule,
  ClientSideRowModelApiModule,
  ClientSideRowModelModule,
  ColumnApiModule,
  ExternalFilterModule,
  ModuleRegistry,
  provideGlobalGridOptions,
  QuickFilterModule,
  RenderApiModule,
  RowApiModule,
  RowSelectionModule,
  RowStyleModule,
  ScrollApiModule,
  TextEditorModule,
  themeQuartz,
} from 'ag-grid-community';

ModuleRegistry.registerModules([
  CellApiModule,
  CellStyleModule,
  ClientSideRowModelApiModule,
  ClientSideRowModelModule,
  ColumnApiModule,
  ExternalFilterModule,
  QuickFilterModule,
  RenderApiModule,
  RowApiModule,
  RowSelectionModule,
  RowStyleModule,
  ScrollApiModule,
  TextEditorModule,
]);

/** Ink, paper, ochre: the grid as the rest of the page. */
const theme = themeQuartz.withParams({
  accentColor: '#8A5A00',
  backgroundColor: '#FFFFFF',
  borderColor: '#ECE9E1',
  browserColorScheme: 'light',
  cellHorizontalPadding: 6,
  columnBorder: false,
  fontFamily: "'Source Sans 3 Variable', sans-serif",
  fontSize: 14,
  foregroundColor: '#1E2730',
  headerBackgroundColor: '#FFFFFF',
  headerFontSize: 12.5,
  headerFontWeight: 600,
  headerHeight: 28,
  headerTextColor: '#56606B',
  headerColumnResizeHandleColor: 'transparent',
  oddRowBackgroundColor: '#FFFFFF',
  rowHeight: 30,
  rowHoverColor: '#FAF6EA',
  selectedRowBackgroundColor: '#F3E3BF',
  wrapperBorder: false,
  wrapperBorderRadius: 0,
});

/** What all lists share: what is typed is taken by the server before it counts, and Enter goes on downwards. */
provideGlobalGridOptions({
  theme,
  animateRows: false,
  suppressRowTransform: true,
  readOnlyEdit: true,
  enterNavigatesVerticallyAfterEdit: true,
});

/** A column copied from a spreadsheet, by row from the focused cell downwards; null when the paste is not meant for that column. */
export function pastedColumn<Row>(
  grid: GridApi<Row> | undefined,
  event: ClipboardEvent,
  column: string,
  idOf: (row: Row) => string,
): Record<string, string> | null {
  const focused = grid?.getFocusedCell();
  if (!grid || focused?.column.getColId() !== column || grid.getEditingCells().length) return null;
  event.preventDefault();
  const all: Record<string, string> = {};
  readBlock(event.clipboardData?.getData('text') ?? '').forEach((line, down) => {
    const row = grid.getDisplayedRowAtIndex(focused.rowIndex + down)?.data;
    if (row) all[idOf(row)] = line[0] ?? '';
  });
  return all;
}
