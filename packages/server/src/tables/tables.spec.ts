import { addDays, packOf, type ParameterEntry } from '@woodruff/core';
import { execute, select } from '../database/connection';
import { calculateRun } from '../calculation/calculation';
import { moveToday } from '../employers/service';
import { startRun } from '../pay-runs/making/start';
import { sheetOf } from '../pay-runs/sheet/sheet';
import { addUser } from '../users/service';
import { Workplace } from '../testing/workplace';
import { refusal } from '../testing/refusal';
import { scopeOf } from '../users/service';
import type { Scope } from '../scope';
import { compareTables } from './comparison';
import { readTables, useTables } from './loaded';
import { decideTables, proposeTables, tablesFile, tablesView } from './service';

type File = Parameters<typeof proposeTables>[1];
const file = (entries: ParameterEntry[], title = 'Tables of 2031'): File => ({ format: 'woodruff.parameters/1', title, entries });
/** All of 2026 as of a year that no other test pays in, as somebody would load them who changes what is known. */
const asOf2031 = (change: (entry: ParameterEntry) => ParameterEntry = (entry) => entry): ParameterEntry[] =>
  packOf('US')
    .tables.inForceOn('2026-11-25')
    .map(({ loaded: _loaded, ...entry }) => change({ ...entry, from: '2031-01-01', to: '2031-12-31', confirmed: false }));

describe('Tables of the law', () => {
  let place: Workplace;
  let scope: Scope;
  let other: Scope;
  let run: string;

  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope('administrator');
    const second = await addUser(`second-${place.employerId}@example.test`, 'The second administrator', 'a password of the second', {
      [place.employerId]: 'administrator',
    });
    other = await scopeOf(scope.database, second, place.employerId);
    run = await place.run();
  });
  // What one of these loads counts for everybody in the process.
  afterEach(async () => {
    await execute(scope.database, 'alter table table_files disable trigger table_files_are_kept');
    await execute(scope.database, 'delete from table_files where true returning id');
    await execute(scope.database, 'alter table table_files enable trigger table_files_are_kept');
    await readTables(scope.database);
  });

  it('go out as a file, and come back the same', async () => {
    const { content, name } = tablesFile(scope, '2026-11-25');
    expect(name).toBe('tables-us-2026-11-25.json');
    const read = JSON.parse(content) as File;
    expect(read.entries.find(({ code }) => code === 'us.oasdi.wage-base')?.value).toBe('184500');
    const { inForce } = await tablesView(scope);
    expect(read.entries.length).toBe(inForce.length);
  });

  it('that are missing are those of the year that runs, however long ago the last ones were', async () => {
    await moveToday(scope, '2031-01-06');
    const { next } = await tablesView(await place.scope('administrator'));
    expect([next.label, next.missing > 50]).toEqual(['2031', true]);
  });

  it('count from their day once somebody else has approved them, on every thread', async () => {
    expect((await tablesView(scope)).next.missing).toBeGreaterThan(0);
    const { id } = await proposeTables(scope, file(asOf2031((one) => (one.code === 'us.oasdi.rate' ? { ...one, value: '7' } : one))));
    expect(await refusal(decideTables(scope, id, { approve: true, reason: '' }))).toContain('somebody else');
    await decideTables(other, id, { approve: true, reason: 'Compared with the print' });
    await moveToday(scope, '2031-01-06');
    // The year that runs has its tables; the one after it has none.
    const { inForce, next } = await tablesView(await place.scope('administrator'));
    expect([inForce.some(({ loaded }) => loaded), next.label, next.missing > 0]).toEqual([true, '2032', true]);
    const clerk = await place.scope('clerk');
    const { id: january } = await startRun(clerk, {
      scheduleId: place.scheduleId,
      from: '2030-12-29',
      to: '2031-01-11',
      payDate: '2031-01-17',
    });
    await calculateRun(clerk, january);
    const taxOf = async (of: string) => {
      const [row] = await select<{ tax: number; wages: number }>(
        scope.database,
        `select (select (l->>'amount')::bigint from jsonb_array_elements(x.lines) l where l->>'code' = 'us.oasdi') as tax, (select (l->>'amount')::bigint from jsonb_array_elements(x.lines) l where l->>'code' = 'us.oasdi.wages') as wages
         from payslip_results x join payslips y on y.id = x.payslip_id where y.run_id = :of and y.person_id = :person`,
        { of, person: place.people.salaried },
      );
      return Math.round(((row?.tax ?? 0) / (row?.wages ?? 1)) * 1000) / 1000;
    };
    expect([await taxOf(run), await taxOf(january)]).toEqual([0.062, 0.07]);
    expect((await sheetOf(clerk, january)).rows.length).toBeGreaterThan(0);
    // Another process finds them so when it starts.
    useTables({ country: 'US', version: '', entries: [] });
    await readTables(scope.database);
    expect(packOf('US').tables.value('us.oasdi.rate', '2031-02-01').value.toDecimal()).toBe('7.00');
  });

  it('are dropped without having counted, and nothing is decided twice', async () => {
    const { id } = await proposeTables(scope, file(asOf2031()));
    await decideTables(other, id, { approve: false, reason: 'Of another year' });
    expect(packOf('US').tables.has('us.oasdi.rate', '2031-02-01')).toBeFalse();
    expect(await refusal(decideTables(other, id, { approve: true, reason: '' }))).toContain('decided already');
    expect((await tablesView(scope)).files.map(({ state }) => state)).toEqual(['dropped']);
  });

  it('show what they change, and what they make of everybody’s pay, before they count', async () => {
    await place.approve(run);
    const { id } = await proposeTables(scope, file(asOf2031((one) => (one.code === 'us.oasdi.rate' ? { ...one, value: '7' } : one))));
    const { changed, ending, people } = await compareTables(scope, { date: '2031-01-17', file: id });
    expect(changed.map(({ code, before, after }) => [code, before, after])).toEqual([['us.oasdi.rate', '6.2', '7']]);
    expect(ending).toEqual([]);
    const salaried = people.find(({ personId }) => personId === place.people.salaried)!;
    // 2,500.00 a fortnight at 7 in place of 6.2 per cent: 20.00 less, and as much more for the employer.
    expect([salaried.netAfter - salaried.netBefore, salaried.costAfter - salaried.costBefore]).toEqual([-2_000, 2_000]);
    expect(packOf('US').tables.has('us.oasdi.rate', '2031-02-01')).toBeFalse();
    const without = await compareTables(scope, { date: '2031-01-17' });
    expect(without.ending.length).toBeGreaterThan(0);
    for (const { refused } of without.people) expect(refused).toContain('under Tables');
  });

  it('are refused where nothing looks them up, where they say two things, and where they reach into pay that was posted', async () => {
    const [one] = asOf2031();
    const refused = async (entries: ParameterEntry[]) => refusal(proposeTables(scope, file(entries)));
    expect(await refused([{ ...one!, code: 'us.no-such-rate' }])).toContain('not as wanted');
    expect(await refused([one!, one!])).toContain('not as wanted');
    expect(
      await refused([
        { code: 'us.oasdi.rate', from: '2031-01-01', bands: [{ over: '0', percent: '7' }], publication: 'None', confirmed: false },
      ]),
    ).toContain('not as wanted');
    const base = { code: 'us.fit.schedule.standard.single', from: '2031-01-01', publication: 'None', confirmed: false };
    expect(await refused([{ ...base, bands: ['10', '5'].map((over) => ({ over, percent: '7' })) }])).toContain('not as wanted');
    await place.approve(run);
    // Of the country: what others were paid with is none of its tables.
    const [posted] = await select<{ last: string }>(
      scope.database,
      `select max(r.pay_date) as last from pay_runs r join employers e on e.id = r.employer_id and e.country = 'US' where r.state = 'approved'`,
    );
    expect(await refused([{ ...one!, from: posted!.last }])).toContain('not as wanted');
    expect(await refused([{ ...one!, from: addDays(posted!.last, 1), to: '2040-12-31' }])).toBe('not refused');
  });
});
