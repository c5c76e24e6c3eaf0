/** What can happen to a transfer; each once. */
export const TRANSFER_STEPS = [
  'released',
  'dropped',
  'refused',
  'booked',
  'returned',
  'notice',
  'noted',
  'printed',
  'cleared',
  'stopped',
  'held',
] as const;
export type TransferStep = (typeof TRANSFER_STEPS)[number];

/** Where a transfer stands; derived from what happened, never kept. */
export const TRANSFER_STATES = ['to-send', 'sent', 'confirmed', 'returned', 'held', 'stopped', 'paid-again', 'left-out'] as const;
export type TransferState = (typeof TRANSFER_STATES)[number];

/** What did not arrive and can be paid again, once. */
export const CAME_BACK: readonly TransferStep[] = ['returned', 'refused', 'stopped'];

/**
 * @param steps that happened
 * @param replaced another transfer has taken its place
 */
export function stateOfTransfer(steps: readonly TransferStep[], replaced: boolean): TransferState {
  const has = (step: TransferStep) => steps.includes(step);
  if (has('dropped')) return 'left-out';
  if (replaced) return 'paid-again';
  if (has('stopped')) return 'stopped';
  if (has('returned') || has('refused')) return has('held') ? 'held' : 'returned';
  if (has('booked') || has('cleared')) return 'confirmed';
  return has('released') ? 'sent' : 'to-send';
}
