import { moveToday } from '../employers/service';
import { australianWorks } from '../testing/australian-works';
import { approveAll } from '../testing/workplace';
import { lateChargesOf, lateParts } from './late';
import { obligationsOf } from './owed';
import { order, payeeView } from './service';

describe('What being late costs', () => {
  it('is what came after its day, or is not there: never what was paid in time or out of a credit', () => {
    const owed = { due: '2026-07-13', amount: 1000_00, credit: 100_00, left: 300_00 };
    const paid = [
      { on: '2026-07-10', amount: 400_00 },
      { on: '2026-07-20', amount: 200_00 },
    ];
    expect(lateParts(owed, paid, '2026-08-01')).toEqual([
      { amount: 200_00, on: '2026-07-20' },
      { amount: 300_00, on: null },
    ]);
    expect(lateParts(owed, paid, '2026-07-13')).toEqual([]);
    expect(lateParts({ ...owed, left: 0 }, [{ on: '2026-07-13', amount: 900_00 }], '2026-08-01')).toEqual([]);
    // Paid too much after the day: no more than was missing is late.
    expect(lateParts({ ...owed, left: 0 }, [{ on: '2026-07-14', amount: 2000_00 }], '2026-08-01')).toEqual([
      { amount: 900_00, on: '2026-07-14' },
    ]);
  });

  it('stands with the payee whose law makes a charge, by the contributions of the pay day', async () => {
    const works = await australianWorks();
    await approveAll(await works.scope(), await works.run());
    let scope = await works.scope();
    expect((await payeeView(scope, 'au.super.first')).chargesLate).toBeTrue();
    expect((await payeeView(scope, 'au.paygw')).chargesLate).toBeFalse();
    const [owed] = await obligationsOf(scope, 'au.super.first');
    // First contributions have twenty business days: Thursday 24 December.
    expect([owed?.due, owed?.left]).toEqual(['2026-12-24', 273_60]);
    expect(await lateChargesOf(scope, 'au.super.first')).toEqual([]);
    await moveToday(scope, '2027-01-23');
    scope = await works.scope();
    const [open] = await lateChargesOf(scope, 'au.super.first');
    // 30 days on 273.60: 2.40; 60 per cent of 276.00 are 165.60.
    expect([open?.open, open?.lines.map(({ amount }) => amount), open?.total]).toEqual([273_60, [2_40, 165_60], 168_00]);
    await order(scope, {
      payments: [{ owed: 'au.super.first', due: '2026-12-24', method: 'elsewhere', reference: 'By hand', on: '2027-01-23' }],
    });
    const [paid] = await lateChargesOf(await works.scope(), 'au.super.first');
    expect([paid?.open, paid?.lines.map(({ amount }) => amount)]).toEqual([0, [2_40, 1_44]]);
    expect(paid?.workings['part-0']?.steps[0]?.label).toBe('Paid on 23 Jan 2027');
  });
});
