import { part, refused } from '../../testing/part';
import { payee } from '../../testing/payments';
import { PayeePage } from './payee-page';
import { payeeStore } from './payments.store';

describe('A payee', () => {
  const shown = (more: Parameters<typeof payee>[0] = {}) =>
    part(PayeePage, { owed: 'payee:Savings Club' }, { stores: [payeeStore as never], arrives: [payeeStore.loaded({ data: payee(more) })] });

  it('shows what is late first to be paid, and pays several together', async () => {
    const one = await shown();
    expect(one.text).toContain('▲ Mon 16 Nov 2026');
    await one.fill('Pay what is due 2026-11-16', true);
    await one.fill('Pay what is due 2026-12-15', true);
    await one.press('Pay 400.00');
    expect(await one.answer('POST', '/payments/remittances', { payments: [{ id: 'm1', confirmation: '' }] })).toEqual({
      payments: [
        { owed: 'payee:Savings Club', due: '2026-11-16', method: 'cheque', reference: '' },
        { owed: 'payee:Savings Club', due: '2026-12-15', method: 'cheque', reference: '' },
      ],
    });
    expect(one.text).toContain('It waits on the ladder for the next batch.');
  });

  it('records a part that was paid elsewhere with its reference; a refusal is shown', async () => {
    const one = await shown();
    await one.fill('Pay what is due 2026-11-16', true);
    const method = one.element.querySelector<HTMLSelectElement>('select[name=method]')!;
    method.value = 'elsewhere';
    method.dispatchEvent(new Event('change'));
    await one.settle();
    await one.fill('Amount', '100.00');
    await one.fill('Reference there', 'T-1');
    await one.press('Record 325.00');
    expect(await one.answer('POST', '/payments/remittances', refused('It is more than is owed.'), 400)).toEqual({
      payments: [{ owed: 'payee:Savings Club', due: '2026-11-16', method: 'elsewhere', reference: 'T-1', amount: '100.00' }],
    });
    expect(one.text).toContain('It is more than is owed.');
  });

  it('agrees another day with the payee, where the law sets none', async () => {
    const one = await shown();
    await one.press('Change');
    await one.fill('Due, as agreed', 'pay-date');
    await one.fill('Days', '5');
    await one.press('Save the payee');
    const sent = (await one.answer('PUT', '/payments/payee', {})) as { rule: unknown };
    expect(sent.rule).toEqual({ by: 'pay-date', days: 5 });
    const fixed = await shown({ ruleFixed: true });
    await fixed.press('Change');
    expect(fixed.text).not.toContain('Due, as agreed');
  });
});
