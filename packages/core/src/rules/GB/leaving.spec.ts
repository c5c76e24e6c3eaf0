import { decimalOf } from '../../money/amounts';
import { computePayslip } from '../../payslip/compute-payslip';
import { anItem, inputOf, type Sketch } from '../../payslip/testing/inputs';
import { packOf } from '../registry';
import { certificateOfYear } from './forms/certificate-of-year';
import type { PersonSums } from '../../filings/filing';

const sums = (sketch: Sketch) => {
  const { lines, problems } = computePayslip(inputOf({ country: 'GB', frequency: 'monthly', date: '2025-08-29', ...sketch }), {
    workings: true,
  });
  expect(problems.filter(({ weight }) => weight === 'stop')).toEqual([]);
  return (code: string) => decimalOf(lines.filter((line) => line.code === code).reduce((all, { amount }) => all + amount, 0));
};
const award = (amount: string) => [{ id: 'award', item: anItem('redundancy', 'earning', 'termination-award'), amount }];

describe('A payment after leaving', () => {
  it('is taxed by code 0T of the nation, by itself, whatever code is on file', () => {
    // 1,000.00 at 20 per cent, nothing free.
    expect(sums({ pay: '1000.00', left: '2025-07-31' })('gb.paye')).toBe('200.00');
    // A twelfth of 2,827 at 19 per cent, the rest at 20: 44.76 + 152.88.
    expect(sums({ pay: '1000.00', left: '2025-07-31', tax: { taxCode: 'S1257L', category: 'A' } })('gb.paye')).toBe('197.64');
    expect(sums({ pay: '1000.00', left: '2025-07-31', tax: { taxCode: 'NT', category: 'A' } })('gb.paye')).toBe('0.00');
  });
});

describe('A termination award', () => {
  it('is free of everything up to 30,000.00', () => {
    const of = sums({ oneOffs: award('30000.00') });
    expect([of('gb.paye'), of('gb.ni'), of('gb.ni.employer'), of('gb.ni.1a'), of('gb.paye.pay')]).toEqual([
      '0.00',
      '0.00',
      '0.00',
      '0.00',
      '0.00',
    ]);
  });

  it('is taxed above, with class 1A contributions of the employer and none of class 1', () => {
    // The year: 30,000.00 paid before with 3,484.00 of tax; 10,000.00 more are taxed at 20 per cent.
    const of = sums({ date: '2026-03-31', oneOffs: award('40000.00'), yearToDate: { 'gb.paye.pay': 3_000_000, 'gb.paye': 348_400 } });
    expect([of('gb.paye'), of('gb.ni'), of('gb.ni.1a'), of('gb.paye.pay')]).toEqual(['2000.00', '0.00', '1500.00', '10000.00']);
  });

  it('paid in two parts is taxed once for what is over', () => {
    const of = sums({
      date: '2026-03-31',
      oneOffs: award('20000.00'),
      yearToDate: { 'gb.termination': 2_500_000, 'gb.paye.pay': 3_000_000, 'gb.paye': 348_400 },
    });
    expect([of('gb.paye.pay'), of('gb.ni.1a')]).toEqual(['15000.00', '2250.00']);
  });
});

describe('The certificate of leaving', () => {
  const facts = {
    name: 'Rhian Carrow',
    number: 'AB123456C',
    code: '12',
    lastDay: '2025-08-15',
    lastPaid: '2025-08-29',
    frequency: 'monthly',
    employer: { payeReference: '123/AB456' },
    sums: { 'gb.paye.pay': 1_500_000, 'gb.paye': 195_100 },
  };
  const rows = (tax: Record<string, unknown>) =>
    Object.fromEntries(
      packOf('GB')
        .leaving.certificate?.of({ ...facts, tax })
        .flatMap((part) => part.rows) ?? [],
    );

  it('states pay and tax to date with what an earlier employer paid, and of this employment', () => {
    const stated = rows({
      taxCode: '1257L',
      basis: 'cumulative',
      previousYear: '2025-26',
      previousPay: '2000.00',
      previousTax: '190.00',
      studentLoan: '2',
    });
    expect([stated['Month number'], stated['Total pay to date'], stated['Total tax to date']]).toEqual(['5', '17,000.00', '2,141.00']);
    expect([stated['Pay in this employment'], stated['Student loan deductions continue']]).toEqual(['15,000.00', 'yes']);
  });

  it('of a week 1 / month 1 code has no sums to date', () => {
    const stated = rows({ taxCode: '1257L', basis: 'week-1-month-1' });
    expect([stated['Total pay to date'], stated['Tax code at leaving']]).toEqual([undefined, '1257L, week 1 / month 1']);
  });
});

describe('The certificate of the year', () => {
  const [period] = certificateOfYear.periods(2026);
  const person = (more: Partial<PersonSums>): PersonSums => ({
    personId: 'one',
    name: 'Carrow, Rhian',
    givenName: 'Rhian',
    familyName: 'Carrow',
    number: 'AB123456C',
    shared: false,
    address: true,
    sums: { 'gb.paye.pay': 3_600_000, 'gb.paye': 468_400, 'gb.ni.A.to-lower': 650_000, 'gb.ni.A.employee': 187_400, 'gb.smp': 100_000 },
    details: { taxCode: '1257L' },
    marked: {},
    ...more,
  });
  const make = (...people: PersonSums[]) =>
    certificateOfYear.make({
      period: period!,
      people,
      days: [
        { payDate: '2026-03-31', payslips: 1, sums: people.reduce<Record<string, number>>((all, { sums: of }) => ({ ...all, ...of }), {}) },
      ],
      headcounts: [],
      gross: 0,
      paid: 0,
      earlier: { days: [], deposits: [] },
      reckoned: {},
      byPlace: {},
      employer: {},
      entered: {},
      items: [],
      filed: {},
    });

  it('is of the tax year, due on 31 May, for whoever is employed on 5 April', () => {
    expect([period?.key, period?.from, period?.to, period?.due]).toEqual(['2025-26', '2025-04-06', '2026-04-05', '2026-05-31']);
    expect(make(person({}), person({ left: '2026-04-05' })).copies.length).toBe(1);
    expect(make(person({ left: '2026-04-06' })).copies.length).toBe(1);
  });

  it('states pay, tax, contributions by category and statutory pay, and beside them what was earned elsewhere', () => {
    const boxes = (more: Partial<PersonSums>) =>
      make(person(more)).copies[0]?.boxes.map(({ box, amount }) => `${box} ${decimalOf(amount)}`);
    expect(boxes({})).toEqual(['pay 36000.00', 'tax 4684.00', 'NI A 6500.00', 'NI A 1874.00', 'smp 1000.00']);
    const details = { taxCode: '1257L', previousYear: '2025-26', previousPay: '2000.00', previousTax: '150.00' };
    expect(boxes({ details })?.slice(2, 6)).toEqual(['before 2000.00', 'before 150.00', 'total 38000.00', 'total 4834.00']);
    expect(boxes({ details: { ...details, previousYear: '2024-25' } })?.length).toBe(5);
  });

  it('is stopped without a tax code and by a number that somebody else has', () => {
    expect(make(person({ details: {}, shared: true })).copies[0]?.checks.map(({ code, weight }) => `${code} ${weight}`)).toEqual([
      'shared stop',
      'code stop',
    ]);
  });
});

describe('The turn of the year', () => {
  it('asks for codes without their mark, and has its days', () => {
    const people = [
      { personId: '1', name: 'Strath, Ewan', details: { basis: 'week-1-month-1' } },
      { personId: '2', name: 'Carrow, Rhian', details: { basis: 'cumulative' } },
    ];
    const payDates = [
      { schedule: 'Weekly', frequency: 'weekly', date: '2026-04-05' },
      { schedule: 'Fortnightly', frequency: 'fortnightly', date: '2026-03-29' },
    ];
    const points = packOf('GB').yearAhead({ year: 2026, employer: { employmentAllowance: true }, posted: () => 0, people, payDates });
    expect(points.map(({ code, done }) => `${code} ${done}`)).toEqual([
      'allowance true',
      'small-employer false',
      'week-53 true',
      'marks false',
    ]);
    expect(points.find(({ code }) => code === 'marks')?.people?.map(({ name }) => name)).toEqual(['Strath, Ewan']);
    expect(
      packOf('GB')
        .yearTurns(2026)
        .map(({ date }) => date),
    ).toEqual(['2026-04-05', '2026-04-06', '2026-04-19', '2026-07-06', '2026-07-22']);
  });
});
