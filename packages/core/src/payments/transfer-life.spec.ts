import { stateOfTransfer, type TransferState, type TransferStep } from './transfer-life';

describe('Where a transfer stands', () => {
  const stories: [story: TransferStep[], replaced: boolean, state: TransferState][] = [
    [[], false, 'to-send'],
    [['released'], false, 'sent'],
    [['released', 'booked'], false, 'confirmed'],
    // A notice changes nothing: the money is there, under another number.
    [['released', 'booked', 'notice'], false, 'confirmed'],
    [['released', 'booked', 'returned'], false, 'returned'],
    [['released', 'booked', 'returned', 'held'], false, 'held'],
    [['released', 'booked', 'returned'], true, 'paid-again'],
    [['released', 'refused'], false, 'returned'],
    [['released', 'printed', 'cleared'], false, 'confirmed'],
    [['released', 'printed', 'stopped'], false, 'stopped'],
    [['dropped'], false, 'left-out'],
  ];
  for (const [steps, replaced, state] of stories)
    it(`${steps.join(', ') || 'nothing yet'}${replaced ? ', replaced' : ''}: ${state}`, () => {
      expect(stateOfTransfer(steps, replaced)).toBe(state);
    });
});
