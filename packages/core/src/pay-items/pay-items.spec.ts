import fc from 'fast-check';
import { computePayslip } from '../payslip/compute-payslip';
import { anItem, inputOf } from '../payslip/testing/inputs';
import { placeOf } from '../calendar/schedules';
import { decimalOf } from '../money/amounts';
import type { Payslip } from '../payslip/payslip';
import { writtenWhen } from './when';
import type { ItemOnPayslip, Limits, PayItem } from './pay-item';

const deduction = (more: Partial<PayItem>): PayItem => anItem('x', 'deduction', 'after-tax', { name: 'Club', order: 300, ...more });
const slip = (items: ItemOnPayslip[], more: object = {}): Payslip =>
  computePayslip(inputOf({ pay: '2000.00', items, ...more }), { workings: true });
const taken = (payslip: Payslip, code = 'x'): number => payslip.lines.find((line) => line.code === code)?.amount ?? 0;
const refusal = (payslip: Payslip): string => payslip.problems.find((problem) => problem.weight === 'stop')?.sentence ?? 'not refused';

describe('When an item is due', () => {
  const when = { paysOfMonth: [1, 'last' as const], months: [1, 7], regularRunsOnly: true };

  it('is said in words', () => {
    expect(writtenWhen(when)).toBe('on the first and last pay date of the month, in January and July, in regular runs only');
    expect(writtenWhen({ every: { pays: 4, first: 2 } })).toBe('every fourth pay date of the year, from the second on');
    expect(writtenWhen(undefined)).toBe('on every payslip');
  });

  it('an item that is not due is named with the reason, and has no line', () => {
    const payslip = slip([{ item: deduction({ when: { paysOfMonth: [1] } }), amount: '80.00' }], {
      place: { inMonth: 2, ofMonth: 2, inYear: 4 },
    });
    expect(payslip.notDue).toEqual([
      { code: 'x', label: 'Club', why: 'Only on the first pay date of the month; this is the second and last' },
    ]);
    expect(taken(payslip)).toBe(0);
  });

  it('one left out by hand says so', () => {
    const payslip = computePayslip({ ...inputOf({ pay: '2000.00', items: [{ item: deduction({}), amount: '80.00' }] }), leftOut: ['x'] });
    expect(payslip.notDue.map((item) => item.why)).toEqual(['Left out of this payslip by hand']);
  });

  it('without the pay date’s place the payslip is refused, not guessed', () => {
    expect(refusal(slip([{ item: deduction({ when: { paysOfMonth: [1] } }), amount: '80.00' }]))).toContain(
      'place in its month and year is needed',
    );
  });

  it('a month of a fortnightly schedule has two or three pay dates, and each knows its place', () => {
    const schedule = { frequency: 'fortnightly' as const, anchor: '2025-12-21', payDateOffset: 6, move: 'previous' as const };
    const places = ['2026-01-09', '2026-01-23', '2026-07-10', '2026-07-24', '2026-10-02', '2026-10-16', '2026-10-30'].map((date) =>
      placeOf(schedule, date, () => false),
    );
    expect(places.map(({ inMonth, ofMonth, inYear }) => `${inMonth}/${ofMonth} ${inYear}`)).toEqual([
      '1/2 1',
      '2/2 2',
      '1/2 14',
      '2/2 15',
      '1/3 20',
      '2/3 21',
      '3/3 22',
    ]);
  });
});

describe('How an item is calculated', () => {
  it('is refused where it would depend on itself', () => {
    const earning = anItem('x', 'earning', 'wages', { name: 'Premium', method: { by: 'percent', of: 'gross' } });
    expect(refusal(slip([{ item: earning, percent: '5' }]))).toContain('Premium is a per cent of gross pay and so cannot be part of it');
    const before = anItem('x', 'deduction', 'deferral', { name: 'Deferral', method: { by: 'percent', of: 'taxable' } });
    expect(refusal(slip([{ item: before, percent: '5' }]))).toContain('known only afterwards');
  });

  it('by age, needs a date of birth', () => {
    const item = deduction({ method: { by: 'table', over: 'age', rows: [{ from: '0', amount: '5' }] } });
    expect(refusal(slip([{ item }]))).toContain('no date of birth is on file');
    const life = anItem('x', 'benefit-in-kind', 'group-term-life', { method: { by: 'published-table', table: 'us.group-term-life' } });
    expect(refusal(slip([{ item: life, amount: '100000' }]))).toContain('no date of birth is on file');
  });

  it('by a table that does not exist, is refused', () => {
    expect(refusal(slip([{ item: deduction({ method: { by: 'published-table', table: 'none' } }), amount: '1' }]))).toContain(
      'does not have',
    );
  });

  it('below the first row of a table, is nothing, and the working says why', () => {
    const payslip = slip([{ item: deduction({ method: { by: 'table', over: 'gross', rows: [{ from: '3000', amount: '5' }] } }) }]);
    expect(taken(payslip)).toBe(0);
    expect(payslip.workings['x']?.notes).toEqual(['The table has no row for gross pay of 2,000.00.']);
  });

  it('a levy without its exempt amount is refused with what to enter', () => {
    const levy = anItem('x', 'deduction', 'tax-levy', { name: 'Levy' });
    expect(refusal(slip([{ item: levy, amount: '500' }]))).toContain('needs the amount that its notice leaves free');
  });

  it('every step of a cover of 125,000 is written down', () => {
    const life = anItem('gtl', 'benefit-in-kind', 'group-term-life', { method: { by: 'published-table', table: 'us.group-term-life' } });
    const steps = slip([{ item: life, amount: '125000' }], { born: '1964-02-02' }).workings['gtl']?.steps ?? [];
    expect(steps.map((step) => [step.operation, step.operand])).toEqual([
      ['start', '125000.00'],
      ['less', '50000.00'],
      ['over', '100.00'],
      ['round', undefined],
      ['over', '10.00'],
      ['times', '0.66'],
      ['times', '12.00'],
      ['over', '26.00'],
      ['round', undefined],
    ]);
  });

  it('an adjusted treatment says in the base what counts', () => {
    const item = anItem('x', 'earning', 'wages', { countsInstead: { 'us.oasdi.pay': 0 } });
    const payslip = slip([{ item, amount: '500.00' }]);
    expect(payslip.workings['us.oasdi.pay']?.amount).toBe('2000.00');
    expect(payslip.workings['us.fit.wages']?.amount).toBe('2500.00');
  });
});

describe('What the employee does not see', () => {
  it('is a benefit or what the employer pays, never a part of net pay', () => {
    const goes = { hidden: true };
    const payslip = slip([
      { item: deduction({ goes }), amount: '10.00' },
      { item: anItem('plan', 'employer-contribution', 'employer-plan', { goes }), amount: '20.00' },
    ]);
    expect(payslip.lines.filter((line) => line.hidden).map((line) => line.code)).toEqual(['plan']);
  });
});

describe('Limits', () => {
  it('hold over a year of payslips, whatever is asked for, and nothing is left unused that was asked for', () => {
    fc.assert(
      fc.property(
        fc.constantFrom<[keyof Limits, 'period' | 'month' | 'quarter' | 'year' | 'inAll']>(
          ['perPeriod', 'period'],
          ['perMonth', 'month'],
          ['perQuarter', 'quarter'],
          ['perYear', 'year'],
          ['inAll', 'inAll'],
        ),
        fc.integer({ min: 0, max: 60_000 }),
        fc.array(fc.integer({ min: 0, max: 15_000 }), { minLength: 1, maxLength: 12 }),
        ([limit, span], most, wanted) => {
          let sum = 0;
          for (const amount of wanted) {
            const payslip = slip([{ item: deduction({ limits: { [limit]: decimalOf(most) } }), amount: decimalOf(amount) }], {
              before: { x: { year: 0, inAll: 0, [span]: sum } },
            });
            sum += taken(payslip);
          }
          expect(sum).toBe(
            Math.min(
              most,
              wanted.reduce((all, amount) => all + amount, 0),
            ),
          );
        },
      ),
      { numRuns: 40 },
    );
  });

  it('support orders together never take more than the law allows, nor more than they ask for', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 120_000 }), { minLength: 1, maxLength: 4 }),
        fc.integer({ min: 0, max: 300_000 }),
        (asked, pay) => {
          const payslip = slip(
            asked.map((amount, index) => ({
              item: anItem(`s${index}`, 'deduction', 'child-support', { order: 200 + index, shortfall: 'take-part' }),
              amount: decimalOf(amount),
            })),
            { pay: decimalOf(pay) },
          );
          // Texas Family Code 158.009: half of disposable earnings.
          const limit = Math.floor((payslip.totals.gross - payslip.totals.taxes) * 0.5 + 1e-6);
          const all = asked.map((_, index) => taken(payslip, `s${index}`));
          const sum = all.reduce((total, amount) => total + amount, 0);
          // To the cent: rounding shares loses nothing of the limit.
          expect(sum).toBe(
            Math.min(
              Math.max(0, limit),
              asked.reduce((total, amount) => total + amount, 0),
            ),
          );
          all.forEach((amount, index) => expect(amount).toBeLessThanOrEqual(asked[index] ?? 0));
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('An amount given for one payslip', () => {
  const given = (amount: string, more: Partial<ItemOnPayslip> = {}, item: Partial<PayItem> = {}): ItemOnPayslip => ({
    item: deduction(item),
    amount: '80.00',
    once: { amount },
    ...more,
  });

  it('says so in its working, with the note, and not what the method would have given', () => {
    const { workings } = slip([given('60.00', { once: { amount: '60.00', note: 'half the month' } })]);
    expect(workings['x']?.steps.map((step) => step.label)).toEqual(['Given for this payslip only']);
    expect(workings['x']?.notes).toEqual(['half the month']);
  });

  it('the same as set up changes nothing at all', () => {
    const [asSetUp, once] = [slip([{ item: deduction({}), amount: '80.00' }]), slip([given('80.00')])];
    expect(once.lines.map(({ code, amount }) => [code, amount])).toEqual(asSetUp.lines.map(({ code, amount }) => [code, amount]));
    expect(once.totals).toEqual(asSetUp.totals);
  });

  it('is what is taken, but for its limits, the year’s sum before it, and pay', () => {
    const sums = fc.integer({ min: 0, max: 90_000 });
    fc.assert(
      fc.property(sums, sums, sums, sums, (wanted, perPayslip, perYear, before) => {
        const limits = { perPayslip: decimalOf(perPayslip), perYear: decimalOf(perYear) };
        const payslip = slip([given(decimalOf(wanted), { limits })], { before: { x: { year: before, inAll: before } }, pay: '600.00' });
        const left = payslip.totals.gross - payslip.totals.taxes;
        expect(taken(payslip)).toBe(Math.max(0, Math.min(wanted, perPayslip, Math.max(0, perYear - before), left)));
        expect(payslip.totals.net).toBe(left - taken(payslip));
      }),
      { numRuns: 60 },
    );
  });

  it('lets what was carried forward wait, whatever it is', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 30_000 }), fc.integer({ min: 1, max: 9_000 }), (wanted, carried) => {
        const payslip = slip([given(decimalOf(wanted), { carried: decimalOf(carried) }, { shortfall: 'carry-forward' })]);
        expect([taken(payslip), taken(payslip, 'carried:x')]).toEqual([wanted, 0]);
      }),
      { numRuns: 30 },
    );
  });

  it('of an order stays within what the law protects', () => {
    const order = { item: anItem('x', 'deduction', 'child-support', { name: 'Support', order: 200 }), amount: '200.00' };
    const payslip = slip([{ ...order, once: { amount: '5000.00' } }]);
    expect(taken(payslip)).toBe(Math.floor((payslip.totals.gross - payslip.totals.taxes) * 0.5 + 1e-6));
    expect(payslip.problems.map(({ code }) => code)).toContain('order-does-not-fit');
  });
});
