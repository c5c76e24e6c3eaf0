import { payslipsPdf } from '../pay-runs/deliver/documents';
import { logoOf, setLogo } from './logo';
import type { EmployerFacts, SetUp } from '@woodruff/contract';
import { select } from '../database/connection';
import { rehearse } from '../calculation/rehearsal';
import { takeReadyItems } from '../pay-items/service';
import { testDatabase } from '../testing/database';
import { Workplace } from '../testing/workplace';
import type { Scope } from '../scope';
import { addUser, scopeOf } from '../users/service';
import { addMember, changeMember } from './members';
import { addSchedule, changeSchedule, payDates } from './schedules';
import { beginEmployer, changeSetUp, setUpView } from './set-up';
import { setBank } from './paying-accounts';
import { linkTo } from '../testing/link';
import { refusal } from '../testing/refusal';
import { useLink } from '../users/links';

const FORTNIGHTLY = {
  name: 'Fortnightly',
  frequency: 'fortnightly' as const,
  anchor: '2025-12-21',
  payDateOffset: 6,
  move: 'previous' as const,
};
const change = (view: SetUp, facts: Partial<EmployerFacts>, renamed: Record<string, Record<string, string>> = {}) => ({
  version: view.version,
  name: view.name,
  facts: { ...view.facts, ...facts },
  renamed: { departments: {}, worksites: {}, jobs: {}, ...renamed },
});

describe('An employer from nothing', () => {
  let scope: Scope;
  beforeAll(async () => {
    const user = await addUser(`founder-${Date.now()}@example.test`, 'Founder', 'a good password', {});
    const { id } = await beginEmployer(testDatabase(), user, { name: 'Larkhollow Mill', country: 'US' });
    scope = await scopeOf(testDatabase(), user, id);
  }, 60_000);

  it('is administered by whoever began it, and is on the day itself when it is no demo', async () => {
    const [{ day } = { day: '' }] = await select<{ day: string }>(
      testDatabase(),
      `select (now() at time zone 'America/New_York')::date as day`,
    );
    expect([scope.role, scope.employer.demo, scope.employer.today]).toEqual(['administrator', false, day]);
  });

  it('is on the day of its own time zone, one of its country', async () => {
    const view = await setUpView(scope);
    expect(await refusal(changeSetUp(scope, change(view, { timeZone: 'Europe/London' })))).toContain(
      "not among the time zones of the employer's country",
    );
    await changeSetUp(scope, change(view, { timeZone: 'Pacific/Honolulu' }));
    const [{ day } = { day: '' }] = await select<{ day: string }>(
      testDatabase(),
      `select (now() at time zone 'Pacific/Honolulu')::date as day`,
    );
    expect((await scopeOf(testDatabase(), scope.user.id, scope.employer.id)).employer.today).toBe(day);
    await changeSetUp(scope, change(await setUpView(scope), { timeZone: 'America/New_York' }));
  });

  it('lists what is missing before the first run, each with the part where it is entered', async () => {
    const { missing } = await setUpView(scope);
    expect(missing.map((fact) => `${fact.part}: ${fact.sentence}`)).toEqual([
      'registrations: Federal employer number missing or not complete',
      'legal: No address',
      'legal: Nobody who signs returns',
      'schedules: No pay schedule',
      'bank: No account that pays',
      'items: No pay items',
      'people: Nobody to pay',
    ]);
  });

  it('and what is entered goes from the list', async () => {
    const view = await setUpView(scope);
    await changeSetUp(
      scope,
      change(view, {
        country: { federalNumber: '00-7654321', states: { TX: { unemploymentRate: '2.7' } } },
        address: { line1: '2 Mill Race', line2: '', city: 'Larkhollow', state: 'TX', postcode: '79999' },
        signatory: { name: 'Ada Lark', title: 'Owner' },
      }),
    );
    await addSchedule(scope, FORTNIGHTLY);
    await setBank(scope, { name: 'First Bank of Larkhollow', routing: '123456780', account: '40017788' });
    await takeReadyItems(scope, { codes: ['ordinary'] });
    const now = await setUpView(await scopeOf(testDatabase(), scope.user.id, scope.employer.id));
    expect(now.missing.map((fact) => fact.sentence)).toEqual(['Nobody to pay']);
    expect(now.banks).toEqual([{ id: null, name: 'First Bank of Larkhollow', routing: '123456780', shown: '••••7788' }]);
  });

  it('a country whose rules are not in is refused, and another that is whole is begun', async () => {
    const { id } = await beginEmployer(testDatabase(), scope.user.id, { name: 'Elsewhere', country: 'GB' });
    const there = await scopeOf(testDatabase(), scope.user.id, id);
    expect((await setUpView(there)).missing.length).toBeGreaterThan(3);
    expect(await refusal(beginEmployer(testDatabase(), scope.user.id, { name: 'Elsewhere', country: 'XX' }))).toContain(
      'no rules for this country',
    );
  });

  it('beside a demo it is a demo too, on the demo’s business date', async () => {
    const place = await Workplace.make();
    const admin = await place.scope('administrator');
    const { id } = await beginEmployer(testDatabase(), admin.user.id, { name: 'Second works', country: 'US' });
    const second = await scopeOf(testDatabase(), admin.user.id, id);
    expect([second.employer.demo, second.employer.today]).toEqual([true, admin.employer.today]);
  });
});

describe('The set-up of an employer', () => {
  let place: Workplace;
  let scope: Scope;
  let view: SetUp;
  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope('administrator');
    view = await setUpView(scope);
  }, 60_000);
  const departmentsOfPeople = () =>
    select<{ department: string }>(testDatabase(), 'select distinct department from people where employer_id = :id order by 1', {
      id: place.employerId,
    });

  it('is changed by one person at a time', async () => {
    await changeSetUp(scope, change(view, {}));
    expect(await refusal(changeSetUp(scope, change(view, {})))).toContain('Somebody else changed the set-up');
  });

  it('renames a department with its people, and keeps one that people are in', async () => {
    await testDatabase().query(`update people set department = 'Shop' where employer_id = '${place.employerId}'`);
    await changeSetUp(scope, change(view, { departments: ['Workshop'] }, { departments: { Shop: 'Workshop' } }));
    expect(await departmentsOfPeople()).toEqual([{ department: 'Workshop' }]);
    expect(await refusal(changeSetUp(scope, change(await setUpView(await place.scope('administrator')), { departments: [] })))).toContain(
      '4 people are in the department Workshop',
    );
  });

  it('refuses a registration that is not as it is written, and a name twice', async () => {
    expect(await refusal(changeSetUp(scope, change(view, { country: { federalNumber: '12' } })))).toContain('not as it is written');
    expect(await refusal(changeSetUp(scope, change(view, { jobs: ['Gaffer', 'Gaffer'] })))).toContain('listed twice');
    expect(await refusal(setBank(scope, { name: 'B', routing: '123456789', account: '40017788' }))).toContain('check digit');
  });

  it('shows what a changed rate would do to the open run', async () => {
    await place.run();
    const states = { PA: { unemploymentRate: '9.9' } };
    const effect = await rehearse(scope, (inside) => changeSetUp(inside, change(view, { country: { ...view.facts.country, states } })));
    expect(effect.people.length).toBe(2);
    expect(effect.people.every((person) => person.before === person.after && person.cost > 0)).toBeTrue();
  });

  it('a schedule keeps its dates once a run has used it, but not its name', async () => {
    const schedule = view.schedules[0]!;
    await place.run();
    expect(await refusal(changeSchedule(scope, schedule.id, { ...FORTNIGHTLY, payDateOffset: 5 }))).toContain('its dates stay');
    await changeSchedule(scope, schedule.id, { ...FORTNIGHTLY, name: 'Every other Friday' });
    expect((await setUpView(scope)).schedules[0]?.name).toBe('Every other Friday');
    expect(await refusal(addSchedule(scope, { ...FORTNIGHTLY, name: 'Every other Friday' }))).toContain('already a schedule called');
  });

  it('shows the pay dates of a year before they are saved: moved ones and one more than usual', () => {
    const dates = payDates(scope, { ...FORTNIGHTLY, year: 2027 });
    expect(dates.length).toBe(26);
    const year2026 = payDates(scope, { ...FORTNIGHTLY, anchor: '2025-12-14', year: 2026 });
    expect(year2026.length).toBe(27);
    expect(year2026[0]).toEqual({ from: '2025-12-14', to: '2025-12-27', payDate: '2026-01-02', note: '' });
    expect(year2026.at(-1)?.note).toContain('pay date 27 of the year, one more than usual');
    const moved = payDates(scope, { frequency: 'monthly', anchor: '2026-01-01', payDateOffset: 0, move: 'previous', year: 2026 });
    expect(moved.find((date) => date.to === '2026-01-31')).toEqual(
      jasmine.objectContaining({ payDate: '2026-01-30', note: 'moved from 31 Jan 2026, no business day' }),
    );
  });

  it('nobody works here before they accept the invitation; one administrator always stays', async () => {
    const email = `new-${place.employerId}@example.test`;
    await addMember(scope, { email, name: 'Nell New', role: 'approver' });
    const nell = (await setUpView(scope)).members.find((member) => member.email === email)!;
    expect([nell.accepted, nell.rights, nell.secondFactor]).toEqual([false, null, false]);
    expect(await refusal(scopeOf(testDatabase(), nell.id, place.employerId))).toContain('no such employer');
    await useLink(testDatabase(), await linkTo(email), 'marble teapot lantern fog');
    expect((await scopeOf(testDatabase(), nell.id, place.employerId)).role).toBe('approver');
    expect(await refusal(addMember(scope, { email, name: 'Nell New', role: 'clerk' }))).toContain('works here already');
    const elsewhere = await Workplace.make();
    const other = await elsewhere.scope('administrator');
    await addMember(other, { email, name: 'Nell New', role: 'clerk' });
    expect(await refusal(scopeOf(testDatabase(), nell.id, elsewhere.employerId))).toContain('no such employer');
    expect(await refusal(changeMember(scope, scope.user.id, { role: 'viewer' }))).toContain('the only administrator');
    await changeMember(scope, nell.id, { role: null });
    expect(await refusal(scopeOf(testDatabase(), nell.id, place.employerId))).toContain('no such employer');
  });
});

describe('The logo', () => {
  const PNG = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';

  it('is kept, printed on payslips and taken away; other files are refused', async () => {
    const place = await Workplace.make();
    const scope = await place.scope('administrator');
    expect((await setUpView(scope)).hasLogo).toBeFalse();
    await setLogo(scope, { content: PNG });
    expect((await logoOf(scope))?.type).toBe('image/png');
    const run = await place.run();
    expect((await payslipsPdf(scope, { run })).includes('/Subtype /Image')).toBeTrue();
    expect(await refusal(setLogo(scope, { content: Buffer.from('<svg/>').toString('base64') }))).toContain('neither PNG nor JPEG');
    await setLogo(scope, { content: '' });
    expect((await setUpView(scope)).hasLogo).toBeFalse();
    expect((await payslipsPdf(scope, { run })).includes('/Subtype /Image')).toBeFalse();
  });
});

describe("The employer's own holidays", () => {
  it('move pay dates off them, as bank holidays do', async () => {
    const place = await Workplace.make();
    const scope = await place.scope('administrator');
    const dates = { ...FORTNIGHTLY, year: 2026 };
    const on = (within: Scope) => payDates(within, dates).find((one) => one.from === '2026-12-06');
    // The 25th is a bank holiday: paid on the 24th, and a day earlier when that one is the employer's own.
    expect(on(scope)?.payDate).toBe('2026-12-24');
    const { version, facts } = await setUpView(scope);
    await changeSetUp(scope, {
      version,
      name: 'Test works',
      facts: { ...facts, holidays: [{ date: '2026-12-24', label: 'Works closed' }] },
      renamed: { departments: {}, worksites: {}, jobs: {} },
    });
    const now = await place.scope('administrator');
    expect(on(now)?.payDate).toBe('2026-12-23');
    expect(on(now)?.note).toContain('a holiday');
  });
});
