import { taxWeek } from './tax-year';
import { dateOf, writtenDate, type IsoDate } from '../../calendar/dates';
import type { YearAheadFacts, YearPoint } from '../country-pack';

/** The turn of the tax year that begins in a calendar year. The last submission and the certificates are filings and stand there. */
export const yearTurns = (year: number): { date: IsoDate; what: string }[] => [
  {
    date: dateOf(year, 4, 5),
    what: 'The tax year ends: a regular pay date on 5 April, in a leap year on the 4th or 5th, is week 53 and has tables of its own',
  },
  { date: dateOf(year, 4, 6), what: `Tax year ${year}-${String(year + 1).slice(2)} begins: new rates, thresholds and tax codes` },
  {
    date: dateOf(year, 4, 19),
    what: 'Last day for the final submission of the year; what is corrected after it goes as a correction of an earlier year',
  },
  { date: dateOf(year, 7, 6), what: 'Benefits in kind and class 1A contributions of the year are reported' },
  { date: dateOf(year, 7, 22), what: 'Class 1A contributions on benefits are paid' },
];

const NOTICES = { publication: 'HMRC, P9X: tax codes to use from 6 April' };

/** What the new year asks before its first run. `year` is the calendar year in which it begins. */
export function yearAhead({ year, employer, people, payDates }: YearAheadFacts): YearPoint[] {
  const extra = payDates.filter(
    ({ frequency, date }) => ['weekly', 'fortnightly', 'four-weekly'].includes(frequency) && taxWeek(date) > 52,
  );
  const marked = people.filter(({ details }) => details['basis'] === 'week-1-month-1');
  const earlier = people.filter(
    ({ details }) =>
      typeof details['previousYear'] === 'string' && details['previousYear'] !== '' && Number(details['previousYear'].slice(0, 4)) < year,
  );
  return [
    {
      code: 'allowance',
      sentence:
        employer['employmentAllowance'] === true
          ? `The employment allowance is claimed for ${year}-${String(year + 1).slice(2)}, too: say so with the first summary of the year.`
          : 'No employment allowance is claimed. Claim it with the registrations where the employer may have it.',
      done: employer['employmentAllowance'] === true,
      source: { publication: 'National Insurance Contributions Act 2014, section 4' },
      part: 'registrations',
    },
    {
      code: 'small-employer',
      sentence: `Recovery of statutory pay: ${employer['smallEmployer'] === true ? 'in full, as a small employer' : 'the ordinary part'}. Look at the contributions of the year before, and correct it with the registrations.`,
      done: employer['smallEmployer'] !== undefined,
      source: { publication: 'Statutory Maternity Pay (Compensation of Employers) Regulations 1994, regulation 2' },
      part: 'registrations',
    },
    ...(extra.length
      ? [
          {
            code: 'week-53',
            sentence: `${extra.map(({ schedule, date }) => `${schedule} is paid on ${writtenDate(date)}`).join('; ')}: an extra pay period, week 53, with tables of its own. Its last submission of the year is for that day.`,
            done: true,
            source: { publication: 'HMRC, CWG2, 1.11: week 53 payments' },
            part: 'registrations' as const,
          },
        ]
      : []),
    ...(marked.length
      ? [
          {
            code: 'marks',
            sentence: `Codes with a week 1 / month 1 mark lose it on ${writtenDate(dateOf(year, 4, 6))}: enter the tax details without it from that day on, unless a notice says otherwise.`,
            done: false,
            source: NOTICES,
            part: 'people' as const,
            people: marked.map(({ personId, name }) => ({ personId, name })),
          },
        ]
      : []),
    ...(earlier.length
      ? [
          {
            code: 'earlier-employment',
            sentence: 'Pay and tax of an earlier employment count for their own tax year only: nothing has to be done about them.',
            done: true,
            source: NOTICES,
            part: 'people' as const,
            people: earlier.map(({ personId, name }) => ({ personId, name })),
          },
        ]
      : []),
  ];
}
