import { moveToday } from '../employers/service';
import { refusal } from '../testing/refusal';
import { PERIOD, Workplace } from '../testing/workplace';
import { testDatabase } from '../testing/database';
import type { Scope } from '../scope';
import { letDueChangesCount, withdrawChange } from './dated-changes';
import { changePerson, personPage } from './service';
import { readyPeople } from '../pay-runs/making/ready';

describe('Facts from a day on', () => {
  let place: Workplace;
  let scope: Scope;
  const change = async (facts: object, from?: string, reason = '') => {
    const page = await personPage(scope, place.people.hourly);
    await changePerson(scope, place.people.hourly, { version: page.version, facts: { ...page.facts, ...facts }, from, reason });
  };
  const page = () => personPage(scope, place.people.hourly);

  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
  });

  it('a change that counts keeps what was before, with its day and reason', async () => {
    await change({ job: 'Cutter' }, '2026-11-01', 'moved to cutting');
    expect((await page()).facts.job).toBe('Cutter');
    expect((await page()).dated).toEqual([
      jasmine.objectContaining({
        from: '2026-11-01',
        coming: false,
        reason: 'moved to cutting',
        changes: [{ key: 'job', label: 'Job', was: 'none', is: 'Cutter' }],
      }),
    ]);
  });

  it('a change to come shows as coming, counts when its day is there, and leaves what was changed meanwhile', async () => {
    await change({ department: 'Shop', managerId: place.people.salaried }, '2026-12-01');
    expect([(await page()).facts.department, (await page()).dated[0]?.coming]).toEqual(['', true]);
    await change({ job: 'Cutter' });
    await moveToday(scope, '2026-11-30');
    expect((await page()).facts.department).toBe('');
    await moveToday({ ...scope, employer: { ...scope.employer, today: '2026-11-30' } }, '2026-12-01');
    const later = await page();
    expect([later.facts.department, later.facts.job, later.manager]).toEqual(['Shop', 'Cutter', 'Sol Salaried']);
    expect(later.dated.find((one) => one.from === '2026-12-01')?.changes[0]?.was).toBe('none');
    expect(await letDueChangesCount(testDatabase(), place.employerId)).toBe(0);
  });

  it('a change to come can be withdrawn; one that counts cannot', async () => {
    await change({ department: 'Shop' }, '2026-12-01');
    const [coming] = (await page()).dated;
    await withdrawChange(scope, place.people.hourly, coming?.id ?? '');
    expect((await page()).dated).toEqual([]);
    await change({ job: 'Cutter' });
    const [counted] = (await page()).dated;
    expect(await refusal(withdrawChange(scope, place.people.hourly, counted?.id ?? ''))).toContain('counts already');
  });

  it('somebody on leave of absence for the whole period is not in the run, and the run says why', async () => {
    await change({ absence: { from: '2026-11-01', to: '2026-12-15', reason: 'military service' } });
    const ready = await readyPeople(scope, place.scheduleId, PERIOD.from, PERIOD.to);
    expect(ready.in).not.toContain(place.people.hourly);
    expect(ready.notIn.find((person) => person.personId === place.people.hourly)?.why).toBe(
      'On leave of absence since 1 Nov 2026: military service',
    );
    await change({ absence: { from: '2026-11-12', reason: 'military service' } });
    expect((await readyPeople(scope, place.scheduleId, PERIOD.from, PERIOD.to)).in).toContain(place.people.hourly);
  });

  it('hired again: the earlier time stays on record', async () => {
    await change({ left: '2026-11-10', leftReason: 'season over' }, '2026-11-10');
    await change({ hired: '2026-11-20', left: null, leftReason: null }, '2026-11-20', 'hired again');
    const { facts, dated } = await page();
    expect([facts.hired, facts.left]).toEqual(['2026-11-20', null]);
    expect(dated[0]?.changes.map(({ label, was }) => `${label} ${was}`)).toEqual([
      'Hire date 1 Jan 2026',
      'Last day 10 Nov 2026',
      'Reason for leaving season over',
    ]);
  });

  it('refuses a manager of oneself or from elsewhere, and an absence that ends before it begins', async () => {
    expect(await refusal(change({ managerId: place.people.hourly }))).toContain('Nobody reports to themselves');
    const elsewhere = await Workplace.make();
    expect(await refusal(change({ managerId: elsewhere.people.hourly }))).toContain('not a person of this employer');
    expect(await refusal(change({ absence: { from: '2026-11-10', to: '2026-11-01', reason: 'care' } }))).toContain('ends before it begins');
  });
});
