import { Exact } from '../money/exact';
import type { Minor } from '../money/amounts';
import { computePayslip } from '../payslip/compute-payslip';
import type { PayslipInput } from '../payslip/input';
import type { Payslip } from '../payslip/payslip';
import { Paper } from '../working/reckoning';
import type { Working } from '../working/working';

/** What an item would have come to in a paid period with what is known now, and what of it is still to be paid. */
export interface BackPayLine {
  item: string;
  label: string;
  /** As it was paid, in minor units. */
  paid: Minor;
  /** With what is known now. */
  now: Minor;
  /** Offered before for this period and item. */
  already: Minor;
  difference: Minor;
  /** How the line of now was calculated, and the difference. */
  workings: Record<string, Working>;
}

/**
 * Back pay for one paid period: the payslip is recalculated with the rates, hours and items known now, and
 * the difference of each earning is what is still to be paid. Taxes are not recalculated: back pay is taxed
 * when it is paid.
 * @param paid the input that the period was paid with
 * @param now the same period with what is known now; its tax details and balances do not matter
 * @param already offered or paid before for this period, by item, in minor units
 */
export function backPayOf(paid: PayslipInput, now: PayslipInput, already: Readonly<Record<string, Minor>> = {}): BackPayLine[] {
  const was = computePayslip(paid);
  const is = computePayslip(
    { ...paid, rates: now.rates, ...timeOf(paid, now), hourItems: now.hourItems, items: now.items },
    { workings: true },
  );
  const codes = new Set([...earnings(was), ...earnings(is)].map((line) => line.code));
  return [...codes].flatMap((item) => {
    const [before, after] = [sumOf(was, item), sumOf(is, item)];
    const done = already[item] ?? 0;
    if (after - before - done === 0) return [];
    const line = [...earnings(is), ...earnings(was)].find((candidate) => candidate.code === item);
    const label = line?.label ?? item;
    const paper = new Paper(true);
    const reckoning = paper
      .reckon(`back-pay:${item}`, `Still to be paid: ${label}`)
      .start('With what is known now', { key: line?.id ?? item, label, amount: Exact.minor(after) })
      .less('As it was paid', Exact.minor(before));
    if (done !== 0) reckoning.less('Offered before for this period', Exact.minor(done));
    reckoning.done();
    return [
      {
        item,
        label,
        paid: before,
        now: after,
        already: done,
        difference: after - before - done,
        workings: { ...is.workings, ...paper.workings },
      },
    ];
  });
}

/** Hours as they are known now. A sheet that was paid and is open again says nothing until it is approved. */
function timeOf(paid: PayslipInput, now: PayslipInput): Partial<PayslipInput> {
  if (paid.time && !now.time) return {};
  const { hours, time, timeItems } = now;
  return { hours, ...(time ? { time } : {}), ...(timeItems ? { timeItems } : {}) };
}

/** Earnings by hours, salary and recurring items; what was paid once is not recalculated. */
const earnings = (payslip: Payslip) => payslip.lines.filter((line) => line.kind === 'earning' && !line.id.startsWith('once:'));
const sumOf = (payslip: Payslip, code: string): Minor =>
  earnings(payslip).reduce((sum, line) => (line.code === code ? sum + line.amount : sum), 0);
