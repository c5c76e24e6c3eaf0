import { timeSettingsSchema } from '@woodruff/contract';
import { refusal } from '../testing/refusal';
import { PERIOD, Workplace } from '../testing/workplace';
import { timePage } from '../time/page';
import { saveTime, setTimeState } from '../time/service';
import type { Scope } from '../scope';
import { clockOn, punch, simulatePunches, takeFromClock } from './service';

describe('The time clock', () => {
  let place: Workplace;
  let scope: Scope;
  const where = () => ({ scheduleId: place.scheduleId, from: PERIOD.from });
  const press = (day: string, clock: string, kind: 'in' | 'out', code = 'X1') =>
    punch(scope, { code, kind, at: `2026-11-${day}T${clock}` });
  const rowOf = async (person: string) => (await timePage(scope, { ...where(), person })).rows[0]!;

  beforeEach(async () => {
    place = await Workplace.make({
      time: timeSettingsSchema.parse({ items: { ordinary: 'ordinary', overtime: 'overtime', double: '', halfPremium: '', holiday: '' } }),
      overtimeRules: 'weekly',
    });
    scope = await place.scope();
  });

  it('takes who is known by the code, and shows the day', async () => {
    expect(await refusal(press('10', '07:00', 'in', 'Z9'))).toContain('Nobody here has the code');
    expect(await press('10', '07:00', 'in', 'x1')).toEqual({ name: 'Xeno Seasonal', at: '2026-11-10T07:00' });
    expect((await clockOn(scope, '2026-11-10')).punches.map((one) => [one.code, one.kind])).toEqual([['X1', 'in']]);
  });

  it('gives lines of the sheet; what is open is listed and asked about until the day is fixed', async () => {
    for (const [day, clock, kind] of [
      ['10', '07:00', 'in'],
      ['10', '15:30', 'out'],
      ['10', '15:31', 'out'],
      ['11', '07:00', 'in'],
    ] as const)
      await press(day, clock, kind);
    const taken = await takeFromClock(scope, where());
    expect(taken).toEqual({
      people: 1,
      lines: 1,
      doubled: 1,
      left: [],
      open: [{ name: 'Seasonal, Xeno', at: '2026-11-11T07:00', kind: 'in' }],
    });
    const row = await rowOf(place.people.seasonal);
    expect(row.lines.map((line) => [line.date, line.begins, line.ends, line.hours])).toEqual([['2026-11-10', '07:00', '15:30', '8.5']]);
    expect(row.points).toContain('No end on Wed 11 Nov: in at 07:00');
    await saveTime(scope, {
      ...where(),
      sheets: [
        {
          personId: place.people.seasonal,
          version: row.version,
          lines: [...row.lines, { date: '2026-11-11', begins: '07:00', ends: '15:00', breakMinutes: 0, place: '' }],
        },
      ],
    });
    expect((await rowOf(place.people.seasonal)).points).toEqual([]);
  });

  it('changes no sheet that was typed, submitted or approved; taken again it replaces its own lines only', async () => {
    await press('10', '07:00', 'in');
    await press('10', '15:00', 'out');
    await takeFromClock(scope, where());
    await press('11', '07:00', 'in');
    await press('11', '15:00', 'out');
    expect((await takeFromClock(scope, where())).lines).toBe(2);
    await setTimeState(scope, { ...where(), personIds: [place.people.seasonal], state: 'approved', comment: '' });
    await press('12', '07:00', 'in');
    expect((await takeFromClock(scope, where())).left).toEqual(['Seasonal, Xeno']);
    expect((await rowOf(place.people.seasonal)).lines.length).toBe(2);
  });

  it('rounds to what the employer chose; the punches stay as they were', async () => {
    place = await Workplace.make({
      time: timeSettingsSchema.parse({
        clockStep: 15,
        items: { ordinary: 'ordinary', overtime: 'overtime', double: '', halfPremium: '', holiday: '' },
      }),
      overtimeRules: 'weekly',
    });
    scope = await place.scope();
    await press('10', '06:53', 'in');
    await press('10', '15:37', 'out');
    await takeFromClock(scope, where());
    expect((await rowOf(place.people.seasonal)).lines.map((line) => [line.begins, line.ends, line.hours])).toEqual([
      ['07:00', '15:30', '8.5'],
    ]);
    expect((await clockOn(scope, '2026-11-10')).punches.map((one) => one.at.slice(11))).toEqual(['15:37', '06:53']);
  });

  it('simulates an ordinary period, the same each time', async () => {
    const { punches } = await simulatePunches(scope, where());
    expect(punches).toBeGreaterThan(40);
    expect((await simulatePunches(scope, where())).punches).toBe(0);
    expect((await clockOn(scope)).inPeriod).toEqual({ punches, people: 2 });
  });
});
