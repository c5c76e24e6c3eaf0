const POWERS = Array.from({ length: 20 }, (_unused, places) => 10n ** BigInt(places));
export const powerOfTen = (places: number): bigint => POWERS[places] ?? 10n ** BigInt(places);

/**
 * An exact rational number: what money and rates are while they are worked on.
 * Sums, products and quotients lose nothing; only a named rounding (`roundings.ts`) does.
 */
export class Exact {
  private constructor(
    readonly numerator: bigint,
    readonly denominator: bigint,
  ) {}

  /** From a decimal text such as "1240.00" or "-0.0145". Throws RangeError for any other text. */
  static of(decimal: string): Exact {
    const match = /^([+-]?)(\d+)(?:\.(\d+))?$/.exec(decimal);
    if (!match) throw new RangeError(`"${decimal}" is not a decimal number`);
    const [, sign, whole, fraction = ''] = match;
    const digits = BigInt(`${whole}${fraction}`);
    return new Exact(sign === '-' ? -digits : digits, powerOfTen(fraction.length));
  }

  /** From digits with so many of them behind the point: 12345 with 2 places is 123.45. */
  static scaled(digits: bigint, places: number): Exact {
    return new Exact(digits, powerOfTen(places));
  }

  /** From a whole number, for example a count of pay dates. */
  static whole(count: number): Exact {
    return new Exact(BigInt(count), 1n);
  }

  /** From an amount in minor units (cents, pence). */
  static minor(amount: number): Exact {
    return new Exact(BigInt(amount), 100n);
  }

  plus(other: Exact): Exact {
    if (other.numerator === 0n) return this;
    if (this.denominator === other.denominator) return new Exact(this.numerator + other.numerator, this.denominator);
    return reduced(this.numerator * other.denominator + other.numerator * this.denominator, this.denominator * other.denominator);
  }

  minus(other: Exact): Exact {
    return this.plus(other.negated());
  }

  times(other: Exact): Exact {
    return reduced(this.numerator * other.numerator, this.denominator * other.denominator);
  }

  /** Throws RangeError when dividing by zero. */
  over(other: Exact): Exact {
    if (other.numerator === 0n) throw new RangeError('division by zero');
    const sign = other.numerator < 0n ? -1n : 1n;
    return reduced(sign * this.numerator * other.denominator, sign * this.denominator * other.numerator);
  }

  negated(): Exact {
    return new Exact(-this.numerator, this.denominator);
  }

  compare(other: Exact): -1 | 0 | 1 {
    const left = this.numerator * other.denominator;
    const right = other.numerator * this.denominator;
    return left < right ? -1 : left > right ? 1 : 0;
  }

  isAbove(other: Exact): boolean {
    return this.compare(other) > 0;
  }

  isBelow(other: Exact): boolean {
    return this.compare(other) < 0;
  }

  equals(other: Exact): boolean {
    return this.compare(other) === 0;
  }

  isZero(): boolean {
    return this.numerator === 0n;
  }

  isNegative(): boolean {
    return this.numerator < 0n;
  }

  /** The larger of the two. */
  atLeast(floor: Exact): Exact {
    return this.isBelow(floor) ? floor : this;
  }

  /** The smaller of the two. */
  atMost(ceiling: Exact): Exact {
    return this.isAbove(ceiling) ? ceiling : this;
  }

  /**
   * As decimal text with at least two and at most `places` decimals, for showing and storing.
   * What does not fit is rounded half away from zero, so that the text is honest to its last digit.
   */
  toDecimal(places = 6): string {
    const scale = powerOfTen(places);
    const negative = this.numerator < 0n;
    const magnitude = negative ? -this.numerator : this.numerator;
    const scaled = (magnitude * scale * 2n + this.denominator) / (this.denominator * 2n);
    const digits = scaled.toString().padStart(places + 1, '0');
    const whole = digits.slice(0, digits.length - places);
    const fraction = digits.slice(digits.length - places).replace(/0+$/, '');
    return `${negative && scaled !== 0n ? '-' : ''}${whole}.${fraction.padEnd(2, '0')}`;
  }

  /** In minor units. Throws RangeError when it is not a whole number of them: round it first. */
  toMinor(): number {
    const scaled = this.numerator * 100n;
    if (scaled % this.denominator !== 0n) throw new RangeError(`${this.toDecimal()} is not a whole number of cents`);
    return Number(scaled / this.denominator);
  }
}

// Denominators grow with every division; they are brought down before the digits cost more than the division does.
const LARGE = 10n ** 12n;

function reduced(numerator: bigint, denominator: bigint): Exact {
  if (denominator < LARGE) return make(numerator, denominator);
  let a = numerator < 0n ? -numerator : numerator;
  let b = denominator;
  while (b !== 0n) [a, b] = [b, a % b];
  return make(numerator / a, denominator / a);
}

const make = (numerator: bigint, denominator: bigint): Exact =>
  new (Exact as unknown as new (numerator: bigint, denominator: bigint) => Exact)(numerator, denominator);

export const ZERO = Exact.whole(0);
export const HUNDRED = Exact.whole(100);

/** The sum of any number of exact values. */
export const total = (values: Iterable<Exact>): Exact => {
  let sum = ZERO;
  for (const value of values) sum = sum.plus(value);
  return sum;
};
