import { execute, select } from '../database/connection';
import { approveRun } from '../pay-runs/posting/approval';
import { acceptPoint } from '../pay-runs/sheet/edits';
import { openRun } from '../calculation/calculation';
import { openPoints } from '../pay-runs/sheet/points';
import { runView } from '../pay-runs/sheet/sheet';
import { balancesOutOfStep, rebuildBalances } from '../ledger/posting';
import { addRate } from '../people/employment/rates';
import { latest } from '../audit/audit';
import { testDatabase } from '../testing/database';
import { EMPLOYER_FACTS, Workplace } from '../testing/workplace';
import type { Scope } from '../scope';
import { find } from '../today/find';
import { timeline } from '../today/timeline';
import { todayView } from '../today/today';
import { addEmployer, employerPage, moveToday } from './service';

const sentence = async (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => '',
    (error: unknown) => (error as Error).message,
  );

async function approved(place: Workplace): Promise<string> {
  const scope = await place.scope();
  const run = await place.run();
  for (const point of await openPoints(scope, await openRun(scope, run))) await acceptPoint(scope, run, point.key, 'looked at');
  await approveRun(scope, run, (await runView(scope, run)).version, 'key');
  return run;
}

describe('An employer', () => {
  let place: Workplace;
  let scope: Scope;
  beforeAll(async () => {
    place = await Workplace.make();
    scope = await place.scope();
  }, 60_000);

  it('is not made with facts that its country cannot use', async () => {
    const wrong = {
      name: 'X',
      country: 'US',
      today: '2026-11-23',
      demo: false,
      facts: { ...EMPLOYER_FACTS, country: { federalNumber: '12' } },
      schedules: [],
    };
    expect(await sentence(addEmployer(testDatabase(), wrong))).toContain('not complete');
    expect(await sentence(addEmployer(testDatabase(), { ...wrong, country: 'ZZ' }))).toContain('There are no rules for the country "ZZ"');
  });

  it('shows the certificates of its country as data, and its places', async () => {
    const page = await employerPage(scope);
    expect(page.taxForm.map((group) => group.title)).toContain('Federal withholding certificate (Form W-4)');
    expect(page.entries['localities']).toEqual([{ code: '990101', name: 'Corbel Falls' }]);
  });

  it('finds people, items and runs by a part of their name', async () => {
    const run = await place.run();
    expect((await find(scope, 'hana')).map((found) => [found.kind, found.label])).toEqual([['person', 'Hana Hourly']]);
    expect((await find(scope, 'loa')).map((found) => found.link)).toEqual([`/pay-items/${place.items['loan']}`]);
    expect((await find(scope, '8 – 21 nov')).map((found) => found.link)).toEqual([`/pay-runs/${run}`]);
    expect(await find(scope, '%'))
      .withContext('a sign of the database’s is only a letter')
      .toEqual([]);
    expect(await find(scope, '  ')).toEqual([]);
  });
});

describe('Today', () => {
  it('lists from facts what is waiting, unfinished, coming and due', async () => {
    const place = await Workplace.make();
    const before = await todayView(await place.scope());
    expect(before.proposals.map((proposal) => [proposal.people, proposal.approveBy])).toEqual([[3, '2026-12-10']]);
    expect(before.unfinished.first.map((person) => person.name)).toContain('Unfinished, Una');
    expect(before.due.map((due) => due.what)).toEqual([
      'Form 941, quarter 4 of 2026',
      'Form 940, 2026',
      'Form W-2, 2026',
      'Forms UC-2 and UC-2A, quarter 4 of 2026',
      'Form PA-W3, quarter 4 of 2026',
      'Form REV-1667, 2026',
      'Local return, Corbel Falls, quarter 4 of 2026',
    ]);

    await approved(place);
    await addRate(await place.scope(), place.people.hourly, {
      label: 'Pay',
      per: 'hour',
      amount: '27.00',
      from: '2026-12-06',
      primary: true,
      reason: 'Raise',
    });
    const after = await todayView(await place.scope());
    expect(after.coming.map(({ date, what }) => `${date} ${what}`)).toEqual([
      '2026-12-01 Remind employees to look at their Forms W-4',
      '2026-12-06 Hana Hourly: Pay becomes 27.00 an hour',
      '2027-01-01 Wage bases, limits and tables of 2027 begin with the first pay date',
      '2027-01-01 Tables of 2027 are needed, and are not in yet',
    ]);
    expect(after.due[0]).toEqual(jasmine.objectContaining({ what: 'Federal deposit', date: '2026-12-15' }));
    expect(after.costs).toEqual([{ payDate: '2026-11-27', gross: 450_000, employer: jasmine.any(Number) as unknown as number }]);
  }, 60_000);

  it('moves forward in the demo only, and never back', async () => {
    const place = await Workplace.make();
    const scope = await place.scope();
    expect(await moveToday(scope, '2026-12-01')).toEqual({ today: '2026-12-01' });
    expect(await sentence(moveToday(await place.scope(), '2026-11-30'))).toContain('only moves forward');
    await execute(testDatabase(), 'update employers set demo = false where id = :id', { id: place.employerId });
    expect(await sentence(moveToday(await place.scope(), '2026-12-02'))).toContain('Only the demo');
  }, 60_000);
});

describe('The dateline', () => {
  it('shows periods with their runs, pay dates and due dates of a range', async () => {
    const place = await Workplace.make();
    const run = await approved(place);
    const line = await timeline(await place.scope(), '2026-11-01', '2026-12-31');
    const period = line.rows[0]!.periods.find((candidate) => candidate.from === '2026-11-08');
    expect(period).toEqual({ from: '2026-11-08', to: '2026-11-21', payDate: '2026-11-27', runId: run, state: 'approved', extra: false });
    expect(line.rows[0]!.periods.find((candidate) => candidate.from === '2026-12-06')?.payDate)
      .withContext('Christmas: the day before')
      .toBe('2026-12-24');
    expect(line.due.map((due) => `${due.date} ${due.what}`)).toEqual([
      '2026-11-02 Form 941, quarter 3 of 2026',
      '2026-11-02 Forms UC-2 and UC-2A, quarter 3 of 2026',
      '2026-11-02 Form PA-W3, quarter 3 of 2026',
      '2026-11-02 Local return, Corbel Falls, quarter 3 of 2026',
      '2026-12-15 Federal deposit',
    ]);
    expect(await sentence(timeline(await place.scope(), '2020-01-01', '2026-12-31'))).toContain('at most two years');
  }, 60_000);

  it('flags the one pay date more of a year that has it', async () => {
    const place = await Workplace.make();
    // Every Friday of a fortnight from 1 January 2027 on: 1 January is a holiday and is paid the day before, in 2026.
    await execute(testDatabase(), `update pay_schedules set anchor = '2025-12-14' where employer_id = :id`, { id: place.employerId });
    const line = await timeline(await place.scope(), '2026-12-01', '2027-01-31');
    expect(line.rows[0]!.periods.filter((period) => period.extra).map((period) => period.payDate)).toEqual(['2026-12-31']);
  }, 60_000);
});

describe('The audit trail', () => {
  it('says who did what, and holds no protected number', async () => {
    const place = await Workplace.make();
    await approved(place);
    const entries = await latest(await place.scope());
    expect(entries[0]).toEqual(jasmine.objectContaining({ who: 'The clerk', action: 'approve', subject: 'run' }));
    expect(entries[0]?.what).toMatch(/^Approved: 3 people, net [\d,.]+, paid Fri 27 Nov 2026$/);
  }, 60_000);
});

describe('Balances', () => {
  it('out of step with the ledger are found, and made anew from it', async () => {
    const place = await Workplace.make();
    await approved(place);
    const scope = await place.scope();
    await execute(testDatabase(), `update year_sums set sums = sums_added(sums, '{"ordinary": 1}') where person_id = :id`, {
      id: place.people.hourly,
    });
    expect((await balancesOutOfStep(scope)).length).toBe(1);
    await rebuildBalances(scope);
    expect(await balancesOutOfStep(scope)).toEqual([]);
    const [row] = await select<{ amount: number }>(
      testDatabase(),
      `select amount from balances where person_id = :id and code = 'ordinary'`,
      { id: place.people.hourly },
    );
    expect(row?.amount).toBe(200_000);
  }, 60_000);
});
