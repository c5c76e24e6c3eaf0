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

  describe('rounded (29 CFR 785.48(b))', () => {
    const between = (begin: string, end: string, step: 0 | 5 | 6 | 15) =>
      readPunches(
        [
          { at: begin, kind: 'in' },
          { at: end, kind: 'out' },
        ],
        step,
      ).worked.map(({ date, begins, ends }) => `${date} ${begins} ${ends}`);

    it('to the nearest quarter: seven minutes go, eight count', () => {
      expect(between('2026-11-10T07:07', '2026-11-10T15:38', 15)).toEqual(['2026-11-10 07:00 15:45']);
      expect(between('2026-11-10T07:08', '2026-11-10T15:37', 15)).toEqual(['2026-11-10 07:15 15:30']);
    });

    it('to the nearest five minutes or tenth of an hour; half way goes to the employee at both ends', () => {
      expect(between('2026-11-10T06:58', '2026-11-10T15:33', 5)).toEqual(['2026-11-10 07:00 15:35']);
      expect(between('2026-11-10T07:03', '2026-11-10T15:33', 6)).toEqual(['2026-11-10 07:00 15:36']);
    });

    it('over midnight the day goes with it', () => {
      expect(between('2026-11-10T23:55', '2026-11-11T06:02', 15)).toEqual(['2026-11-11 00:00 06:00']);
    });

    it('never makes nothing of time that was worked', () => {
      expect(between('2026-11-10T07:01', '2026-11-10T07:05', 15)).toEqual(['2026-11-10 07:01 07:05']);
    });

    it('not at all unless the employer chose it', () => {
      expect(between('2026-11-10T07:07', '2026-11-10T15:38', 0)).toEqual(['2026-11-10 07:07 15:38']);
    });

    it('evens out: over any times the sum of what is added stays within the ties', () => {
      let added = 0;
      for (let minute = 0; minute < 60; minute += 1) {
        const [one] = readPunches(
          [
            { at: `2026-11-10T07:${String(minute).padStart(2, '0')}`, kind: 'in' },
            { at: '2026-11-10T15:00', kind: 'out' },
          ],
          15,
        ).worked;
        const [hour = 0, rest = 0] = (one?.begins ?? '').split(':').map(Number);
        added += minute - ((hour - 7) * 60 + rest);
      }
      expect(added).toBe(0);
    });
  });
});
