import type { IsoDate } from '../calendar/dates';
import { Exact, ZERO } from '../money/exact';
import { Paper } from '../working/reckoning';
import { planYearOf, type LeaveOnPayslip } from './leave';
import { leaveOnPayslip } from './leave-on-payslip';

/**
 * The balance as it will be, in hundredths of hours, if the periods ahead are paid as usual.
 * @param entry as it stands for the first of the periods
 * @param periods not posted yet, in order
 * @param worked ordinary hours of a period, as decimal text; '0' where they are not known beforehand
 * @param booked days of leave in these periods
 * @returns the balance at the end of each period
 */
export function balancesAhead(
  entry: LeaveOnPayslip,
  periods: readonly { from: IsoDate; to: IsoDate }[],
  worked: string,
  booked: readonly { date: IsoDate; hours: string }[],
): number[] {
  let now = { ...entry, taken: [] as LeaveOnPayslip['taken'], payOut: false };
  return periods.map((period, index) => {
    const taken = booked.filter(({ date }) => (index === 0 || date >= period.from) && date <= period.to);
    const away = taken.reduce((sum, day) => sum.plus(Exact.of(day.hours)), ZERO);
    const { movements, left } = leaveOnPayslip(
      { ...now, taken },
      period,
      Exact.of(worked).minus(away).atLeast(ZERO),
      ZERO,
      new Paper(false),
    );
    const earned = movements
      .filter(({ movement }) => movement === 'earned' || movement === 'granted')
      .reduce((sum, { figure }) => sum + figure.amount.toMinor(), 0);
    const next = periods[index + 1];
    const sameYear = next
      ? planYearOf(entry.plan, next.to, entry.hired).from === planYearOf(entry.plan, period.to, entry.hired).from
      : true;
    now = { ...now, balance: left.amount.toMinor(), earnedInYear: sameYear ? now.earnedInYear + earned : 0, yearBegun: sameYear };
    return left.amount.toMinor();
  });
}
