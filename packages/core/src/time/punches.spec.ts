import fc from 'fast-check';
import { chanceFrom, likelyPunches, readPunches, type Punch } from './punches';

const punch = (at: string, kind: Punch['kind']): Punch => ({ at: `2026-11-${at}`, kind });

describe('Punches of a time clock', () => {
  it('are paired: a morning and an afternoon, and a night over midnight on the day it began', () => {
    const { worked, open } = readPunches([
      punch('10T07:02', 'in'),
      punch('10T12:01', 'out'),
      punch('10T12:31', 'in'),
      punch('10T15:30', 'out'),
      punch('11T22:00', 'in'),
      punch('12T06:00', 'out'),
    ]);
    expect(worked).toEqual([
      { date: '2026-11-10', begins: '07:02', ends: '12:01' },
      { date: '2026-11-10', begins: '12:31', ends: '15:30' },
      { date: '2026-11-11', begins: '22:00', ends: '06:00' },
    ]);
    expect(open).toEqual([]);
  });

  it('pressed twice within moments count once; in any order', () => {
    const { worked, doubled } = readPunches([punch('10T15:30', 'out'), punch('10T07:01', 'in'), punch('10T07:00', 'in')]);
    expect(worked).toEqual([{ date: '2026-11-10', begins: '07:00', ends: '15:30' }]);
    expect(doubled).toEqual([punch('10T07:01', 'in')]);
  });

  it('without their other half stay open: nothing is guessed', () => {
    const { worked, open } = readPunches([
      punch('10T07:00', 'in'),
      punch('11T07:00', 'in'),
      punch('11T15:00', 'out'),
      punch('12T15:00', 'out'),
    ]);
    expect(worked.length).toBe(1);
    expect(open).toEqual([punch('10T07:00', 'in'), punch('12T15:00', 'out')]);
    // Somebody forgot to leave on Tuesday, and to come on Wednesday: 32 hours are no shift.
    expect(readPunches([punch('10T07:00', 'in'), punch('11T15:00', 'out')]).open.length).toBe(2);
  });

  it('are never lost: each is in a pair, open, or a double', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1_000_000 }), (seed) => {
        const punches = likelyPunches('2026-11-08', '2026-11-21', (date) => date < '2026-11-14', chanceFrom(seed));
        const { worked, open, doubled } = readPunches(punches);
        expect(2 * worked.length + open.length + doubled.length).toBe(punches.length);
      }),
    );
  });

  it('of the simulation are the same for the same seed, and now and then one is forgotten or doubled', () => {
    const some = (seed: number) => likelyPunches('2026-01-01', '2026-06-30', () => true, chanceFrom(seed));
    expect(some(7)).toEqual(some(7));
    const { open, doubled } = readPunches(some(7));
    expect(open.length).toBeGreaterThan(0);
    expect(doubled.length).toBeGreaterThan(0);
  });
});
