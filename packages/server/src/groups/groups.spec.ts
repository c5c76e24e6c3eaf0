import { groupChangeSchema, groupDefaultsSchema, personFactsSchema } from '@woodruff/contract';
import { changeHolders } from '../pay-items/holders';
import { rehearse } from '../calculation/rehearsal';
import { sheetOf } from '../pay-runs/sheet/sheet';
import { refusal } from '../testing/refusal';
import { Workplace } from '../testing/workplace';
import type { Scope } from '../scope';
import { addGroup, changeGroup, checkGroupChange, checkMove, groupsOf, moveToGroup, removeGroup } from './groups';
import { addPerson, personPage } from '../people/service';

const FROM = '2026-11-08';

describe('Groups', () => {
  let place: Workplace;
  let scope: Scope;
  let shop: string;
  const defaults = (more: object = {}) =>
    groupDefaultsSchema.parse({
      scheduleId: place.scheduleId,
      department: 'Shop',
      standardHours: '80',
      items: [{ itemId: place.items['health'], amount: '50.00' }],
      ...more,
    });
  const change = (more: object, passOnFrom: string | null = FROM) =>
    groupChangeSchema.parse({ name: 'Shop floor', version: 1, defaults: defaults(more), passOnFrom });
  const itemsOf = async (person: string) =>
    (await personPage(scope, person)).items.map((item) => `${item.code} ${item.amount ?? ''} ${item.from} ${item.to ?? ''}`.trim());

  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
    shop = (await addGroup(scope, { name: 'Shop floor', defaults: defaults() })).id;
  });

  it('joining takes over facts and items, and says what it replaces', async () => {
    const body = { personIds: [place.people.hourly, place.people.salaried], from: FROM };
    const seen = await checkMove(scope, shop, body);
    expect(seen.follow.map(({ name, what }) => [name, ...what])).toEqual([
      ['Hourly, Hana', 'department Shop'],
      ['Salaried, Sol', 'department Shop', 'standard hours 80.00', 'health 50.00'],
    ]);
    expect((await groupsOf(scope))[0]?.members).toEqual([]);
    await moveToGroup(scope, shop, body);
    const page = await personPage(scope, place.people.salaried);
    expect([page.group?.name, page.facts.department, page.items[0]?.amount]).toEqual(['Shop floor', 'Shop', '50.00']);
    expect(page.dated[0]).toEqual(jasmine.objectContaining({ from: FROM, reason: 'Moved to Shop floor', coming: false }));
  });

  it('a new person in a group gets its items from the hire date', async () => {
    const facts = personFactsSchema.parse({ code: 'N1', givenName: 'Nia', familyName: 'New', hired: '2026-11-16' });
    const { id } = await addPerson(scope, { ...facts, groupId: shop });
    expect(await itemsOf(id)).toEqual(['health 50.00 2026-11-16']);
  });

  it('a change passed on reaches who has what the group had, and leaves who has a value of their own', async () => {
    await moveToGroup(scope, shop, { personIds: [place.people.hourly, place.people.salaried, place.people.seasonal], from: FROM });
    await moveToGroup(scope, (await addGroup(scope, { name: 'Apart', defaults: defaults({ items: [] }) })).id, {
      personIds: [place.people.seasonal],
      from: FROM,
    });
    await changeHolders(scope, place.items['health'] ?? '', {
      from: FROM,
      entries: [{ personId: place.people.salaried, amount: '35.00', end: false }],
    });
    const body = { ...change({ items: [{ itemId: place.items['health'], amount: '55.00' }] }), passOnFrom: '2026-11-22' };
    const seen = await checkGroupChange(scope, shop, body);
    expect(seen.follow.map(({ name, what }) => [name, ...what])).toEqual([['Hourly, Hana', 'health 55.00 instead of 50.00']]);
    expect(seen.keep.map(({ name, what }) => [name, ...what])).toEqual([['Salaried, Sol', 'health 35.00']]);
    await changeGroup(scope, shop, body);
    expect(await itemsOf(place.people.hourly)).toEqual(['health 55.00 2026-11-22', 'health 50.00 2026-01-01 2026-11-21']);
    expect((await itemsOf(place.people.salaried))[0]).toBe('health 35.00 2026-11-08');
    // Who was moved away lost what the earlier group had given.
    expect(await itemsOf(place.people.seasonal)).toEqual([]);
  });

  it('a change that is not passed on is for those who join later', async () => {
    await moveToGroup(scope, shop, { personIds: [place.people.hourly], from: FROM });
    await changeGroup(scope, shop, change({ items: [] }, null));
    expect(await itemsOf(place.people.hourly)).toEqual(['health 50.00 2026-01-01']);
    expect((await groupsOf(scope))[0]?.members[0]?.own).toEqual([]);
  });

  it('a change can be rehearsed: the open run shows each net before and after, and nothing is saved', async () => {
    await moveToGroup(scope, shop, { personIds: [place.people.hourly, place.people.salaried], from: FROM });
    const runId = await place.run();
    const effect = await rehearse(scope, (inside) =>
      changeGroup(inside, shop, change({ items: [{ itemId: place.items['health'], amount: '60.00' }] })),
    );
    expect(effect.people.map((person) => person.name).sort()).toEqual(['Hana Hourly', 'Sol Salaried']);
    expect(effect.people.every((person) => person.after < person.before)).toBeTrue();
    expect((await groupsOf(scope))[0]?.version).toBe(1);
    expect((await sheetOf(scope, runId)).rows.length).toBe(3);
  });

  it('refuses a name twice, an unknown item, somebody else’s change in between, and removal while people are in it', async () => {
    expect(await refusal(addGroup(scope, { name: 'Shop floor', defaults: defaults() }))).toContain('already a group called Shop floor');
    expect(await refusal(changeGroup(scope, shop, change({ items: [{ itemId: shop }] })))).toContain('no such pay item');
    expect(await refusal(changeGroup(scope, shop, { ...change({}), version: 9 }))).toContain('Somebody else changed');
    await moveToGroup(scope, shop, { personIds: [place.people.hourly], from: FROM });
    expect(await refusal(removeGroup(scope, shop))).toContain('One person is in Shop floor');
    const elsewhere = await Workplace.make();
    expect(await refusal(moveToGroup(scope, shop, { personIds: [elsewhere.people.hourly], from: FROM }))).toContain(
      'not a person of this employer',
    );
  });

  describe('and the place of work', () => {
    const taxOf = async (person: string) =>
      (await personPage(scope, person)).taxDetails.map((details) => `${details.from} ${String(details.facts['workLocality'])}`);
    const inUpperCorbel = { tax: { workState: 'PA', workLocality: '990102' } };

    it('supply it to certificates from a day on; the rest of a certificate stays', async () => {
      const body = { personIds: [place.people.hourly], from: FROM };
      const other = (await addGroup(scope, { name: 'Upper Corbel', defaults: defaults(inUpperCorbel) })).id;
      const seen = await checkMove(scope, other, body);
      expect(seen.follow[0]?.what).toContain('works in (locality code) 990102 instead of 990101');
      const [before] = (await personPage(scope, place.people.hourly)).taxDetails;
      await moveToGroup(scope, other, body);
      const [after] = (await personPage(scope, place.people.hourly)).taxDetails;
      expect(await taxOf(place.people.hourly)).toEqual([`${FROM} 990102`, `${before?.from ?? ''} 990101`]);
      expect({ ...after?.facts, workLocality: '' }).toEqual({ ...before?.facts, workLocality: '' });
    });

    it('keep a place of their own when the group’s changes', async () => {
      await moveToGroup(scope, shop, { personIds: [place.people.hourly], from: FROM });
      const seen = await checkGroupChange(scope, shop, change({ tax: { workLocality: '990102' } }));
      // The group had none before: what the person has is their own.
      expect(seen.keep[0]?.what).toEqual(['works in (locality code) 990101']);
    });

    it('moved from again on the same day replace that day’s entry, and later certificates stay', async () => {
      const other = (await addGroup(scope, { name: 'Upper Corbel', defaults: defaults(inUpperCorbel) })).id;
      const virginia = (await addGroup(scope, { name: 'Landing', defaults: defaults({ tax: { workState: 'VA' } }) })).id;
      const body = { personIds: [place.people.hourly], from: FROM };
      await moveToGroup(scope, other, body);
      await moveToGroup(scope, virginia, body);
      const { taxDetails, group } = await personPage(scope, place.people.hourly);
      expect(taxDetails.map((details) => [details.from, details.facts['workState']])).toEqual([
        [FROM, 'VA'],
        ['2026-01-01', 'PA'],
      ]);
      expect(group?.name).toBe('Landing');
    });

    it('begin the first certificate of who has none, and supply nothing that is personal', async () => {
      const other = (await addGroup(scope, { name: 'Upper Corbel', defaults: defaults(inUpperCorbel) })).id;
      await moveToGroup(scope, other, { personIds: [place.people.unfinished], from: FROM });
      const page = await personPage(scope, place.people.unfinished);
      expect([page.taxDetails.length, page.group?.tax]).toEqual([0, inUpperCorbel.tax]);
      expect(await refusal(addGroup(scope, { name: 'Single', defaults: defaults({ tax: { 'federal.status': 'single' } }) }))).toContain(
        "each person's own",
      );
      expect(await refusal(addGroup(scope, { name: 'Far', defaults: defaults({ tax: { workState: 'ZZ' } }) }))).toContain(
        'ZZ is not known',
      );
    });
  });
});
