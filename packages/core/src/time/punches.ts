import { addDays, type IsoDate } from '../calendar/dates';

/** One press at a time clock; the local time as `YYYY-MM-DDTHH:MM`. */
export interface Punch {
  at: string;
  kind: 'in' | 'out';
}

/** A piece of work between two punches, on the day it began. */
export interface Worked {
  date: IsoDate;
  begins: string;
  ends: string;
}

export interface ReadPunches {
  worked: Worked[];
  /** Punches without their other half: nothing is guessed for them. */
  open: Punch[];
  /** The same pressed again within moments; left aside. */
  doubled: Punch[];
}

/** Minutes within which the same punch again is a double. */
const DOUBLE = 5;
/** Nobody works longer without a punch: an out later than this belongs to something else. */
const LONGEST = 16 * 60;

/** Clock times are taken to the minute, or to the nearest twentieth, tenth or quarter of an hour. */
export const CLOCK_STEPS = [0, 5, 6, 15] as const;
export type ClockStep = (typeof CLOCK_STEPS)[number];

/**
 * Pairs the punches of one person: in with the next out, over midnight too.
 * @param step minutes to the nearest of which times are rounded, 0 for none
 */
export function readPunches(punches: readonly Punch[], step: ClockStep = 0): ReadPunches {
  const read: ReadPunches = { worked: [], open: [], doubled: [] };
  let begun: Punch | undefined;
  let before: Punch | undefined;
  for (const punch of [...punches].sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : a.kind === 'in' ? -1 : 1))) {
    if (before && before.kind === punch.kind && minutesBetween(before.at, punch.at) <= DOUBLE) {
      read.doubled.push(punch);
      continue;
    }
    before = punch;
    if (punch.kind === 'in') {
      if (begun) read.open.push(begun);
      begun = punch;
    } else if (begun && minutesBetween(begun.at, punch.at) <= LONGEST) {
      read.worked.push(workedBetween(begun.at, punch.at, step));
      begun = undefined;
    } else {
      if (begun) read.open.push(begun);
      begun = undefined;
      read.open.push(punch);
    }
  }
  if (begun) read.open.push(begun);
  return read;
}

/** A time half way between goes to the employee; what rounding would make nothing of stays as it was. */
function workedBetween(begin: string, end: string, step: ClockStep): Worked {
  const rounded = step ? [nearest(begin, step, 'down'), nearest(end, step, 'up')] : [begin, end];
  const [from = begin, to = end] = rounded[0] === rounded[1] ? [begin, end] : rounded;
  return { date: from.slice(0, 10), begins: from.slice(11, 16), ends: to.slice(11, 16) };
}

function nearest(at: string, step: number, tie: 'down' | 'up'): string {
  const minutes = Date.parse(`${at}:00Z`) / 60_000;
  const over = minutes % step;
  const up = over * 2 > step || (over * 2 === step && tie === 'up');
  return new Date((minutes - over + (up ? step : 0)) * 60_000).toISOString().slice(0, 16);
}

const minutesBetween = (from: string, to: string): number => (Date.parse(`${to}:00Z`) - Date.parse(`${from}:00Z`)) / 60_000;

/** A source of numbers from 0 to 1 that gives the same ones again for the same seed. */
export type Chance = () => number;

/**
 * What a time clock at the door would have recorded of an ordinary period: a morning and an afternoon on each
 * workday, a few minutes early or late; now and then somebody forgets a punch, or presses twice.
 */
export function likelyPunches(from: IsoDate, to: IsoDate, isWorkday: (date: IsoDate) => boolean, chance: Chance): Punch[] {
  const punches: Punch[] = [];
  for (let date = from; date <= to; date = addDays(date, 1)) {
    if (!isWorkday(date)) continue;
    const about = (clock: number) => clock + Math.round((chance() - 0.5) * 16);
    const longer = chance() < 0.1 ? 120 : 0;
    const day: [number, Punch['kind']][] = [
      [about(7 * 60), 'in'],
      [about(12 * 60), 'out'],
      [about(12 * 60 + 30), 'in'],
      [about(15 * 60 + 30) + longer, 'out'],
    ];
    for (const [minutes, kind] of day) {
      if (chance() < 0.02) continue;
      punches.push({ at: `${date}T${clockOf(minutes)}`, kind });
      if (chance() < 0.02) punches.push({ at: `${date}T${clockOf(minutes + 1)}`, kind });
    }
  }
  return punches;
}

const clockOf = (minutes: number): string =>
  `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;

/** Numbers from a seed (mulberry32); for simulations that have to be the same each time, never for secrets. */
export function chanceFrom(seed: number): Chance {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}
