import { groupDefaultsSchema, leaveTermsSchema, payItemSchema, type LeaveTerms } from '@woodruff/contract';
import { addPayItem } from '../pay-items/service';
import { calculateRun } from '../calculation/calculation';
import { adjustable, adjustBalances, checkAdjustment } from '../people/history/adjustments';
import { reversePayslip } from '../pay-runs/corrections/corrections';
import { changePayslip } from '../pay-runs/sheet/edits';
import { payslipView } from '../pay-runs/sheet/payslips';
import { balancesOutOfStep } from '../ledger/posting';
import { rehearse } from '../calculation/rehearsal';
import { openPoints } from '../pay-runs/sheet/points';
import { sheetOf } from '../pay-runs/sheet/sheet';
import { openRun } from '../calculation/calculation';
import { addGroup, changeGroup, groupsOf, moveToGroup } from '../groups/groups';
import { leave as leaves } from '../leaving/leaving';
import { refusal } from '../testing/refusal';
import { Workplace } from '../testing/workplace';
import type { Scope } from '../scope';
import { leaveCsv, leavePage } from './page';
import { personLeave } from './person-leave';
import { addLeavePlan, changeLeavePlan, removeLeavePlan, setLeaveMembers } from './plans';
import { askLeave, checkLeave, decideLeave } from './requests';

const terms = (more: Partial<LeaveTerms> = {}): LeaveTerms =>
  leaveTermsSchema.parse({
    name: 'Vacation',
    item: 'vacation',
    payOutItem: 'bonus',
    earns: { by: 'period', steps: [{ fromMonths: 0, hours: '4' }] },
    yearBegins: '01-01',
    ...more,
  });

describe('Leave', () => {
  let place: Workplace;
  let scope: Scope;
  let plan: string;

  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
    await addPayItem(
      scope,
      payItemSchema.parse({
        code: 'vacation',
        name: 'Vacation pay',
        kind: 'earning',
        treatment: 'wages',
        method: { by: 'hours', multiple: '1' },
        order: 25,
      }),
    );
    plan = (await addLeavePlan(scope, { code: 'vacation', from: '2026-01-01', terms: terms() })).id;
    await setLeaveMembers(scope, plan, { personIds: [place.people.hourly, place.people.salaried], from: '2026-01-01', end: false });
  });

  const payslipOf = async (run: string, person: string) => {
    const row = (await sheetOf(scope, run)).rows.find((one) => one.personId === person);
    return payslipView(scope, row?.payslipId ?? '');
  };
  const movements = async (run: string, person: string) =>
    Object.fromEntries(
      (await payslipOf(run, person)).lines.filter((line) => line.kind === 'leave').map((line) => [line.code.slice(6), line.amount]),
    );
  const approved = async (from: string, to: string, person = place.people.hourly) => {
    const { id } = await askLeave(scope, { personId: person, planId: plan, from, to, note: '' });
    await decideLeave(scope, id, { state: 'approved', version: 1, comment: 'Agreed with the shop' });
    return id;
  };
  const balance = async (person = place.people.hourly) => (await personLeave(scope, person)).plans[0]?.balance;
  const opening = (amount: string, person = 'H1') =>
    adjustBalances(scope, {
      date: '2026-11-01',
      reason: 'From the earlier system',
      entries: [{ person, balance: 'leave:vacation', amount }],
    });

  it('is cashed out by the hours entered, and twelve months are counted', async () => {
    const item = {
      code: 'cashed-out',
      name: 'Vacation paid out',
      kind: 'earning',
      treatment: 'wages',
      method: { by: 'hours', multiple: '1' },
      order: 26,
    };
    await addPayItem(scope, payItemSchema.parse(item));
    const out = { cashOutItem: 'cashed-out', cashOutKeeps: '20', cashOutAtMost: '30' };
    expect(
      await refusal(changeLeavePlan(scope, plan, { from: '2026-01-01', terms: terms({ ...out, cashOutItem: 'vacation' }) })),
    ).toContain('go through two items');
    expect(await refusal(changeLeavePlan(scope, plan, { from: '2026-01-01', terms: terms({ ...out, cashOutItem: 'bonus' }) }))).toContain(
      'not paid by the hour',
    );
    await changeLeavePlan(scope, plan, { from: '2026-01-01', terms: terms(out) });
    await opening('60');
    const run = await place.run();
    const { id: payslipId, lines, version } = await payslipOf(run, place.people.hourly);
    const ordinary = lines.find(({ code }) => code === 'ordinary')?.quantity;
    await changePayslip(scope, run, payslipId, { version, edits: { hours: { 'cashed-out': '24' } } });
    // What is paid out was not worked: the ordinary hours stay as they were.
    expect((await payslipOf(run, place.people.hourly)).lines.find(({ code }) => code === 'ordinary')?.quantity).toBe(ordinary);
    expect(await movements(run, place.people.hourly)).toEqual({ 'vacation:earned': 400, 'vacation:paid-out': -2400 });
    await place.approve(run);
    scope = await place.scope();
    expect(await balance()).toBe(4000);
    // 24 hours of the 30 are used up: 8 more are two too many.
    const next = await place.run({ from: '2026-11-22', to: '2026-12-05', payDate: '2026-12-11' });
    const later = await payslipOf(next, place.people.hourly);
    await changePayslip(scope, next, later.id, { version: later.version, edits: { hours: { 'cashed-out': '8' } } });
    const said = (await openPoints(scope, await openRun(scope, next)))
      .map(({ sentence }) => sentence)
      .filter((sentence) => sentence.startsWith('Vacation: '));
    expect(said.join(' ')).toContain('with these 8.00 hours, 32.00 are cashed out within twelve months, and at most 30 may be');
  });

  it('is earned by the approved payslip, and given back by its reversal', async () => {
    const run = await place.run();
    expect(await movements(run, place.people.hourly)).toEqual({ 'vacation:earned': 400 });
    expect(await balance()).toBe(0);
    await place.approve(run);
    expect(await balance()).toBe(400);
    await reversePayslip(scope, (await payslipOf(run, place.people.hourly)).id, 'Paid twice', false);
    expect(await balance()).toBe(0);
    expect(await balancesOutOfStep(scope)).toEqual([]);
    const [kept] = (await personLeave(scope, place.people.hourly)).plans;
    expect(kept?.movements.map((one) => [one.amount, one.balance, one.what])).toEqual([
      [-400, 0, 'reversal'],
      [400, 400, ''],
    ]);
  });

  it('approved is in the open run at once: in the hours of who is paid by the hour, within the salary of others', async () => {
    const run = await place.run();
    await opening('40');
    await opening('40', 'S1');
    await approved('2026-11-09', '2026-11-10');
    const hourly = await payslipOf(run, place.people.hourly);
    expect(hourly.lines.filter((line) => line.kind === 'earning').map((line) => [line.code, line.quantity])).toEqual([
      ['ordinary', '64.00'],
      ['vacation', '16.00'],
    ]);
    expect(await movements(run, place.people.hourly)).toEqual({ 'vacation:taken': -1600, 'vacation:earned': 400 });
    const gross = (await payslipOf(run, place.people.salaried)).totals.gross;
    await approved('2026-11-12', '2026-11-12', place.people.salaried);
    const salaried = await payslipOf(run, place.people.salaried);
    expect(salaried.totals.gross).toBe(gross);
    expect(await movements(run, place.people.salaried)).toEqual({ 'vacation:taken': -800, 'vacation:earned': 400 });
  });

  it('leaves weekends and holidays out of a request, and says what it comes to', async () => {
    await opening('20');
    await place.run();
    // Thanksgiving is Thu 26 Nov 2026.
    const check = await checkLeave(scope, { personId: place.people.hourly, planId: plan, from: '2026-11-24', to: '2026-11-30', note: '' });
    expect(check.days.map((day) => day.date)).toEqual(['2026-11-24', '2026-11-25', '2026-11-27', '2026-11-30']);
    // The period of 8 to 21 Nov and that of 22 Nov to 5 Dec earn 4 hours each before it ends.
    expect([check.hours, check.balance, check.before, check.after]).toEqual(['32.00', '20.00', '28.00', '-4.00']);
    expect(check.against).toEqual(['It leaves −4.00 hours, and the plan allows none below zero.']);
  });

  it('refuses days that are asked for already, and asks for a reason where something is against it', async () => {
    await askLeave(scope, { personId: place.people.hourly, planId: plan, from: '2026-12-01', to: '2026-12-04', note: '' });
    const again = { personId: place.people.hourly, planId: plan, from: '2026-12-04', to: '2026-12-07', note: '' };
    expect(await refusal(askLeave(scope, again))).toContain('Leave is asked already for 1 – 4 Dec 2026');
    const [waiting] = (await leavePage(scope, '2026-12')).requests;
    const decide = (state: 'approved' | 'declined', comment: string) =>
      decideLeave(scope, waiting?.id ?? '', { state, version: 1, comment });
    expect(await refusal(decide('approved', ''))).toContain('the plan allows none below zero');
    expect(await refusal(decide('declined', ''))).toContain('Say why');
    await decide('approved', 'Agreed in advance');
    expect(await refusal(decide('declined', 'Too late'))).toContain('Somebody else decided');
  });

  it('once on a posted payslip is not withdrawn', async () => {
    await opening('40');
    const id = await approved('2026-11-09', '2026-11-09');
    const run = await place.run();
    await place.approve(run);
    expect(await refusal(decideLeave(scope, id, { state: 'withdrawn', version: 2, comment: '' }))).toContain('on a payslip that is posted');
  });

  it('taken beyond the balance is an open point with the figure', async () => {
    const run = await place.run();
    const payslip = await payslipOf(run, place.people.hourly);
    await changePayslip(scope, run, payslip.id, { version: payslip.version, edits: { hours: { vacation: '12' } } });
    const points = await openPoints(scope, await openRun(scope, run));
    expect(points.map((point) => point.sentence)).toContain(jasmine.stringContaining('leave a balance of −8.00'));
    expect((await payslipOf(run, place.people.hourly)).workings['leave:vacation']?.amount).toBe('-8.00');
  });

  it('terms change from a day on; what was posted stays', async () => {
    const run = await place.run();
    await place.approve(run);
    await changeLeavePlan(scope, plan, {
      from: '2026-11-22',
      terms: terms({ earns: { by: 'period', steps: [{ fromMonths: 0, hours: '6' }] } }),
    });
    expect(await balance()).toBe(400);
    const next = await place.run({ from: '2026-11-22', to: '2026-12-05', payDate: '2026-12-11' });
    expect(await movements(next, place.people.hourly)).toEqual({ 'vacation:earned': 600 });
    expect(await refusal(removeLeavePlan(scope, plan))).toContain('2 people are or were in Vacation');
  });

  it('a change of terms is rehearsed on the open run', async () => {
    await place.run();
    const unpaid = terms({
      name: 'Unpaid',
      item: undefined,
      payOutItem: undefined,
      mayOwe: '500',
      earns: { by: 'period', steps: [{ fromMonths: 0, hours: '0' }] },
    });
    const other = (await addLeavePlan(scope, { code: 'unpaid', from: '2026-01-01', terms: unpaid })).id;
    await setLeaveMembers(scope, other, { personIds: [place.people.hourly], from: '2026-01-01', end: false });
    const { id } = await askLeave(scope, { personId: place.people.hourly, planId: other, from: '2026-11-09', to: '2026-11-09', note: '' });
    const effect = await rehearse(scope, (inside) => decideLeave(inside, id, { state: 'approved', version: 1, comment: '' }));
    expect(effect.people[0]?.after).toBeLessThan(effect.people[0]?.before ?? 0);
    expect(effect.people.map((one) => one.name)).toEqual(['Hana Hourly']);
    expect((await personLeave(scope, place.people.hourly)).requests[0]?.state).toBe('asked');
  });

  it('left over is paid out with the final pay, in its own run or the regular one', async () => {
    await opening('10');
    const { runId } = await leaves(scope, place.people.hourly, {
      lastDay: '2026-11-20',
      reason: 'Moves away',
      notice: { how: 'none' },
      amounts: [],
      paysLeave: true,
      finalPay: { in: 'own-run', payDate: '2026-11-24', taxMethod: 'flat', ordinaryDeductions: false },
    });
    await calculateRun(scope, runId ?? '');
    const payslip = await payslipOf(runId ?? '', place.people.hourly);
    // Ten hours at 25.00; a run beside the regular ones earns nothing.
    expect(payslip.lines.find((line) => line.code === 'bonus')?.amount).toBe(25_000);
    await place.approve(runId ?? '');
    expect(await balance()).toBe(0);
    // The regular run pays what its period still earns, and the ordinary hours until Fri 20 Nov.
    const regular = await place.run();
    const last = await payslipOf(regular, place.people.hourly);
    expect(last.lines.find((line) => line.code === 'bonus')?.amount).toBe(10_000);
    expect(last.lines.find((line) => line.code === 'ordinary')?.quantity).toBe('80.00');
  });

  it('comes with a group, and ends when the group has it no longer', async () => {
    await setLeaveMembers(scope, plan, { personIds: [place.people.hourly], from: '2026-01-01', end: true });
    const defaults = groupDefaultsSchema.parse({ leavePlans: [plan] });
    const { id } = await addGroup(scope, { name: 'Shop', defaults });
    const effect = await moveToGroup(scope, id, { personIds: [place.people.hourly], from: '2026-11-08' });
    expect(effect.follow[0]?.what).toEqual(['leave plan Vacation']);
    expect((await personLeave(scope, place.people.hourly)).plans.map((one) => one.from)).toEqual(['2026-11-08']);
    const [group] = await groupsOf(scope);
    await changeGroup(scope, id, {
      name: 'Shop',
      version: group?.version ?? 0,
      defaults: { ...defaults, leavePlans: [] },
      passOnFrom: '2026-12-06',
    });
    expect((await personLeave(scope, place.people.hourly)).plans.map((one) => one.to)).toEqual(['2026-12-05']);
  });

  it('balances are adjusted without payment, shown before, and only where there is such a balance', async () => {
    const entries = [{ person: 'H1', balance: 'leave:vacation', amount: '12.50' }];
    const body = { date: '2026-11-01', reason: 'From the earlier system', entries };
    expect((await checkAdjustment(scope, body)).changes).toEqual([
      { name: 'Hana Hourly', label: 'Vacation', unit: 'hours', before: 0, after: 1250 },
    ]);
    expect(await balance()).toBe(0);
    await adjustBalances(scope, body);
    expect(await balance()).toBe(1250);
    const [moved] = (await personLeave(scope, place.people.hourly)).plans[0]?.movements ?? [];
    expect((await payslipView(scope, moved?.payslipId ?? '')).workings[moved?.figure ?? '']?.notes).toEqual([
      'Reason: From the earlier system',
    ]);
    const wrong = await refusal(
      adjustBalances(scope, { ...body, entries: [...entries, { person: 'H1', balance: 'us.fit', amount: '5' }] }),
    );
    expect(wrong).toContain('Line 2');
    expect(await balance()).toBe(1250);
    expect((await adjustable(scope, place.people.hourly)).map((one) => one.code)).toContain('health');
    expect(await leaveCsv(scope)).toContain('H1,"Hourly, Hana",,Vacation,12.50,0.00');
    expect(await balancesOutOfStep(scope)).toEqual([]);
  });

  it('needs an item paid by the hour', async () => {
    const why = await refusal(addLeavePlan(scope, { code: 'other', from: '2026-01-01', terms: terms({ item: 'bonus' }) }));
    expect(why).toContain('not paid by the hour');
    expect(await refusal(addLeavePlan(scope, { code: 'vacation', from: '2026-01-01', terms: terms() }))).toContain('already a leave plan');
  });
});
