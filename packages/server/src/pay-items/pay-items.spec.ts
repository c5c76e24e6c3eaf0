import { payItemSchema } from '@woodruff/contract';
import { Workplace } from '../testing/workplace';
import type { Scope } from '../users/scope';
import { addPersonItem } from '../people/service';
import { addPayItem, changePayItem, effectOfChange, listPayItems, payItemPage, treatmentsOf } from './service';

const codeOf = async (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => 'not refused',
    (error: unknown) => (error as Error).message,
  );
const item = (more: object) =>
  payItemSchema.parse({
    code: 'club',
    name: 'Club',
    kind: 'deduction',
    treatment: 'after-tax',
    method: { by: 'amount' },
    order: 320,
    ...more,
  });

describe('Pay items', () => {
  let place: Workplace;
  let scope: Scope;
  beforeAll(async () => {
    place = await Workplace.make();
    scope = await place.scope();
  }, 60_000);

  it('are listed in the order in which they are taken, with how many have them', async () => {
    const items = await listPayItems(scope);
    expect(items.map((entry) => entry.order)).toEqual([...items.map((entry) => entry.order)].sort((a, b) => a - b));
    expect(items.find((entry) => entry.code === 'health')?.held).toBe(1);
  });

  it('say what they count for, with the source', async () => {
    const page = await payItemPage(scope, place.items['health']!);
    expect(page.counts.find((count) => count.base === 'us.oasdi.pay')).toEqual({
      base: 'us.oasdi.pay',
      label: 'Pay counted for social security',
      sign: -1,
    });
    expect(page.treatmentSource).toContain('26 U.S.C. 125');
    expect(page.holders.map((holder) => [holder.name, holder.amount])).toEqual([['Hourly, Hana', '50.00']]);
  });

  it('offer the treatments of the country', () => {
    expect(treatmentsOf(scope).find((treatment) => treatment.code === 'deferral')?.for).toEqual(['deduction']);
  });

  it('have a code of their own that stays', async () => {
    const { id } = await addPayItem(scope, item({}));
    expect(await codeOf(addPayItem(scope, item({})))).toContain('already an item with the code club');
    expect(
      await codeOf(changePayItem(scope, id, { version: (await payItemPage(scope, id)).version, item: item({ code: 'other' }) })),
    ).toContain('The code of an item stays');
  });

  it('are refused with a treatment that does not fit, falling tiers, or a per cent of themselves', async () => {
    expect(await codeOf(addPayItem(scope, item({ code: 'a', treatment: 'wages' })))).toContain('none for an item of this kind');
    expect(
      await codeOf(
        addPayItem(
          scope,
          item({
            code: 'b',
            kind: 'employer-contribution',
            treatment: 'employer-plan',
            method: {
              by: 'match',
              of: 'x',
              tiers: [
                { upTo: '5', match: '100' },
                { upTo: '3', match: '50' },
              ],
            },
          }),
        ),
      ),
    ).toContain('reach higher');
    expect(
      await codeOf(addPayItem(scope, item({ code: 'c', kind: 'earning', treatment: 'wages', method: { by: 'percent', of: 'gross' } }))),
    ).toContain('cannot be a per cent of itself');
  });

  it('are changed by one clerk at a time', async () => {
    const page = await payItemPage(scope, place.items['loan']!);
    const loan = item({ code: 'loan', name: 'Loan' });
    await changePayItem(scope, place.items['loan']!, { version: page.version, item: loan });
    expect(await codeOf(changePayItem(scope, place.items['loan']!, { version: page.version, item: loan }))).toContain(
      'Somebody else changed this item',
    );
  });

  it('show before a change whose net in the open runs it moves, and by how much', async () => {
    await addPersonItem(scope, place.people.salaried, { itemId: place.items['loan']!, amount: '80.00', from: '2026-01-01' });
    await place.run();
    const effect = await effectOfChange(scope, place.items['loan']!, item({ code: 'loan', name: 'Loan', limits: { perPayslip: '30.00' } }));
    expect(effect.people.map((person) => [person.name, person.after - person.before])).toEqual([['Sol Salaried', 5000]]);
    expect([effect.unchanged, effect.runs.length]).toEqual([2, 1]);
  });
});
