import { oneOffsSchema, payItemSchema, rateSchema } from '@woodruff/contract';
import { packOf } from '@woodruff/core';
import { sheetOf } from '../pay-runs/sheet/sheet';
import { addRate } from '../people/employment/rates';
import { addPayItem } from '../pay-items/service';
import { australianWorks } from '../testing/australian-works';
import { approveAll } from '../testing/workplace';
import { select } from '../database/connection';
import { testDatabase } from '../testing/database';
import { takeBackPay } from './back-pay';
import { oneOffPage } from './service';

describe('Back pay of periods that are known', () => {
  it('is withheld from as spread over these, one line for each', async () => {
    const works = await australianWorks();
    let scope = await works.scope();
    const backPay = packOf('AU')
      .readyItems('2026-11-25')
      .find(({ item }) => item.code === 'back-pay')!.item;
    await addPayItem(scope, payItemSchema.parse(backPay));
    for (const [from, to, payDate] of [
      ['2026-11-02', '2026-11-08', '2026-11-12'],
      ['2026-11-09', '2026-11-15', '2026-11-19'],
    ] as const)
      await approveAll(await works.scope(), await works.run({ from, to, payDate }));
    // A raise of 2.00 from 2 November on: 38 hours of two weeks, 76.00 each.
    const [person] = works.people;
    scope = await works.scope();
    await addRate(scope, person, rateSchema.parse({ label: 'Pay', per: 'hour', amount: '32.00', from: '2026-11-02' }));
    await takeBackPay(scope, { from: '2026-11-02', personIds: [person], hours: {}, item: 'back-pay', takes: { by: 'next' } });
    expect((await oneOffPage(scope, false)).oneOffs.map(({ amount, earned }) => [amount, earned])).toEqual([
      ['76.00', { from: '2026-11-02', to: '2026-11-08' }],
      ['76.00', { from: '2026-11-09', to: '2026-11-15' }],
    ]);
    const run = await works.run();
    const row = (await sheetOf(await works.scope(), run)).rows.find(({ personId }) => personId === person);
    const [withheld] = await select<{ amount: string }>(
      testDatabase(),
      `select line->>'amount' as amount from payslip_results x cross join lateral jsonb_array_elements(x.lines) line where x.payslip_id = :id and line->>'code' = 'au.paygw'`,
      { id: row?.payslipId },
    );
    // By Schedule 5, method A: 1,216 a week; 208 on it, 232 on 1,292: 24 twice.
    expect(withheld?.amount).toBe('25600');
  });

  it('days that end before they begin, or are left open, are refused with what is wrong', () => {
    const entry = (earned: object) => ({ entries: [{ person: '1', item: 'bonus', amount: '10', earned, takes: { by: 'next' } }] });
    const faults = (earned: object) =>
      oneOffsSchema.safeParse(entry(earned)).error?.issues.map(({ path, message }) => [path.join('.'), message]);
    expect(faults({ from: '2026-11-08', to: '2026-11-02' })).toEqual([['entries.0.earned', 'a last day that is not before the first']]);
    expect(faults({ from: '2026-11-08', to: '' })?.[0]?.[0]).toBe('entries.0.earned.to');
    expect(faults({ from: '2026-11-02', to: '2026-11-08' })).toBeUndefined();
  });
});
