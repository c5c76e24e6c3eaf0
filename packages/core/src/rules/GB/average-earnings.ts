import { addDays, daysBetween, writtenPeriod, type IsoDate } from '../../calendar/dates';
import { Exact } from '../../money/exact';
import type { Figure, Paper } from '../../working/reckoning';
import type { LeaveByLawFacts } from '../leave-by-law';

const RELEVANT = {
  publication:
    'Statutory Maternity Pay (General) Regulations 1986, regulation 21; Statutory Sick Pay (General) Regulations 1982, regulation 19',
  section: 'Relevant period: from the day after a pay date at least eight weeks before, to the last pay date on or before the day',
};

/** Average weekly earnings of the relevant period that ends with the last pay date on or before a day. */
export function averageEarnings(paper: Paper, facts: Pick<LeaveByLawFacts, 'paid' | 'frequency' | 'hired'>, day: IsoDate): Figure {
  const { hired, frequency } = facts;
  const paid = facts.paid.filter(({ payDate }) => payDate <= day);
  const end = paid.at(-1)?.payDate;
  const label = 'Average weekly earnings';
  if (end === undefined) return paper.reckon('average', label).start('Nothing was paid before', Exact.whole(0)).source(RELEVANT).done();
  const before = paid.filter(({ payDate }) => daysBetween(payDate, end) >= 56).at(-1)?.payDate ?? addDays(hired, -1);
  const within = paid.filter(({ payDate }) => payDate > before);
  const reckoning = paper
    .reckon('average', label)
    .start(`Earnings paid in ${writtenPeriod(addDays(before, 1), end)}`, Exact.minor(within.reduce((sum, { amount }) => sum + amount, 0)));
  if (frequency === 'monthly')
    reckoning
      .times('Months of a year', Exact.whole(12))
      .over('Months paid', Exact.whole(within.length))
      .over('Weeks of a year', Exact.whole(52));
  else reckoning.over('Weeks of the period', Exact.whole(Math.max(1, Math.round(daysBetween(before, end) / 7))));
  return reckoning.source(RELEVANT).done();
}
