import { oneOffsSchema, type Takes } from '@woodruff/contract';
import { calculateRun } from '../calculation/calculation';
import { reversePayslip } from '../pay-runs/corrections/corrections';
import { changePayslip } from '../pay-runs/sheet/edits';
import { Payslip } from '../calculation/models';
import { payslipView } from '../pay-runs/sheet/payslips';
import { sheetOf } from '../pay-runs/sheet/sheet';
import { deleteRun, startRun } from '../pay-runs/making/start';
import { retirePayItem } from '../pay-items/holders';
import { addRate } from '../people/employment/rates';
import { refusal } from '../testing/refusal';
import { PERIOD, Workplace } from '../testing/workplace';
import type { Scope } from '../scope';
import { backPay, takeBackPay } from './back-pay';
import { addOneOffs, changeOneOff, oneOffPage, putOneOffBack, readOneOffs, removeOneOff } from './service';

const EARLIER = { from: '2026-10-25', to: '2026-11-07', payDate: '2026-11-13' };

let place: Workplace;
let scope: Scope;
const add = (person: string, item: string, amount: string, takes: Takes = { by: 'next' }, more: object = {}) =>
  addOneOffs(scope, oneOffsSchema.parse({ entries: [{ person, item, amount, takes, ...more }] }));
const waiting = async (all = false) =>
  (await oneOffPage(scope, all)).oneOffs.map((one) => `${one.code} ${one.item} ${one.amount} ${one.where}`);
const payslipOf = async (run: string, person: string) => {
  const row = (await sheetOf(scope, run)).rows.find((one) => one.personId === person);
  return payslipView(scope, row?.payslipId ?? '');
};
const approve = (run: string) => place.approve(run);

describe('One-offs', () => {
  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
  });

  it('wait for the next run, are taken by it, and show where they went', async () => {
    await add('H1', 'bonus', '250.00', { by: 'next' }, { note: 'for the open day' });
    await add('S1', 'loan', '40.00', { by: 'date', date: '2026-12-01' });
    expect(await waiting()).toEqual(['H1 bonus 250.00 the next run', 'S1 loan 40.00 the first pay date from 1 Dec 2026']);
    const run = await place.run();
    expect(await waiting()).toEqual([
      'H1 bonus 250.00 in the run paid Fri 27 Nov 2026',
      'S1 loan 40.00 the first pay date from 1 Dec 2026',
    ]);
    const payslip = await payslipOf(run, place.people.hourly);
    expect(payslip.lines.find((line) => line.code === 'bonus')?.amount).toBe(25_000);
    expect(payslip.taken.map((one) => one.note)).toEqual(['for the open day']);
    await approve(run);
    expect(await waiting(true)).toContain('H1 bonus 250.00 paid Fri 27 Nov 2026');
    expect(await waiting()).toEqual(['S1 loan 40.00 the first pay date from 1 Dec 2026']);
  });

  it('entered while a run is open are in its payslip at once, and can be put back, changed and removed', async () => {
    const run = await place.run();
    const net = (await payslipOf(run, place.people.salaried)).totals.net;
    await add('S1', 'bonus', '100.00');
    expect((await payslipOf(run, place.people.salaried)).totals.net).toBeGreaterThan(net);
    const [one] = (await oneOffPage(scope, false)).oneOffs;
    await changeOneOff(scope, one?.id ?? '', { amount: '120.00', note: '', takes: { by: 'next' } });
    expect((await payslipOf(run, place.people.salaried)).lines.find((line) => line.code === 'bonus')?.amount).toBe(12_000);
    await putOneOffBack(scope, one?.id ?? '');
    expect((await payslipOf(run, place.people.salaried)).totals.net).toBe(net);
    expect(await waiting()).toEqual(['S1 bonus 120.00 the next run']);
    await removeOneOff(scope, one?.id ?? '');
    expect(await waiting()).toEqual([]);
  });

  it('keep the order in which they were entered, on the page and in the payslip', async () => {
    const amounts = ['7.00', '3.00', '9.00', '1.00', '5.00'];
    const entries = amounts.map((amount) => ({ person: 'S1', item: 'bonus', amount, takes: { by: 'next' } }));
    await addOneOffs(scope, oneOffsSchema.parse({ entries }));
    const order = async () => (await oneOffPage(scope, false)).oneOffs.map((one) => one.amount);
    expect(await order()).toEqual(amounts);
    const run = await place.run();
    expect(await order()).toEqual(amounts);
    expect((await payslipOf(run, place.people.salaried)).taken.map((one) => one.amount)).toEqual(amounts);
    await deleteRun(scope, run);
    expect(await order()).toEqual(amounts);
  });

  it('for a named run wait for that one only', async () => {
    const run = await place.run();
    await add('S1', 'bonus', '100.00', { by: 'run', runId: run });
    expect(await waiting()).toEqual(['S1 bonus 100.00 in the run paid Fri 27 Nov 2026']);
    await approve(run);
    expect(await refusal(add('S1', 'bonus', '1.00', { by: 'run', runId: run }))).toContain('expected a run that is open');
  });

  it('for a part of a month are so many days of it', async () => {
    await add('S1', 'bonus', '300.00', { by: 'next' }, { part: { from: '2026-11-19', to: '2026-11-30' } });
    const run = await place.run();
    expect((await payslipOf(run, place.people.salaried)).lines.find((line) => line.code === 'bonus')?.amount).toBe(12_000);
  });

  it('wait again when the run is deleted, the person is left out of it, or the payslip is reversed without replacement', async () => {
    await add('S1', 'bonus', '100.00');
    await deleteRun(scope, await place.run());
    expect(await waiting()).toEqual(['S1 bonus 100.00 the next run']);
    const run = await place.run();
    const payslip = (await sheetOf(scope, run)).rows.find((row) => row.personId === place.people.salaried);
    await changePayslip(scope, run, payslip?.payslipId ?? '', { version: payslip?.version ?? 0, included: false });
    await approve(run);
    expect(await waiting()).toEqual(['S1 bonus 100.00 the next run']);
  });

  it('go with the replacement of a reversed payslip, and are paid once', async () => {
    await add('S1', 'bonus', '100.00');
    const run = await place.run();
    await approve(run);
    const { id } = await payslipOf(run, place.people.salaried);
    const { replacementRun } = await reversePayslip(scope, id, 'wrong account', true);
    const replacement = await Payslip.findOne({ where: { runId: replacementRun ?? '' } });
    expect((await payslipView(scope, replacement?.id ?? '')).lines.filter((line) => line.code === 'bonus').length).toBe(1);
    await approve(replacementRun ?? '');
    await reversePayslip(scope, replacement?.id ?? '', 'not owed after all', false);
    expect(await waiting()).toEqual(['S1 bonus 100.00 the next run']);
  });

  it('are refused whole, naming line and column, and a retired item cannot leave one behind', async () => {
    const entries = [
      { person: 'S1', item: 'bonus', amount: '1.00', takes: { by: 'next' } },
      { person: 'Z9', item: 'bonus', amount: '1.00', takes: { by: 'next' } },
    ];
    expect(await refusal(addOneOffs(scope, oneOffsSchema.parse({ entries })))).toContain('line 2, person: expected the code of a person');
    expect(await waiting()).toEqual([]);
    expect(await refusal(add('S1', 'bonus', '0.00'))).toContain('an amount other than zero');
    await add('S1', 'bonus', '5.00');
    expect(await refusal(retirePayItem(scope, place.items['bonus'] ?? '', { endForAll: false }))).toContain('A one-off of bonus waits');
  });

  it('are read from a file for looking at; a file without its columns says which are missing', async () => {
    const file = (text: string) => readOneOffs({ name: 'bonus.csv', content: Buffer.from(text).toString('base64') });
    expect(await file('Code,Item,Amount,Note\nH1,bonus,"1,250.00",open day\n')).toEqual([
      { row: 2, person: 'H1', item: 'bonus', amount: '1250.00', note: 'open day', date: '' },
    ]);
    expect(await refusal(file('Name,Sum\nHana,1\n'))).toContain('code and item are missing');
  });
});

describe('Back pay', () => {
  const raise = (amount: string, from: string) =>
    addRate(scope, place.people.hourly, { label: 'Pay', per: 'hour', amount, from, primary: true, reason: 'agreed late' });
  const asked = (more: object = {}) => ({
    from: '2026-10-25',
    personIds: [place.people.hourly, place.people.salaried],
    hours: {},
    ...more,
  });

  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
    for (const period of [EARLIER, PERIOD]) {
      const { id } = await startRun(scope, { scheduleId: place.scheduleId, ...period });
      await calculateRun(scope, id);
      await approve(id);
    }
  });

  it('is calculated for each paid period that a late raise reaches, put among the one-offs, and not offered twice', async () => {
    await raise('26.00', '2026-10-25');
    const offered = await backPay(scope, asked());
    // 80 hours at 1.00 more, in two periods; the salaried person is owed nothing.
    expect(offered.total).toBe(16_000);
    expect(
      offered.people.map(({ name, periods }) => [name, ...periods.flatMap(({ lines }) => lines.map((line) => line.difference))]),
    ).toEqual([['Hana Hourly', 8_000, 8_000], ['Sol Salaried']]);
    await takeBackPay(scope, { ...asked(), takes: { by: 'next' }, item: null });
    const [first] = (await oneOffPage(scope, false)).oneOffs;
    expect([first?.note, first?.amount, first?.back?.from]).toEqual(['Back pay 25 Oct – 7 Nov 2026: ordinary', '80.00', '2026-10-25']);
    expect((await backPay(scope, asked())).total).toBe(0);
    expect(await refusal(takeBackPay(scope, { ...asked(), takes: { by: 'next' } }))).toContain('Nothing is owed');
    await raise('27.00', '2026-11-08');
    expect((await backPay(scope, asked())).total).toBe(8_000);
  });

  it('takes hours that came in late, and can be paid through another item', async () => {
    const [person] = (await backPay(scope, asked())).people;
    const late = person?.periods[0];
    expect(late?.hours).toEqual({ ordinary: '80.00' });
    const hours = { [late?.payslipId ?? '']: { ordinary: '84.00' } };
    expect((await backPay(scope, asked({ hours }))).total).toBe(10_000);
    await takeBackPay(scope, { ...asked({ hours }), takes: { by: 'next' }, item: 'bonus' });
    expect((await oneOffPage(scope, false)).oneOffs.map((one) => [one.item, one.amount, one.back?.item])).toEqual([
      ['bonus', '100.00', 'ordinary'],
    ]);
  });
});
