import { dateOf, writtenDate, type IsoDate } from '../../calendar/dates';
import { written } from '../../money/amounts';
import type { YearAheadFacts, YearPoint } from '../country-pack';
import type { UsEmployer } from './facts';
import { FEDERAL_LIABILITY } from './federal/liability';
import { nextBusinessDay } from './holidays';
import { STATES } from './states';

/** The turn of a calendar year, which is the tax year. Statements and returns are filings and stand there. */
export const yearTurns = (year: number): { date: IsoDate; what: string }[] => [
  // Publication 15, section 9: employees are reminded before 1 December.
  { date: dateOf(year, 12, 1), what: 'Remind employees to look at their Forms W-4' },
  { date: dateOf(year + 1, 1, 1), what: `Wage bases, limits and tables of ${year + 1} begin with the first pay date` },
  // 26 CFR 31.3402(f)(4)-2(b).
  { date: nextBusinessDay(dateOf(year + 1, 2, 15)), what: `Exemptions from withholding claimed for ${year} lapse` },
];

/** Reported in the lookback period, more than this makes a semi-weekly depositor (26 CFR 31.6302-1(b)(2)). */
const SEMIWEEKLY_OVER = 5_000_000;

export function yearAhead({ year, employer: facts, posted, people }: YearAheadFacts): YearPoint[] {
  const employer = facts as Partial<UsEmployer>;
  return [
    ...(employer.federalReturn === '944' ? [] : [depositSchedule(year, employer, posted)]),
    ...STATES.filter(({ code }) => employer.states?.[code]).map(({ code, name }): YearPoint => {
      const from = employer.states?.[code]?.nextUnemploymentFrom ?? '';
      const done = from >= dateOf(year, 1, 1);
      return {
        code: `rate-${code}`,
        sentence: done
          ? `${name} unemployment: ${employer.states?.[code]?.nextUnemploymentRate}% from ${writtenDate(from)}.`
          : `${name} unemployment: enter the rate of ${year} from the state's notice, with the day from which it holds.`,
        done,
        source: { publication: "The state's yearly notice of contribution rates" },
        part: 'registrations',
      };
    }),
    ...exemptions(year, people),
  ];
}

/** Monthly or semi-weekly, by what was reported in the four quarters that end on 30 June before the year. */
function depositSchedule(year: number, { depositor = 'monthly' }: Partial<UsEmployer>, posted: YearAheadFacts['posted']): YearPoint {
  const [from, to] = [dateOf(year - 2, 7, 1), dateOf(year - 1, 6, 30)];
  const reported = posted(FEDERAL_LIABILITY, from, to);
  const wanted = reported > SEMIWEEKLY_OVER ? 'semiweekly' : 'monthly';
  const words = { monthly: 'monthly', semiweekly: 'semi-weekly' };
  const why = `${written(reported)} from ${writtenDate(from)} to ${writtenDate(to)}, ${wanted === 'monthly' ? 'not over' : 'over'} ${written(SEMIWEEKLY_OVER)}`;
  return {
    code: 'deposits',
    sentence:
      wanted === depositor
        ? `Federal deposits stay ${words[wanted]} in ${year}: ${why}.`
        : `Federal deposits are ${words[wanted]} in ${year}, and ${words[depositor]} is registered: ${why}. Change it on 1 January.`,
    done: wanted === depositor,
    source: { publication: '26 CFR 31.6302-1(b)', section: 'Lookback period' },
    part: 'registrations',
  };
}

/** Exemptions from withholding that lapse on 15 February unless they are claimed anew (26 CFR 31.3402(f)(4)-2(b)). */
function exemptions(year: number, people: YearAheadFacts['people']): YearPoint[] {
  const claiming = people.filter(({ details }) => {
    const federal = details['federal'] as { exempt?: boolean; onFileSince?: string } | undefined;
    return federal?.exempt === true && (federal.onFileSince ?? '') < dateOf(year, 1, 1);
  });
  if (!claiming.length) return [];
  return [
    {
      code: 'exempt',
      sentence: `Exempt from withholding until ${writtenDate(nextBusinessDay(dateOf(year, 2, 15)))} unless claimed anew: ask for new certificates.`,
      done: false,
      source: { publication: '26 CFR 31.3402(f)(4)-2(b)' },
      part: 'people',
      people: claiming.map(({ personId, name }) => ({ personId, name })),
    },
  ];
}
