import { periodOfFiling, type PersonSums } from '../../../filings/filing';
import { filing, NOTHING, SOMEBODY } from './testing/facts';
import { senderOf } from './testing/sender';

describe('Nonemployee compensation', () => {
  const form = filing('1099-nec');
  const contractor = (personId: string, amount: number, more: Partial<PersonSums> = {}): PersonSums => ({
    ...SOMEBODY,
    personId,
    name: personId,
    sums: { 'us.nonemployee': amount },
    ...more,
  });
  const make = (year: number, people: PersonSums[]) => {
    const posted = people.reduce((sum, { sums }) => sum + (sums['us.nonemployee'] ?? 0), 0);
    const days = [{ payDate: `${year}-12-31`, payslips: 1, sums: { 'us.nonemployee': posted } }];
    return form.make({ ...NOTHING, period: periodOfFiling(form, String(year))!, days, people });
  };

  it('is stated from 600.00 in 2025, and from 2,000.00 in 2026 on; what is below is accounted for', () => {
    const people = [contractor('one', 200_000), contractor('two', 199_999), contractor('three', 59_999)];
    expect(make(2025, people).copies.map(({ personId }) => personId)).toEqual(['one', 'two']);
    const { copies, lines, checks } = make(2026, people);
    expect(copies.map(({ personId }) => personId)).toEqual(['one']);
    expect(lines.map(({ line, amount }) => [line, amount])).toEqual([
      ['c', 1],
      ['1', 200_000],
      ['less', 259_998],
    ]);
    expect(checks.every(({ holds }) => holds)).toBeTrue();
  });

  it('is not given out for somebody without identification', () => {
    const { number: _number, ...nobody } = contractor('one', 300_000);
    expect(make(2026, [nobody]).copies[0]?.checks.map(({ code, weight }) => [code, weight])).toEqual([['number-missing', 'stop']]);
  });

  describe('and miscellaneous income', () => {
    const items = [{ code: 'studio-rent', filing: '1099-misc', box: '1', label: '' }];
    const misc = filing('1099-misc');
    // 5,000.00 paid in all, of it 3,000.00 rent of a studio: 2,000.00 is for work.
    const people = [contractor('one', 500_000, { sums: { 'us.nonemployee': 500_000, 'studio-rent': 300_000, 'us.backup': 120_000 } })];
    const days = [
      { payDate: '2026-12-31', payslips: 1, sums: { 'us.nonemployee': 500_000, 'studio-rent': 300_000, 'us.backup': 120_000 } },
    ];
    const made = (of: typeof form) => of.make({ ...NOTHING, items, period: periodOfFiling(of, '2026')!, days, people });
    const boxes = (of: typeof form) => made(of).copies[0]?.boxes.map(({ box, amount }) => [box, amount]);

    it('state one item on one form only, and tax withheld with the work', () => {
      expect(boxes(form)).toEqual([
        ['1', 200_000],
        ['4', 120_000],
      ]);
      expect(boxes(misc)).toEqual([['1', 300_000]]);
      for (const of of [form, misc])
        expect(made(of).checks.every(({ holds }) => holds))
          .withContext(of.form)
          .toBeTrue();
    });

    it('states whoever was withheld from, however little it was', () => {
      const little = [contractor('one', 10_000, { sums: { 'us.nonemployee': 10_000, 'us.backup': 2_400 } })];
      expect(form.make({ ...NOTHING, period: periodOfFiling(form, '2026')!, days: [], people: little }).copies.length).toBe(1);
    });

    it('goes by file with a row for each payee, and names the state of the combined programme', () => {
      const { lines, copies } = made(form);
      const sender = senderOf(
        { one: { number: '123456789', givenName: 'Otto', familyName: 'Lindgren' } },
        { employer: { states: { PA: {} } } },
      );
      const [head, row, ...rest] = form
        .file!.write({ period: periodOfFiling(form, '2026')!, lines, copies, byDay: null }, sender)
        .trimEnd()
        .split('\r\n');
      expect(rest).toEqual([]);
      expect(head?.split(',').slice(-2)).toEqual(['Box 1 - Nonemployee compensation', 'Box 4 - Federal income tax withheld']);
      expect(row).toBe(
        '1099-NEC,2026,,EIN,001234567,Quillmere Glassworks,4 Kiln Row,,Corbel Falls,PA,17001-2345,5551234567,SSN,123456789,Otto,Lindgren,4 Kiln Row,,Corbel Falls,PA,17001-2345,1,PA,2000.00,1200.00',
      );
    });
  });
});

describe('The return of what is withheld from payments that are no wages', () => {
  const form = filing('945');
  const days = [
    { payDate: '2026-05-15', payslips: 1, sums: { 'us.backup': 48_000, 'us.fit': 0 } },
    { payDate: '2026-06-15', payslips: 1, sums: { 'us.backup': 12_000, 'us.fit': 900 } },
  ];
  const lines = (paid: number) =>
    Object.fromEntries(
      form.make({ ...NOTHING, period: periodOfFiling(form, '2026')!, days, paid }).lines.map(({ line, amount }) => [line, amount]),
    );

  it('has backup withholding alone, and what is left of it', () => {
    expect(lines(48_000)).toEqual({ '2': 60_000, '3': 60_000, '4': 48_000, '5': 12_000, '6': 0 });
    expect(lines(61_000)).toEqual({ '2': 60_000, '3': 60_000, '4': 61_000, '5': 0, '6': 1_000 });
  });
});
