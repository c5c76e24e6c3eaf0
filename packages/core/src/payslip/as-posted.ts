import { written } from '../money/amounts';
import { Exact } from '../money/exact';
import type { Working } from '../working/working';
import type { PayslipLine } from './payslip';

/**
 * Workings of a posted payslip, made again from its stored input. Where the rules as they are now give another amount
 * than was posted, the working says so; what was posted stands.
 * @param posted the lines in the ledger, amounts in minor units
 * @param now the lines that the input gives now; none where it can no longer be calculated
 */
export function asPosted(
  posted: readonly PayslipLine[],
  now: readonly PayslipLine[],
  workings: Readonly<Record<string, Working>>,
): Record<string, Working> {
  const made = { ...workings };
  for (const line of posted) {
    const other = now.find(({ id }) => id === line.id);
    if (other?.amount === line.amount) continue;
    const note = other
      ? `Posted as ${written(line.amount)}; by the rules as they are now it comes to ${written(other.amount)}. What was posted stands: pay or take the difference with a correction.`
      : 'Posted so; the rules as they are now do not make this line. What was posted stands.';
    const amount = Exact.minor(line.amount).toDecimal(2);
    const working = made[line.id] ?? {
      key: line.id,
      label: line.label,
      amount,
      unit: 'money' as const,
      steps: [{ operation: 'start' as const, label: 'As posted', operand: amount, result: amount }],
      sources: [],
      notes: [],
      facts: [],
    };
    made[line.id] = { ...working, notes: [note, ...working.notes] };
  }
  return made;
}
