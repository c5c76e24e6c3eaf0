import type { LateCharges as Charges } from '@woodruff/contract';
import { part, refused } from '../../testing/part';
import { payee } from '../../testing/payments';
import { LateCharges } from './late-charges';

const CHARGES: Charges = [
  {
    due: '2026-07-13',
    what: 'Super guarantee',
    open: 100_000,
    lines: [
      { key: 'earnings', label: 'Notional earnings', amount: 876 },
      { key: 'uplift', label: 'Administrative uplift, at most', amount: 60_526 },
    ],
    total: 61_402,
    workings: {
      earnings: {
        key: 'earnings',
        label: 'Notional earnings',
        amount: '8.76',
        unit: 'money',
        steps: [],
        sources: [],
        notes: [],
        facts: [],
      } as never,
    },
    note: 'Pay it at once.',
  },
];

describe('What being late with a payee costs', () => {
  const shown = async (charges: Charges) => {
    const one = await part(LateCharges, { payee: payee({ owed: 'au.super', chargesLate: true }) });
    await one.answer('GET', '/payments/payee/late?owed=au.super', charges);
    return one;
  };

  it('stands with what is still to be paid, each line with its working, and with what to do', async () => {
    const one = await shown(CHARGES);
    expect(one.text).toContain(
      'Due Mon 13 Jul 2026 1,000.00 is still to be paid Notional earnings Administrative uplift, at most 8.76 605.26',
    );
    expect(one.text).toContain('Pay it at once.');
    await one.press('Notional earnings, how it is calculated: 8.76');
    expect(one.element.querySelector('wr-figure-working')).not.toBeNull();
    await one.press('Notional earnings, how it is calculated: 8.76');
    expect(one.element.querySelector('wr-figure-working')).toBeNull();
  });

  it('is nothing where all was paid in time, and a refusal is said', async () => {
    expect((await shown([])).text).toBe('');
    const one = await part(LateCharges, { payee: payee({ owed: 'au.super', chargesLate: true }) });
    await one.answer('GET', '/payments/payee/late?owed=au.super', refused('The rates of the day are not in.'), 422);
    expect(one.text).toContain('The rates of the day are not in.');
  });
});
