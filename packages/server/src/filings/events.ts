import type { Correction, FilingView } from '@woodruff/contract';
import { correctionsOf, type FilingEvent } from '@woodruff/core';
import { select } from '../database/connection';
import type { Scope } from '../scope';

/** What was prepared, as it was. */
export type Content = Pick<FilingView, 'lines' | 'byDay' | 'copies' | 'detail' | 'checks' | 'source' | 'employer'> & {
  /** Whose statement the agency has otherwise, where it corrects what was filed. */
  corrected?: Correction[];
};

export interface Happened extends FilingEvent {
  filing: string;
  period: string;
  at: Date;
  who: string;
  words: string;
}

/** What happened to filings, of one period or of all, in its order. */
export const eventsOf = (scope: Scope, filing?: string, period?: string): Promise<Happened[]> =>
  select(
    scope.database,
    `select e.filing, e.period, e.attempt, e.step, e.on_day as "on", e.at, coalesce(u.name, 'Woodruff') as who, e.words from filing_events e left join users u on u.id = e.user_id
     where e.employer_id = :employer ${filing === undefined ? '' : 'and e.filing = :filing and e.period = :period'} order by e.id`,
    { employer: scope.employer.id, filing, period },
  );

/** What was prepared in an attempt. */
export async function contentOf(scope: Scope, filing: string, period: string, attempt: number): Promise<Content | undefined> {
  const [row] = await select<{ content: Content }>(
    scope.database,
    `select content from filing_events where employer_id = :employer and filing = :filing and period = :period and attempt = :attempt and step = 'prepared'`,
    { employer: scope.employer.id, filing, period, attempt },
  );
  return row?.content;
}

/** Whose statement is not as it was filed, by name. */
export function correctedSince(filed: Pick<Content, 'copies'>, now: Pick<Content, 'copies'>): Correction[] {
  const names = new Map([...filed.copies, ...now.copies].map(({ personId, name }) => [personId, name]));
  return correctionsOf(filed.copies, now.copies).map((one) => ({ ...one, name: names.get(one.personId) ?? '' }));
}
