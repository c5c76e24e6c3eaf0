import ExcelJS from 'exceljs';

export type Cell = string | number | null | undefined;

/** A workbook of one sheet: its rows, how much of it stays in sight, and where sums stand below columns. */
export interface Workbook {
  name: string;
  frozen: { columns: number; rows: number };
  bold: readonly number[];
  rows: readonly (readonly Cell[])[];
  widths: readonly number[];
  /** Columns of figures from this one on, with two decimals and a sum below, from a row on. */
  sums?: { from: number; firstRow: number };
}

/** Writes a workbook; runs on a thread. */
export async function writeWorkbook({ name, frozen, bold, rows, widths, sums }: Workbook): Promise<Uint8Array> {
  const workbook = new ExcelJS.Workbook();
  const page = workbook.addWorksheet(name, { views: [{ state: 'frozen', xSplit: frozen.columns, ySplit: frozen.rows }] });
  for (const row of rows) page.addRow([...row]);
  for (const row of bold) page.getRow(row).font = { bold: true };
  if (sums) {
    const last = page.rowCount;
    const total = page.addRow(
      (rows[rows.length - 1] ?? []).map((_cell, index) => {
        const { letter } = page.getColumn(index + 1);
        return index >= sums.from ? { formula: `SUM(${letter}${sums.firstRow}:${letter}${last})` } : index === 0 ? 'Total' : '';
      }),
    );
    total.font = { bold: true };
  }
  widths.forEach((width, index) => {
    const column = page.getColumn(index + 1);
    column.width = width;
    if (sums && index >= sums.from) column.numFmt = '#,##0.00';
  });
  return new Uint8Array(await workbook.xlsx.writeBuffer());
}
