import type { PayItemRow, Person, Recovery, Refundable } from '@woodruff/contract';
import { part, refused } from '../../testing/part';
import { payItemsStore } from '../pay-items/pay-items.store';
import { PersonSetRight } from './person-set-right';

const ORDINARY = { id: 'o', code: 'ordinary', name: 'Ordinary', kind: 'earning', retired: false } as unknown as PayItemRow;
const DUES = { id: 'd', code: 'dues', name: 'Union dues', kind: 'deduction', retired: false } as unknown as PayItemRow;
const RECOVERY = {
  id: 'r',
  item: 'Ordinary',
  total: 50_000,
  perPayslip: 10_000,
  recovered: 20_000,
  reason: 'Eight hours twice',
  ended: null,
  taken: [{ payslipId: 'y', payDate: '2026-11-13', amount: 20_000, state: 'posted' }],
} as unknown as Recovery;
const TAKEN: Refundable = [
  {
    itemId: 'd',
    name: 'Union dues',
    refunded: 0,
    taken: [
      { payslipId: 'a', payDate: '2026-10-30', amount: 1_850 },
      { payslipId: 'b', payDate: '2026-11-13', amount: 1_850 },
    ],
  },
] as unknown as Refundable;
const EFFECT = { people: [], unchanged: 22, runs: [] };

describe('What was paid or taken too much', () => {
  async function shown(recoveries: Recovery[] = [], refundable: Refundable = TAKEN, role: 'clerk' | 'viewer' = 'clerk') {
    const one = await part(
      PersonSetRight,
      { person: { id: 'p' } as unknown as Person },
      { role, stores: [payItemsStore as never], actions: [payItemsStore.loaded({ data: [ORDINARY, DUES] })] },
    );
    await one.answer('GET', '/people/p/recoveries', recoveries);
    await one.answer('GET', '/people/p/refundable', refundable);
    return one;
  }

  it('is recovered over several payslips, after a look at the open run', async () => {
    const one = await shown();
    expect(one.text).toContain('Nothing is recovered.');
    await one.press('Recover pay');
    const item = one.field('Paid through') as unknown as HTMLSelectElement;
    expect([...item.options].map((option) => option.textContent.trim())).toEqual(['', 'Ordinary']);
    expect(one.button('Show what it changes').disabled).toBeTrue();
    await one.fill('Paid through', 'o');
    await one.fill('Overpaid, total', '500.00');
    await one.fill('Taken back each payslip', '100.00');
    await one.fill('Reason', 'Eight hours twice');
    await one.press('Show what it changes');
    await one.answer('POST', '/people/p/recoveries?rehearse=true', EFFECT);
    const saved = one.given(one.fixture.componentInstance.saved);
    await one.press('Recover it');
    expect(await one.answer('POST', '/people/p/recoveries', { id: 'n' })).toEqual({
      itemId: 'o',
      total: '500.00',
      perPayslip: '100.00',
      reason: 'Eight hours twice',
    });
    expect(saved.length).toBe(1);
  });

  it('shows how far it is, with each payslip it was taken from', async () => {
    const one = await shown([RECOVERY]);
    expect(one.text).toContain('200.00 of 500.00 recovered, 100.00 a payslip');
    expect(one.element.querySelector<HTMLElement>('.bar-of-progress div')?.style.width).toBe('40%');
    expect(one.buttons()).toContain('13 Nov 2026');
  });

  it('is ended with a reason, which it keeps', async () => {
    const one = await shown([RECOVERY]);
    await one.press('End it …');
    await one.press('End the recovery');
    await one.answer('DELETE', '/people/p/recoveries/r', refused('Say why it ends.'), 422);
    expect(one.text).toContain('Say why it ends.');
    await one.fill('Why it ends', 'Forgiven by the owner');
    await one.press('End the recovery');
    expect(await one.answer('DELETE', '/people/p/recoveries/r', {})).toEqual({ reason: 'Forgiven by the owner' });
    await one.answer('GET', '/people/p/recoveries', [{ ...RECOVERY, ended: 'Forgiven by the owner' }]);
    expect(one.text).toContain('ended: Forgiven by the owner');
    expect(one.buttons()).not.toContain('End it …');
  });

  it('of a deduction is the sum of the payslips chosen, and can be typed over', async () => {
    const one = await shown();
    await one.press('Refund a deduction');
    await one.fill('Deduction', 'd');
    const boxes = () => [...one.element.querySelectorAll<HTMLInputElement>('.taken input')];
    for (const box of boxes()) {
      box.click();
      await one.settle();
    }
    expect(one.field('Given back').value).toBe('37.00');
    boxes()[0]!.click();
    await one.settle();
    expect(one.field('Given back').value).toBe('18.50');
    await one.fill('Given back', '10.00');
    await one.fill('Reason', 'Opted out on 1 November');
    await one.press('Show what it changes');
    await one.answer('POST', '/people/p/refunds?rehearse=true', EFFECT);
    await one.press('Give it back with the next run');
    expect(await one.answer('POST', '/people/p/refunds', {})).toEqual({ itemId: 'd', amount: '10.00', reason: 'Opted out on 1 November' });
  });

  it('is looked at again when something else is entered after the look', async () => {
    const one = await shown();
    await one.press('Recover pay');
    await one.fill('Paid through', 'o');
    await one.fill('Overpaid, total', '500.00');
    await one.press('Show what it changes');
    await one.answer('POST', '/people/p/recoveries?rehearse=true', EFFECT);
    await one.fill('Overpaid, total', '400.00');
    expect(one.buttons()).toContain('Show what it changes');
  });

  it('is read only by who may not prepare', async () => {
    expect((await shown([RECOVERY], TAKEN, 'viewer')).buttons()).toEqual(['13 Nov 2026']);
  });
});
