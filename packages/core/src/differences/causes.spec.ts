import fc from 'fast-check';
import { addDays, writtenDate } from '../calendar/dates';
import { computePayslip } from '../payslip/compute-payslip';
import type { PayslipInput } from '../payslip/input';
import { anItem, inputOf } from '../payslip/testing/inputs';
import { PENNSYLVANIA, sketches } from '../payslip/testing/sketches';
import { causesOf } from './causes';

describe('Why two payslips differ', () => {
  it('is told in causes that sum to the difference exactly', () => {
    fc.assert(
      fc.property(sketches, sketches, (first, second) => {
        const [earlier, later] = [inputOf(first), inputOf(second)];
        for (const compared of ['net', 'taxes', { code: 'us.fit' }] as const) {
          const { difference, causes } = causesOf(compared, { input: earlier }, { input: later });
          expect(causes.reduce((all, cause) => all + cause.share, 0)).toBe(difference);
          expect(causes.some((cause) => cause.group === 'unexplained')).toBeFalse();
        }
      }),
      { numRuns: 25 },
    );
  });

  it('names an item whose amount was given for one payslip, and that it is as set up again', () => {
    const club = { item: anItem('club', 'deduction', 'after-tax', { name: 'Club' }), amount: '80.00' };
    const asSetUp = inputOf({ pay: '2000.00', items: [club] });
    const once = inputOf({ pay: '2000.00', items: [{ ...club, once: { amount: '55.00' } }] });
    const cause = (earlier: PayslipInput, later: PayslipInput) => causesOf('net', { input: earlier }, { input: later }).causes;
    expect(cause(asSetUp, once)).toEqual([
      { group: 'items', sentences: ['Club: 55.00 given for one payslip instead of 80.00'], share: 2_500 },
    ]);
    expect(cause(once, asSetUp)).toEqual([
      { group: 'items', sentences: ['Club: 80.00 instead of 55.00 given for one payslip'], share: -2_500 },
    ]);
  });

  it('puts first what no change of facts explains', () => {
    const input = inputOf({ pay: '2000.00' });
    const net = computePayslip(input).totals.net;
    const { causes } = causesOf('net', { input, stored: net - 100 }, { input: inputOf({ pay: '2100.00' }) });
    expect(causes[0]).toEqual({ group: 'unexplained', sentences: ['Not explained by any change of facts'], share: 100 });
    expect(causes[1]?.group).toBe('rates');
  });

  it('names a raise, more hours and a one-off in words', () => {
    const hourly = (rate: string, hours: string, bonus?: string): PayslipInput => ({
      ...inputOf(bonus ? { bonus } : {}),
      rates: [{ id: 'hot', label: 'Hot shop', per: 'hour', amount: rate, primary: true }],
      items: [],
      hourItems: [anItem('ordinary', 'earning', 'wages', { name: 'Ordinary hours', method: { by: 'hours', multiple: '1' } })],
      hours: [{ rate: 'hot', item: 'ordinary', hours }],
    });
    const { difference, causes } = causesOf('gross', { input: hourly('24.00', '80') }, { input: hourly('25.00', '84.5', '150.00') });
    expect(difference).toBe(25 * 8450 + 15000 - 24 * 8000);
    expect(causes.map((cause) => [cause.group, cause.share, cause.sentences[0]])).toEqual([
      ['rates', 8000, 'Hot shop: 25.00 instead of 24.00 per hour'],
      ['hours', 11250, 'Ordinary hours: 84.50 instead of 80.00 hours'],
      ['one-offs', 15000, 'bonus of 150.00 this time'],
    ]);
  });

  const hourly = (rates: PayslipInput['rates'], more: Partial<PayslipInput> = {}): PayslipInput => ({
    ...inputOf({}),
    rates,
    items: [],
    hourItems: [
      anItem('ordinary', 'earning', 'wages', { name: 'Ordinary', method: { by: 'hours', multiple: '1' } }),
      anItem('overtime', 'earning', 'wages', { name: 'Overtime', method: { by: 'hours', multiple: '1.5' } }),
    ],
    ...more,
  });
  const shop = { id: '1', label: 'Shop', per: 'hour' as const, amount: '20.00', primary: true };
  const byDay = (...days: [date: string, hours: string][]): PayslipInput['time'] => ({
    rules: {
      code: 'weekly',
      label: 'Over 40',
      weekBegins: 0,
      weeklyOver: '40',
      items: { ordinary: 'ordinary', overtime: 'overtime' },
      source: { publication: '29 U.S.C. 207(a)(1)' },
    },
    entries: days.map(([date, hours]) => ({ date, hours })),
  });
  const told = (earlier: PayslipInput, later: PayslipInput): string[] =>
    causesOf('net', { input: earlier }, { input: later }).causes.flatMap((cause) =>
      cause.sentences.map((sentence) => `${cause.group}: ${sentence}`),
    );
  /** In the period of the payslip, Saturday 7 to Friday 20 November 2026 or so. */
  const { from } = inputOf({}).pay;

  it('names time kept by day by its sum', () => {
    const earlier = hourly([shop], { time: byDay([from, '8']) });
    const later = hourly([shop], { time: byDay([from, '9.5']) });
    expect(told(earlier, later)).toEqual(['hours: Time by day: 9.50 instead of 8.00 hours']);
  });

  it('names a rate that changes within the period with both amounts', () => {
    const raised = { ...shop, amount: '22.00', from: addDays(from, 3), earlier: [{ amount: '20.00' }] };
    const days = byDay([from, '8'], [addDays(from, 4), '8']);
    const [sentence] = told(hourly([shop], { time: days }), hourly([raised], { time: days }));
    expect(sentence).toBe(`rates: Shop: 20.00 until ${writtenDate(addDays(from, 2))}, then 22.00 instead of 20.00 per hour`);
  });

  it('names a rate that is new or gone, and employment for a part', () => {
    const store = { id: '2', label: 'Store', per: 'hour' as const, amount: '15.00' };
    const hours = [{ item: 'ordinary', rate: '1', hours: '8' }];
    const both = [...hours, { item: 'overtime', rate: '2', hours: '2' }];
    expect(told(hourly([shop], { hours }), hourly([shop, store], { hours: both }))).toEqual(['hours: Overtime is new: 2.00 hours']);
    expect(told(hourly([shop, store], { hours: both }), hourly([shop, store], { hours }))).toEqual(['hours: Overtime no longer']);
    const salary = inputOf({ pay: '2000.00' });
    expect(told(salary, { ...salary, employed: { to: addDays(from, 6) } })).toEqual([
      'rates: Employed for a part of one of the periods only',
    ]);
  });

  it('names an item by its amount, one that is left out, and a tax by hand by its reason', () => {
    const dues = (amount: string) =>
      inputOf({ pay: '2000.00', items: [{ item: anItem('dues', 'deduction', 'after-tax', { name: 'Dues' }), amount }] });
    expect(told(dues('20.00'), dues('25.00'))).toEqual(['items: Dues: 25.00 instead of 20.00']);
    expect(told(dues('20.00'), { ...dues('20.00'), leftOut: ['dues'] })).toEqual(['items: Dues no longer']);
    const override = { tax: 'us.fit', amount: '10.00', reason: 'Letter of the agency' };
    expect(told(dues('20.00'), { ...dues('20.00'), overrides: [override] })).toEqual(['by-hand: A tax overridden: Letter of the agency']);
    expect(told({ ...dues('20.00'), overrides: [override] }, dues('20.00'))).toEqual(['by-hand: No tax is overridden any more']);
  });

  it('names other tables, another certificate, an exemption that began, and sums of the year', () => {
    const pay = inputOf({ pay: '2000.00' });
    const [first] = told(inputOf({ pay: '2000.00', date: '2025-12-26' }), pay);
    expect(first).toContain('tables: Pay date 27 Nov 2026 instead of 26 Dec 2025');
    expect(told(pay, inputOf({ pay: '2000.00', tax: PENNSYLVANIA }))[0]).toBe('tax-details: Tax details or facts of the employer changed');
    const exempt = { tax: 'us.fit', instead: 'exempt' as const, reason: 'No tax last year', from: '2026-01-01' };
    expect(told(pay, { ...pay, standingTaxes: [exempt] })[0]).toContain('tax-details: An exemption, or a tax fixed by a letter');
    expect(told(pay, { ...pay, balances: { 'us.oasdi.pay': { year: 18_450_000, inAll: 18_450_000 } } })).toEqual([
      'balances: Sums of the year so far: limits and ceilings',
    ]);
  });

  it('has no cause where nothing differs, in any order of the facts', () => {
    const input = inputOf({ pay: '2000.00', bonus: '100.00' });
    expect(causesOf('net', { input }, { input: structuredClone(input) })).toEqual({ difference: 0, causes: [] });
  });
});
