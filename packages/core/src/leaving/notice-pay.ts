import { weekdaysBetween, writtenPeriod, type IsoDate } from '../calendar/dates';
import { Exact } from '../money/exact';
import type { Rate } from '../payslip/input';
import { CannotCompute } from '../rules/country-pack';
import type { Figure, Paper } from '../working/reckoning';

/** Weekdays of 52 weeks: what a year's pay and a year's hours are spread over. */
const WEEKDAYS_IN_YEAR = 260;

/**
 * What notice that is not worked comes to: a day's pay for each weekday of it. Whether it is owed at all is the
 * contract's or the law's matter; this is the sum, which the clerk may change.
 * @param standardHours hours of a pay period, for a rate by the hour
 * @throws CannotCompute where there is no rate, or no standard hours for a rate by the hour
 */
export function noticePay(
  rate: Rate | undefined,
  standardHours: string | undefined,
  payDatesInYear: number,
  notice: { from: IsoDate; to: IsoDate },
  paper: Paper,
): Figure {
  if (!rate)
    throw new CannotCompute('notice-without-rate', "No rate of pay is on file. Enter one on the person's page, or type the amount.");
  if (rate.per === 'hour' && standardHours === undefined)
    throw new CannotCompute('notice-without-hours', "No standard hours are on file. Enter them on the person's page, or type the amount.");
  const day = paper.reckon('notice:day', "A day's pay");
  const [dates, weekdays] = [Exact.whole(payDatesInYear), Exact.whole(WEEKDAYS_IN_YEAR)];
  day.start(rate.per === 'year' ? `${rate.label}, per year` : rate.label, Exact.of(rate.amount));
  if (rate.per === 'hour') day.times('Standard hours of a pay period', Exact.of(standardHours ?? '0'));
  if (rate.per !== 'year') day.times('Pay dates in the year', dates);
  day.over('Weekdays of 52 weeks', weekdays).round('half-up', 4);
  const pay = day.done();
  return paper
    .reckon('notice', 'Notice not worked')
    .start(pay.label, pay)
    .times(`Weekdays, ${writtenPeriod(notice.from, notice.to)}`, Exact.whole(weekdaysBetween(notice.from, notice.to)))
    .round('half-up')
    .done();
}
