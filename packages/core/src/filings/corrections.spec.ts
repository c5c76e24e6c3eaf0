import { correctionsOf } from './corrections';

const box = (name: string, amount: number) => ({ box: name, label: `Box ${name}`, amount, codes: [] });
const copy = (personId: string, boxes: ReturnType<typeof box>[], more = {}) => ({
  personId,
  boxes,
  marks: [],
  name: 'Ada Quill',
  number: '•1234',
  ...more,
});

describe('Statements against what was filed of them', () => {
  it('are corrected box by box where an amount is another one, and not at all where nothing is', () => {
    const filed = [copy('a', [box('1', 100), box('2', 20)]), copy('b', [box('1', 50)])];
    expect(correctionsOf(filed, [copy('a', [box('1', 90), box('2', 20)]), copy('b', [box('1', 50)])])).toEqual([
      { personId: 'a', boxes: [{ box: '1', label: 'Box 1', before: 100, now: 90 }], marks: [], named: false },
    ]);
  });

  it('are corrected where two people are wrong by the same amount, and the totals are none the wiser', () => {
    const filed = [copy('a', [box('1', 100)]), copy('b', [box('1', 50)])];
    expect(correctionsOf(filed, [copy('a', [box('1', 90)]), copy('b', [box('1', 60)])]).map(({ personId }) => personId)).toEqual([
      'a',
      'b',
    ]);
  });

  it('name who was left out, and who should never have been there', () => {
    expect(correctionsOf([copy('a', [box('1', 100)])], [copy('b', [box('1', 30)])])).toEqual([
      { personId: 'b', boxes: [{ box: '1', label: 'Box 1', before: 0, now: 30 }], marks: [], named: false },
      { personId: 'a', boxes: [{ box: '1', label: 'Box 1', before: 100, now: 0 }], marks: [], named: false },
    ]);
  });

  it('are corrected for a mark that came or went, and for a name or a number alone', () => {
    const marks = [{ box: '13 plan', label: 'Retirement plan', text: 'X' }];
    expect(correctionsOf([copy('a', [], { marks })], [copy('a', [])])[0]?.marks).toEqual([
      { box: '13 plan', label: 'Retirement plan', before: 'X', now: '' },
    ]);
    expect(correctionsOf([copy('a', [])], [copy('a', [], { number: '•9999' })])[0]?.named).toBeTrue();
  });
});
