import { periodOfFiling, type Filing, type FilingFacts, type PersonSums } from '../../../filings/filing';
import { packOf } from '../../registry';
import { computePayslip } from '../../../payslip/compute-payslip';
import { inputOf } from '../../../payslip/testing/inputs';

const filing = (code: string): Filing => packOf('US').filings.find((one) => one.code === code)!;
const form941 = filing('941');
const formW2 = filing('w-2');

function sumsOf(pay: string, count: number): Record<string, number> {
  const sums: Record<string, number> = {};
  for (let index = 0; index < count; index++) {
    for (const line of computePayslip(inputOf({ pay })).lines) sums[line.code] = (sums[line.code] ?? 0) + line.amount;
  }
  return sums;
}

describe('The quarterly return', () => {
  const days = ['2026-07-10', '2026-07-24', '2026-08-07'].map((payDate) => ({ payDate, payslips: 7, sums: sumsOf('1234.57', 7) }));
  const period = periodOfFiling(form941, '2026-Q3')!;
  const make = (of: typeof days, paid = 0, entered: FilingFacts['entered'] = {}) =>
    form941.make({ period, days: of, people: [], headcount: 7, paid, entered });
  const made = make(days);
  const line = (name: string) => made.lines.find((candidate) => candidate.line === name)!.amount;

  it('is for a quarter, due a month after it', () => {
    expect(period).toEqual({
      key: '2026-Q3',
      label: 'quarter 3 of 2026',
      from: '2026-07-01',
      to: '2026-09-30',
      due: '2026-11-02',
      taxYear: '2026',
    });
    expect(form941.headcountOn?.(period)).toBe('2026-09-12');
    expect(periodOfFiling(form941, '2026-Q5')).toBeUndefined();
    expect(periodOfFiling(form941, 'soon')).toBeUndefined();
  });

  it('takes fractions of cents into line 7, so that line 12 is the liability by date', () => {
    expect(line('2')).toBe(21 * 123457);
    // 7,654 cents withheld on each payslip; 12.4% of the quarter's wages is not 42 times that.
    expect(line('5a (2)')).toBe(Math.round(21 * 123457 * 0.124));
    expect(line('7')).not.toBe(0);
    expect(line('12')).toBe(made.byDay?.days.reduce((sum, day) => sum + day.amount, 0) ?? 0);
    expect(made.checks.every((check) => check.holds)).toBeTrue();
  });

  it('says when line 7 is more than rounding can make', () => {
    const wrong = days.map((day) => ({ ...day, sums: { ...day.sums, 'us.oasdi': (day.sums['us.oasdi'] ?? 0) + 500 } }));
    expect(
      make(wrong)
        .checks.filter((check) => !check.holds)
        .map((check) => check.sentence),
    ).toEqual([jasmine.stringContaining('Line 7')]);
  });

  it('takes sick pay, tips and group-term life from what is entered, so that line 7 is fractions of cents again', () => {
    // Of 7,654 cents of social security on one payslip only 3,654 could be collected: 40.00 are missing from the liability.
    const short = days.map((day, index) => ({
      ...day,
      sums: { ...day.sums, 'us.oasdi': (day.sums['us.oasdi'] ?? 0) - (index === 0 ? 4_000 : 0) },
    }));
    expect(make(short).checks.find(({ sentence }) => sentence.startsWith('Line 7'))?.holds).toBeFalse();
    const made9 = make(short, 0, { '9': { amount: -4_000, reason: 'Uncollected on tips of July' } });
    const now = (name: string) => made9.lines.find((candidate) => candidate.line === name)!;
    expect(now('9')).toEqual(jasmine.objectContaining({ amount: -4_000, working: 'Entered: Uncollected on tips of July' }));
    expect(now('7').amount).toBe(line('7'));
    expect(now('12').amount).toBe(line('12') - 4_000);
    expect(made9.checks.every(({ holds }) => holds)).toBeTrue();
    expect(made9.lines.some((candidate) => candidate.line === '8')).toBeFalse();
  });

  it('shows the balance, or the overpayment, against deposits', () => {
    expect(line('14')).toBe(line('12'));
    const over = make(days, line('12') + 500);
    expect(over.lines.find((candidate) => candidate.line === '15')?.amount).toBe(500);
    expect(over.lines.find((candidate) => candidate.line === '14')?.amount).toBe(0);
  });
});

describe('The wage statement', () => {
  const period = periodOfFiling(formW2, '2026')!;
  const sums = sumsOf('2000.00', 26);
  const facts = { personId: 'one', name: 'Ines Halloway', number: '123456789', shared: false, address: true, sums, details: {} };
  const make = (person: Partial<PersonSums> = {}, posted: Record<string, number> = { ...sums, ...person.sums }) => {
    const one: PersonSums = { ...facts, ...person };
    const days = [{ payDate: '2026-12-31', payslips: 26, sums: posted }];
    return formW2.make({ period, days, people: [one], headcount: 0, paid: 0, entered: {} });
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
    expect(marks({ 'us.box12.AA': 100 })).toEqual(['13 X']);
    expect(marks({ 'us.tips': 100 }, { tippedOccupation: '102' })).toEqual(['14b 102']);
    expect(checks({ sums: { ...sums, 'us.tips': 100 } })).toEqual(['occupation-missing']);
  });
  it('has the codes for tips and overtime from 2026 on only', () => {
    const of = (year: number) => {
      const one = { ...facts, sums: { ...sums, 'us.tips': 100, 'us.box12.TT': 50 } };
      const made = formW2.make({
        period: periodOfFiling(formW2, String(year))!,
        days: [],
        people: [one],
        headcount: 0,
        paid: 0,
        entered: {},
      });
      return made.copies[0]?.boxes.filter(({ box }) => box.startsWith('12 T')).map(({ box }) => box);
    };
    expect(of(2025)).toEqual([]);
    expect(of(2026)).toEqual(['12 TP', '12 TT']);
  });
  it('checks the number: missing, impossible, shared', () => {
    expect(checks({})).toEqual([]);
    const { number: _number, ...without } = facts;
    expect(
      formW2.make({ period, days: [], people: [without], headcount: 0, paid: 0, entered: {} }).copies[0]?.checks.map(({ code }) => code),
    ).toEqual(['number-missing']);
    for (const number of ['000123456', '666123456', '912345678', '123004567', '123450000'])
      expect(checks({ number })).withContext(number).toEqual(['number-invalid']);
    expect(checks({ shared: true })).toEqual(['number-shared']);
  });
  it('checks box 3 against the wage base and box 4 against box 3', () => {
    expect(checks({ sums: { ...sums, 'us.oasdi.wages': 18_450_001 } })).toEqual(['wage-base-exceeded', 'boxes-disagree', 'box-4']);
  });
});
