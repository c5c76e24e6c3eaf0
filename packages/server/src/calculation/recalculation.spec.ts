import { addPersonItem } from '../people/employment/recurring-items';
import { Workplace } from '../testing/workplace';
import type { Scope } from '../scope';
import { calculateRun } from './calculation';
import { discardEdits, changePayslip } from '../pay-runs/sheet/edits';
import { recalculationOf } from './recalculation';
import { sheetOf } from '../pay-runs/sheet/sheet';

describe('A run recalculated', () => {
  let place: Workplace;
  let scope: Scope;
  let run: string;

  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
    run = await place.run();
  });

  it('tells nothing the first time, and that nothing changed where nothing did', async () => {
    expect(await recalculationOf(scope, run)).toBeNull();
    await calculateRun(scope, run);
    expect(await recalculationOf(scope, run)).toEqual(jasmine.objectContaining({ changed: 0, unchanged: 3, people: [] }));
  });

  it('tells whose net is another, from and to, and what has to be looked at now', async () => {
    const before = (await sheetOf(scope, run)).rows.find((row) => row.personId === place.people.salaried)!.totals;
    await addPersonItem(scope, place.people.salaried, { itemId: place.items['loan']!, amount: '9000.00', from: '2026-01-01' });
    await calculateRun(scope, run);
    const told = await recalculationOf(scope, run);
    expect([told?.changed, told?.unchanged]).toEqual([1, 2]);
    expect(told?.people).toEqual([
      { name: 'Sol Salaried', before: before.net, after: 0, cost: 0, stop: null, look: [jasmine.stringContaining('Loan: pay covers')] },
    ]);
  });

  it('tells what discarded edits did, and forgets it with the next time', async () => {
    const row = (await sheetOf(scope, run)).rows.find((one) => one.personId === place.people.hourly)!;
    await changePayslip(scope, run, row.payslipId, { version: row.version, edits: { hours: { ordinary: '40.00' } } });
    await discardEdits(scope, run);
    await calculateRun(scope, run);
    expect((await recalculationOf(scope, run))?.people.map((one) => [one.name, one.after])).toEqual([['Hana Hourly', row.totals.net]]);
    await calculateRun(scope, run);
    expect((await recalculationOf(scope, run))?.changed).toBe(0);
  });

  it('is not told to another employer', async () => {
    await calculateRun(scope, run);
    expect(await recalculationOf(await (await Workplace.make()).scope(), run)).toBeNull();
  });
});
