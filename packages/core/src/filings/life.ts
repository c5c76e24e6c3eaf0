import type { IsoDate } from '../calendar/dates';
import type { FilingLine, FilingPeriod } from './filing';

/** What happens to a filing, in this order, once for each attempt. */
export const FILING_STEPS = ['prepared', 'withdrawn', 'agreed', 'sent', 'received', 'accepted', 'rejected'] as const;
export type FilingStep = (typeof FILING_STEPS)[number];

export interface FilingEvent {
  /** Counts what was prepared for the same period: what was withdrawn or rejected, and amendments. */
  attempt: number;
  step: FilingStep;
  /** Business day. */
  on: IsoDate;
}

/** Where a filing stands; derived from what happened and the day, never kept. */
export type FilingState =
  'not-due-yet' | 'due' | 'overdue' | 'prepared' | 'agreed' | 'queued' | 'received' | 'accepted' | 'rejected' | 'amended';

/** What may follow a step within the same attempt. */
const FOLLOWS: Record<FilingStep, readonly FilingStep[]> = {
  prepared: ['withdrawn', 'agreed'],
  agreed: ['withdrawn', 'sent'],
  withdrawn: [],
  sent: ['received', 'accepted', 'rejected'],
  received: ['accepted', 'rejected'],
  accepted: [],
  rejected: [],
};
/** After these another attempt can be prepared. */
const ENDS: readonly FilingStep[] = ['withdrawn', 'accepted', 'rejected'];

const latest = (events: readonly FilingEvent[]): FilingEvent | undefined => events[events.length - 1];

/** The attempt that the next step belongs to; undefined where the step cannot be taken now. */
export function attemptFor(step: FilingStep, events: readonly FilingEvent[]): number | undefined {
  const last = latest(events);
  if (step === 'prepared') return !last ? 1 : ENDS.includes(last.step) ? last.attempt + 1 : undefined;
  return last && FOLLOWS[last.step].includes(step) ? last.attempt : undefined;
}

/** The attempt that the agency has accepted last, or that is on its way to it: what later figures are compared with. */
export function filedAttempt(events: readonly FilingEvent[]): number | undefined {
  const refused = new Set(events.filter(({ step }) => step === 'rejected').map(({ attempt }) => attempt));
  return events.filter(({ step, attempt }) => step === 'sent' && !refused.has(attempt)).pop()?.attempt;
}

/** @param events of one filing and period, in the order in which they happened */
export function stateOfFiling(
  { to, due, ahead }: Pick<FilingPeriod, 'to' | 'due' | 'ahead'>,
  today: IsoDate,
  events: readonly FilingEvent[],
): FilingState {
  const last = latest(events);
  const open = (): FilingState => (today <= to && !ahead ? 'not-due-yet' : today <= due ? 'due' : 'overdue');
  if (!last) return open();
  const acceptedBefore = events.some(({ step, attempt }) => step === 'accepted' && attempt < last.attempt);
  switch (last.step) {
    case 'withdrawn':
      return acceptedBefore ? 'accepted' : open();
    case 'sent':
      return 'queued';
    case 'accepted':
      return acceptedBefore ? 'amended' : 'accepted';
    default:
      return last.step;
  }
}

/** A line that is not what was filed. */
export interface LineDifference {
  line: string;
  label: string;
  unit: 'money' | 'count';
  filed: number;
  now: number;
}

/**
 * Lines that differ between what was filed and what the ledger makes now; a line that is missing on one side counts as
 * nothing. Those that follow what was paid are left out: nobody corrects a return because it has been paid since.
 */
export function differencesOf(filed: readonly FilingLine[], now: readonly FilingLine[]): LineDifference[] {
  const paid = new Set(now.filter(({ settles }) => settles).map(({ line }) => line));
  const names = [...new Set([...filed, ...now].map(({ line }) => line))].filter((line) => !paid.has(line));
  return names.flatMap((line) => {
    const before = filed.find((one) => one.line === line);
    const after = now.find((one) => one.line === line);
    const { label, unit } = (after ?? before) as FilingLine;
    const [from, to] = [before?.amount ?? 0, after?.amount ?? 0];
    return from === to ? [] : [{ line, label, unit, filed: from, now: to }];
  });
}
