import { addDays, weekday, writtenDay, type IsoDate } from '../calendar/dates';
import { Exact, ZERO } from '../money/exact';
import type { Figure, Paper } from '../working/reckoning';
import type { WeekPaid } from './pay-rules';
import type { Source } from '../working/working';
import type { TimeEntry } from './time';

/**
 * What an employer adds where pay and tips of a workweek are less than the minimum wage. Tips count for no more than
 * the difference between the minimum wage and the rate, and overtime is due on the minimum wage, not on the rate.
 *
 * @param weeks hours and pay by workweek; @param tips received, by day; @param least the minimum wage of an hour
 * @returns one figure over all weeks, or nothing where every week is enough
 */
export function makeUpPay(
  weeks: readonly WeekPaid[],
  tips: readonly TimeEntry[],
  least: Figure,
  weekBegins: number,
  paper: Paper,
  source?: Source,
): Figure | undefined {
  const byWeek = new Map<IsoDate, Exact>();
  for (const { date, quantity } of tips) {
    const week = addDays(date, -((weekday(date) - weekBegins + 7) % 7));
    byWeek.set(week, (byWeek.get(week) ?? ZERO).plus(Exact.of(quantity ?? '0')));
  }
  const sum = paper.reckon('make-up', 'Make-up to the minimum wage');
  let any = false;
  for (const { from, hours, overtime, pay } of weeks) {
    if (hours.isZero()) continue;
    const straight = pay.minus(pay.times(overtime).over(hours.times(Exact.whole(2)).plus(overtime)));
    const credit = hours.times(least.amount).minus(straight).atLeast(ZERO);
    const received = byWeek.get(from) ?? ZERO;
    const figure = paper
      .reckon(`make-up:${from}`, `Week from ${writtenDay(from)}`)
      .start('Hours', hours)
      .plus('Half of the overtime hours', overtime.over(Exact.whole(2)))
      .times(least.label, least)
      .less(`Tips of ${received.toDecimal(2)}, at most what the rate lacks`, received.atMost(credit))
      .less('Paid at the rate', pay)
      .atLeast('Enough is paid', ZERO)
      .round('up')
      .source(...(source ? [source] : []))
      .done();
    if (figure.amount.isZero()) continue;
    any = true;
    sum.plus(figure.label, figure);
  }
  return any ? sum.done() : undefined;
}
