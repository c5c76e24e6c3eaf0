import { Exact, powerOfTen } from './exact';

/** The roundings that laws and agreements name. "Up" and "down" are away from and towards zero. */
export type Rounding = 'half-up' | 'half-down' | 'half-even' | 'up' | 'down';

/** How each rounding is written in a working. */
export const ROUNDING_WORDS: Record<Rounding, string> = {
  'half-up': 'to the nearest, half up',
  'half-down': 'to the nearest, half down',
  'half-even': 'to the nearest, half to even',
  up: 'up',
  down: 'down',
};

/**
 * Rounds to a number of decimals: 2 for cents, 0 for whole units.
 * @example round(Exact.of('100.235'), 'half-up', 2) // 100.24
 */
export function round(value: Exact, rounding: Rounding, places: number): Exact {
  const scale = powerOfTen(places);
  const negative = value.numerator < 0n;
  const scaled = (negative ? -value.numerator : value.numerator) * scale;
  let quotient = scaled / value.denominator;
  const twice = (scaled % value.denominator) * 2n;
  if (twice > 0n && raises(rounding, twice, value.denominator, quotient)) quotient += 1n;
  return Exact.scaled(negative ? -quotient : quotient, places);
}

function raises(rounding: Rounding, twiceRemainder: bigint, denominator: bigint, quotient: bigint): boolean {
  switch (rounding) {
    case 'up':
      return true;
    case 'down':
      return false;
    case 'half-up':
      return twiceRemainder >= denominator;
    case 'half-down':
      return twiceRemainder > denominator;
    case 'half-even':
      return twiceRemainder > denominator || (twiceRemainder === denominator && quotient % 2n === 1n);
  }
}
