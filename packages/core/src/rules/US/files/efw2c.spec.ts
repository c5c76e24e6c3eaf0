import { readRecord } from '../../../files/fixed-width';
import { filing } from '../forms/testing/facts';
import { senderOf } from '../forms/testing/sender';
import { EFW2C_RECORDS, efw2c } from './efw2c';

const formW2 = filing('w-2');
const period = formW2.periods(2026)[0]!;
const sender = senderOf(
  { one: { number: '123456789', givenName: 'Ines Maria', familyName: 'Halloway' } },
  {
    employer: { submitterId: 'ABCD1234', states: { PA: { incomeTaxAccount: '12-345678' } } },
    amends: true,
    known: new Map([['one', { number: '123456780', givenName: 'INES MARIA', familyName: 'HALLOWAY' }]]),
  },
);
const changed = (box: string, before: number, now: number) => ({ box, label: box, before, now });
const correction = {
  personId: 'one',
  boxes: [changed('1', 5_200_000, 5_100_000), changed('16 PA', 5_200_000, 5_100_000), changed('18 PA 990101', 100, 0)],
  marks: [{ box: '13 plan', label: 'Retirement plan', before: '', now: 'X' }],
  named: true,
};
const written = (corrected = [correction]): string => efw2c.write({ period, lines: [], copies: [], byDay: null, corrected }, sender);
const lines = written().split('\r\n').slice(0, -1);
const record = (kind: keyof typeof EFW2C_RECORDS, at: number) => readRecord(EFW2C_RECORDS[kind], lines[at]!, at + 1);

describe('The file of corrected wage statements', () => {
  it('has the records in their order, each of 1,024 columns', () => {
    expect(lines.map((line) => line.slice(0, 3))).toEqual(['RCA', 'RCE', 'RCW', 'RCS', 'RCT', 'RCF']);
    expect(lines.map(({ length }) => length)).toEqual(lines.map(() => 1024));
  });

  it('says what was reported and what is right, and leaves blank what stays', () => {
    const { values, faults } = record('person', 2);
    expect(faults).toEqual([]);
    expect([values['wages.before'], values['wages.now']]).toEqual(['00005200000', '00005100000']);
    expect([values['withheld.before'], values['withheld.now'], values['plan.before'], values['plan.now']]).toEqual(['', '', '0', '1']);
    expect([values['numberBefore'], values['number'], values['givenBefore'], values['given'], values['middle']]).toEqual([
      '123456780',
      '123456789',
      '',
      'INES',
      'MARIA',
    ]);
  });

  it('has what fewer people have in a record of its own, a sum whole where a part of it changes', () => {
    const tips = { personId: 'one', boxes: [changed('12 A', 300, 500), changed('12 TT', 0, 18_000)], marks: [], named: false };
    const stated = [
      ['12 A', 500],
      ['12 B', 40],
      ['12 TT', 18_000],
    ] as const;
    const copies = [
      { personId: 'one', boxes: stated.map(([box, amount]) => ({ box, label: box, amount, codes: [] })), marks: [], checks: [] },
    ];
    const file = efw2c.write({ period, lines: [], copies, byDay: null, corrected: [tips] }, sender).split('\r\n');
    expect(file.slice(0, -1).map((line) => line.slice(0, 3))).toEqual(['RCA', 'RCE', 'RCW', 'RCO', 'RCT', 'RCU', 'RCF']);
    const { values } = readRecord(EFW2C_RECORDS.more, file[3]!, 4);
    expect([values['uncollectedTips.before'], values['uncollectedTips.now'], values['codeTT.now'], values['codeTP.now']]).toEqual([
      '00000000340',
      '00000000540',
      '00000018000',
      '',
    ]);
    const total = readRecord(EFW2C_RECORDS.moreTotal, file[5]!, 6).values;
    expect([total['people'], total['uncollectedTips.now'], total['codeTT.before']]).toEqual([
      '0000001',
      '000000000000540',
      '000000000000000',
    ]);
  });

  it('has each state with its locality, and totals of what is corrected alone', () => {
    const state = record('state', 3).values;
    expect([state['state'], state['account'], state['wages.now'], state['localWages.before'], state['tax.now']]).toEqual([
      '42',
      '12345678',
      '00005100000',
      '00000000100',
      '',
    ]);
    const total = record('total', 4).values;
    expect([total['people'], total['wages.before'], total['wages.now'], total['withheld.now']]).toEqual([
      '0000001',
      '000000005200000',
      '000000005100000',
      '',
    ]);
  });

  it('is read for whom it names', () =>
    expect(efw2c.named?.(written())).toEqual([{ number: '123456789', givenName: 'INES MARIA', familyName: 'HALLOWAY' }]));

  it('refuses what has no place in it', () => {
    expect(() => written([{ ...correction, boxes: [changed('1', 100, -1)] }])).toThrowError(RangeError);
    expect(() => written([{ ...correction, personId: 'nobody' }])).toThrowError(RangeError);
  });
});
