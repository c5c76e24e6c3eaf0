import fc from 'fast-check';
import { addDays } from '../../calendar/dates';
import { placeOfItem } from '../../filings/item-places';
import { computePayslip } from '../../payslip/compute-payslip';
import { anItem, inputOf, type Sketch } from '../../payslip/testing/inputs';
import type { TimeRules } from '../../time/time';
import { packOf } from '../registry';
import { auEmployerSchema } from './employer';
import { auTaxSchema } from './facts';
import { treatmentCode } from './files/treatment-code';
import { isBusinessNumber } from './identity';
import { BOXES, finalisation } from './forms/finalisation';

const FUND = { QWS0100AU: { name: 'Quoin and Wool Super', abn: '51824753556' } };
const EMPLOYER = { abn: '51824753556', defaultFund: 'QWS0100AU', funds: FUND };
const paid = (sketch: Sketch) =>
  computePayslip(
    inputOf({
      country: 'AU',
      date: '2025-11-20',
      frequency: 'weekly',
      employer: EMPLOYER,
      ...sketch,
      tax: { state: 'TAS', ...sketch.tax },
    }),
  );
const withheld = (sketch: Sketch): number =>
  paid(sketch)
    .lines.filter(({ code }) => code === 'au.paygw')
    .reduce((sum, { amount }) => sum + amount, 0) / 100;
const dollars = (pay: number): string => (pay / 100).toFixed(2);

describe('Australia', () => {
  const scales = [
    {},
    { threshold: false },
    { status: 'foreign-resident' },
    { medicare: 'half-exemption' },
    { medicare: 'full-exemption' },
  ] as const;

  it('withholds whole dollars, never less from more, and never more than the pay', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 600_000 }),
        fc.integer({ min: 0, max: 50_000 }),
        fc.constantFrom(...scales),
        (pay, more, tax) => {
          const [less, rather] = [withheld({ pay: dollars(pay), tax }), withheld({ pay: dollars(pay + more), tax })];
          expect(Number.isInteger(less)).toBeTrue();
          // A dollar of rounding may lie between two scales' rows.
          expect(rather).toBeGreaterThanOrEqual(less - 1);
          expect(less).toBeLessThanOrEqual(pay / 100 + 1);
        },
      ),
      { numRuns: 150 },
    );
  });

  it('withholds from two weeks twice what it does from one', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 400_000 }), fc.constantFrom(...scales), (pay, tax) => {
        expect(withheld({ pay: dollars(pay * 2), frequency: 'fortnightly', tax })).toBe(2 * withheld({ pay: dollars(pay), tax }));
      }),
      { numRuns: 80 },
    );
  });

  it('withholds no more than the highest rate from a bonus, and comes close to the tax of the year', () => {
    fc.assert(
      fc.property(fc.integer({ min: 50_000, max: 300_000 }), fc.integer({ min: 100_000, max: 2_000_000 }), (pay, bonus) => {
        const item = anItem('bonus', 'earning', 'bonus');
        const on = withheld({ pay: dollars(pay), oneOffs: [{ id: 'b', item, amount: dollars(bonus) }] }) - withheld({ pay: dollars(pay) });
        expect(on).toBeLessThanOrEqual(Math.round((bonus / 100) * 0.47));
        // As if the whole had been paid week by week: rounding is at most a dollar a week, and a dollar of part left out.
        const weekly = 52 * (withheld({ pay: dollars(pay + bonus / 52) }) - withheld({ pay: dollars(pay) }));
        expect(Math.abs(on - Math.min(weekly, Math.round((bonus / 100) * 0.47)))).toBeLessThanOrEqual(104);
      }),
      { numRuns: 60 },
    );
  });

  it('withholds from back pay of so many weeks what it would have from each of them', () => {
    const item = anItem('b', 'earning', 'back-pay');
    fc.assert(
      fc.property(
        fc.integer({ min: 50_000, max: 300_000 }),
        fc.integer({ min: 1, max: 400 }),
        fc.integer({ min: 1, max: 12 }),
        (pay, more, weeks) => {
          // Whole dollars for each week: nothing is left out of the part.
          const oneOffs = Array.from({ length: weeks }, (_, week) => {
            const from = addDays('2025-08-04', week * 7);
            return { id: `b${week}`, item, amount: `${more}.00`, earned: { from, to: addDays(from, 6) } };
          });
          const each = withheld({ pay: dollars(pay + more * 100) }) - withheld({ pay: dollars(pay) });
          const most = Math.round(more * weeks * 0.47);
          expect(withheld({ pay: dollars(pay), oneOffs }) - withheld({ pay: dollars(pay) })).toBe(Math.min(most, each * weeks));
        },
      ),
      { numRuns: 80 },
    );
  });

  it('says that back pay of earlier years under 1,200 in the year is no lump sum E', () => {
    const lump = (amount: string, year = 0) =>
      paid({
        pay: '1000.00',
        oneOffs: [{ id: 'e', item: anItem('e', 'earning', 'lump-e'), amount }],
        yearToDate: { 'au.lump.E': year },
      }).problems.find(({ code }) => code === 'lump-sum-e-small')?.sentence;
    expect(lump('1199.99')).toContain('counts as lump sum E from 1,200.00 on, and 1,199.99 is less');
    expect(lump('1200.00')).toBeUndefined();
    expect(lump('200.00', 100_000)).toBeUndefined();
  });

  it('sacrificed pay lowers what is withheld from and not what super is paid on', () => {
    const item = { item: anItem('s', 'deduction', 'sacrifice-super'), amount: '200.00' };
    const superOf = (sketch: Sketch) => paid(sketch).lines.find(({ code }) => code === 'au.super')?.amount;
    expect(withheld({ pay: '1500.00', items: [item] })).toBe(withheld({ pay: '1300.00' }));
    expect(superOf({ pay: '1500.00', items: [item] })).toBe(superOf({ pay: '1500.00' }));
  });

  it('under 18 pays super for each week of more than 30 hours by itself, where time is kept by the day', () => {
    const input = inputOf({
      country: 'AU',
      employer: EMPLOYER,
      tax: { state: 'TAS' },
      date: '2025-11-20',
      hours: { rate: '20', by: { pay: '66' } },
    });
    const source = { publication: 'The award' };
    const rules: TimeRules = {
      code: 'none',
      label: 'None',
      weekBegins: 1,
      items: { ordinary: 'pay', overtime: 'pay', halfPremium: 'pay' },
      source,
    };
    const day = (date: string, hours: string) => ({ date, hours });
    // Monday 3 to Sunday 16 November 2025: 36 hours, then 30.
    const entries = [
      ...['03', '04', '05', '06'].map((one) => day(`2025-11-${one}`, '9')),
      ...['10', '11', '12'].map((one) => day(`2025-11-${one}`, '10')),
    ];
    const superOf = (last: string) => {
      const kept = [...entries.slice(0, -1), day('2025-11-12', last)];
      const hours = [{ rate: 'hourly', item: 'pay', hours: String(36 + 20 + Number(last)) }];
      const rates = [{ id: 'hourly', label: 'Hourly', per: 'hour' as const, amount: '20', primary: true }];
      const pay = { ...input.pay, frequency: 'fortnightly' as const, from: '2025-11-03', to: '2025-11-16' };
      const person = { ...input.person, born: '2008-01-01' };
      return computePayslip({ ...input, items: [], rates, pay, person, hours, time: { rules, entries: kept } }).lines.find(
        ({ code }) => code === 'au.super',
      )?.amount;
    };
    // 36 of 66 hours at 20.00: 720.00 at 12 per cent; with a hundredth of an hour more both weeks count.
    expect(superOf('10')).toBe(86_40);
    expect(superOf('10.01')).toBe(158_42);
  });

  it('tells which fund is missing, unknown, closed or without a member number', () => {
    const problem = (tax: Record<string, unknown>, employer: Record<string, unknown> = EMPLOYER) =>
      paid({ pay: '1000.00', tax, employer }).problems.find(({ code }) => code === 'super-fund')?.sentence ?? '';
    expect(problem({})).toBe('');
    expect(problem({}, { ...EMPLOYER, defaultFund: undefined })).toContain('No super fund');
    expect(problem({ fundChoice: 'chosen', fund: 'XYZ0100AU' })).toContain("not in the employer's list");
    expect(problem({ fundChoice: 'chosen', fund: 'QWS0100AU' })).toContain('no member number');
    const closed = { ...EMPLOYER, funds: { QWS0100AU: { ...FUND.QWS0100AU, closed: '2025-11-20' } } };
    expect(problem({}, closed)).toContain('takes nothing since 2025-11-20');
    expect(problem({}, { ...closed, funds: { QWS0100AU: { ...FUND.QWS0100AU, closed: '2025-11-21' } } })).toBe('');
  });

  it('stops what it has no figures for: a year without tables, a redundancy without a hire date', () => {
    const stops = (sketch: Sketch) =>
      paid(sketch)
        .problems.filter(({ weight }) => weight === 'stop')
        .map(({ sentence }) => sentence);
    expect(stops({ pay: '1000.00', date: '2024-06-27' })[0]).toContain('no Australian tables');
    const redundancy = { id: 'r', item: anItem('r', 'earning', 'redundancy'), amount: '1000.00' };
    expect(stops({ pay: '0.00', oneOffs: [redundancy], ending: { kind: 'redundant', lastDay: '2025-11-14' } })[0]).toContain(
      'no hire date',
    );
  });

  it('lets seniors keep what both offsets free, by the law of the year, and says that it is unconfirmed', () => {
    const of = (pay: string, seniors: string) => withheld({ pay, tax: { seniors } });
    // 671 × 52 = 34,892: 16 per cent of 16,692 is 2,670.72, less 700 and 2,230.
    expect(of('671.00', 'single')).toBe(0);
    // 800 × 52 = 41,600: 3,744 − (700 − 205) − (2,230 − 835.125) = 1,854.13, and a tenth of 511: 1,905.23 / 52.
    expect(of('800.00', 'single')).toBe(37);
    // 1,100 × 52 = 57,200: 7,948 − (700 − 375 − 183), nothing of the offset, and 2 per cent: 8,950 / 52.
    expect(of('1100.00', 'single')).toBe(172);
    // 700 × 52 = 36,400: 2,912 − 700 − (1,602 − 675.75): 1,285.75 / 52.
    expect(of('700.00', 'couple')).toBe(25);
    const input = inputOf({
      country: 'AU',
      date: '2025-11-20',
      frequency: 'weekly',
      pay: '800.00',
      employer: EMPLOYER,
      tax: { state: 'TAS', seniors: 'single' },
    });
    expect(
      computePayslip(input, { workings: true }).workings['au.paygw.weekly-tax']?.sources.some(({ unconfirmed }) => unconfirmed),
    ).toBeTrue();
  });

  it('withholds 30 per cent from a working holiday maker whose employer is not registered, and says so', () => {
    const tax = { status: 'working-holiday', homeCountry: 'IE' };
    expect(withheld({ pay: '1000.00', tax })).toBe(300);
    expect(paid({ pay: '1000.00', tax }).problems.map(({ code }) => code)).toContain('holiday-makers-unregistered');
  });

  it('says on a payslip whose it is and where super goes, as the law wants it', () => {
    const pack = packOf('AU');
    expect(pack.onPayslip!(EMPLOYER, { fundChoice: 'default', memberNumber: 'M1' })).toEqual([
      'ABN 51 824 753 556',
      'Super to Quoin and Wool Super (QWS0100AU), member M1',
    ]);
    expect(pack.onPayslip!({}, {})).toEqual([]);
  });

  it('writes the treatment in six letters', () => {
    expect(
      [
        {},
        { threshold: false, studyLoan: true },
        { status: 'foreign-resident', studyLoan: true },
        { numberQuoted: 'no' },
        { numberQuoted: 'no', status: 'foreign-resident' },
        { status: 'working-holiday' },
        { status: 'seasonal' },
        { seniors: 'couple', medicare: 'half-exemption' },
        { surcharge: '2', medicareReduction: 'spouse' },
        { medicareReduction: 'children', dependants: 12 },
      ].map(treatmentCode),
    ).toEqual(['RTXXXX', 'RNSXXX', 'FFSXXX', 'NAXXXX', 'NFXXXX', 'HRXXXX', 'WPXXXX', 'SMXXHX', 'RTX2XS', 'RTXXXA']);
  });

  it('takes business numbers by their check digits, and branches and funds by their form', () => {
    expect(['51824753556', '51824753557', '01824753556', '5182475355'].map(isBusinessNumber)).toEqual([true, false, false, false]);
    const fits = (more: object) => auEmployerSchema.safeParse({ ...EMPLOYER, ...more }).success;
    expect([fits({}), fits({ branch: '2' }), fits({ branch: '0001' }), fits({ branch: 'A' }), fits({ abn: '51824753557' })]).toEqual([
      true,
      true,
      false,
      false,
      false,
    ]);
    expect([fits({ funds: { 'a fund': FUND.QWS0100AU } }), fits({ states: { XX: {} } })]).toEqual([false, false]);
    expect(auTaxSchema.safeParse({ state: 'TAS', homeCountry: 'Ireland' }).success).toBeFalse();
    expect(auTaxSchema.safeParse({}).success).toBeFalse();
  });

  it('reports every treatment of an item in one place at least, or says why in none', () => {
    const pack = packOf('AU');
    const nowhere = Object.values(pack.treatments)
      .map(({ code, for: kinds }) => ({ code, place: placeOfItem(pack, finalisation, { kind: kinds[0]!, treatment: code }, []) }))
      .filter(({ place }) => place.byTreatment.length === 0 && place.none === undefined)
      .map(({ code }) => code);
    expect(nowhere).toEqual([]);
    // And pay in one place only: sacrifice to super is stated as such and as reportable super.
    const twice = Object.values(pack.treatments)
      .filter(({ for: kinds }) => kinds.includes('earning'))
      .filter(({ code }) => placeOfItem(pack, finalisation, { kind: 'earning', treatment: code }, []).byTreatment.length > 1);
    expect(twice).toEqual([]);
    expect(new Set(BOXES.map(({ box }) => box)).size).toBe(BOXES.length);
  });
});
