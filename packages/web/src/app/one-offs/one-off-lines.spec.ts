import { codeOfItem, codeOfPerson, emptyLine, entriesOf, withBlock } from './one-off-lines';

const PEOPLE = [
  { code: 'Q017', name: 'Halloway, Ines' },
  { code: 'Q018', name: 'Ketteridge, Jonas' },
];
const ITEMS = [{ code: 'bonus', name: 'Bonus', kind: 'earning' }];

describe('Lines of one-offs', () => {
  it('take a block from a spreadsheet from the cell on, and always end with an empty line', () => {
    const lines = withBlock([emptyLine()], 0, 'person', [
      ['Q017', 'bonus', '$1,250.00', 'open day'],
      ['Q018', 'bonus', '−40'],
    ]);
    expect(lines.map(({ person, amount, note }) => [person, amount, note])).toEqual([
      ['Q017', '1250.00', 'open day'],
      ['Q018', '-40', ''],
      ['', '', ''],
    ]);
    expect(withBlock(lines, 1, 'amount', [['50', 'late']])[1]).toEqual(jasmine.objectContaining({ amount: '50', note: 'late' }));
  });

  it('know a person by code, by name either way round, or as chosen from the list', () => {
    for (const typed of ['q017', 'Halloway, Ines', 'ines halloway', 'Halloway, Ines (Q017)'])
      expect(codeOfPerson(typed, PEOPLE)).toBe('Q017');
    expect(codeOfPerson('Somebody', PEOPLE)).toBe('Somebody');
    expect(codeOfItem('BONUS', ITEMS)).toBe('bonus');
  });

  it('are sent without the empty ones, each with the run that takes it', () => {
    const line = { ...emptyLine(), person: 'Q017', item: 'Bonus', amount: '10' };
    expect(entriesOf([line, { ...line, takes: 'date', date: '2026-12-01' }, emptyLine()], PEOPLE, ITEMS)).toEqual([
      { person: 'Q017', item: 'bonus', amount: '10', note: '', part: null, earned: null, takes: { by: 'next' } },
      { person: 'Q017', item: 'bonus', amount: '10', note: '', part: null, earned: null, takes: { by: 'date', date: '2026-12-01' } },
    ]);
  });
});
