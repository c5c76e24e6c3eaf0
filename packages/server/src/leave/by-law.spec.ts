import { payItemSchema } from '@woodruff/contract';
import { execute, select } from '../database/connection';
import { addPayItem } from '../pay-items/service';
import { britishWorks } from '../testing/british-works';
import { testDatabase } from '../testing/database';
import { refusal } from '../testing/refusal';
import { approveAll, Workplace } from '../testing/workplace';
import type { Scope } from '../scope';
import { addLawLeave, assessLawLeave, endLawLeave, lawLeavesOf, refusalOf, undoLawLeave } from './by-law';

const SICK = { kind: 'sick', from: '2026-11-09', to: '2026-11-20', about: { pattern: '12345' }, paysOn: true };

describe('Leave by law', () => {
  let works: Awaited<ReturnType<typeof britishWorks>>;
  let scope: Scope;
  let person: string;
  const waiting = () =>
    select<{ amount: string; note: string; date: string }>(
      testDatabase(),
      `select amount::text, note, on_date as date from one_offs where person_id = :person and payslip_id is null order by on_date`,
      { person },
    );
  const stored = async () => (await lawLeavesOf(scope, person)).leaves[0]!;

  beforeEach(async () => {
    works = await britishWorks({ hired: '2026-10-01' });
    scope = await works.scope();
    [person] = works.people;
    await addPayItem(
      scope,
      payItemSchema.parse({
        code: 'ssp',
        name: 'Statutory sick pay',
        kind: 'earning',
        treatment: 'ssp',
        method: { by: 'amount' },
        order: 90,
      }),
    );
  });
  /** 3,000.00 were paid for the month before. */
  const earnedBefore = async () => {
    await approveAll(scope, await works.run({ from: '2026-10-01', to: '2026-10-31', payDate: '2026-10-30' }));
    scope = await works.scope();
  };

  it('is assessed before it is saved, with its working, out of what was posted', async () => {
    await earnedBefore();
    const { entitled, parts, total, workings, tests } = await assessLawLeave(scope, person, SICK);
    expect(tests.every(({ holds }) => holds)).toBeTrue();
    expect([entitled, total, parts.map(({ amount }) => amount)]).toEqual([true, 24_650, [12_325, 12_325]]);
    // 3,000.00 × 12 / 52.
    expect(workings['average']?.amount).toMatch(/^692\.307/);
    expect((await lawLeavesOf(scope, person)).leaves).toEqual([]);
  });

  it('waits as one-offs of its weeks, stands on the payslip and counts for its base', async () => {
    await earnedBefore();
    await addLawLeave(scope, person, SICK);
    expect((await waiting()).map(({ amount, date, note }) => [amount, date, note])).toEqual([
      ['123.25', '2026-11-13', 'Sickness, 5 days, 9 – 13 Nov 2026'],
      ['123.25', '2026-11-20', 'Sickness, 5 days, 16 – 20 Nov 2026'],
    ]);
    const run = await works.run();
    await approveAll(await works.scope(), run);
    const lines = await select<{ code: string; amount: number }>(
      testDatabase(),
      `select code, sum(amount)::bigint as amount from ledger_lines where run_id = :run and person_id = :person and code in ('ssp', 'gb.ssp') group by 1 order by 1`,
      { run, person },
    );
    expect(lines.map(({ amount }) => amount)).toEqual([24_650, 24_650]);
    expect([(await stored()).paid, (await stored()).waiting]).toEqual([24_650, 0]);
  });

  it('stops ordinary pay for its weekdays, in a run that is open already too, unless it goes on', async () => {
    await earnedBefore();
    const run = await works.run();
    scope = await works.scope();
    const salary = async () => {
      const [line] = await select<{ amount: number }>(
        testDatabase(),
        `select (l->>'amount')::bigint as amount from payslip_results x join payslips y on y.id = x.payslip_id cross join lateral jsonb_array_elements(x.lines) l where y.run_id = :run and y.person_id = :person and l->>'code' = 'salary'`,
        { run, person },
      );
      return line?.amount;
    };
    expect(await salary()).toBe(300_000);
    await addLawLeave(scope, person, { ...SICK, paysOn: false });
    // Ten of the 21 weekdays of November 2026: 3,000.00 × 11 / 21.
    expect(await salary()).toBe(157_143);
    const { id, version } = await stored();
    await undoLawLeave(scope, person, id, { version, reason: 'back at work' });
    expect(await salary()).toBe(300_000);
  });

  it('ended earlier after it was paid is made good with the next run; taken back, all of it is', async () => {
    await earnedBefore();
    await addLawLeave(scope, person, SICK);
    await approveAll(await works.scope(), await works.run());
    scope = await works.scope();
    const { id, version } = await stored();
    await endLawLeave(scope, person, id, { version, to: '2026-11-17' });
    // Two of five days are left of the second week: 49.30.
    expect((await waiting()).map(({ amount }) => amount)).toEqual(['-73.95']);
    await undoLawLeave(scope, person, id, { version: version + 1, reason: 'entered for somebody else' });
    expect((await waiting()).map(({ amount }) => amount).sort()).toEqual(['-123.25', '-123.25']);
    expect((await stored()).undone).toBe('entered for somebody else');
    expect(await refusal(endLawLeave(scope, person, id, { version: version + 2, to: '2026-11-20' }))).toContain('taken back already');
  });

  it('that overlaps, has no item to pay it or facts to assess it by is refused with what to do', async () => {
    await earnedBefore();
    await addLawLeave(scope, person, SICK);
    expect(await refusal(addLawLeave(scope, person, { ...SICK, from: '2026-11-20', to: '2026-11-27' }))).toContain('9 – 20 Nov 2026');
    const maternity = { kind: 'maternity', from: '2027-02-15', to: '2027-11-14', about: {}, paysOn: true };
    expect(await refusal(assessLawLeave(scope, person, maternity))).toContain('expected is missing');
    expect(await refusal(assessLawLeave(scope, person, { ...SICK, kind: 'gardening' }))).toContain('no such leave');
    const [, other] = works.people;
    await execute(testDatabase(), `update people set hired = '2020-01-01' where id = :other`, { other });
    const born = { due: '2026-11-10', born: '2026-11-10' };
    expect(
      (await assessLawLeave(scope, other, { kind: 'paternity', from: '2026-11-16', to: '2026-11-29', about: born, paysOn: true })).entitled,
    ).toBeFalse();
  });

  it('that is not paid tells why on paper', async () => {
    await addLawLeave(scope, person, { ...SICK, kind: 'sick', from: '2026-11-09', to: '2026-11-10' });
    const { id, assessed } = await stored();
    expect(assessed.total).toBe(0);
    if (!assessed.entitled) expect((await refusalOf(scope, person, id)).subarray(0, 5).toString()).toBe('%PDF-');
  });

  it('changed by two at once is changed by one of them', async () => {
    await earnedBefore();
    await addLawLeave(scope, person, SICK);
    const { id, version } = await stored();
    const both = await Promise.allSettled([
      endLawLeave(scope, person, id, { version, to: '2026-11-17' }),
      endLawLeave(scope, person, id, { version, to: '2026-11-18' }),
    ]);
    expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    expect((await waiting()).length).toBe(2);
  });

  it('is nothing in a country whose law knows none', async () => {
    const place = await Workplace.make();
    const there = await place.scope();
    expect(await lawLeavesOf(there, place.people.hourly)).toEqual({ kinds: [], leaves: [] });
    expect(await refusal(addLawLeave(there, place.people.hourly, SICK))).toContain('leave by law');
  });
});
