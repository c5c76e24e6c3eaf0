import { Exact, type Payslip, type PayslipInput } from '@woodruff/core';
import { columnOf } from '../payslip-input/input';
import { copyRow } from '../database/copy';

/** Kinds of line that are money of a run, in the order of a payslip; leave, and sums that only returns need, are not. */
export const MONEY_KINDS = [
  'earning',
  'reimbursement',
  'benefit-in-kind',
  'deduction-before-tax',
  'tax',
  'deduction-after-tax',
  'employer-tax',
  'employer-contribution',
] as const;

/** Columns of payslip_results in the order in which rows are written. */
export const RESULT_COLUMNS = [
  'payslip_id',
  'run_id',
  'gross',
  'reimbursements',
  'benefits_in_kind',
  'deductions',
  'taxes',
  'net',
  'employer_taxes',
  'employer_contributions',
  'employer_cost',
  'summary',
  'lines',
  'problems',
  'input',
] as const;

/** What the sheet shows of a payslip beside its totals. */
export interface Summary {
  hourly: boolean;
  /** Series of the hourly rates beside the primary one. */
  rates: string[];
  hours: Record<string, string>;
  oneOffs: number;
  /** Items paid by the piece that the person has. */
  pieces?: string[];
  /** Items that the person has, that are due, and that gave nothing. */
  nothing?: string[];
}

/** One result as a row for COPY. The input is passed as text: it is written as it was read. */
export function resultRow(payslipId: string, runId: string, payslip: Payslip, summary: Summary, inputText: string): string {
  const { totals } = payslip;
  return copyRow([
    payslipId,
    runId,
    totals.gross,
    totals.reimbursements,
    totals.benefitsInKind,
    totals.deductions,
    totals.taxes,
    totals.net,
    totals.employerTaxes,
    totals.employerContributions,
    totals.employerCost,
    JSON.stringify(summary),
    JSON.stringify(payslip.lines),
    JSON.stringify(payslip.problems),
    inputText,
  ]);
}

/** Codes of items that are paid once count towards the sheet's column of one-offs. */
export function summaryOf(input: PayslipInput, hours: Record<string, string>, payslip: Payslip): Summary {
  const primary = input.rates.find((rate) => rate.primary);
  const once = new Set(input.oneOffs.map((oneOff) => `once:${oneOff.id}`));
  const pieces = input.items.filter((entry) => entry.item.method.by === 'pieces').map((entry) => entry.item.code);
  const there = new Set([...payslip.lines.map((line) => line.code), ...payslip.notDue.map((item) => item.code)]);
  const nothing = input.items
    .filter(
      (entry) =>
        payslip.lines.length > 0 && entry.item.method.by !== 'pieces' && entry.item.method.by !== 'salary' && !there.has(entry.item.code),
    )
    .map((entry) => entry.item.code);
  return {
    ...(pieces.length ? { pieces } : {}),
    ...(nothing.length ? { nothing } : {}),
    hourly: primary?.per === 'hour',
    rates: input.rates.filter((rate) => !rate.primary && rate.per === 'hour').map((rate) => rate.id),
    hours: input.time ? hoursPaid(input, payslip) : hours,
    oneOffs: payslip.lines.reduce(
      (sum, line) =>
        once.has(line.id) && line.kind !== 'base' ? sum + (line.kind.startsWith('deduction') ? -line.amount : line.amount) : sum,
      0,
    ),
  };
}

/** Hours by column of the sheet where time rules made them: what each line pays. */
function hoursPaid(input: PayslipInput, payslip: Payslip): Record<string, string> {
  const primary = input.rates.find((rate) => rate.primary)?.id;
  const columns: Record<string, string> = {};
  for (const line of payslip.lines) {
    if (!line.quantity || !line.rate) continue;
    const series = line.id.split(':')[1];
    const column = series === undefined || series === primary || !/^\d+$/.test(series) ? line.code : columnOf(line.code, series);
    columns[column] = Exact.of(columns[column] ?? '0')
      .plus(Exact.of(line.quantity))
      .toDecimal(2);
  }
  return columns;
}
