import fc from 'fast-check';
import { Exact } from './exact';
import { counted, decimalOf, minorOf, written } from './amounts';
import { round } from './roundings';

describe('Exact numbers', () => {
  it('lose nothing: dividing and multiplying back gives the same', () => {
    fc.assert(
      fc.property(
        fc.integer(),
        fc.integer({ min: 1, max: 5000 }),
        (cents, parts) => Exact.minor(cents).over(Exact.whole(parts)).times(Exact.whole(parts)).toMinor() === cents,
      ),
    );
  });
  it('refuse what is no decimal number', () => {
    for (const text of ['', '1,000', '1e3', 'ten', '.5', '5.', 'NaN'])
      expect(() => Exact.of(text))
        .withContext(text)
        .toThrowError(RangeError);
    expect(() => minorOf('1.005')).toThrowError(RangeError);
  });
  it('divide by zero never', () => expect(() => Exact.of('1').over(Exact.of('0'))).toThrowError(RangeError));
  it('read as people write them', () => {
    expect(written(-123456789)).toBe('−1,234,567.89');
    expect([counted(1, 'person', 'people'), counted(0, 'person', 'people'), counted(10_000)]).toEqual(['1 person', '0 people', '10,000']);
    expect(decimalOf(5)).toBe('0.05');
  });
});

describe('Roundings', () => {
  const cases = {
    'half-up': ['0.13', '-0.13', '0.12'],
    'half-down': ['0.12', '-0.12', '0.12'],
    'half-even': ['0.12', '-0.12', '0.12'],
    up: ['0.13', '-0.13', '0.13'],
    down: ['0.12', '-0.12', '0.12'],
  } as const;
  for (const [name, [half, negative, below]] of Object.entries(cases)) {
    it(name, () => {
      expect(round(Exact.of('0.125'), name as keyof typeof cases, 2).toDecimal()).toBe(half);
      expect(round(Exact.of('-0.125'), name as keyof typeof cases, 2).toDecimal()).toBe(negative);
      expect(round(Exact.of('0.1249'), name as keyof typeof cases, 2).toDecimal()).toBe(below);
    });
  }
});
