import type { Sheet, SheetRow } from '@woodruff/contract';

/** Sums of a payslip of which only the net matters. */
export const TOTALS = {
  gross: 0,
  reimbursements: 0,
  benefitsInKind: 0,
  deductions: 0,
  taxes: 0,
  net: 100,
  employerTaxes: 0,
  employerContributions: 0,
  employerCost: 0,
};

/** One line of a sheet: somebody paid by the hour, in the run, unchanged. */
export const sheetRow = (payslipId: string, more: Partial<SheetRow> = {}): SheetRow => ({
  payslipId,
  personId: payslipId,
  name: payslipId,
  code: payslipId,
  department: '',
  included: true,
  version: 1,
  hourly: true,
  rates: [],
  pieces: [],
  hours: {},
  oneOffs: 0,
  edits: {},
  totals: TOTALS,
  previousNet: null,
  ...more,
});

/** An open run with these lines, and ordinary hours, overtime and pieces to enter. */
export const sheetOf = (rows: SheetRow[], more: object = {}): Sheet =>
  ({
    run: { id: 'run', version: 3, state: 'open' },
    rows,
    points: [],
    hourColumns: [
      { key: 'ordinary', label: 'Ordinary', pieces: false },
      { key: 'overtime', label: 'Overtime', pieces: false },
      { key: 'ordinary@store', label: 'Store', pieces: false },
      { key: 'vases', label: 'Vases', pieces: true },
    ],
    ...more,
  }) as unknown as Sheet;
