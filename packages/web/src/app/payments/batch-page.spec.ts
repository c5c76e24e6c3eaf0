import type { Batch } from '@woodruff/contract';
import { part, refused } from '../../testing/part';
import { batch, transfer } from '../../testing/payments';
import { BatchPage } from './batch-page';
import { batchStore } from './payments.store';

describe('A batch', () => {
  const shown = (more: Partial<Batch> = {}, role: 'clerk' | 'viewer' = 'clerk') =>
    part(BatchPage, { id: 'b1' }, { stores: [batchStore as never], arrives: [batchStore.loaded({ data: batch(more) })], role });

  it('is released as it was looked at, and its file goes to the bank at once', async () => {
    const one = await shown();
    await one.press('Release 1 payment for Fri 27 Nov 2026');
    expect(await one.answer('POST', '/payments/batches/b1/released', {})).toEqual({ version: 1, format: 'ach', balanced: true });
    await one.answer('POST', '/payments/exchange', { sent: 1, lines: 0, unknown: 0 });
    one.asksNothing();
  });

  it('waits until it is said to which account a payment goes that changed since approval', async () => {
    const changed = [
      {
        netPaymentId: 'n1',
        personId: 'p1',
        name: 'Nils Penhallow',
        amount: 156_175,
        who: 'O. Marchetti',
        at: '2026-11-24T09:12:00',
        what: 'The remainder to the account ending 1999',
      },
    ];
    const one = await shown({ changed });
    expect(one.text).toContain('The remainder to the account ending 1999. O. Marchetti, 2026-11-24 09:12');
    expect(one.button('Release 1 payment for Fri 27 Nov 2026').disabled).toBeTrue();
    one.field('Pay to the accounts as they are now').click();
    await one.settle();
    await one.press('Release 1 payment for Fri 27 Nov 2026');
    await one.answer('POST', '/payments/batches/b1/released', refused('This batch changed after you opened it.'), 409);
    expect(one.text).toContain('This batch changed after you opened it.');
  });

  it('says what the account lacks, what the bank refused and where, and what came back', async () => {
    expect((await shown({ short: 12_000 })).text).toContain('The account lacks 120.00');
    const faults = [{ line: 3, column: 30, what: 'figures are expected in columns 30 to 39' }];
    expect((await shown({ state: 'refused', releasedAt: '2026-11-23T11:00:00', faults })).text).toContain(
      'Line 3, column 30: figures are expected',
    );
    const returned = await shown({ state: 'returned', releasedAt: '2026-11-23T11:00:00', transfers: [transfer()] });
    expect(returned.text).toContain('The account is closed');
  });

  it('lists the first two hundred, and all when asked', async () => {
    const transfers = Array.from({ length: 250 }, (_one, index) => transfer({ id: `t${index}`, state: 'sent', events: [] }));
    const one = await shown({ state: 'sent', releasedAt: '2026-11-23T11:00:00', transfers });
    expect(one.element.querySelectorAll('tr').length).toBe(201);
    await one.press('Show 50 more');
    expect(one.element.querySelectorAll('tr').length).toBe(251);
  });

  it('is only looked at by who may not pay', async () => {
    expect((await shown({}, 'viewer')).buttons()).toEqual([]);
  });
});
