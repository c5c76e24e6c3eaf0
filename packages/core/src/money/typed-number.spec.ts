import { typedNumber } from './typed-number';

describe('A number as it is typed', () => {
  it('loses what does not change it', () => {
    for (const [typed, read] of [
      ['1,250.00', '1250.00'],
      ['$ 1,250', '1250'],
      ['£84.20', '84.20'],
      ['−84.20', '-84.20'],
      ['12 500.00', '12500.00'],
      ['12,345,678.9', '12345678.9'],
      ['2.5%', '2.5'],
    ])
      expect(typedNumber(typed ?? '')).toBe(read ?? '');
  });

  it('keeps a comma that groups nothing, so that 24,50 is never 2,450', () => {
    for (const typed of ['24,50', '84,20', '1,25', '1,2500', '1250,00', '12,34,567', '1.250,00', ',50', '24,5'])
      expect(typedNumber(typed)).withContext(typed).toContain(',');
  });
});
