import { computePayslip } from '../payslip/compute-payslip';
import { anItem, inputOf } from '../payslip/testing/inputs';
import type { PayslipInput } from '../payslip/input';
import type { TimeEntry, TimeRules } from './time';

const RULES: TimeRules = {
  code: 'weekly',
  label: 'Over 40 hours a week',
  weekBegins: 0,
  weeklyOver: '40',
  items: { ordinary: 'ordinary', overtime: 'overtime', makeUp: 'make-up' },
  source: { publication: '29 U.S.C. 207(a)(1)' },
};
const MONDAYS = ['2026-11-09', '2026-11-16'];
const day = (monday: string, offset: number): string => `2026-11-${String(Number(monday.slice(8)) + offset).padStart(2, '0')}`;
const worked = (monday: string, hours: string[]): TimeEntry[] => hours.map((each, index) => ({ date: day(monday, index), hours: each }));
const tips = (date: string, quantity: string): TimeEntry => ({ date, hours: '0', item: 'tips', quantity });

const served = (rate: string, entries: TimeEntry[], kind: 'earning' | 'benefit-in-kind' = 'benefit-in-kind'): PayslipInput => {
  const byHour = (code: string, multiple: string) => anItem(code, 'earning', 'wages', { method: { by: 'hours', multiple } });
  return {
    ...inputOf({}),
    rates: [{ id: '1', label: 'Service', per: 'hour', amount: rate, primary: true }],
    hourItems: [byHour('ordinary', '1'), byHour('overtime', '1.5')],
    timeItems: [
      anItem('tips', kind, kind === 'earning' ? 'tips' : 'tips-reported'),
      anItem('make-up', 'earning', 'wages', { name: 'Make-up pay' }),
    ],
    items: [],
    time: { rules: RULES, entries },
  };
};
const amount = (input: PayslipInput, code: string) =>
  computePayslip(input)
    .lines.filter((line) => line.code === code)
    .reduce((sum, line) => sum + line.amount, 0);
const [first = '', second = ''] = MONDAYS;

describe('Tipped employees (Texas: 2.13 an hour in cash, 7.25 the minimum)', () => {
  it('who receive enough get nothing more: tips count up to what the rate lacks', () => {
    // 30 hours lack 30 × 5.12 = 153.60.
    expect(amount(served('2.13', [...worked(first, ['6', '6', '6', '6', '6']), tips(first, '153.60')]), 'make-up')).toBe(0);
  });

  it('who receive less are brought up to the minimum wage, week by week', () => {
    const entries = [
      ...worked(first, ['6', '6', '6', '6', '6']),
      tips(first, '100'),
      ...worked(second, ['6', '6', '6', '6', '6']),
      tips(second, '400'),
    ];
    // First week: 217.50 − 63.90 − 100.00. The second week's tips do not help the first.
    expect(amount(served('2.13', entries), 'make-up')).toBe(5_360);
  });

  it('are paid overtime on the minimum wage less the credit (29 CFR 531.60)', () => {
    // 50 hours, tips in plenty: 7.25 × 55 − 5.12 × 50 = 142.75 is due; 2.13 × 50 + 1.065 × 10 = 117.15 is paid.
    const entries = [...worked(first, ['10', '10', '10', '10', '10']), tips(first, '900')];
    const input = served('2.13', entries);
    expect(amount(input, 'make-up')).toBe(2_560);
    const { workings } = computePayslip(input, { workings: true });
    expect(workings[`make-up:2026-11-08`]?.steps.map((step) => step.label)).toContain('Half of the overtime hours');
  });

  it('reported tips are taxed and not paid by the employer; charged tips are paid too', () => {
    const entries = [...worked(first, ['8', '8', '8', '8', '8']), tips(first, '300')];
    const reported = computePayslip(served('8', entries));
    const charged = computePayslip(served('8', entries, 'earning'));
    expect([reported.totals.gross, charged.totals.gross]).toEqual([32_000, 62_000]);
    expect(reported.totals.taxes).toBe(charged.totals.taxes);
    const base = (code: string) =>
      reported.lines.filter((line) => line.kind === 'base' && line.code === code).reduce((sum, line) => sum + line.amount, 0);
    expect([base('us.oasdi.wages'), base('us.oasdi.tips'), base('us.medicare.wages')]).toEqual([32_000, 30_000, 62_000]);
  });

  it('other wages go first up to the wage base, and tips take what is left of it', () => {
    const input = served('8', [...worked(first, ['8', '8', '8', '8', '8']), tips(first, '300')]);
    const base = (code: string) => {
      // 184,500.00 is the wage base of 2026; 400.00 of it is left.
      const { lines } = computePayslip({ ...input, balances: { 'us.oasdi.pay': { year: 18_410_000, inAll: 18_410_000 } } });
      return lines.filter((line) => line.kind === 'base' && line.code === code).reduce((sum, line) => sum + line.amount, 0);
    };
    expect([base('us.oasdi.wages'), base('us.oasdi.tips')]).toEqual([32_000, 8_000]);
  });

  it('pieces kept by day are counted for the piece rate', () => {
    const input = served('20', [
      ...worked(first, ['8']),
      { date: first, hours: '0', item: 'vases', quantity: '12' },
      { date: second, hours: '0', item: 'vases', quantity: '3' },
    ]);
    const vases = { item: anItem('vases', 'earning', 'wages', { method: { by: 'pieces' } }), amount: '2.50' };
    expect(amount({ ...input, items: [vases] }, 'vases')).toBe(3_750);
  });
});
