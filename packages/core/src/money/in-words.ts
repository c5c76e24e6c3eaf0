import type { Minor } from './amounts';

const ONES =
  'zero one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen seventeen eighteen nineteen'.split(
    ' ',
  );
const TENS = '- - twenty thirty forty fifty sixty seventy eighty ninety'.split(' ');
const GROUPS = ['', ' thousand', ' million', ' billion', ' trillion'];

const belowHundred = (number: number): string =>
  number < 20
    ? (ONES[number] as string)
    : `${TENS[Math.floor(number / 10)] as string}${number % 10 ? `-${ONES[number % 10] as string}` : ''}`;

function belowThousand(number: number): string {
  const hundreds = Math.floor(number / 100);
  const rest = number % 100;
  if (!hundreds) return belowHundred(rest);
  return `${ONES[hundreds] as string} hundred${rest ? ` ${belowHundred(rest)}` : ''}`;
}

/**
 * An amount as a cheque says it: 123456 → "One thousand two hundred thirty-four and 56/100".
 * @throws RangeError for a negative amount
 */
export function inWords(amount: Minor): string {
  if (amount < 0) throw new RangeError('A cheque is not made out for less than nothing');
  const whole = Math.floor(amount / 100);
  const parts: string[] = [];
  for (let rest = whole, group = 0; rest > 0; rest = Math.floor(rest / 1000), group++)
    if (rest % 1000) parts.unshift(`${belowThousand(rest % 1000)}${GROUPS[group] as string}`);
  const words = parts.join(' ') || 'zero';
  return `${words.charAt(0).toUpperCase()}${words.slice(1)} and ${String(amount % 100).padStart(2, '0')}/100`;
}
