import { payItemSchema } from '@woodruff/contract';
import { changePayItem, payItemPage } from '../../pay-items/service';
import { correctRate } from '../../people/employment/rates';
import { setPayment } from '../../people/payment/payment';
import { personPage } from '../../people/service';
import { Workplace } from '../../testing/workplace';
import type { Scope } from '../../scope';
import { acceptPoint, changePayslip } from '../sheet/edits';
import { openRun } from '../../calculation/calculation';
import { behindRun, reviewOf } from './review';
import { openPoints } from '../sheet/points';
import { runView, sheetOf } from '../sheet/sheet';

const NEXT = { from: '2026-11-22', to: '2026-12-05', payDate: '2026-12-11' };

describe('A run before approval', () => {
  let place: Workplace;
  let scope: Scope;
  let first: string;
  let run: string;
  const rowOf = async (person: string) => (await sheetOf(scope, run)).rows.find((row) => row.personId === person)!;

  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
    first = await place.run();
    await place.approve(first);
    run = await place.run(NEXT);
  });

  it('has every sum against the last run, and the sums are the totals', async () => {
    const review = await reviewOf(scope, run);
    const { totals } = await runView(scope, run);
    const sum = (kinds: string[], which: 'amount' | 'before') =>
      review.lines.filter((line) => kinds.includes(line.kind)).reduce((all, line) => all + line[which], 0);
    expect(review.against?.id).toBe(first);
    expect(sum(['earning'], 'amount')).toBe(totals.gross);
    expect(sum(['tax'], 'amount')).toBe(totals.taxes);
    expect(sum(['earning'], 'before')).toBe((await runView(scope, first)).totals.gross);
    expect(review.departments.reduce((all, one) => all + one.cost, 0)).toBe(totals.employerCost);
    expect(review.history.map((one) => one.payDate)).toEqual(['2026-11-27', '2026-12-11']);
    // What the employer pays in all is what has to be there: net, taxes, deductions and contributions.
    expect(review.funding.reduce((all, one) => all + one.amount, 0)).toBe(totals.employerCost);
  });

  it('says to whom the money goes: people by how they are paid, agencies, and the payee that an item names', async () => {
    const page = await payItemPage(scope, place.items['health']!);
    const health = payItemSchema.parse({ ...page, goes: { payee: 'Alder Mutual', reference: 'Q-204' } });
    await changePayItem(scope, place.items['health']!, { version: page.version, item: health });
    const { funding } = await reviewOf(await place.scope(), run);
    const to = (what: string) => funding.find((one) => one.what === what)?.to;
    expect(to(page.name)).toBe('Alder Mutual, Q-204');
    expect(to('Pennsylvania income tax')).toBe('Pennsylvania Department of Revenue');
    expect(funding.some((one) => one.to === 'United States Treasury')).toBeTrue();
    // Nobody has an account yet: net pay is by cheque, and stands first, as the largest sum of its day.
    expect(funding.filter((one) => one.code === null && one.to.endsWith('people')).map((one) => one.what)).toEqual(['Net pay by check']);
  });

  it('opens a line to its people, largest first, each with the figure', async () => {
    const people = await behindRun(scope, run, { code: 'us.oasdi' });
    expect(people.map((one) => one.name)).toEqual(['Sol Salaried', 'Hana Hourly']);
    expect(people[0]?.figure).toBe('us.oasdi');
    expect(people.reduce((all, one) => all + one.amount, 0)).toBe(
      (await reviewOf(scope, run)).lines.find((line) => line.code === 'us.oasdi')?.amount ?? 0,
    );
    expect((await behindRun(scope, run, { code: '', department: '' })).length).toBe(3);
  });

  it('ranks what is unusual: a changed account, a large one-off, a tax overridden', async () => {
    await setPayment(scope, place.people.salaried, {
      method: 'deposit',
      accounts: [{ bank: '021000021', account: '111122223333', kind: 'checking', by: 'remainder' }],
    });
    const { payslipId, version } = await rowOf(place.people.hourly);
    await changePayslip(scope, run, payslipId, {
      version,
      edits: {
        oneOffs: [{ id: 'b', item: 'bonus', amount: '1500' }],
        overrides: [{ tax: 'us.fit', amount: '0', reason: 'a letter' }],
      },
    });
    const { unusual } = await reviewOf(scope, run);
    expect(unusual.filter((one) => one.name !== 'Xeno Seasonal').map((one) => [one.name, one.code])).toEqual([
      ['Sol Salaried', 'payment-changed'],
      ['Hana Hourly', 'one-off-large'],
      ['Hana Hourly', 'net-unusual'],
      ['Hana Hourly', 'by-hand'],
    ]);
    expect([...unusual].sort((a, b) => b.cost - a.cost)).toEqual(unusual);
  });

  it('says what changed in set-up since the last run was approved, and who changed it', async () => {
    const rate = (await personPage(scope, place.people.hourly)).rates[0]!;
    await correctRate(scope, place.people.hourly, rate.id, {
      label: 'Pay',
      per: 'hour',
      amount: '26.00',
      from: rate.from,
      reason: 'mistyped',
      primary: true,
    });
    const { changes } = await reviewOf(scope, run);
    expect(changes[0]).toEqual(
      jasmine.objectContaining({ who: 'The clerk', about: 'Hana Hourly', link: `/people/${place.people.hourly}` }),
    );
    expect(changes.every((change) => !change.what.includes('Approved'))).toBeTrue();
  });

  it('shows the approver what was accepted, and why', async () => {
    const [point] = (await openPoints(scope, await openRun(scope, run))).filter((one) => one.weight === 'look');
    await acceptPoint(scope, run, point?.key ?? '', 'Season is over');
    expect((await reviewOf(scope, run)).accepted.map((one) => [one.who, one.reason, one.by])).toEqual([
      ['Xeno Seasonal', 'Season is over', 'The clerk'],
    ]);
  });
});
