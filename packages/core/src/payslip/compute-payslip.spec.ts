import fc from 'fast-check';
import { Exact } from '../money/exact';
import { decimalOf } from '../money/amounts';
import { round, type Rounding } from '../money/roundings';
import type { Working } from '../working/working';
import { computePayslip } from './compute-payslip';
import { grossForNet } from './gross-for-net';
import type { PayslipInput, StandingTax } from './input';
import type { Payslip } from './payslip';
import { anItem, EMPLOYER, inputOf, type Sketch } from './testing/inputs';
import { PENNSYLVANIA, sketches } from './testing/sketches';

const sum = (payslip: Payslip, ...kinds: string[]) =>
  payslip.lines.filter((line) => kinds.includes(line.kind)).reduce((all, line) => all + line.amount, 0);
const line = (payslip: Payslip, code: string) =>
  payslip.lines.filter((candidate) => candidate.code === code).reduce((all, candidate) => all + candidate.amount, 0);

describe('A payslip', () => {
  it('adds up: net + deductions + taxes = gross + reimbursements, and lines sum to totals', () => {
    fc.assert(
      fc.property(sketches, (sketch) => {
        const payslip = computePayslip(inputOf(sketch));
        const { totals } = payslip;
        expect(totals.net + totals.deductions + totals.taxes).toBe(totals.gross + totals.reimbursements);
        expect(sum(payslip, 'earning')).toBe(totals.gross);
        expect(sum(payslip, 'deduction-before-tax', 'deduction-after-tax')).toBe(totals.deductions);
        expect(sum(payslip, 'tax')).toBe(totals.taxes);
        expect(totals.employerCost).toBe(totals.gross + totals.reimbursements + sum(payslip, 'employer-tax', 'employer-contribution'));
      }),
      { numRuns: 60 },
    );
  });

  it('comes out the same with and without workings, and every line and base has one', () => {
    fc.assert(
      fc.property(sketches, (sketch) => {
        const input = inputOf(sketch);
        const blank = computePayslip(input);
        const written = computePayslip(input, { workings: true });
        expect(written.lines).toEqual(blank.lines);
        for (const { id, amount: posted } of written.lines.filter((candidate) => candidate.kind !== 'carried')) {
          expect(written.workings[id]?.amount).withContext(id).toBe(Exact.minor(posted).toDecimal());
        }
      }),
      { numRuns: 30 },
    );
  });

  it('can be followed with a calculator: every step gives the result written beside it', () => {
    const payslip = computePayslip(
      inputOf({
        pay: '2480.00',
        bonus: '300.00',
        deferral: '148.80',
        health: '92.00',
        vehicle: '60.00',
        tax: { ...PENNSYLVANIA, federal: { certificate: '2020', status: 'single', dependents: '2200', extra: '5' } },
      }),
      { workings: true },
    );
    for (const working of Object.values(payslip.workings)) expect(replayed(working)).withContext(working.key).toBe(working.amount);
    for (const working of Object.values(payslip.workings)) {
      for (const step of working.steps)
        if (step.opens && step.operand)
          expect(payslip.workings[step.opens]?.amount).withContext(`${working.key} › ${step.opens}`).toBe(step.operand);
    }
  });

  it('never taxes more than the wage base, however a year is cut into payslips', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -500_000, max: 4_000_000 }), { minLength: 1, maxLength: 12 }), (pays) => {
        let before = 0;
        let taxed = 0;
        for (const pay of pays) {
          const payslip = computePayslip(
            inputOf({
              pay: '0',
              yearToDate: { 'us.oasdi.pay': before },
              oneOffs: [{ id: 'pay', item: anItem('pay', 'earning', 'wages'), amount: decimalOf(pay) }],
            }),
          );
          taxed += line(payslip, 'us.oasdi.wages');
          before += pay;
        }
        expect(taxed).toBe(Math.min(before, 18_450_000));
      }),
      { numRuns: 60 },
    );
  });

  it('gives the same amounts whatever the order in which items are listed', () => {
    fc.assert(
      fc.property(sketches, (sketch) => {
        const input = inputOf(sketch);
        const reordered: PayslipInput = { ...input, items: [...input.items].reverse() };
        const byCode = (payslip: Payslip) => Object.fromEntries(payslip.lines.map((entry) => [entry.id, entry.amount]));
        expect(byCode(computePayslip(reordered))).toEqual(byCode(computePayslip(input)));
      }),
      { numRuns: 30 },
    );
  });
});

describe('Gross for a wanted net', () => {
  it('is found to the cent, and the payslip is the proof', () => {
    const found = grossForNet(inputOf({ pay: '2000.00', tax: PENNSYLVANIA }), anItem('bonus', 'earning', 'supplemental'), '2600.00');
    expect(found.missing).toBe(0);
    expect(found.payslip.totals.net).toBe(260_000);
    expect(found.payslip.workings['once:net-wanted']?.notes).toEqual(['So that net pay is 2600.00']);
  });

  it('refuses a net that is already exceeded', () => {
    expect(() => grossForNet(inputOf({ pay: '2000.00' }), anItem('bonus', 'earning', 'supplemental'), '100.00')).toThrowError(RangeError);
  });
});

describe('Pay items', () => {
  const withItem = (more: Parameters<typeof anItem>[3], entry: Record<string, unknown> = {}, sketch: Sketch = {}) =>
    computePayslip(
      inputOf({
        pay: '1000.00',
        ...sketch,
        items: [{ item: anItem('x', 'deduction', 'after-tax', { name: 'Savings', ...more }), amount: '100.00', ...entry }],
      }),
      { workings: true },
    );

  it('pay hours at rate × multiple, rounded to the cent', () => {
    const payslip = computePayslip({
      ...inputOf({}),
      rates: [
        { id: 'a', label: 'Hot shop', per: 'hour', amount: '23.45' },
        { id: 'b', label: 'Cold shop', per: 'hour', amount: '19.00' },
      ],
      items: [],
      hourItems: [anItem('overtime', 'earning', 'wages', { method: { by: 'hours', multiple: '1.5' } })],
      hours: [
        { rate: 'a', item: 'overtime', hours: '4.25' },
        { rate: 'b', item: 'overtime', hours: '2' },
      ],
    });
    expect(payslip.lines.filter((entry) => entry.kind === 'earning').map((entry) => [entry.id, entry.amount])).toEqual([
      ['overtime:a', 14949],
      ['overtime:b', 5700],
    ]);
  });

  it('divide a yearly salary by the pay dates of the year', () => {
    const input = inputOf({});
    const yearly = computePayslip({
      ...input,
      rates: [{ id: 'main', label: 'Salary', per: 'year', amount: '61000', primary: true }],
      pay: { ...input.pay, payDatesInYear: 27 },
    });
    expect(yearly.totals.gross).toBe(225926);
  });

  it('match in tiers: all of the first 3% and half of the next 2%', () => {
    const match = anItem('match', 'employer-contribution', 'employer-plan', {
      method: {
        by: 'match',
        of: 'deferral',
        tiers: [
          { upTo: '3', match: '100' },
          { upTo: '5', match: '50' },
        ],
      },
    });
    for (const [deferral, matched] of [
      ['20.00', 2000],
      ['30.00', 3000],
      ['40.00', 3500],
      ['50.00', 4000],
      ['90.00', 4000],
    ] as const) {
      expect(line(computePayslip(inputOf({ pay: '1000.00', deferral, items: [{ item: match }] })), 'match'))
        .withContext(deferral)
        .toBe(matched);
    }
  });

  it('stop at a limit per payslip, per year, and at a target, where the last one is smaller', () => {
    expect(line(withItem({ limits: { perPayslip: '80.00' } }), 'x')).toBe(8000);
    expect(line(withItem({ limits: { perYear: '1000.00' } }, {}, { yearToDate: { x: 97_000 } }), 'x')).toBe(3000);
    const last = withItem({}, { limits: { inAll: '500.00' } }, { yearToDate: { x: 45_000 } });
    expect(line(last, 'x')).toBe(5000);
    expect(last.problems.map((problem) => problem.code)).toEqual(['target-reached']);
  });

  it('name the item when its limit of zero is what makes it zero', () => {
    const payslip = withItem({ limits: { perYear: '0' } });
    expect(line(payslip, 'x')).toBe(0);
    expect(payslip.problems[0]).toEqual(jasmine.objectContaining({ code: 'limit-is-zero', item: 'x' }));
  });

  it('say what they would be without the limit of zero as the other limits leave it, and nothing where those leave nothing', () => {
    const target = (taken: number) =>
      withItem({ limits: { perPayslip: '0' } }, { limits: { inAll: '500.00' } }, { yearToDate: { x: taken } });
    expect(target(48_000).problems.map((problem) => problem.sentence)).toEqual([jasmine.stringContaining('it would be 20.00')]);
    expect(target(50_000).problems).toEqual([]);
  });

  it('take part, skip or carry forward when pay does not cover a deduction', () => {
    const low: Sketch = { pay: '50.00' };
    const left = computePayslip(inputOf(low)).totals.net;
    expect(line(withItem({ shortfall: 'take-part' }, {}, low), 'x')).toBe(left);
    expect(line(withItem({ shortfall: 'skip' }, {}, low), 'x')).toBe(0);
    const carried = withItem({ shortfall: 'carry-forward' }, {}, low);
    expect(line(carried, 'carried:x')).toBe(10_000 - left);
    expect(line(withItem({ shortfall: 'carry-forward' }, { carried: '60.00' }), 'x')).toBe(16_000);
    expect(line(withItem({ shortfall: 'carry-forward' }, { carried: '60.00' }), 'carried:x')).toBe(-6000);
  });

  it('can be left out of one payslip', () => {
    const input = inputOf({ pay: '1000.00', health: '92.00' });
    expect(computePayslip({ ...input, leftOut: ['health'] }).totals.deductions).toBe(0);
  });
});

describe('What needs a person', () => {
  it('net below zero says by how much and what can be done', () => {
    const payslip = computePayslip(inputOf({ pay: '100.00', vehicle: '5000.00' }));
    expect(payslip.totals.net).toBeLessThan(0);
    expect(payslip.problems.find((problem) => problem.code === 'net-below-zero')?.weight).toBe('stop');
  });

  it('a pay date without a table cannot be paid, and says so', () => {
    const payslip = computePayslip(inputOf({ pay: '1000.00', date: '2027-01-08' }));
    expect(payslip.lines).toEqual([]);
    expect(payslip.problems[0]).toEqual(jasmine.objectContaining({ code: 'no-table', weight: 'stop' }));
    expect(payslip.problems[0]?.sentence).toContain('2027');
  });

  it('unlikely hours are warned of, not refused', () => {
    const input = inputOf({});
    const payslip = computePayslip({
      ...input,
      rates: [{ id: 'a', label: 'Hot shop', per: 'hour', amount: '20.00' }],
      items: [],
      hourItems: [anItem('ordinary', 'earning', 'wages', { method: { by: 'hours', multiple: '1' } })],
      hours: [{ rate: 'a', item: 'ordinary', hours: '200' }],
    });
    expect(payslip.totals.gross).toBe(400_000);
    expect(payslip.problems.map((problem) => [problem.code, problem.weight])).toEqual([['hours-unlikely', 'look']]);
  });

  it('missing tax details, rates of the employer or a locality stop the payslip with a way out', () => {
    expect(computePayslip(inputOf({ pay: '1000.00', tax: {} })).problems[0]?.code).toBe('tax-details-missing');
    expect(computePayslip(inputOf({ pay: '1000.00', tax: PENNSYLVANIA, employer: { ...EMPLOYER, states: {} } })).problems[0]?.code).toBe(
      'employer-rate-missing',
    );
    expect(computePayslip(inputOf({ pay: '1000.00', tax: { ...PENNSYLVANIA, workLocality: '000' } })).problems[0]?.code).toBe(
      'locality-missing',
    );
  });

  it('a tax overridden keeps what was calculated and its reason', () => {
    const payslip = computePayslip(
      { ...inputOf({ pay: '1000.00' }), overrides: [{ tax: 'us.fit', amount: '10.00', reason: 'letter of the agency' }] },
      { workings: true },
    );
    expect(line(payslip, 'us.fit')).toBe(1000);
    expect(payslip.workings['us.fit']?.notes).toEqual(['Reason: letter of the agency']);
    expect(payslip.workings['us.fit:worked-out']?.steps.length).toBeGreaterThan(2);
  });
});

describe('Taxes that stand otherwise than by their rules', () => {
  const withStanding = (standing: Partial<StandingTax>, more: Sketch = {}) =>
    computePayslip(
      {
        ...inputOf({ pay: '2000.00', ...more }),
        standingTaxes: [{ tax: 'us.fit', instead: 'exempt', reason: 'letter of 3 March', from: '2026-03-03', ...standing }],
      },
      { workings: true },
    );

  it('exempt from income tax: nothing is withheld, and the pay still counts as wages', () => {
    const payslip = withStanding({});
    expect(line(payslip, 'us.fit')).toBe(0);
    expect(line(payslip, 'us.fit.wages')).toBe(200_000);
    expect(payslip.workings['us.fit']?.notes).toEqual(['From 3 Mar 2026. Reason: letter of 3 March']);
    expect(payslip.workings['us.fit:by-the-rules']?.steps.length).toBeGreaterThan(2);
  });

  it("excepted from social security and Medicare (26 U.S.C. 3121(b)): no wages for them, and no employer's share", () => {
    const payslip = computePayslip({
      ...inputOf({ pay: '2000.00' }),
      standingTaxes: ['us.oasdi', 'us.medicare'].map((tax) => ({ tax, instead: 'exempt', reason: 'student', from: '2026-01-01' }) as const),
    });
    expect(payslip.lines.filter((one) => /oasdi|medicare/.test(one.code))).toEqual([]);
    expect(line(payslip, 'us.fit')).toBeGreaterThan(0);
    expect(line(payslip, 'us.futa')).toBeGreaterThan(0);
  });

  it('fixed by letter: an amount, or a per cent of the pay counted', () => {
    expect(line(withStanding({ instead: 'amount', value: '75.00' }), 'us.fit')).toBe(7_500);
    expect(line(withStanding({ instead: 'percent', value: '12.5' }, { deferral: '100.00' }), 'us.fit')).toBe(23_750);
  });

  it('overridden once goes before what stands', () => {
    const input = inputOf({ pay: '2000.00' });
    const payslip = computePayslip({
      ...input,
      standingTaxes: [{ tax: 'us.fit', instead: 'exempt', reason: 'letter', from: '2026-01-01' }],
      overrides: [{ tax: 'us.fit', amount: '10.00', reason: 'agreed for this pay' }],
    });
    expect(line(payslip, 'us.fit')).toBe(1_000);
  });

  it('a tax without pay that it is a per cent of cannot be fixed as a per cent', () => {
    const payslip = computePayslip({
      ...inputOf({
        pay: '2000.00',
        tax: { federal: { certificate: '2020', status: 'single' }, residentState: 'PA', workState: 'PA', workLocality: '990101' },
      }),
      standingTaxes: [{ tax: 'us.local-services@US-PA/990101', instead: 'percent', value: '1', reason: 'mistaken', from: '2026-01-01' }],
    });
    expect(payslip.problems[0]?.sentence).toContain('cannot be taken at a fixed per cent');
  });
});

/** Works a working out again from nothing but what is written in it. */
function replayed(working: Working): string {
  let running = Exact.whole(0);
  for (const step of working.steps) {
    const operand = Exact.of(step.operand ?? '0');
    const written = Exact.of(step.result);
    switch (step.operation) {
      case 'start':
      case 'instead':
      case 'at-least':
      case 'at-most':
        running = operand;
        break;
      case 'plus':
        running = running.plus(operand);
        break;
      case 'less':
        running = running.minus(operand);
        break;
      case 'times':
        running = running.times(operand);
        break;
      case 'over':
        running = running.over(operand);
        break;
      case 'percent':
        running = running.times(operand).over(Exact.whole(100));
        break;
      case 'round':
        running = round(running, step.rounding!.name as Rounding, step.rounding!.places);
        break;
      case 'schedule': {
        const band = /^(?:([\d.]+) \+ )?([\d.]+)% of what is over ([\d.]+)$/.exec(step.detail ?? '');
        if (band)
          running = Exact.of(band[1] ?? '0').plus(running.minus(Exact.of(band[3]!)).times(Exact.of(band[2]!)).over(Exact.whole(100)));
        else running = Exact.whole(0);
      }
    }
    const gap = running.minus(written);
    // Operands are written to six decimals: a calculator may be off in the last of them.
    if (gap.isAbove(Exact.of('0.00001')) || gap.isBelow(Exact.of('-0.00001')))
      return `${step.label}: ${running.toDecimal()} is not ${step.result}`;
    running = written;
  }
  return running.toDecimal();
}
