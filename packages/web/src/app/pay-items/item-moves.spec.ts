import type { ItemMoves as Moves } from '@woodruff/contract';
import { part } from '../../testing/part';
import { ItemMoves } from './item-moves';

const MOVES: Moves = {
  year: '2026-27',
  bases: [
    { code: 'au.gross', label: 'Gross payments' },
    { code: 'au.bonus', label: 'Bonuses and commissions' },
  ],
  people: [{ personId: 'p1', name: 'Adeyemi, Fergus', posted: 50_000, sums: [-50_000, 50_000] }],
  stay: [],
};
const NOTHING: Moves = { year: '2026-27', bases: [], people: [], stay: [] };
const shown = async (more: object, moves: Moves = MOVES) => {
  const one = await part(ItemMoves, { itemId: 'i1', counted: { treatment: 'bonus' }, ...more });
  expect(await one.answer('POST', '/pay-items/i1/moves/check', moves)).toEqual({ treatment: 'bonus' });
  return one;
};

describe('What another treatment of an item moves', () => {
  it('is shown person by person before it is saved, and not moved from there', async () => {
    const one = await shown({ ahead: true, mayMove: true });
    expect(one.text).toContain('500.00 was posted in 2026-27, and stays on the statements of 1 person where it is');
    expect(one.text).toContain('Adeyemi, Fergus 500.00 −500.00 +500.00');
    expect(one.buttons()).toEqual([]);
    expect((await shown({ ahead: true }, NOTHING)).text).toContain('Nothing that was posted in 2026-27 would stand elsewhere');
  });

  it('is moved once it is saved, by who may and with a reason', async () => {
    expect((await shown({ mayMove: false })).text).toContain('Somebody who may approve can move it');
    const one = await shown({ mayMove: true });
    await one.press('Move it where it counts now …');
    expect(one.button('Move it').disabled).toBeTrue();
    await one.fill('Reason', 'It is a bonus');
    await one.press('Move it');
    expect(await one.answer('POST', '/pay-items/i1/moves', { people: 1 })).toEqual({ reason: 'It is a bonus' });
    await one.answer('POST', '/pay-items/i1/moves/check', NOTHING);
    expect(one.text).toBe('');
  });

  it('says what a payslip works out, which no sum can move', async () => {
    const one = await shown({ ahead: true }, { ...NOTHING, stay: ['Redundancy pay'] });
    expect(one.text).toContain('Not moved, because each payslip calculates it: Redundancy pay.');
  });
});
