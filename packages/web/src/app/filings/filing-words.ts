import type { FilingView } from '@woodruff/contract';

/** Where a filing stands, in words. */
export const STATES: Record<FilingView['state'], string> = {
  'not-due-yet': 'period is running',
  due: 'to prepare',
  overdue: 'overdue, to prepare',
  prepared: 'prepared, to agree to',
  agreed: 'agreed to, to send',
  queued: 'sent, no answer yet',
  received: 'received by the agency',
  accepted: 'accepted',
  rejected: 'rejected, to prepare again',
  amended: 'amended, accepted',
};

/** Something is to be done about it. */
export const ASKS: readonly FilingView['state'][] = ['due', 'overdue', 'prepared', 'agreed', 'rejected'];
