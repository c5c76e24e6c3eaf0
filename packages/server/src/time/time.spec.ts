import { groupDefaultsSchema, payItemSchema, timeSettingsSchema, type TimeLine } from '@woodruff/contract';
import { payslipView } from '../pay-runs/sheet/payslips';
import { openPoints } from '../pay-runs/sheet/points';
import { sheetOf } from '../pay-runs/sheet/sheet';
import { recalculationOf } from '../calculation/recalculation';
import { acceptPoint } from '../pay-runs/sheet/edits';
import { calculateRun, openRun } from '../calculation/calculation';
import { rehearse } from '../calculation/rehearsal';
import { deleteRun } from '../pay-runs/making/start';
import { changeSetUp, setUpView } from '../employers/set-up';
import { addGroup, moveToGroup } from '../groups/groups';
import { addRate } from '../people/employment/rates';
import { changePerson, personPage } from '../people/service';
import { refusal } from '../testing/refusal';
import { PERIOD, Workplace } from '../testing/workplace';
import { addPayItem } from '../pay-items/service';
import type { Scope } from '../scope';
import { importTime, timeCsv } from './files';
import { timePage } from './page';
import { lockTime, saveTime, setTimeState, unlockTime } from './service';

const TIME = timeSettingsSchema.parse({
  expected: 'without-standard-hours',
  items: { ordinary: 'ordinary', overtime: 'overtime', double: '', halfPremium: 'half', holiday: '' },
});

describe('Time', () => {
  let place: Workplace;
  let scope: Scope;
  const where = () => ({ scheduleId: place.scheduleId, from: PERIOD.from });
  const line = (date: string, hours: string, more: Partial<TimeLine> = {}): TimeLine => ({
    date,
    hours,
    breakMinutes: 0,
    place: '',
    ...more,
  });
  const days = (hours: string[], rate?: string) =>
    hours.flatMap((each, index) =>
      each === '0' ? [] : [line(`2026-11-${String(8 + index).padStart(2, '0')}`, each, rate ? { rate } : {})],
    );
  const rowOf = async (person: string) => (await timePage(scope, { ...where(), person })).rows[0]!;
  const save = async (person: string, lines: TimeLine[]) =>
    saveTime(scope, { ...where(), sheets: [{ personId: person, version: (await rowOf(person)).version, lines }] });
  const set = (person: string, state: 'submitted' | 'approved' | 'returned', comment = '') =>
    setTimeState(scope, { ...where(), personIds: [person], state, comment });
  const withWorksite = async (id: string) => {
    const { version, facts } = await personPage(scope, id);
    return { version, facts: { ...facts, worksite: 'Corbel Falls' }, from: null, reason: '' };
  };
  const earned = async (run: string, person: string) => {
    const row = (await sheetOf(scope, run)).rows.find((one) => one.personId === person);
    const payslip = await payslipView(scope, row?.payslipId ?? '');
    return payslip.lines.filter((one) => one.kind === 'earning').map((one) => `${one.code} ${one.quantity} ${one.amount}`);
  };

  beforeEach(async () => {
    place = await Workplace.make({ time: TIME, overtimeRules: 'weekly' });
    scope = await place.scope();
    await addPayItem(
      scope,
      payItemSchema.parse({
        code: 'half',
        name: 'Half premium',
        kind: 'earning',
        treatment: 'wages',
        method: { by: 'hours', multiple: '0.5' },
        order: 22,
      }),
    );
  });

  it('lists hourly people of the period, with what is missing, and the hours as the rules pay them', async () => {
    const page = await timePage(scope, {});
    expect([page.from, page.rules]).toEqual([PERIOD.from, 'Over 40 hours a week']);
    expect(page.rows.map((row) => [row.code, row.state, ...row.points])).toEqual([
      ['H1', 'none'],
      ['X1', 'none', 'No timesheet yet'],
    ]);
    await save(place.people.seasonal, days(['0', '10', '10', '10', '10', '10', '0', '0', '15']));
    const row = await rowOf(place.people.seasonal);
    expect(row.paid.map((one) => `${one.label} ${one.hours}`)).toEqual(['ordinary 55.00', 'overtime 10.00']);
    expect(row.points).toEqual(['Nothing on Tue 17 Nov, Wed 18 Nov, Thu 19 Nov, Fri 20 Nov', 'Mon 16 Nov has 15.00 hours']);
    expect(row.workings[row.paid[1]?.figure ?? '']?.steps[0]?.label).toBe('Fri 13 Nov 2026, over 40 in the week');
  });

  it('approved time is in the payslip of the open run at once; saved again it is not, until it is approved again', async () => {
    const run = await place.run();
    expect(await earned(run, place.people.hourly)).toEqual(['ordinary 80.00 200000']);
    await save(place.people.hourly, days(['0', '9', '9', '9', '9', '9']));
    expect(await earned(run, place.people.hourly)).toEqual(['ordinary 80.00 200000']);
    await set(place.people.hourly, 'approved');
    expect(await earned(run, place.people.hourly)).toEqual(['ordinary 40.00 100000', 'overtime 5.00 18750']);
    expect((await sheetOf(scope, run)).rows.find((row) => row.personId === place.people.hourly)?.hours).toEqual({
      ordinary: '40.00',
      overtime: '5.00',
    });
    await save(place.people.hourly, days(['0', '8']));
    expect(await earned(run, place.people.hourly)).toEqual(['ordinary 80.00 200000']);
  });

  it('approved with something in doubt is a point of the run, accepted for the sheet as it stands', async () => {
    const { seasonal } = place.people;
    const run = await place.run();
    await save(seasonal, days(['0', '8', '8', '8', '8', '8', '0', '0', '8', '15', '8', '8']));
    await set(seasonal, 'approved');
    const ofTime = async () => (await openPoints(scope, await openRun(scope, run))).filter((point) => point.key.startsWith('time:'));
    const [point] = await ofTime();
    expect([point?.who, point?.sentence]).toEqual([
      'Xeno Seasonal',
      'Approved time to look at: Nothing on Fri 20 Nov; Tue 17 Nov has 15.00 hours. Fix it on the time page, or accept it with a reason.',
    ]);
    await acceptPoint(scope, run, point?.key ?? '', 'stocktaking, and a day off');
    expect((await ofTime())[0]?.accepted?.reason).toBe('stocktaking, and a day off');
    await save(seasonal, days(['0', '8', '8', '8', '8', '8', '0', '0', '8', '14.5', '8', '8', '8']));
    await set(seasonal, 'approved');
    expect((await ofTime()).map(({ sentence, accepted }) => [sentence.slice(0, 52), accepted])).toEqual([
      ['Approved time to look at: Tue 17 Nov has 14.50 hours', null],
    ]);
    await save(seasonal, days(['0', '8', '8', '8', '8', '8', '0', '0', '8', '8', '8', '8', '8']));
    await set(seasonal, 'approved');
    expect(await ofTime()).toEqual([]);
  });

  it('begin and end less the break, and a second rate, which brings the regular rate of the week', async () => {
    await addRate(scope, place.people.hourly, {
      label: 'Store',
      per: 'hour',
      amount: '15.00',
      from: '2026-01-01',
      primary: false,
      reason: '',
    });
    const clocked = line('2026-11-09', '', { hours: null, begins: '06:00', ends: '16:30', breakMinutes: 30 });
    await save(place.people.hourly, [clocked, ...days(['0', '0', '10', '10']), ...days(['0', '0', '0', '0', '10', '10'], '2')]);
    const row = await rowOf(place.people.hourly);
    expect(row.lines[0]?.hours).toBe('10');
    // 30 at 25.00 and 20 at 15.00: 1,050.00 over 50 hours is 21.00.
    expect(row.paid.map((one) => `${one.item} ${one.hours}`)).toEqual(['ordinary 30.00', 'ordinary 20.00', 'half 10.00']);
    expect(row.workings['regular:2026-11-08']?.amount).toBe('21.00');
    await set(place.people.hourly, 'approved');
    expect(await earned(await place.run(), place.people.hourly)).toEqual([
      'ordinary 30.00 75000',
      'ordinary 20.00 30000',
      'half 10.00 10500',
    ]);
  });

  it('a sheet that is missing or not approved is an open point of the run', async () => {
    await save(place.people.hourly, days(['0', '8']));
    const run = await place.run();
    const points = (await openPoints(scope, await openRun(scope, run))).map((point) => `${point.who}: ${point.sentence}`);
    expect(points).toContain('Hana Hourly: The timesheet is open, not approved: its hours are not in the payslip.');
    expect(points.filter((point) => point.startsWith('Xeno')).length).toBe(1);
  });

  it('returned needs a comment; a locked period takes nothing until it is unlocked with a reason', async () => {
    await save(place.people.hourly, days(['0', '8']));
    expect(await refusal(set(place.people.hourly, 'returned'))).toContain('Say why the sheet is returned');
    await set(place.people.hourly, 'returned', 'Tuesday is missing');
    expect((await rowOf(place.people.hourly)).comment).toBe('Tuesday is missing');
    expect(await refusal(lockTime(scope, where()))).toContain('The sheet of Hana Hourly is not approved yet');
    await set(place.people.hourly, 'approved');
    await lockTime(scope, where());
    expect((await timePage(scope, where())).locked?.by).toBe('The clerk');
    expect(await refusal(save(place.people.hourly, days(['0', '9'])))).toContain('was locked by The clerk');
    await unlockTime(scope, { ...where(), reason: 'late sheet' });
    await save(place.people.hourly, days(['0', '9']));
  });

  it('comes from a file whole or not at all, and goes out as hours paid', async () => {
    const file = (text: string) =>
      importTime(scope, { ...where(), name: 'time.csv', content: Buffer.from(text).toString('base64'), dates: 'month-first' });
    expect(await refusal(file('code,date,hours\nH1,2026-11-09,8\nH9,2026-11-30,many\n'))).toContain(
      '3 cells are wrong. First: row 3, code “H9”',
    );
    expect((await rowOf(place.people.hourly)).lines).toEqual([]);
    expect(await file('code,date,start,end,break\nH1,11/9/2026,7:00,15:30,30\nX1,2026-11-09,08:00,12:00,\n')).toEqual({
      people: 2,
      lines: 2,
    });
    expect((await rowOf(place.people.hourly)).lines.map((one) => one.hours)).toEqual(['8']);
    expect((await timeCsv(scope, where())).split('\n')[1]).toBe('H1,"Hourly, Hana",2026-11-08,2026-11-21,open,ordinary,ordinary,8.00');
  });

  it('from a file takes items by code or name, rates by name, and pieces; a name that is not known is told with those that are', async () => {
    await addPayItem(
      scope,
      payItemSchema.parse({ code: 'vases', name: 'Vases', kind: 'earning', treatment: 'wages', method: { by: 'pieces' }, order: 30 }),
    );
    await addRate(scope, place.people.hourly, {
      label: 'Store',
      per: 'hour',
      amount: '15',
      from: '2026-01-01',
      reason: '',
      primary: false,
    });
    const file = (text: string) => importTime(scope, { ...where(), name: 'time.csv', content: Buffer.from(text).toString('base64') });
    const wrong = await refusal(
      file('code,date,hours,rate,item,quantity\nH1,2026-11-09,8,Loft,,\nH1,2026-11-09,,,Jugs,4\nH1,2026-11-09,,,vases,many\n'),
    );
    expect(wrong).toContain('4 cells are wrong. First: row 2, rate “Loft”, expected an hourly rate of the person');
    await file('code,date,hours,rate,item,pieces\nH1,2026-11-09,6,store,,\nH1,2026-11-09,,,Vases,12\n');
    const { lines } = await rowOf(place.people.hourly);
    expect(lines.map((one) => [one.hours, one.rate, one.item, one.quantity])).toEqual([
      ['6', '2', null, null],
      ['0', null, 'vases', '12'],
    ]);
  });

  it('kept by day is paid at the rate of the day, when the rate changed within the period', async () => {
    const { hourly } = place.people;
    await addRate(scope, hourly, { label: 'Shop', per: 'hour', amount: '30', from: '2026-11-15', reason: 'Raise', primary: true });
    const run = await place.run();
    await save(hourly, days(['0', '8', '8', '0', '0', '0', '0', '0', '8']));
    expect((await rowOf(hourly)).paid.map((one) => [one.hours, one.label])).toEqual([
      ['16.00', jasmine.stringContaining('until 14 Nov 2026')],
      ['8.00', jasmine.any(String)],
    ]);
    await set(hourly, 'approved');
    const [before, after] = await earned(run, hourly);
    expect([before?.split(' ')[1], after]).toEqual(['16.00', 'ordinary 8.00 24000']);
    expect(Number(before?.split(' ')[2])).toBeLessThan(16 * 3000);
  });

  it('hours as one sum over a change of the rate are told', async () => {
    const { hourly } = place.people;
    await addRate(scope, hourly, { label: 'Shop', per: 'hour', amount: '30', from: '2026-11-15', reason: 'Raise', primary: true });
    const run = await place.run();
    const points = await openPoints(scope, await openRun(scope, run));
    expect(points.map((point) => point.key.split(':')[0])).toContain('rate-changed-within-period');
  });

  it('has a minimum wage of the place, which follows a renamed worksite', async () => {
    const { hourly } = place.people;
    const view = await setUpView(scope);
    const time = { ...view.facts.time, minimumWages: [{ worksite: 'Corbel Falls', from: '2026-01-01', amount: '99.00' }] };
    const body = {
      version: view.version,
      name: view.name,
      facts: { ...view.facts, time },
      renamed: { departments: {}, worksites: {}, jobs: {} },
    };
    const elsewhere = [{ worksite: 'Nowhere', from: '2026-01-01', amount: '9.00' }];
    expect(await refusal(changeSetUp(scope, { ...body, facts: { ...view.facts, time: { ...time, minimumWages: elsewhere } } }))).toContain(
      'Nowhere, which is no worksite',
    );
    await changePerson(scope, hourly, await withWorksite(hourly));
    const run = await place.run();
    // No amount changes, but somebody has to look: it is said before the rule is saved.
    const effect = await rehearse(scope, (inside) => changeSetUp(inside, body));
    expect(effect.people.map((one) => [one.name, one.before === one.after, one.look.length])).toEqual([['Hana Hourly', true, 1]]);
    expect(effect.people[0]?.look[0]).toContain('less than the minimum wage of 99.00');
    await changeSetUp(scope, body);
    scope = await place.scope();
    await calculateRun(scope, run);
    expect((await openPoints(scope, await openRun(scope, run))).map((point) => point.key.split(':')[0])).toContain('below-minimum-wage');
    const now = await setUpView(scope);
    await changeSetUp(scope, {
      version: now.version,
      name: now.name,
      facts: {
        ...now.facts,
        worksites: now.facts.worksites.map((site) => (site.name === 'Corbel Falls' ? { ...site, name: 'Corbel' } : site)),
      },
      renamed: { departments: {}, worksites: { 'Corbel Falls': 'Corbel' }, jobs: {} },
    });
    scope = await place.scope();
    expect((await setUpView(scope)).facts.time.minimumWages.map((own) => own.worksite)).toEqual(['Corbel']);
  });

  it('under other rules is shown person by person before they are saved, and is paid by them once the run is recalculated', async () => {
    const { hourly } = place.people;
    const run = await place.run();
    await save(hourly, days(['0', '10', '10', '10']));
    await set(hourly, 'approved');
    expect(await earned(run, hourly)).toEqual(['ordinary 30.00 75000']);
    const view = await setUpView(scope);
    const body = {
      version: view.version,
      name: view.name,
      facts: { ...view.facts, overtimeRules: 'daily' },
      renamed: { departments: {}, worksites: {}, jobs: {} },
    };
    const effect = await rehearse(scope, (inside) => changeSetUp(inside, body));
    // Six hours over eight a day, half the rate more for each.
    expect(effect.people.map((one) => [one.name, one.cost > 0])).toEqual([['Hana Hourly', true]]);
    expect(await earned(run, hourly)).toEqual(['ordinary 30.00 75000']);
    await changeSetUp(scope, body);
    scope = await place.scope();
    await calculateRun(scope, run);
    expect(await earned(run, hourly)).toEqual(['ordinary 24.00 60000', 'overtime 6.00 22500']);
    const [changed] = (await recalculationOf(scope, run))?.people ?? [];
    expect([changed?.name, changed?.cost]).toEqual(['Hana Hourly', effect.people[0]?.cost]);
  });

  it('refuses days outside the period, impossible hours, strangers and a version that is not the latest', async () => {
    const { hourly, salaried } = place.people;
    expect(await refusal(save(hourly, [line('2026-11-30', '8')]))).toContain('Mon 30 Nov 2026 is not in the period');
    expect(await refusal(save(hourly, [line('2026-11-09', '25')]))).toContain('25 hours are not possible');
    expect(await refusal(save(hourly, [line('2026-11-09', '8', { rate: '7' })]))).toContain('no such hourly rate');
    expect(await refusal(saveTime(scope, { ...where(), sheets: [{ personId: salaried, version: 0, lines: [] }] }))).toContain(
      'not paid by the hour',
    );
    await save(hourly, days(['0', '8']));
    expect(await refusal(saveTime(scope, { ...where(), sheets: [{ personId: hourly, version: 0, lines: [] }] }))).toContain(
      'Somebody else changed',
    );
  });

  it('of a draft that is deleted waits for the next run, or goes with it; not when it is locked', async () => {
    const run = await place.run();
    await save(place.people.seasonal, days(['0', '8']));
    await set(place.people.seasonal, 'approved');
    expect((await sheetOf(scope, run)).timesheets).toBe(1);
    await deleteRun(scope, run, 'keep');
    const again = await place.run();
    expect(await earned(again, place.people.seasonal)).toEqual(['ordinary 8.00 12800']);
    await lockTime(scope, where());
    expect(await refusal(deleteRun(scope, again, 'discard'))).toContain('Unlock it first');
    await unlockTime(scope, { ...where(), reason: 'entered for the wrong week' });
    await deleteRun(scope, again, 'discard');
    expect((await rowOf(place.people.seasonal)).state).toBe('none');
  });

  it('is ruled by the group or the state from a day on, in place of the employer’s rules', async () => {
    const other = (more: object) => ({ from: '2026-11-08', overtimeRules: 'daily', premiums: true, ...more });
    const group = await addGroup(scope, {
      name: 'Long days',
      defaults: groupDefaultsSchema.parse({}),
    });
    const make = async (rules: object[]) => {
      const { version, name, facts } = await setUpView(await place.scope('administrator'));
      await changeSetUp(await place.scope('administrator'), {
        version,
        name,
        facts: { ...facts, time: { ...TIME, other: rules as never } },
        renamed: { departments: {}, worksites: {}, jobs: {} },
      });
      scope = await place.scope();
    };
    const paidFor = async () => {
      const row = await rowOf(place.people.seasonal);
      return row.paid.map((one) => `${one.label} ${one.hours}`);
    };
    await save(place.people.seasonal, days(['0', '10']));
    expect(await paidFor()).toEqual(['ordinary 10.00']);
    await make([other({ groupId: group.id })]);
    expect(await paidFor()).toEqual(['ordinary 10.00']);
    await moveToGroup(scope, group.id, { personIds: [place.people.seasonal], from: '2026-11-08' });
    expect(await paidFor()).toEqual(['ordinary 8.00', 'overtime 2.00']);
    expect((await rowOf(place.people.seasonal)).rules).toContain('Over 8 and 12 a day');
    // A later day: the period that is open is not theirs yet.
    await make([other({ groupId: group.id, from: '2026-11-22' })]);
    expect(await paidFor()).toEqual(['ordinary 10.00']);
    await make([other({ state: 'PA' })]);
    await changePerson(scope, place.people.seasonal, await withWorksite(place.people.seasonal));
    expect(await paidFor()).toEqual(['ordinary 8.00', 'overtime 2.00']);
  });

  it('of tipped employees: tips by day are taxed, and pay is made up to the minimum wage week by week', async () => {
    const add = (code: string, kind: 'earning' | 'benefit-in-kind', treatment: string) =>
      addPayItem(scope, payItemSchema.parse({ code, name: code, kind, treatment, method: { by: 'amount' }, order: 30 }));
    await add('tips', 'benefit-in-kind', 'tips-reported');
    await add('make-up', 'earning', 'wages');
    const { version, name, facts } = await setUpView(await place.scope('administrator'));
    await changeSetUp(await place.scope('administrator'), {
      version,
      name,
      facts: { ...facts, time: { ...TIME, items: { ...TIME.items, makeUp: 'make-up' } } },
      renamed: { departments: {}, worksites: {}, jobs: {} },
    });
    scope = await place.scope();
    await addRate(scope, place.people.seasonal, {
      label: 'Service',
      per: 'hour',
      amount: '2.83',
      from: '2026-10-01',
      primary: true,
      reason: '',
    });
    expect((await timePage(scope, where())).items.find((item) => item.code === 'tips')?.per).toBe('tips');
    await save(place.people.seasonal, [
      ...days(['0', '8', '8', '8', '8', '8']),
      line('2026-11-10', '0', { hours: null, item: 'tips', quantity: '90' }),
    ]);
    await set(place.people.seasonal, 'approved');
    const run = await place.run();
    // Pennsylvania: 40 × 7.25 = 290.00, less 113.20 at the rate and 90.00 in tips.
    expect(await earned(run, place.people.seasonal)).toEqual(['ordinary 40.00 11320', 'make-up undefined 8680']);
  });
});
