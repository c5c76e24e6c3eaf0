import fc from 'fast-check';
import { computePayslip } from '../../payslip/compute-payslip';
import { anItem, inputOf, type Sketch } from '../../payslip/testing/inputs';
import { Paper } from '../../working/reckoning';
import { periodOfFiling } from '../../filings/filing';
import { NOTHING, SOMEBODY } from '../US/forms/testing/facts';
import { packOf } from '../registry';
import { ukTaxSchema } from './facts';
import { LETTERS } from './letters';
import { statePensionDay } from './pension-age';
import { taxCodeOf } from './tax-code';

const MONTHS = ['04-30', '05-30', '06-30', '07-30', '08-30', '09-30', '10-30', '11-30', '12-30', '01-30', '02-27', '03-30'].map(
  (day, month) => `${month < 9 ? 2025 : 2026}-${day}`,
);
const TAX = { taxCode: '1257L', basis: 'cumulative', category: 'A' };

/** Payslips of a year, each after what those before it posted: what the year comes to under each code, in minor units. */
function year(pays: readonly string[], tax: (month: number) => Record<string, unknown> = () => ({})): Record<string, number> {
  const sums: Record<string, number> = {};
  pays.forEach((pay, month) => {
    const sketch: Sketch = {
      country: 'GB',
      date: MONTHS[month]!,
      frequency: 'monthly',
      pay,
      tax: { ...TAX, ...tax(month) },
      yearToDate: { ...sums },
    };
    for (const { code, amount } of computePayslip(inputOf(sketch)).lines) sums[code] = (sums[code] ?? 0) + amount;
  });
  return sums;
}

describe('The United Kingdom', () => {
  describe('tax codes', () => {
    it('exist as the agency writes them, with the rates of the nation that the letter before them names', () => {
      for (const code of [
        '1257L',
        'S1257L',
        'C45M',
        '100N',
        '500T',
        'K1',
        'SK475',
        'BR',
        'SBR',
        'CBR',
        'D0',
        'D1',
        'SD3',
        'CD1',
        '0T',
        'S0T',
        'NT',
      ])
        expect(taxCodeOf(code)).withContext(code).toBeDefined();
    });

    it('that cannot exist are refused before anybody is paid', () => {
      for (const code of ['', 'L', '1257', '01257L', 'K0', 'K', 'D2', 'CD2', 'SD4', 'SNT', 'X1257L', '1257P', '1257l', '123456L', 'BR1']) {
        expect(taxCodeOf(code)).withContext(code).toBeUndefined();
        expect(ukTaxSchema.safeParse({ taxCode: code, category: 'A' }).success)
          .withContext(code)
          .toBeFalse();
      }
    });
  });

  it('tax of a year is that of its pay, however the year is split', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 150_000, max: 900_000 }), { minLength: 12, maxLength: 12 }), (pays) => {
        const sums = year(pays.map((pay) => (pay / 100).toFixed(2)));
        // Free pay of 1257L in a year, and the year's bands: 12,579.12, 37,700 and 125,140.
        const taxable = Math.floor((pays.reduce((all, pay) => all + pay, 0) - 1_257_912) / 100);
        const tax =
          0.2 * Math.min(taxable, 37_700) + 0.4 * Math.max(0, Math.min(taxable, 125_140) - 37_700) + 0.45 * Math.max(0, taxable - 125_140);
        expect(Math.abs((sums['gb.paye'] ?? 0) - Math.round(tax * 100))).toBeLessThanOrEqual(1);
      }),
      { numRuns: 25 },
    );
  });

  it('a refund brings back what a better month had taken', () => {
    const even = year(['3000.00', '3000.00', '3000.00']);
    expect(year(['9000.00', '0.00', '0.00'])['gb.paye']).toBe(even['gb.paye']);
  });

  it('contributions of a director are those of the year, and by the alternative method come to the same', () => {
    const pays = [
      '2000.00',
      '15000.00',
      '500.00',
      '4000.00',
      '4000.00',
      '4000.00',
      '0.00',
      '9000.00',
      '4000.00',
      '4000.00',
      '4000.00',
      '4100.00',
    ];
    const annual = year(pays, () => ({ director: 'annual' }));
    // 54,600.00 in the year: 8 per cent of 37,700.00 and 2 of 4,330.00; 15 per cent of 49,600.00.
    expect([annual['gb.ni'], annual['gb.ni.employer']]).toEqual([301_600 + 8_660, 744_000]);
    const alternative = year(pays, () => ({ director: 'alternative' }));
    expect([alternative['gb.ni'], alternative['gb.ni.employer']]).toEqual([annual['gb.ni'], annual['gb.ni.employer']]);
    expect([annual['gb.ni.A.to-lower'], annual['gb.ni.A.to-primary'], annual['gb.ni.A.to-upper']]).toEqual([650_000, 607_000, 3_770_000]);
  });

  it('a letter that changes and changes back leaves each month as its own letter has it, and both are stated', () => {
    const pays = ['3000.00', '3000.00', '3000.00'];
    const sums = year(pays, (month) => ({ category: month === 1 ? 'M' : 'A' }));
    const alone = year(pays);
    expect(sums['gb.ni']).toBe(alone['gb.ni']);
    expect([sums['gb.ni.A.earnings'], sums['gb.ni.M.earnings'], sums['gb.ni.M.employer'] ?? 0]).toEqual([600_000, 300_000, 0]);
    expect(sums['gb.ni.employer']).toBe((2 * alone['gb.ni.employer']!) / 3);
  });

  describe('category letters', () => {
    const problemsOf = (category: string, born: string) =>
      computePayslip(
        inputOf({ country: 'GB', date: '2025-06-30', frequency: 'monthly', pay: '2000.00', born, tax: { ...TAX, category } }),
      ).problems.map(({ code, weight }) => [code, weight]);
    const STOPS = [['category-and-age', 'stop']];

    it('fit the age: under 21 and under 25 until the day before, pension age from its day on', () => {
      expect([problemsOf('M', '2004-07-01'), problemsOf('M', '2004-06-30')]).toEqual([[], STOPS]);
      expect([problemsOf('H', '2000-07-01'), problemsOf('H', '2000-06-30')]).toEqual([[], STOPS]);
      expect([problemsOf('A', '1959-07-01'), problemsOf('A', '1959-06-30')]).toEqual([[], STOPS]);
      expect([problemsOf('C', '1959-06-30'), problemsOf('C', '1959-07-01')]).toEqual([[], STOPS]);
      expect(problemsOf('X', '1940-01-01')).toEqual([]);
    });

    it('are all there', () => expect(Object.keys(LETTERS).join('')).toBe('ABCDEFHIJKLMNSVXZ'));
  });

  it('an order without the protected earnings that it names keeps somebody from being paid', () => {
    const order = { item: anItem('order', 'deduction', 'earnings-order'), amount: '100.00' };
    const { problems } = computePayslip(
      inputOf({ country: 'GB', date: '2025-06-30', frequency: 'monthly', pay: '2000.00', tax: TAX, items: [order] }),
    );
    expect(problems.map(({ code, weight }) => [code, weight])).toEqual([['order-without-protection', 'stop']]);
  });

  it('an hour is paid at least by age: at 16, 18 and 21, and of an apprentice', () => {
    // By the first day of the pay reference period: a rate and an age hold from the first period that begins with them.
    const least = (from: string, born: string | undefined, apprentice = false) => {
      const input = inputOf({ country: 'GB', date: '2027-04-05', frequency: 'monthly', ...(born ? { born } : {}) });
      const of = { paper: new Paper(true), tax: { apprentice }, input: { ...input, pay: { ...input.pay, from } } };
      return packOf('GB').minimumWage!(of as never).amount.toDecimal(2);
    };
    expect(['2025-03-31', '2026-03-31', '2026-04-01', '2027-03-29'].map((from) => least(from, '1990-01-01'))).toEqual([
      '11.44',
      '12.21',
      '12.71',
      '12.71',
    ]);
    // National Minimum Wage Regulations from 1 April 2025 and from 1 April 2026.
    expect(['2008-07-01', '2007-06-30', '2004-07-01', '2004-06-30', undefined].map((born) => least('2025-06-30', born))).toEqual([
      '7.55',
      '10.00',
      '10.00',
      '12.21',
      '12.21',
    ]);
    expect([least('2026-06-30', '2005-06-30'), least('2026-06-30', '2008-06-30'), least('2026-06-30', '2000-01-01', true)]).toEqual([
      '12.71',
      '10.85',
      '8.00',
    ]);
  });

  describe('the full payment submission', () => {
    const [fps] = packOf('GB').filings({});
    const period = fps!.periods(2026, ['2026-05-29'])[0]!;
    const person = {
      ...SOMEBODY,
      sums: { 'gb.paye.pay': 300_000, 'gb.paye': 39_020 },
      toDate: { 'gb.paye.pay': 600_000, 'gb.paye': 78_040 },
    };
    const made = (pay: number, more: Partial<typeof person> = {}) =>
      fps!.make({
        ...NOTHING,
        period,
        days: [{ payDate: '2026-05-29', payslips: 1, sums: { 'gb.paye.pay': pay, 'gb.paye': 39_020 } }],
        people: [{ ...person, ...more }],
      });
    const broken = (of: ReturnType<typeof made>) =>
      of.checks.filter(({ holds }) => !holds).map(({ sentence, weight }) => [sentence, weight]);

    it('comes with each pay date of the calendar year that is asked for, due on it, of the tax year of the day', () => {
      expect(fps!.periods(2026, ['2025-12-31', '2026-04-05', '2026-04-06']).map(({ key, due, taxYear }) => [key, due, taxYear])).toEqual([
        ['2026-04-05', '2026-04-05', '2025-26'],
        ['2026-04-06', '2026-04-06', '2026-27'],
      ]);
      expect(fps!.periods(2026)).toEqual([]);
      expect(periodOfFiling(fps!, '2026-05-29')?.label).toBe('pay of 29 May 2026');
    });

    it('states of everybody the payment and the year so far, and what the letters had', () => {
      const { lines, detail } = made(300_000);
      expect(lines.map(({ line, amount }) => [line, amount])).toEqual([
        ['people', 1],
        ['pay', 300_000],
        ['tax', 39_020],
      ]);
      const value = (key: string) => detail?.rows[0]?.values[detail.columns.findIndex((column) => column.key === key)];
      expect([value('pay'), value('pay, year'), value('tax, year')]).toEqual([300_000, 600_000, 78_040]);
    });

    it('does not agree where the ledger has otherwise, and looks at who has no number or less than nothing', () => {
      expect(broken(made(300_000))).toEqual([]);
      expect(broken(made(299_999))).toEqual([["Taxable pay of all people 3,000.00 equals the ledger's 2,999.99", undefined]]);
      const { number: _number, ...nameless } = person;
      expect(
        broken(fps!.make({ ...NOTHING, period, days: [{ payDate: '2026-05-29', payslips: 1, sums: person.sums }], people: [nameless] })),
      ).toEqual([['Halloway, Ines has no National Insurance number on file; date of birth and address go in its place', 'look']]);
      expect(broken(made(300_000, { toDate: { 'gb.paye.pay': -1, 'gb.paye': 0 } }))[0]?.[0]).toBe(
        'Halloway, Ines has less than nothing as pay of the year',
      );
    });
  });

  it('state pension age rises as the law has it', () => {
    // Pensions Act 2014, section 26; Pensions Act 2007, schedule 3.
    expect(
      [
        '1960-04-05',
        '1960-04-06',
        '1960-05-05',
        '1960-05-06',
        '1961-03-05',
        '1961-03-06',
        '1977-04-05',
        '1977-04-06',
        '1978-04-05',
        '1978-04-06',
      ].map(statePensionDay),
    ).toEqual([
      '2026-04-05',
      '2026-05-06',
      '2026-06-05',
      '2026-07-06',
      '2028-02-05',
      '2028-03-06',
      '2044-04-05',
      '2044-05-06',
      '2046-03-06',
      '2046-04-06',
    ]);
  });
});
