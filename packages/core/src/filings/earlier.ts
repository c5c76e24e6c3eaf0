import type { IsoDate } from '../calendar/dates';
import type { Minor } from '../money/amounts';

/** Sums of posted lines that count on one day, by code. */
interface SumsOfDay {
  payDate: IsoDate;
  sums: Readonly<Record<string, Minor>>;
}

/** Pay of before this system, of which only sums were entered, and the deposits that were made of it. */
export interface EarlierPay {
  /** The sums, by the last day that they cover. */
  days: readonly SumsOfDay[];
  /** Each by the pay date whose liability it was. */
  deposits: readonly { on: IsoDate; amount: Minor }[];
}

const sumOf = (sums: Readonly<Record<string, Minor>>, codes: readonly string[]): Minor =>
  codes.reduce((sum, code) => sum + (sums[code] ?? 0), 0);

/**
 * A liability by day. Of pay that was entered as sums only nobody knows its pay dates but from the deposits that were made of
 * it: those give the days, and what they do not come to stays on the last day of the sums.
 */
export function liabilityByDay(
  { days, earlier }: { days: readonly SumsOfDay[]; earlier: EarlierPay },
  codes: readonly string[],
): { date: IsoDate; amount: Minor }[] {
  const byDay = new Map<IsoDate, Minor>();
  const add = (date: IsoDate, amount: Minor): void => void byDay.set(date, (byDay.get(date) ?? 0) + amount);
  for (const { payDate, sums } of days) add(payDate, sumOf(sums, codes));
  const last = earlier.days.at(-1);
  if (last && earlier.deposits.length) {
    let entered = 0;
    for (const { payDate, sums } of earlier.days) {
      add(payDate, -sumOf(sums, codes));
      entered += sumOf(sums, codes);
    }
    for (const { on, amount } of earlier.deposits) {
      add(on, amount);
      entered -= amount;
    }
    add(last.payDate, entered);
  }
  return [...byDay]
    .filter(([, amount]) => amount !== 0)
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([date, amount]) => ({ date, amount }));
}
