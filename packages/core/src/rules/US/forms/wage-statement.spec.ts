import { periodOfFiling, type PersonSums } from '../../../filings/filing';
import { filing, NOTHING, SOMEBODY, sumsOf } from './testing/facts';

const formW2 = filing('w-2');

describe('The wage statement', () => {
  const period = periodOfFiling(formW2, '2026')!;
  const sums = sumsOf('2000.00', 26);
  const facts: PersonSums = { ...SOMEBODY, sums };
  const make = (person: Partial<PersonSums> = {}, posted: Record<string, number> = { ...sums, ...person.sums }) => {
    const one: PersonSums = { ...facts, ...person };
    const days = [{ payDate: '2026-12-31', payslips: 26, sums: posted }];
    return formW2.make({ ...NOTHING, period, days, people: [one] });
  };
  const checks = (person: Partial<PersonSums>) => make(person).copies[0]?.checks.map((found) => found.code);

  it('is made of sums of the ledger', () => {
    const { copies, lines } = make();
    const box = (name: string) => copies[0]?.boxes.find((one) => one.box === name)?.amount;
    expect([box('1'), box('4')]).toEqual([5_200_000, 26 * 12400]);
    expect(lines.find(({ line }) => line === 'c')?.amount).toBe(1);
  });
  it('ties its totals to the ledger, and says so when they differ', () => {
    expect(make().checks.every((check) => check.holds)).toBeTrue();
    const off = make({}, { ...sums, 'us.fit': (sums['us.fit'] ?? 0) + 1 }).checks.filter((check) => !check.holds);
    expect(off.map((check) => check.sentence)).toEqual([jasmine.stringContaining('Box 2 of all statements')]);
  });
  it('leaves out who has nothing to state', () => expect(make({ sums: { 'us.nonemployee': 1 } }).copies).toEqual([]));
  it('marks who takes part in a plan, and the occupation of who receives tips', () => {
    const marks = (more: Record<string, number>, details = {}) =>
      make({ sums: { ...sums, ...more }, details }).copies[0]?.marks.map(({ box, text }) => `${box} ${text}`);
    expect(marks({})).toEqual([]);
    expect(marks({ 'us.box12.AA': 100 })).toEqual(['13 plan X']);
    expect(marks({ 'us.tips': 100 }, { tippedOccupation: '102' })).toEqual(['14b 102']);
    expect(checks({ sums: { ...sums, 'us.tips': 100 } })).toEqual(['occupation-missing']);
  });
  it('has the codes for tips and overtime from 2026 on only', () => {
    const of = (year: number) => {
      const one = { ...facts, sums: { ...sums, 'us.tips': 100, 'us.box12.TT': 50 } };
      const made = formW2.make({
        period: periodOfFiling(formW2, String(year))!,
        ...NOTHING,
        days: [],
        people: [one],
      });
      return made.copies[0]?.boxes.filter(({ box }) => box.startsWith('12 T')).map(({ box }) => box);
    };
    expect(of(2025)).toEqual([]);
    expect(of(2026)).toEqual(['12 TP', '12 TT']);
  });
  it('checks the number: missing, impossible, shared', () => {
    expect(checks({})).toEqual([]);
    const { number: _number, ...without } = facts;
    expect(formW2.make({ ...NOTHING, period, days: [], people: [without] }).copies[0]?.checks.map(({ code }) => code)).toEqual([
      'number-missing',
    ]);
    for (const number of ['000123456', '666123456', '123004567', '123450000'])
      expect(checks({ number })).withContext(number).toEqual(['number-invalid']);
    expect(checks({ shared: true })).toEqual(['number-shared']);
  });
  it('checks box 3 against the wage base and box 4 against box 3', () => {
    expect(checks({ sums: { ...sums, 'us.oasdi.wages': 18_450_001 } })).toEqual(['wage-base-exceeded', 'boxes-disagree', 'box-4']);
  });

  it('says of a number that begins with 9, or is short, what it is', () => {
    expect(checks({ number: '912345678' })).toEqual(['number-taxpayer']);
    expect(checks({ number: '12345678' })).toEqual(['number-length']);
  });

  it('says of a name what the file would do to it', () => {
    expect(checks({ familyName: 'Featherstonehaugh-Marjoribanks' })).toEqual(['name-long']);
    expect(checks({ familyName: 'Halloway 2nd' })).toEqual(['name-letters']);
    expect(checks({ familyName: "O'Brien-Núñez" })).toEqual([]);
  });

  it('checks taxes against the boxes that they are of', () => {
    // 52,000.00 × 1.45% is 754.00; half a cent on each of 26 payslips is 0.13.
    expect(checks({ sums: { ...sums, 'us.medicare': 75_430 } })).toEqual(['box-6']);
    expect(checks({ sums: { ...sums, 'us.fit': 5_200_001 } })).toEqual(['box-2']);
    expect(checks({ sums: { ...sums, 'us.box12.D': 5_200_001 } })).toEqual(['deferrals']);
  });

  describe('with items that the employer has put into boxes', () => {
    const items = [
      { code: 'plan-457', filing: 'w-2', box: '12 G', label: '' },
      { code: 'club', filing: 'w-2', box: '14', label: 'SAVINGS' },
      { code: 'hsa-top', filing: 'w-2', box: '12 W', label: '' },
      { code: 'rent', filing: '1099-misc', box: '1', label: '' },
    ];
    const more = { 'plan-457': 260_000, club: 52_000, 'hsa-top': 10_000, 'us.hsa': 25_000, rent: 99 };
    const made = formW2.make({
      ...NOTHING,
      period,
      items,
      days: [{ payDate: '2026-12-31', payslips: 26, sums: { ...sums, ...more } }],
      people: [{ ...facts, sums: { ...sums, ...more } }],
    });
    const boxes = Object.fromEntries(made.copies[0]!.boxes.map(({ box, amount }) => [box, amount]));

    it('states them there, beside what is there by treatment, and in no other form', () => {
      expect([boxes['12 G'], boxes['14 SAVINGS'], boxes['12 W']]).toEqual([260_000, 52_000, 35_000]);
      expect(Object.values(boxes)).not.toContain(99);
      expect(made.checks.every(({ holds }) => holds)).toBeTrue();
    });

    it('has the boxes in the order of the form', () => {
      const numbers = made.copies[0]!.boxes.map(({ box }) => Number.parseInt(box, 10));
      expect(numbers).toEqual([...numbers].sort((a, b) => a - b));
    });
  });

  it('takes what somebody has marked in place of what it would mark by itself', () => {
    const marks = (marked: PersonSums['marked'], more = {}) =>
      make({ sums: { ...sums, ...more }, marked }).copies[0]?.marks.map(({ box }) => box);
    expect(marks({ '13 statutory': { text: 'X', reason: 'Sells on commission' } })).toEqual(['13 statutory']);
    expect(marks({ '13 plan': { text: '', reason: 'Left before the plan year' } }, { 'us.box12.D': 100 })).toEqual([]);
  });

  it('is compared with the four returns of the year once all are filed, and not before', () => {
    const lines = { '3': sums['us.fit']!, '5a (1)': 5_200_000, '5c (1)': 5_200_000 };
    const compared = (periods: number, more = {}) =>
      formW2
        .make({
          ...NOTHING,
          period,
          days: [{ payDate: '2026-12-31', payslips: 26, sums }],
          people: [facts],
          filed: { '941': { periods, lines: { ...lines, ...more } } },
        })
        .checks.filter(({ weight }) => weight === 'look')
        .map(({ holds }) => holds);
    expect(compared(3)).toEqual([]);
    expect(compared(4)).toEqual([true, true, true]);
    expect(compared(4, { '5c (1)': 5_200_001 })).toEqual([true, true, false]);
  });
});
