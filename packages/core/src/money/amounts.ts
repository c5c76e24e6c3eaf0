import { Exact } from './exact';

/** An amount in minor units of its currency (cents, pence): always a safe integer. */
export type Minor = number;

/** Decimal text to minor units. Throws RangeError when the text is no amount of whole minor units. */
export const minorOf = (decimal: string): Minor => Exact.of(decimal).toMinor();

/** Minor units as plain decimal text: 223920 → "2239.20". */
export const decimalOf = (amount: Minor): string => Exact.minor(amount).toDecimal(2);

/** Minor units for reading: grouped thousands and a true minus sign, 223920 → "2,239.20". */
export const written = (amount: Minor): string => writtenDecimal(decimalOf(amount));

/** A count for reading: counted(1, 'person', 'people') → "1 person", counted(10000, 'person', 'people') → "10,000 people", counted(10000) → "10,000". */
export const counted = (count: number, one = '', many = one): string =>
  `${writtenDecimal(String(count))} ${count === 1 ? one : many}`.trimEnd();

/** Decimal text for reading, with grouped thousands and a true minus sign. */
export function writtenDecimal(decimal: string): string {
  const negative = decimal.startsWith('-');
  const [whole = '0', fraction] = decimal.replace('-', '').split('.');
  const grouped = whole.replace(/\B(?=(\d{3})+$)/g, ',');
  return `${negative ? '−' : ''}${grouped}${fraction === undefined ? '' : `.${fraction}`}`;
}
