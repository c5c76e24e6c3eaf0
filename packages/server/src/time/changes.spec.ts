import { timeSettingsSchema, type TimeLine } from '@woodruff/contract';
import { backPay } from '../one-offs/back-pay';
import { todayView } from '../today/today';
import { refusal } from '../testing/refusal';
import { PERIOD, Workplace } from '../testing/workplace';
import type { Scope } from '../scope';
import { answerTimeChange, askTimeChange, changesOfPerson, timeOfPerson, withdrawTimeChange } from './changes';
import { timePage } from './page';
import { lockTime, saveTime, setTimeState } from './service';

describe('Changes of time that employees ask for', () => {
  let place: Workplace;
  let scope: Scope;
  const where = () => ({ scheduleId: place.scheduleId, from: PERIOD.from });
  const hana = () => place.people.hourly;
  const rowOf = async () => (await timePage(scope, { ...where(), person: hana() })).rows[0]!;
  const ask = (date: string, hours: string, more: object = {}) =>
    askTimeChange(scope, hana(), { date, hours, breakMinutes: 0, reason: 'Forgot to press the clock', ...more });
  const approved = async (lines: TimeLine[]) => {
    await saveTime(scope, { ...where(), sheets: [{ personId: hana(), version: (await rowOf()).version, lines }] });
    await setTimeState(scope, { ...where(), personIds: [hana()], state: 'approved', comment: '' });
  };
  const day = (date: string, hours: string, more: Partial<TimeLine> = {}): TimeLine => ({
    date,
    hours,
    breakMinutes: 0,
    place: '',
    ...more,
  });

  beforeEach(async () => {
    place = await Workplace.make({
      time: timeSettingsSchema.parse({ items: { ordinary: 'ordinary', overtime: 'overtime', double: '', halfPremium: '', holiday: '' } }),
      overtimeRules: 'weekly',
    });
    scope = await place.scope();
  });

  it('stand on the time page and on Today until they are answered', async () => {
    await ask('2026-11-10', '9.5');
    expect((await rowOf()).asked.map((one) => [one.date, one.hours, one.reason])).toEqual([
      ['2026-11-10', '9.5', 'Forgot to press the clock'],
    ]);
    expect((await todayView(scope)).asked.time).toEqual([{ scheduleId: place.scheduleId, from: PERIOD.from, to: PERIOD.to, changes: 1 }]);
  });

  it('accepted replace the time worked of that day only, and the sheet is approved again by somebody', async () => {
    await approved([day('2026-11-09', '8'), day('2026-11-10', '4'), day('2026-11-10', '4', { item: 'vacation' })]);
    const { id } = await ask('2026-11-10', '', { begins: '07:00', ends: '15:30', breakMinutes: 30 });
    expect(await answerTimeChange(scope, id, { accept: true, answer: '' })).toEqual({ paid: false });
    const row = await rowOf();
    expect([row.state, row.asked.length]).toEqual(['open', 0]);
    expect(row.lines.map((line) => [line.date, line.hours, line.item ?? '', line.place])).toEqual([
      ['2026-11-09', '8', '', ''],
      ['2026-11-10', '4', 'vacation', ''],
      ['2026-11-10', '8', '', 'as asked by the employee'],
    ]);
    expect((await changesOfPerson(scope, hana()))[0]?.state).toBe('accepted');
    expect(await refusal(answerTimeChange(scope, id, { accept: true, answer: '' }))).toContain('was accepted meanwhile');
  });

  it('to no hours take the day off the sheet', async () => {
    await approved([day('2026-11-09', '8'), day('2026-11-10', '4')]);
    const { id } = await ask('2026-11-10', '0');
    await answerTimeChange(scope, id, { accept: true, answer: '' });
    expect((await rowOf()).lines.map((line) => line.date)).toEqual(['2026-11-09']);
  });

  it('declined need a reason that the employee reads, and change nothing', async () => {
    await approved([day('2026-11-10', '4')]);
    const { id } = await ask('2026-11-10', '9');
    expect(await refusal(answerTimeChange(scope, id, { accept: false, answer: '' }))).toContain('Say why the change is declined');
    await answerTimeChange(scope, id, { accept: false, answer: 'The shop was closed' });
    expect((await changesOfPerson(scope, hana())).map((one) => [one.state, one.answer])).toEqual([['declined', 'The shop was closed']]);
    expect((await rowOf()).state).toBe('approved');
  });

  it('can be asked for after the lock, and accepted only when it is unlocked', async () => {
    await approved([day('2026-11-10', '4')]);
    await lockTime(scope, where());
    const { id } = await ask('2026-11-10', '9');
    expect(await refusal(answerTimeChange(scope, id, { accept: true, answer: '' }))).toContain('Unlock it first');
    expect((await changesOfPerson(scope, hana()))[0]?.state).toBe('asked');
  });

  it('in a paid period say that the difference is for back pay', async () => {
    await approved([day('2026-11-10', '4')]);
    await place.approve(await place.run());
    const { id } = await ask('2026-11-10', '9');
    expect(await answerTimeChange(scope, id, { accept: true, answer: '' })).toEqual({ paid: true });
    const offered = () => backPay(scope, { from: PERIOD.from, personIds: [hana()], hours: {} });
    // The sheet waits for approval: nothing is offered, and nothing taken back.
    expect((await offered()).total).toBe(0);
    await setTimeState(scope, { ...where(), personIds: [hana()], state: 'approved', comment: '' });
    const [rate] = (await rowOf()).paid;
    expect(rate?.hours).toBe('9.00');
    // Five hours at 25.00.
    expect((await offered()).total).toBe(12_500);
  });

  it('are refused for days to come, days long past, and a day that waits already; taken back they may be asked again', async () => {
    expect(await refusal(ask('2026-11-24', '8'))).toContain('to today can be changed');
    expect(await refusal(ask('2026-01-05', '8'))).toContain('to today can be changed');
    expect(await refusal(ask('2026-11-10', '25'))).toContain('A day has 24 hours');
    const { id } = await ask('2026-11-10', '9');
    expect(await refusal(ask('2026-11-10', '8'))).toContain('asked for already');
    await withdrawTimeChange(scope, hana(), id);
    await ask('2026-11-10', '8');
    expect(await refusal(withdrawTimeChange(scope, hana(), id))).toContain('answered meanwhile');
  });

  it('of somebody else do not exist', async () => {
    const { id } = await ask('2026-11-10', '9');
    expect(await refusal(withdrawTimeChange(scope, place.people.seasonal, id))).toContain('answered meanwhile');
    const other = await (await Workplace.make()).scope();
    expect(await refusal(answerTimeChange(other, id, { accept: true, answer: '' }))).toContain('no such change of time');
    expect(await changesOfPerson(other, hana())).toEqual([]);
  });

  it('stand beside the time of the latest periods; who has a salary keeps no time', async () => {
    await approved([day('2026-11-09', '8'), day('2026-11-10', '4'), day('2026-11-10', '2')]);
    const time = await timeOfPerson(scope, hana());
    expect(time?.periods.map((period) => [period.from, period.state, period.days])).toEqual([
      ['2026-11-22', 'none', []],
      [
        '2026-11-08',
        'approved',
        [
          { date: '2026-11-09', hours: '8' },
          { date: '2026-11-10', hours: '6' },
        ],
      ],
    ]);
    expect(await timeOfPerson(scope, place.people.salaried)).toBeNull();
  });
});
