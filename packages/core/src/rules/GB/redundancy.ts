import { addDays, writtenDate, type IsoDate } from '../../calendar/dates';
import type { LawfulPayment, OwedOnLeaving } from '../../leaving/final-pay';
import { counted } from '../../money/amounts';
import { Exact } from '../../money/exact';
import type { Paper } from '../../working/reckoning';
import { reachesAge } from './pension-age';
import { tables } from './tables';

const LAW = {
  publication: 'Employment Rights Act 1996, sections 135, 155, 162 and 227',
  section: 'Half a week, a week, or a week and a half for each year of service, counted back from the last day; 20 years at most',
};
const AT_MOST = 20;
const NEEDED = 2;

/** Whole years of employment up to a day, both days counted. */
export function yearsOfService(hired: IsoDate, lastDay: IsoDate): number {
  let years = 0;
  while (reachesAge(hired, years + 1) <= dayAfter(lastDay)) years += 1;
  return years;
}
const dayAfter = (day: IsoDate): IsoDate => addDays(day, 1);

/** Statutory redundancy pay: whole years counted back from the last day, each by the age at which it began. */
export function redundancyPay({ kind, hired, lastDay, born, week }: OwedOnLeaving, paper: Paper): LawfulPayment[] {
  if (kind !== 'redundant') return [];
  const of = { label: 'Statutory redundancy pay', treatment: 'termination-award' };
  const service = yearsOfService(hired, lastDay);
  if (service < NEEDED)
    return [{ ...of, sentence: `Nothing by law: ${counted(service, 'whole year', 'whole years')} of service, and ${NEEDED} are needed.` }];
  if (!born) return [{ ...of, sentence: 'Enter the date of birth: what a year of service counts for goes by the age.' }];
  if (!week) return [{ ...of, sentence: 'Enter a rate of pay: it is so many times a week of pay.' }];
  const years = Math.min(service, AT_MOST);
  const counts = { half: 0, one: 0, more: 0 };
  for (let back = 1; back <= years; back += 1) {
    const begins = reachesAge(dayAfter(lastDay), -back);
    counts[begins >= reachesAge(born, 41) ? 'more' : begins >= reachesAge(born, 22) ? 'one' : 'half'] += 1;
  }
  const limit = tables.value('gb.weeks-pay', lastDay);
  const pay = paper
    .reckon('redundancy:week', 'A week of pay')
    .start(week.label, week)
    .atMost('Limit of a week of pay', limit.value)
    .round('half-up')
    .source(limit.source, LAW)
    .done();
  const weeks = Exact.whole(counts.half + counts.one * 2 + counts.more * 3).over(Exact.whole(2));
  const figure = paper
    .reckon('redundancy', of.label)
    .start(pay.label, pay)
    .times(`Weeks for ${counted(years, 'year', 'years')} of service: ${inWords(counts)}`, weeks)
    .round('half-up')
    .note(`Service from ${writtenDate(hired)} to ${writtenDate(lastDay)}`)
    .source(LAW)
    .done();
  return [{ ...of, figure, sentence: `${weeks.toDecimal()} weeks of pay for ${years} years of service.` }];
}

const inWords = ({ half, one, more }: { half: number; one: number; more: number }): string =>
  [...(half ? [`${half} × ½ below 22`] : []), ...(one ? [`${one} × 1 from 22`] : []), ...(more ? [`${more} × 1½ from 41`] : [])].join(', ');

/** Notice of the employer (section 86): a week after a month, from two years on a week for each, twelve at most. */
export function leastNotice({ hired, lastDay }: OwedOnLeaving): { weeks: number; sentence: string } {
  const years = yearsOfService(hired, lastDay);
  const month = addDays(lastDay, -27) >= hired;
  const weeks = years >= 2 ? Math.min(years, 12) : month ? 1 : 0;
  return {
    weeks,
    sentence: `The law wants ${counted(weeks, 'week', 'weeks')} of notice from the employer (Employment Rights Act 1996, section 86).`,
  };
}
