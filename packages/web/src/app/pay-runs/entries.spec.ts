import { readAmount, readBlock, readHours } from './entries';

describe('What is typed in the sheet', () => {
  it('hours are figures with a point or a comma; nothing goes back to set-up', () => {
    expect(readHours('7.5')).toEqual({ value: '7.50' });
    expect(readHours('080')).toEqual({ value: '80.00' });
    expect(readHours(' 4,25 ')).toEqual({ value: '4.25' });
    expect(readHours('.5')).toEqual({ value: '0.50' });
    expect(readHours('')).toEqual({ value: null });
  });

  it('letters in hours are told, with what to do, and what was typed is in the sentence', () => {
    for (const typed of ['abc', '8h', '7.555', '1000', '-4']) {
      const read = readHours(typed);
      expect('fault' in read && read.fault)
        .withContext(typed)
        .toContain(`“${typed}” was not taken`);
    }
  });

  it('amounts may be negative and copied with signs and groups', () => {
    expect(readAmount('$1,250.5')).toEqual({ value: '1250.50' });
    expect(readAmount('−200')).toEqual({ value: '-200.00' });
    expect('fault' in readAmount('12.345')).toBeTrue();
  });

  it('a block from a spreadsheet keeps its rows and columns', () => {
    expect(readBlock('80\t4\r\n72\t\r\n')).toEqual([
      ['80', '4'],
      ['72', ''],
    ]);
  });
});
