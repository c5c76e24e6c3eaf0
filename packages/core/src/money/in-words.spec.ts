import { inWords } from './in-words';

describe('An amount in words', () => {
  for (const [amount, words] of [
    [0, 'Zero and 00/100'],
    [7, 'Zero and 07/100'],
    [1_900, 'Nineteen and 00/100'],
    [2_100, 'Twenty-one and 00/100'],
    [10_000, 'One hundred and 00/100'],
    [123_456, 'One thousand two hundred thirty-four and 56/100'],
    [100_000_050, 'One million and 50/100'],
    [101_000_000_000, 'One billion ten million and 00/100'],
    [99_999_999, 'Nine hundred ninety-nine thousand nine hundred ninety-nine and 99/100'],
  ] as const)
    it(`${amount} is ${words}`, () => expect(inWords(amount)).toBe(words));

  it('is not said of less than nothing', () => expect(() => inWords(-1)).toThrowError(RangeError));
});
