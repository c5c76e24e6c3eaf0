import { payItemSchema } from '@woodruff/contract';
import { Workplace } from '../testing/workplace';
import type { Scope } from '../scope';
import { addPersonItem } from '../people/employment/recurring-items';
import { select } from '../database/connection';
import { approveRun } from '../pay-runs/posting/approval';
import { openRun } from '../calculation/calculation';
import { acceptPoint, changePayslip } from '../pay-runs/sheet/edits';
import { rehearse } from '../calculation/rehearsal';
import { openPoints } from '../pay-runs/sheet/points';
import { runView, sheetOf } from '../pay-runs/sheet/sheet';
import { bringBackPayItem, changeHolders, retirePayItem } from './holders';
import { addPayItem, changePayItem, itemChoices, listPayItems, payItemPage, readyItems, takeReadyItems } from './service';
import { refusal } from '../testing/refusal';

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
      label: 'Social security wages',
      sign: -1,
    });
    expect(page.treatmentSource).toContain('26 U.S.C. 125');
    expect(page.holders.map((holder) => [holder.name, holder.amount])).toEqual([['Hourly, Hana', '50.00']]);
  });

  it('offer the treatments of the country', () => {
    expect(itemChoices(scope).treatments.find((treatment) => treatment.code === 'deferral')?.for).toEqual(['deduction']);
  });

  it('have a code of their own that stays', async () => {
    const { id } = await addPayItem(scope, item({}));
    expect(await refusal(addPayItem(scope, item({})))).toContain('already an item with the code club');
    expect(
      await refusal(changePayItem(scope, id, { version: (await payItemPage(scope, id)).version, item: item({ code: 'other' }) })),
    ).toContain('The code of an item stays');
  });

  it('are refused with a treatment that does not fit, falling tiers, or a per cent of themselves', async () => {
    expect(await refusal(addPayItem(scope, item({ code: 'a', treatment: 'wages' })))).toContain('none for an item of this kind');
    expect(
      await refusal(
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
      await refusal(addPayItem(scope, item({ code: 'c', kind: 'earning', treatment: 'wages', method: { by: 'percent', of: 'gross' } }))),
    ).toContain('cannot be a per cent of itself');
  });

  it('are changed by one clerk at a time', async () => {
    const page = await payItemPage(scope, place.items['loan']!);
    const loan = item({ code: 'loan', name: 'Loan' });
    await changePayItem(scope, place.items['loan']!, { version: page.version, item: loan });
    expect(await refusal(changePayItem(scope, place.items['loan']!, { version: page.version, item: loan }))).toContain(
      'Somebody else changed this item',
    );
  });

  it('show before a change whose net in the open runs it moves, and by how much; nothing is saved', async () => {
    await addPersonItem(scope, place.people.salaried, { itemId: place.items['loan']!, amount: '80.00', from: '2026-01-01' });
    await place.run();
    const { version } = await payItemPage(scope, place.items['loan']!);
    const loan = item({ code: 'loan', name: 'Loan', limits: { perPayslip: '30.00' } });
    const effect = await rehearse(scope, (inside) => changePayItem(inside, place.items['loan']!, { version, item: loan }));
    expect(effect.people).toEqual([
      { name: 'Sol Salaried', before: jasmine.any(Number), after: jasmine.any(Number), cost: 0, stop: null, look: [] },
    ]);
    expect(effect.people.map((person) => person.after - person.before)).toEqual([5000]);
    expect([effect.unchanged, effect.runs.length]).toEqual([2, 1]);
    const page = await payItemPage(scope, place.items['loan']!);
    expect([page.version, page.limits]).toEqual([version, undefined]);
  });

  it('a rehearsed change that is refused, is refused as it would be', async () => {
    expect(
      await refusal(rehearse(scope, (inside) => changePayItem(inside, place.items['loan']!, { version: 0, item: item({ code: 'loan' }) }))),
    ).toContain('Somebody else changed this item');
  });

  it('what would keep somebody from being paid is said first', async () => {
    const { version } = await payItemPage(scope, place.items['loan']!);
    const byAge = item({ code: 'loan', name: 'Loan', method: { by: 'table', over: 'age', rows: [{ from: '0', amount: '5' }] } });
    const effect = await rehearse(scope, (inside) => changePayItem(inside, place.items['loan']!, { version, item: byAge }));
    expect(effect.people.map((person) => person.stop)).toEqual([jasmine.stringContaining('no date of birth is on file')]);
  });
});

describe('Pay items are refused when they', () => {
  let scope: Scope;
  beforeAll(async () => {
    scope = await (await Workplace.make()).scope();
  }, 60_000);
  const contribution = { kind: 'employer-contribution', treatment: 'employer-plan' };
  const wrong: [what: string, more: object, sentence: string][] = [
    [
      'match themselves',
      { ...contribution, method: { by: 'match', of: 'club', tiers: [{ upTo: '5', match: '50' }] } },
      'cannot match itself',
    ],
    [
      'mix tiers of pay and of amounts',
      {
        ...contribution,
        method: {
          by: 'match',
          of: 'loan',
          tiers: [
            { upTo: '5', match: '50' },
            { upToAmount: '50', match: '20' },
          ],
        },
      },
      'all per cents of pay, or all amounts',
    ],
    [
      'have a table that falls',
      {
        method: {
          by: 'table',
          over: 'age',
          rows: [
            { from: '40', amount: '5' },
            { from: '30', amount: '6' },
          ],
        },
      },
      'must begin higher',
    ],
    ['use a table that the country does not have', { method: { by: 'published-table', table: 'none' } }, 'has no table of this name'],
    [
      'are taken before tax by a per cent of taxable pay',
      { treatment: 'deferral', method: { by: 'percent', of: 'taxable' } },
      'known only afterwards',
    ],
    ['are deductions left off the payslip', { goes: { hidden: true } }, 'stands on the payslip'],
    ['are adjusted by a clerk', { countsInstead: { 'us.oasdi.pay': -1 } }, 'adjusted by an administrator'],
  ];
  for (const [what, more, sentence] of wrong)
    it(what, async () => {
      expect(await refusal(addPayItem(scope, item(more)))).toContain(sentence);
    });

  it('have a tier that says both, or neither, of per cent and amount', () => {
    const tiers = (tier: object) =>
      payItemSchema.safeParse({ ...item({}), ...contribution, method: { by: 'match', of: 'x', tiers: [tier] } }).success;
    expect([tiers({ match: '50' }), tiers({ upTo: '1', upToAmount: '1', match: '50' }), tiers({ upTo: '1', match: '50' })]).toEqual([
      false,
      false,
      true,
    ]);
  });
});

describe('What an item counts for', () => {
  it('is adjusted by an administrator, for bases there are, and shown', async () => {
    const place = await Workplace.make();
    const scope = await place.scope('administrator');
    expect(await refusal(addPayItem(scope, item({ countsInstead: { 'us.nothing': 1 } })))).toContain('no base "us.nothing"');
    const { id } = await addPayItem(scope, item({ countsInstead: { 'us.oasdi.pay': -1 } }));
    expect((await payItemPage(scope, id)).counts).toContain({ base: 'us.oasdi.pay', label: 'Social security wages', sign: -1 });
    const clerk = await place.scope();
    const { version } = await payItemPage(clerk, id);
    expect(
      await refusal(changePayItem(clerk, id, { version, item: item({ name: 'Club, renamed', countsInstead: { 'us.oasdi.pay': -1 } }) })),
    ).toBe('not refused');
  });
});

describe('Standard items of the country', () => {
  it('can all be calculated and taken, each once', async () => {
    const place = await Workplace.make();
    const scope = await place.scope();
    const ready = await readyItems(scope);
    expect(ready.length).toBeGreaterThan(40);
    expect(ready.filter((entry) => entry.taken).map((entry) => entry.item.code)).toEqual([
      'salary',
      'ordinary',
      'overtime',
      'bonus',
      'health',
      'loan',
    ]);
    const codes = ready.map((entry) => entry.item.code);
    expect(await takeReadyItems(scope, { codes })).toEqual({ added: codes.length - 6 });
    expect(await takeReadyItems(scope, { codes })).toEqual({ added: 0 });
    expect(await refusal(takeReadyItems(scope, { codes: ['nothing'] }))).toContain('no standard item "nothing"');
  });
});

describe('Many people’s amounts of one item', () => {
  let place: Workplace;
  let scope: Scope;
  let loan: string;
  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
    loan = place.items['loan']!;
  }, 60_000);
  const entry = (personId: string, more: object) => ({ personId, end: false, ...more });
  const held = async () =>
    (await payItemPage(scope, loan)).holders.map(({ name, amount, from, to }) => `${name} ${amount} ${from}–${to ?? ''}`);

  it('are given, changed and ended from a date on, and what was before stays in the history', async () => {
    await addPersonItem(scope, place.people.hourly, { itemId: loan, amount: '20.00', from: '2026-01-01' });
    await addPersonItem(scope, place.people.seasonal, { itemId: loan, amount: '10.00', from: '2026-01-01' });
    const counts = await changeHolders(scope, loan, {
      from: '2026-11-08',
      entries: [
        entry(place.people.hourly, { amount: '25.00' }),
        entry(place.people.salaried, { amount: '40.00' }),
        entry(place.people.seasonal, { end: true }),
        entry(place.people.unfinished, { end: true }),
      ],
    });
    expect(counts).toEqual({ given: 1, changed: 1, ended: 1 });
    expect(await held()).toEqual([
      'Hourly, Hana 20.00 2026-01-01–2026-11-07',
      'Hourly, Hana 25.00 2026-11-08–',
      'Salaried, Sol 40.00 2026-11-08–',
      'Seasonal, Xeno 10.00 2026-01-01–2026-11-07',
    ]);
  });

  it('the same change again leaves one entry', async () => {
    const change = { from: '2026-11-08', entries: [entry(place.people.hourly, { amount: '25.00' })] };
    await changeHolders(scope, loan, change);
    await changeHolders(scope, loan, change);
    expect(await held()).toEqual(['Hourly, Hana 25.00 2026-11-08–']);
  });

  it('keep a person’s own limit when the amount changes', async () => {
    await addPersonItem(scope, place.people.hourly, { itemId: loan, amount: '20.00', limits: { inAll: '500.00' }, from: '2026-01-01' });
    await changeHolders(scope, loan, { from: '2026-11-08', entries: [entry(place.people.hourly, { amount: '30.00' })] });
    await place.run();
    const [row] = await select<{ limits: object }>(
      scope.database,
      'select limits from person_items where person_id = :id and to_date is null and item_id = :loan',
      { id: place.people.hourly, loan },
    );
    expect(row?.limits).toEqual({ inAll: '500.00' });
  });

  it('show their effect on the open run first', async () => {
    await place.run();
    const effect = await rehearse(scope, (inside) =>
      changeHolders(inside, loan, {
        from: '2026-11-08',
        entries: [entry(place.people.hourly, { amount: '25.00' }), entry(place.people.salaried, { amount: '40.00' })],
      }),
    );
    expect(effect.people.map((person) => [person.name, person.after - person.before])).toEqual([
      ['Sol Salaried', -4000],
      ['Hana Hourly', -2500],
    ]);
    expect(await held()).toEqual([]);
  });

  it('are refused whole when a person is not of this employer, or stands twice', async () => {
    const other = await Workplace.make();
    const entries = [entry(place.people.hourly, { amount: '25.00' }), entry(other.people.hourly, { amount: '25.00' })];
    expect(await refusal(changeHolders(scope, loan, { from: '2026-11-08', entries }))).toContain('not a person of this employer');
    expect(await refusal(changeHolders(scope, loan, { from: '2026-11-08', entries: [entries[0]!, entries[0]!] }))).toContain(
      'listed twice',
    );
    expect(await held()).toEqual([]);
  });

  it('an item is retired only when nobody holds it, or ended for all with it; and can come back', async () => {
    await addPersonItem(scope, place.people.hourly, { itemId: loan, amount: '20.00', from: '2026-01-01' });
    await addPersonItem(scope, place.people.salaried, { itemId: loan, amount: '20.00', from: '2026-12-01' });
    expect(await refusal(retirePayItem(scope, loan, { endForAll: false }))).toContain('2 people have Loan');
    await retirePayItem(scope, loan, { endForAll: true });
    expect(await held()).toEqual(['Hourly, Hana 20.00 2026-01-01–2026-11-22']);
    expect(await refusal(changeHolders(scope, loan, { from: '2026-11-23', entries: [entry(place.people.hourly, {})] }))).toContain(
      'is retired',
    );
    await bringBackPayItem(scope, loan);
    expect((await payItemPage(scope, loan)).retired).toBeFalse();
  });
});

describe('Limits over a month and pieces', () => {
  it('count what other runs of the month have taken, and pieces typed into the sheet are paid', async () => {
    const place = await Workplace.make();
    const scope = await place.scope();
    const pieces = await addPayItem(
      scope,
      item({ code: 'pieces', name: 'Pieces', kind: 'earning', treatment: 'wages', method: { by: 'pieces' }, order: 28 }),
    );
    const club = await addPayItem(scope, item({ limits: { perMonth: '100.00' } }));
    await addPersonItem(scope, place.people.hourly, { itemId: pieces.id, amount: '0.875', from: '2026-01-01' });
    await addPersonItem(scope, place.people.hourly, { itemId: club.id, amount: '70.00', from: '2026-01-01' });
    const taken = async (run: string): Promise<[number, number]> => {
      const [row] = await select<{ lines: { code: string; amount: number }[] }>(
        scope.database,
        'select x.lines from payslip_results x join payslips y on y.id = x.payslip_id where y.run_id = :run and y.person_id = :person',
        { run, person: place.people.hourly },
      );
      const of = (code: string) => row?.lines.find((line) => line.code === code)?.amount ?? 0;
      return [of('club'), of('pieces')];
    };
    const first = await place.run({ from: '2026-10-25', to: '2026-11-07', payDate: '2026-11-13' });
    const sheet = await sheetOf(scope, first);
    expect(sheet.hourColumns.map((column) => column.key)).toContain('pieces');
    const row = sheet.rows.find((candidate) => candidate.personId === place.people.hourly)!;
    expect(row.pieces).toEqual(['pieces']);
    await changePayslip(scope, first, row.payslipId, { version: row.version, edits: { hours: { pieces: '4300' } } });
    expect(await taken(first)).toEqual([7000, 376250]);
    const again = (await sheetOf(scope, first)).rows.find((candidate) => candidate.personId === place.people.hourly)!;
    expect(
      await refusal(changePayslip(scope, first, row.payslipId, { version: again.version, edits: { hours: { ordinary: '4300' } } })),
    ).toContain('hours are not possible');
    for (const point of await openPoints(scope, await openRun(scope, first))) await acceptPoint(scope, first, point.key, 'looked at');
    await approveRun(await place.scope('approver'), first, (await runView(scope, first)).version, 'once');
    expect(await taken(await place.run())).toEqual([3000, 0]);
  });
});
