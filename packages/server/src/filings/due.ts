import { addDays, periodsDue, stateOfFiling, yearOf, type FilingState } from '@woodruff/core';
import { select } from '../database/connection';
import { packFor, type Scope } from '../scope';
import { eventsOf } from './events';

/** Something that must reach an agency, or the people, by a day. */
export interface Due {
  date: string;
  what: string;
  amount: number | null;
  /** Where it is looked at. */
  link: string;
  /** It is on its way, or there. */
  done: boolean;
}

/** On its way, or there: nobody has to do anything by the day. */
const DONE: readonly FilingState[] = ['queued', 'received', 'accepted', 'amended'];

/** What is due within a range of days: payments of what was posted, and filings. */
export async function dueBetween(scope: Scope, from: string, to: string): Promise<Due[]> {
  // Nothing was due from an employer that has paid nobody yet; what is ahead stays in sight.
  const first = await firstDay(scope);
  const { today } = scope.employer;
  const since = first || from > today ? from : today;
  const due = [...(await paymentsDue(scope, since, to)), ...(await filingsDue(scope, since, to))];
  return due.sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0));
}

/** Filings of periods with anything posted whose day has passed, and which are not on their way. */
export async function overdueFilings(scope: Scope): Promise<Due[]> {
  const first = await firstDay(scope);
  const { today } = scope.employer;
  return first ? (await filingsDue(scope, first, addDays(today, -1), first)).filter(({ done }) => !done) : [];
}

async function firstDay(scope: Scope): Promise<string | undefined> {
  const [first] = await select<{ day: string }>(
    scope.database,
    'select counts_on as day from ledger_lines where employer_id = :employer order by counts_on limit 1',
    { employer: scope.employer.id },
  );
  return first?.day;
}

async function paymentsDue(scope: Scope, from: string, to: string): Promise<Due[]> {
  const due: Due[] = [];
  for (const owed of packFor(scope).moneyOwed(scope.employer.facts.country)) {
    if (!owed.due || !owed.since) continue;
    const liabilities = await select<{ payDate: string; amount: number }>(
      scope.database,
      `select counts_on as "payDate", sum(amount)::bigint as amount from ledger_lines where employer_id = :employer and code in (:codes) and counts_on >= :since group by counts_on order by counts_on`,
      { employer: scope.employer.id, codes: [...owed.codes], since: owed.since(from) },
    );
    due.push(
      ...owed
        .due(liabilities)
        .filter(({ date }) => date >= from && date <= to)
        .map(({ date, what, amount, upTo }) => ({ date, what, amount, link: linkOf(scope, owed.filing, upTo), done: false })),
    );
  }
  return due;
}

/** Where what is owed is reported: the filing of the period in which it arose. */
function linkOf(scope: Scope, code: string | undefined, day: string): string {
  const filing = packFor(scope).filings.find((one) => one.code === code);
  const period = filing?.periods(yearOf(day)).find(({ from, to }) => from <= day && day <= to);
  return period ? `/filings/${code}/${period.key}` : '/filings';
}

/** @param after periods that end before it are left out */
async function filingsDue(scope: Scope, from: string, to: string, after = ''): Promise<Due[]> {
  const events = await eventsOf(scope);
  return packFor(scope).filings.flatMap((filing) =>
    periodsDue(filing, from, to)
      .filter((period) => period.to >= after)
      .map((period) => {
        const happened = events.filter((event) => event.filing === filing.code && event.period === period.key);
        return {
          date: period.due,
          what: `${filing.form}, ${period.label}`,
          amount: null,
          link: `/filings/${filing.code}/${period.key}`,
          done: DONE.includes(stateOfFiling(period, scope.employer.today, happened)),
        };
      }),
  );
}
