import { quarterOf, type IsoDate } from '../calendar/dates';
import type { Minor } from '../money/amounts';
import type { Balances } from '../payslip/input';
import type { LineKind, Payslip } from '../payslip/payslip';

/** One posted line. Lines are only ever added; a correction adds the same lines negated. */
export interface LedgerLine {
  payDate: IsoDate;
  kind: LineKind;
  code: string;
  label: string;
  amount: Minor;
  quantity?: string;
}

/** What approving a payslip posts. */
export const linesToPost = (payslip: Payslip, payDate: IsoDate): LedgerLine[] =>
  payslip.lines.map(({ kind, code, label, amount, quantity }) => ({
    payDate,
    kind,
    code,
    label,
    amount,
    ...(quantity === undefined ? {} : { quantity }),
  }));

/** The same lines negated, dated by the pay date given (in the United States that of the reversal). */
export const reversalOf = (lines: readonly LedgerLine[], payDate: IsoDate): LedgerLine[] =>
  lines.map((line) => ({
    ...line,
    payDate,
    amount: -line.amount,
    ...(line.quantity === undefined ? {} : { quantity: negated(line.quantity) }),
  }));

/**
 * Sums of posted lines by code, as the next payslip needs them.
 * @param within first and last day of the tax year; lines outside it count only for the sum in all
 * @param quarter calendar quarter, 1 to 4, whose sum is wanted too
 */
export function balancesOf(lines: Iterable<LedgerLine>, within: { from: IsoDate; to: IsoDate }, quarter?: number): Balances {
  const balances: Balances = {};
  for (const line of lines) {
    const balance = (balances[line.code] ??= { year: 0, inAll: 0 });
    balance.inAll += line.amount;
    if (line.payDate < within.from || line.payDate > within.to) continue;
    balance.year += line.amount;
    if (quarter !== undefined && quarterOf(line.payDate) === quarter) balance.quarter = (balance.quarter ?? 0) + line.amount;
  }
  return balances;
}

const negated = (quantity: string): string => (quantity.startsWith('-') ? quantity.slice(1) : `-${quantity}`);
