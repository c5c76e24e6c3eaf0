import { addDays, writtenPeriod, type IsoDate } from '../../calendar/dates';
import { Exact, ZERO } from '../../money/exact';
import type { LeavePlan } from '../../leave/leave';
import type { EarnedBefore } from '../../payslip/input';
import type { Figure, Paper } from '../../working/reckoning';
import type { Source } from '../../working/working';

const AVERAGE = {
  publication: "Working Time Regulations 1998, regulation 16; Employment Rights Act 1996, sections 221 to 224: a week's pay",
  section: 'The 52 weeks before with pay, none of them paid for statutory leave, and none more than 104 weeks back',
};
const GRANTED = { publication: 'Working Time Regulations 1998, regulations 13 and 13A', section: '5.6 weeks a year, at most 28 days' };
const IRREGULAR = {
  publication: 'Working Time Regulations 1998, regulation 15B',
  section: '12.07 per cent of the hours worked, for irregular hours and part-year work in leave years from 1 April 2024',
};
const WEEKS = 52;
const BACK = 104 * 7;
/** How many weeks a pay period counts for; a month is a twelfth of 52. */
const WEEKS_OF: Readonly<Record<string, Exact>> = {
  weekly: Exact.whole(1),
  fortnightly: Exact.whole(2),
  'four-weekly': Exact.whole(4),
  monthly: Exact.whole(52).over(Exact.whole(12)),
};

/** An hour of holiday: what was earned in the weeks that count, over the hours paid in them. */
export function averageHour(paper: Paper, before: readonly EarnedBefore[], frequency: string, from: IsoDate): Figure | undefined {
  const weeks = WEEKS_OF[frequency] ?? Exact.whole(1);
  const counted: EarnedBefore[] = [];
  let reached = ZERO;
  for (const one of [...before].sort((a, b) => b.from.localeCompare(a.from))) {
    if (one.to >= from || one.from < addDays(from, -BACK) || one.away || one.pay <= 0) continue;
    if (reached.plus(weeks).isAbove(Exact.whole(WEEKS))) break;
    counted.push(one);
    reached = reached.plus(weeks);
  }
  const hours = counted.reduce((sum, one) => sum.plus(Exact.of(one.hours)), ZERO);
  const [latest, first] = [counted[0], counted.at(-1)];
  if (!latest || !first || hours.isZero()) return undefined;
  return paper
    .reckon('holiday:hour', 'Average pay of an hour')
    .start(
      `Earned in ${reached.toDecimal(0)} weeks with pay, ${writtenPeriod(first.from, latest.to)}`,
      counted.reduce((sum, { pay }) => sum.plus(Exact.minor(pay)), ZERO),
    )
    .over('Hours paid in them', hours)
    .round('half-up', 4)
    .source(AVERAGE)
    .done();
}

/** Plans to begin with: 5.6 weeks of the hours of a week, or so much of the hours worked. */
export function holidayGranted(hoursOfWeek: number): readonly { label: string; terms: Omit<LeavePlan, 'code'>; source: Source }[] {
  const hours = Math.min(5.6, 28 / 5) * hoursOfWeek;
  return [
    {
      label: 'Holiday, 5.6 weeks a year',
      terms: {
        name: 'Holiday',
        earns: { by: 'year', steps: [{ fromMonths: 0, hours: hours.toFixed(2) }], firstYearByDays: true },
        carryOver: '0',
        yearBegins: '01-01',
      },
      source: GRANTED,
    },
    {
      label: 'Holiday of irregular hours, 12.07 per cent of hours worked',
      terms: {
        name: 'Holiday, irregular hours',
        earns: { by: 'hours-worked', hours: '12.07', forEvery: '100' },
        paidAt: 'average',
        yearBegins: '04-01',
      },
      source: IRREGULAR,
    },
  ];
}
