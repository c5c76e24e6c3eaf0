import { computePayslip } from './compute-payslip';
import type { PayslipInput, Recovery } from './input';
import { anItem, inputOf } from './testing/inputs';

const BONUS = anItem('bonus', 'earning', 'wages', { name: 'Bonus' });
const recovery = (more: Partial<Recovery> = {}): Recovery => ({
  id: 'r1',
  item: BONUS,
  left: 50_000,
  perPayslip: '120',
  reason: 'The bonus of October was paid twice',
  ...more,
});
const recovered = (input: PayslipInput) => {
  const payslip = computePayslip(input, { workings: true });
  return {
    payslip,
    amount: payslip.lines.find((line) => line.id === 'recover:r1')?.amount,
    codes: payslip.problems.map(({ code }) => code),
  };
};
const hourly = (rate: string, hours: string, more: Partial<PayslipInput> = {}): PayslipInput => ({
  ...inputOf({ hours: { rate, by: { ordinary: hours } } }),
  items: [],
  ...more,
});

describe('Pay recovered over several payslips', () => {
  it('comes off as negative pay, as much as agreed, and the tax follows', () => {
    const without = computePayslip(inputOf({ pay: '2000' }));
    const { payslip, amount } = recovered({ ...inputOf({ pay: '2000' }), recoveries: [recovery()] });
    expect(amount).toBe(-12_000);
    expect(payslip.totals.gross).toBe(188_000);
    expect(payslip.totals.taxes).toBeLessThan(without.totals.taxes);
    expect(payslip.lines.find((line) => line.code === 'recovered:r1')?.amount).toBe(12_000);
  });

  it('ends with what is left', () => {
    expect(recovered({ ...inputOf({ pay: '2000' }), recoveries: [recovery({ left: 4_550 })] }).amount).toBe(-4_550);
    expect(recovered({ ...inputOf({ pay: '2000' }), recoveries: [recovery({ left: 0 })] }).amount).toBeUndefined();
  });

  it('leaves the minimum wage of the hours paid (29 CFR 531.35; Texas 7.25)', () => {
    // 40 hours at 8.00 are 320.00; 40 at 7.25 are 290.00: 30.00 can be taken.
    expect(recovered(hourly('8', '40', { recoveries: [recovery()] })).amount).toBe(-3_000);
    const none = recovered(hourly('7.25', '40', { recoveries: [recovery()] }));
    expect(none.amount).toBeUndefined();
    expect(none.codes).toContain('nothing-recovered');
  });
});

describe('The minimum wage', () => {
  it('is looked at where hours are paid: the higher of federal and state', () => {
    expect(recovered(hourly('7.25', '40')).codes).not.toContain('below-minimum-wage');
    expect(recovered(hourly('7.20', '40')).codes).toContain('below-minimum-wage');
    const virginia = {
      federal: { certificate: '2020', status: 'single' },
      residentState: 'VA',
      workState: 'VA',
      virginia: { exemptions: 1 },
    };
    const { codes, payslip } = recovered(hourly('12.50', '40', { tax: virginia }));
    expect(codes).toContain('below-minimum-wage');
    expect(payslip.workings['minimum-wage']?.sources.some((source) => source.unconfirmed)).toBeTrue();
  });

  it('of a city above the state holds from its day on, and says where it is from', () => {
    const placeMinimumWage = { amount: '15.50', place: 'Saltmarsh Landing', from: '2026-07-01' };
    expect(recovered(hourly('15.50', '40', { placeMinimumWage })).codes).not.toContain('below-minimum-wage');
    const { codes, payslip } = recovered(hourly('15.00', '40', { placeMinimumWage }));
    expect(codes).toContain('below-minimum-wage');
    expect(payslip.workings['minimum-wage']?.steps.at(-1)?.label).toContain('Saltmarsh Landing from 1 Jul 2026');
  });

  it('of a place below the state changes nothing', () => {
    const placeMinimumWage = { amount: '5.00', place: 'Corbel Falls', from: '2026-07-01' };
    expect(recovered(hourly('7.20', '40', { placeMinimumWage })).codes).toContain('below-minimum-wage');
  });
});
