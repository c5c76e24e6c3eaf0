import { addDays, periodsDue, stateOfFiling, type FilingState } from '@woodruff/core';
import { select } from '../database/connection';
import { obligationsOf } from '../remittances/owed';
import type { Scope } from '../scope';
import { eventsOf } from './events';
import { filingsWanted, isAskedFor, payDatesOf } from './make';

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

/** What should have been filed or paid by now, and is neither on its way nor there. */
export async function overdue(scope: Scope): Promise<Due[]> {
  const first = await firstDay(scope);
  if (!first) return [];
  const yesterday = addDays(scope.employer.today, -1);
  const all = [...(await paymentsDue(scope, first, yesterday)), ...(await filingsDue(scope, first, yesterday, first))];
  return all.filter(({ done }) => !done);
}

async function firstDay(scope: Scope): Promise<string | undefined> {
  const [first] = await select<{ day: string }>(
    scope.database,
    'select counts_on as day from ledger_lines where employer_id = :employer order by counts_on limit 1',
    { employer: scope.employer.id },
  );
  return first?.day;
}

/** What is owed to payees by a day within the range; what is settled is done. */
async function paymentsDue(scope: Scope, from: string, to: string): Promise<Due[]> {
  return (await obligationsOf(scope))
    .filter(({ due, amount, paid }) => due >= from && due <= to && (amount !== 0 || paid !== 0))
    .map(({ owed, due, what, payee, left, amount }) => ({
      date: due,
      what: owed.startsWith('payee:') ? `${what}, ${payee}` : what,
      amount: left || amount,
      link: `/payments/payees/${encodeURIComponent(owed)}`,
      done: left === 0,
    }));
}

/** @param after periods that end before it are left out */
async function filingsDue(scope: Scope, from: string, to: string, after = ''): Promise<Due[]> {
  const events = await eventsOf(scope);
  const payDates = await payDatesOf(scope);
  const asked = await isAskedFor(scope, payDates);
  return (await filingsWanted(scope)).flatMap((filing) =>
    periodsDue(filing, from, to, payDates)
      .filter((period) => period.to >= after && asked(filing, period))
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
