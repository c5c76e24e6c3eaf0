import { dateOf, writtenDate, type IsoDate } from '../../calendar/dates';
import type { YearAheadFacts, YearPoint } from '../country-pack';

/** The turn of the tax year that begins in a calendar year. Finalising and payroll tax are filings and stand there. */
export const yearTurns = (year: number): { date: IsoDate; what: string }[] => [
  { date: dateOf(year, 6, 30), what: 'The tax year ends: what is paid until this day counts in it, whenever it was earned' },
  {
    date: dateOf(year, 7, 1),
    what: `Tax year ${year}-${String(year + 1).slice(2)} begins: new scales, super rates and caps; it is paid before the old one is finalised`,
  },
  { date: dateOf(year, 9, 30), what: "Declaration of wages to workers' insurers, where the policy says so" },
];

/** What the new year asks before its first run. `year` is the calendar year in which it begins. */
export function yearAhead({ year, employer, people, payDates }: YearAheadFacts): YearPoint[] {
  const counts = new Map<string, { frequency: string; count: number }>();
  for (const { schedule, frequency } of payDates) counts.set(schedule, { frequency, count: (counts.get(schedule)?.count ?? 0) + 1 });
  const extra = [...counts].filter(
    ([, { frequency, count }]) => (frequency === 'weekly' && count > 52) || (frequency === 'fortnightly' && count > 26),
  );
  const applied = people.filter(({ details }) => details['numberQuoted'] === 'applied');
  const variations = people.filter(({ details }) => details['offsets'] !== undefined && Number(details['offsets']) > 0);
  const states = (employer['states'] ?? {}) as Record<string, { premiumRate?: string }>;
  const unrated = Object.entries(states).filter(([, { premiumRate }]) => !premiumRate);
  return [
    {
      code: 'withholder',
      sentence: `The employer is ${employer['withholder'] === 'large' ? 'a large' : employer['withholder'] === 'small' ? 'a small' : 'a medium'} withholder. Look at what was withheld in the year before, and correct it with the registrations: up to 25,000 small, up to 1,000,000 medium.`,
      done: employer['withholder'] !== undefined,
      source: { publication: 'Taxation Administration Act 1953, schedule 1, sections 16-95 to 16-105' },
      part: 'registrations',
    },
    {
      code: 'premium-rates',
      sentence: unrated.length
        ? `No premium rate of workers' insurance for ${unrated.map(([state]) => state).join(', ')}. Enter the rate of the renewal.`
        : "The premium rates of workers' insurance are entered. Enter those of the renewals where they change.",
      done: unrated.length === 0,
      source: { publication: "Workers' compensation law of each state; the insurer's renewal" },
      part: 'registrations',
    },
    ...(extra.length
      ? [
          {
            code: 'extra-pay',
            sentence: `${extra.map(([schedule, { count }]) => `${schedule} has ${count} pay dates`).join('; ')} in the tax year: more is withheld with each pay, by the ranges of Schedule 1.`,
            done: true,
            source: { publication: 'ATO, Schedule 1: 53 weekly or 27 fortnightly pays' },
            part: 'registrations' as const,
          },
        ]
      : []),
    ...(applied.length
      ? [
          {
            code: 'numbers-applied-for',
            sentence: 'Tax file numbers were applied for: after 28 days the highest rate is withheld. Enter the numbers.',
            done: false,
            source: {
              publication: 'Taxation Administration Act 1953, schedule 1, section 12-155; Income Tax Assessment Act 1936, section 202CB',
            },
            part: 'people' as const,
            people: applied.map(({ personId, name }) => ({ personId, name })),
          },
        ]
      : []),
    ...(variations.length
      ? [
          {
            code: 'offsets',
            sentence: `Tax offsets of the year are claimed: ask for new withholding declarations from ${writtenDate(dateOf(year, 7, 1))} on where they change.`,
            done: true,
            source: { publication: 'ATO, Withholding declaration (NAT 3093)' },
            part: 'people' as const,
            people: variations.map(({ personId, name }) => ({ personId, name })),
          },
        ]
      : []),
  ];
}
