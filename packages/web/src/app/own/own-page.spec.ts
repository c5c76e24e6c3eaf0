import type { OwnView, PayslipView } from '@woodruff/contract';
import { part, refused } from '../../testing/part';
import { OwnPage } from './own-page';
import { ownStore } from './own.store';

const paid = (id: string, payDate: string, more: object = {}) => ({
  id,
  payDate,
  from: '2026-10-25',
  to: '2026-11-07',
  state: 'posted' as const,
  gross: 289_600,
  deductions: 30_000,
  taxes: 51_576,
  net: 208_024,
  ...more,
});
const OWN: OwnView = {
  name: 'Jonas Ketteridge',
  employer: 'Quillmere Glassworks',
  today: '2026-11-23',
  year: '2026',
  yearToDate: { gross: 6_735_199, taxes: 1_109_327, deductions: 792_966, net: 4_832_906 },
  payslips: [paid('new', '2026-11-13'), paid('old', '2026-10-30')],
  time: null,
  leave: { plans: [], requests: [] },
  electronicForms: null,
  formsAsked: null,
  statements: [],
  letters: [],
};
const line = (id: string, kind: string, label: string, amount: number) => ({ id, code: id, kind, label, amount });
const PAYSLIP = {
  id: 'new',
  payDate: '2026-11-13',
  from: '2026-10-25',
  to: '2026-11-07',
  lines: [
    line('ordinary', 'earning', 'Ordinary', 289_600),
    line('us.oasdi', 'tax', 'Social security', 17_955),
    line('us.oasdi.pay', 'base', 'Pay counted', 289_600),
  ],
  totals: { net: 208_024 },
  leave: [{ plan: 'Vacation', balance: 14_145, figure: 'leave:vacation' }],
  workings: {
    'us.oasdi': {
      key: 'us.oasdi',
      label: 'Social security',
      amount: '179.55',
      unit: 'money',
      steps: [{ operation: 'start', label: 'Pay counted', operand: '2896.00', result: '2896.00' }],
      sources: [],
      notes: [],
      facts: [],
    },
  },
} as unknown as PayslipView;

describe('An employee’s own view', () => {
  async function shown(more: Partial<OwnView> = {}) {
    const one = await part(OwnPage, {}, { stores: [ownStore as never], arrives: [ownStore.loaded({ data: { ...OWN, ...more } })] });
    if (more.payslips?.length !== 0) await one.answer('GET', '/own/payslips/new', PAYSLIP);
    return one;
  }

  it('begins with the sums of the year and the latest payslip', async () => {
    const one = await shown();
    expect(one.text).toContain('Net 48,329.06');
    expect(one.text).toContain('For 25 Oct – 7 Nov 2026.');
    expect(one.text).toContain('Net pay 2,080.24');
    expect(one.text).toContain('Vacation: 141.45 hours left after it.');
    // What is counted for a tax is no line of the payslip.
    expect(one.text).not.toContain('Pay counted 2,896.00');
  });

  it('opens a figure to how it came about, and comes back', async () => {
    const one = await shown();
    await one.press('Social security');
    expect(one.text).toContain('Pay counted');
    await one.press('‹ The payslip');
    expect(one.buttons()).toContain('Net pay');
  });

  it('opens an earlier payslip, and folds many', async () => {
    const payslips = [
      paid('new', '2026-11-13'),
      ...Array.from({ length: 11 }, (_none, index) => paid(`p${index}`, `2026-0${(index % 9) + 1}-15`)),
    ];
    const one = await shown({ payslips });
    expect(one.element.querySelectorAll('a[target="_blank"]').length).toBe(8);
    await one.press('All 12');
    expect(one.element.querySelectorAll('a[target="_blank"]').length).toBe(12);
  });

  it('says that a payslip was reversed', async () => {
    expect((await shown({ payslips: [paid('new', '2026-11-13', { state: 'reversed' })] })).text).toMatch(/13 Nov 2026 ?reversed/);
  });

  it('without pay, leave or time is calm', async () => {
    const one = await shown({ payslips: [] });
    expect(one.text).toContain('Nothing has been paid yet.');
    expect(one.text).toContain('No leave is asked for.');
    expect(one.buttons()).not.toContain('Ask for a change');
    one.asksNothing();
  });

  it('chooses electronic forms, and tells when that is refused', async () => {
    const one = await shown();
    await one.press('Electronically only, from now on');
    expect(await one.answer('PUT', '/own/forms', refused('Try again in a minute.'), 503)).toEqual({ electronic: true });
    expect(one.text).toContain('Try again in a minute.');
  });
});
