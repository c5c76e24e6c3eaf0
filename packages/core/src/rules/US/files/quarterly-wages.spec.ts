import { readRecord } from '../../../files/fixed-width';
import { filing } from '../forms/testing/facts';
import { senderOf } from '../forms/testing/sender';
import { QUARTERLY_WAGES } from './quarterly-wages';

const report = filing('pa-1');
const period = report.periods(2026)[2]!;
const sender = senderOf(
  {
    one: { number: '213456789', givenName: 'Ines Maria', familyName: 'Halloway' },
    two: { number: '213456780', givenName: 'Roald', familyName: 'Bexhill' },
  },
  { employer: { federalNumber: '00-1234567', states: { PA: { unemploymentAccount: '99-12345' } } } },
);
const money = (line: string, amount: number) => ({ line, label: line, amount, unit: 'money' as const, codes: [], working: '' });
const count = (line: string, amount: number) => ({ ...money(line, amount), unit: 'count' as const });
// Of 15,000.00 and 8,000.00 in the quarter, 10,000.00 of the first lies up to the ceiling.
const content = {
  period,
  byDay: null,
  copies: [],
  lines: [
    count('month 1', 2),
    count('month 2', 2),
    count('month 3', 1),
    money('wages', 2_300_000),
    money('1', 1_610),
    money('2', 37_800),
    money('left', 39_410),
  ],
  detail: {
    title: 'Wages by person',
    columns: [
      { key: 'wages', label: 'Wages', unit: 'money' as const },
      { key: 'taxable', label: 'Taxable', unit: 'money' as const },
    ],
    rows: [
      { personId: 'one', values: [1_500_000, 1_000_000] },
      { personId: 'two', values: [800_000, 800_000] },
    ],
  },
};

describe('Quarterly wages in the layout of the states', () => {
  const lines = report.file!.write(content, sender).split('\r\n').slice(0, -1);
  const record = (kind: keyof typeof QUARTERLY_WAGES, at: number) => readRecord(QUARTERLY_WAGES[kind], lines[at]!, at + 1);

  it('have the records in their order, each of 275 columns and without a fault', () => {
    expect(lines.map((line) => line[0])).toEqual(['A', 'E', 'S', 'S', 'T', 'F']);
    expect(lines.map(({ length }) => length)).toEqual(lines.map(() => 275));
    for (const [kind, at] of [
      ['transmitter', 0],
      ['employer', 1],
      ['person', 2],
      ['person', 3],
      ['total', 4],
      ['final', 5],
    ] as const)
      expect(record(kind, at).faults).toEqual([]);
  });

  it('name the employer by its account and the quarter by its last month', () => {
    const { values } = record('employer', 1);
    expect([values['stateNumber'], values['account'], values['month'], values['year'], values['zip'], values['zip4']]).toEqual([
      '42',
      '99-12345',
      '09',
      '2026',
      '17001',
      '2345',
    ]);
  });

  it('have of everybody the wages, those over the ceiling and those up to it', () => {
    const { values } = record('person', 2);
    expect([values['number'], values['family'], values['given'], values['middle'], values['quarter']]).toEqual([
      '213456789',
      'HALLOWAY',
      'INES',
      'M',
      '092026',
    ]);
    expect([values['gross'], values['excess'], values['taxable']].map(Number)).toEqual([1_500_000, 500_000, 1_000_000]);
    // The columns as they were agreed on: 50 to 63 all wages, 92 to 105 those that are taxable.
    expect([lines[2]!.slice(49, 63), lines[2]!.slice(91, 105)].map(Number)).toEqual([1_500_000, 1_000_000]);
  });

  it('end with the sums, what is contributed by both, and how many were there in each month', () => {
    const { values } = record('total', 4);
    expect([values['people'], values['gross'], values['excess'], values['taxable']].map(Number)).toEqual([
      2, 2_300_000, 500_000, 1_800_000,
    ]);
    expect([values['due'], values['fromEmployees'], values['payment']].map(Number)).toEqual([37_800, 1_610, 39_410]);
    expect([values['month1'], values['month2'], values['month3']].map(Number)).toEqual([2, 2, 1]);
    expect(Number(record('final', 5).values['taxable'])).toBe(1_800_000);
  });

  it('hold no amount below nothing; what corrects them goes as CSV', () => {
    const below = { ...content, detail: { ...content.detail, rows: [{ personId: 'one', values: [-100, -100] }] } };
    expect(() => report.file!.write(below, sender)).toThrowError(RangeError, /Ines Maria Halloway/);
    const corrected = report.file!.corrected!;
    expect([corrected.format, corrected.write(below, { ...sender, amends: true }).includes('amended')]).toEqual(['CSV', true]);
  });
});
