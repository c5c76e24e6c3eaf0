import { specialRunSchema } from '@woodruff/contract';
import { addOneOffs, oneOffPage } from '../../one-offs/service';
import { deliverRun, deliveryOf, outbox, sendWaiting } from '../../mail/service';
import { changePerson, personPage } from '../../people/service';
import { testDatabase } from '../../testing/database';
import { refusal } from '../../testing/refusal';
import { PERIOD, Workplace } from '../../testing/workplace';
import type { Scope } from '../../scope';
import { approveRun, sendBackRun, submitRun } from '../posting/approval';
import { calculateRun, openRun } from '../../calculation/calculation';
import { reversePayslip, runReversalPreview } from './corrections';
import { acceptPoint, changePayslip } from '../sheet/edits';
import { balancesOutOfStep } from '../../ledger/posting';
import { openPoints } from '../sheet/points';
import { runView, sheetOf } from '../sheet/sheet';
import { startSpecialRun } from '../making/special';
import { reverseRun, withdrawRun } from './whole-run';
import { payslipView } from '../sheet/payslips';
import { proposals } from '../making/start';

let place: Workplace;
let scope: Scope;
const settle = async (run: string) => {
  for (const point of await openPoints(scope, await openRun(scope, run)))
    if (point.weight === 'look' && !point.accepted) await acceptPoint(scope, run, point.key, 'looked at');
};
const approve = async (run: string) => {
  await settle(run);
  await approveRun(scope, run, (await runView(scope, run)).version, `key-${run}`);
};
const rowOf = async (run: string, person: string) => (await sheetOf(scope, run)).rows.find((row) => row.personId === person)!;

describe('A run submitted for approval', () => {
  beforeEach(async () => {
    place = await Workplace.make({ secondPersonApproves: true });
    scope = await place.scope();
  });

  it('is frozen, sent back with a comment, and approved by somebody else', async () => {
    const run = await place.run();
    expect(await refusal(submitRun(scope, run, (await runView(scope, run)).version))).toContain('keeps this run from being submitted');
    await settle(run);
    await submitRun(scope, run, (await runView(scope, run)).version);
    const row = await rowOf(run, place.people.salaried);
    expect(await refusal(changePayslip(scope, run, row.payslipId, { version: row.version, edits: { note: 'late' } }))).toContain(
      'submitted for approval',
    );
    expect(await refusal(approveRun(scope, run, (await runView(scope, run)).version, 'k'))).toContain('second pair of eyes');
    const approver = await place.scope('approver');
    expect(await refusal(sendBackRun(approver, run, ''))).toContain('Say what is to be changed');
    await sendBackRun(approver, run, 'hours of the shop are missing');
    expect((await runView(scope, run)).sentBack).toBe('The approver: hours of the shop are missing');
    await submitRun(scope, run, (await runView(scope, run)).version);
    await approveRun(approver, run, (await runView(scope, run)).version, 'key');
    expect((await runView(scope, run)).state).toBe('approved');
  });

  it('can be fetched back by who submitted it, not sent back by a viewer', async () => {
    const run = await place.run();
    await settle(run);
    await submitRun(scope, run, (await runView(scope, run)).version);
    expect(await refusal(sendBackRun(await place.scope('viewer'), run, 'no reason'))).toContain('Only who may approve');
    await sendBackRun(scope, run, '');
    const view = await runView(scope, run);
    expect([view.state, view.sentBack]).toEqual(['open', null]);
  });
});

describe('An approved run', () => {
  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
  });

  it('tells before it is reversed what that touches: sums of the year, payments, the return', async () => {
    const run = await place.run();
    await approve(run);
    const [hourly, salaried] = [await rowOf(run, place.people.hourly), await rowOf(run, place.people.salaried)];
    const gross = hourly.totals.gross + salaried.totals.gross;
    const preview = await runReversalPreview(scope, run);
    expect([preview.net, preview.touches[0]]).toEqual([
      hourly.totals.net + salaried.totals.net,
      { what: 'Gross pay in 2026', before: gross, after: 0 },
    ]);
    expect(preview.notes.at(-1)).toContain('Form 941, quarter 4 of 2026; Form 940, 2026; Form W-2, 2026; Forms UC-2');
    // What is reversed already is not touched again, and its payment is not asked back twice.
    await reversePayslip(scope, hourly.payslipId, 'wrong', false);
    const rest = await runReversalPreview(scope, run);
    expect([rest.name, rest.net, rest.touches[0]]).toEqual([
      '2 payslips',
      salaried.totals.net,
      { what: 'Gross pay in 2026', before: salaried.totals.gross, after: 0 },
    ]);
    await reverseRun(scope, run, 'wrong period', false);
    expect((await runReversalPreview(scope, run)).touches[0]).toEqual({ what: 'Gross pay in 2026', before: 0, after: 0 });
  });

  it('is withdrawn before its cut-off: posted and reversed on one pay date, and a draft with the same entries takes its place', async () => {
    const run = await place.run();
    const row = await rowOf(run, place.people.hourly);
    await changePayslip(scope, run, row.payslipId, { version: row.version, edits: { hours: { ordinary: '70.00' } } });
    await addOneOffs(scope, { entries: [{ person: 'S1', item: 'bonus', amount: '50.00', note: '', takes: { by: 'next' } }] });
    await approve(run);
    const { id } = await withdrawRun(scope, run, 'hours came late');
    await calculateRun(scope, id);
    expect((await runView(scope, run)).state).toBe('withdrawn');
    const draft = await runView(scope, id);
    expect([draft.kind, draft.payDate, draft.state]).toEqual(['regular', PERIOD.payDate, 'open']);
    expect((await rowOf(id, place.people.hourly)).hours['ordinary']).toBe('70.00');
    expect((await payslipView(scope, (await rowOf(id, place.people.salaried)).payslipId)).taken.length).toBe(1);
    expect((await personPage(scope, place.people.hourly)).yearToDate.gross).toBe(0);
    await approve(id);
    expect(await balancesOutOfStep(scope)).toEqual([]);
    expect((await proposals(scope))[0]?.from).toBe('2026-11-22');
  });

  it('is not withdrawn after its cut-off, nor when one of its people was paid since', async () => {
    const run = await place.run();
    await approve(run);
    const late = { ...scope, employer: { ...scope.employer, today: '2026-11-26' } };
    expect(await refusal(withdrawRun(late, run, 'too late'))).toContain('cut-off of this run has passed');
    const special = await startSpecialRun(
      scope,
      specialRunSchema.parse({
        scheduleId: place.scheduleId,
        name: 'Bonus',
        payDate: '2026-12-04',
        rules: {},
        people: [{ personId: place.people.salaried, amounts: [{ item: 'bonus', amount: '100.00' }] }],
      }),
    );
    await calculateRun(scope, special.id);
    await approve(special.id);
    expect(await refusal(withdrawRun(scope, run, 'too late'))).toContain('Sol Salaried has been paid since');
  });

  it('is reversed whole, dated today, with a replacement of what still stood', async () => {
    const run = await place.run();
    await approve(run);
    await reversePayslip(scope, (await rowOf(run, place.people.salaried)).payslipId, 'cheque lost', false);
    const { replacementRun } = await reverseRun(scope, run, 'paid from the wrong account', true);
    await calculateRun(scope, replacementRun ?? '');
    expect((await sheetOf(scope, replacementRun ?? '')).rows.map((row) => row.name).sort()).toContain('Hourly, Hana');
    expect((await personPage(scope, place.people.hourly)).yearToDate.net).toBe(0);
    expect(await refusal(reverseRun(scope, run, 'again', false))).toContain('all are reversed already');
    expect(await balancesOutOfStep(scope)).toEqual([]);
  });

  it('is delivered once to each address; who has none is named for paper, and reports go to people who work here', async () => {
    for (const [person, email] of [
      [place.people.hourly, 'hana@example.test'],
      [place.people.salaried, 'sol@example.test'],
    ] as const) {
      const { version, facts } = await personPage(scope, person);
      await changePerson(scope, person, { version, facts: { ...facts, email } });
    }
    const run = await place.run();
    expect(await refusal(deliverRun(scope, run, { reports: [] }))).toContain('when the run is approved');
    await approve(run);
    expect(await refusal(deliverRun(scope, run, { reports: [{ to: 'else@example.test', report: 'register' }] }))).toContain(
      'does not work here',
    );
    const approver = place.emails['approver'] ?? '';
    const reports = [{ to: approver, report: 'register' as const }];
    await deliverRun(scope, run, { reports });
    await deliverRun(scope, run, { reports });
    await Promise.all([sendWaiting(testDatabase()), sendWaiting(testDatabase())]);
    const delivery = await deliveryOf(scope, run);
    expect([delivery.ready, delivery.waiting, delivery.sent]).toEqual([0, 0, 2]);
    expect(delivery.paper.map((person) => person.name)).toEqual(['Xeno Seasonal']);
    const sent = await outbox(scope);
    expect(sent.map((message) => message.to).sort()).toEqual([approver, 'hana@example.test', 'sol@example.test'].sort());
    expect(sent.every((message) => message.deliveredAt)).toBeTrue();
  });
});

describe('A special run', () => {
  const special = (more: object = {}, rules: object = {}) =>
    startSpecialRun(
      scope,
      specialRunSchema.parse({
        scheduleId: place.scheduleId,
        name: 'Year-end bonus',
        payDate: '2026-11-27',
        rules,
        people: [place.people.hourly, place.people.salaried].map((personId) => ({
          personId,
          amounts: [{ item: 'bonus', amount: '1000.00' }],
        })),
        ...more,
      }),
    ).then(async ({ id }) => {
      await calculateRun(scope, id);
      return id;
    });
  const codes = async (run: string, person: string) =>
    (await payslipView(scope, (await rowOf(run, person)).payslipId)).lines
      .filter((line) => ['earning', 'deduction-before-tax', 'deduction-after-tax'].includes(line.kind))
      .map((line) => `${line.code} ${line.amount}`);

  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
  });

  it('pays what is entered for it, without salary, standard hours or ordinary deductions, beside a regular run on the same dates', async () => {
    const regular = await place.run();
    const run = await special();
    expect(await codes(run, place.people.hourly)).toEqual(['bonus 100000']);
    expect(await codes(run, place.people.salaried)).toEqual(['bonus 100000']);
    await approve(run);
    await calculateRun(scope, regular);
    expect(await codes(regular, place.people.hourly)).toContain('ordinary 200000');
    expect((await runView(scope, run)).name).toBe('Year-end bonus');
  });

  it('takes chosen items, or all ordinary deductions', async () => {
    expect(await codes(await special({}, { items: ['health'] }), place.people.hourly)).toEqual(['bonus 100000', 'health 5000']);
    expect(await codes(await special({}, { ordinaryDeductions: true }), place.people.hourly)).toEqual(['bonus 100000', 'health 5000']);
  });

  it('is taxed flat, or in the aggregate with the latest regular payslip', async () => {
    const regular = await place.run();
    await approve(regular);
    const taxOf = async (run: string) =>
      (await payslipView(scope, (await rowOf(run, place.people.salaried)).payslipId)).lines.find((line) => line.code === 'us.fit')?.amount;
    // The flat rate of 22% (Publication 15, section 7).
    expect(await taxOf(await special({ payDate: '2026-12-04' }))).toBe(22_000);
    // 26 pays of 1,000.00 more: 1,500.00 of it at 12%, 24,500.00 at 22%, over 26.
    expect(await taxOf(await special({ payDate: '2026-12-04' }, { taxMethod: 'aggregate' }))).toBe(21_423);
  });

  it('can be fed from the one-offs that wait for its items', async () => {
    await addOneOffs(scope, { entries: [{ person: 'H1', item: 'bonus', amount: '75.00', note: '', takes: { by: 'next' } }] });
    const run = await special({ people: [{ personId: place.people.hourly, amounts: [] }] }, { items: ['bonus'], takesWaiting: true });
    expect(await codes(run, place.people.hourly)).toEqual(['bonus 7500']);
    expect((await oneOffPage(scope, false)).oneOffs[0]?.state).toBe('in-run');
  });

  it('refuses who cannot be paid, an unknown item and a date without tables', async () => {
    const someone = (personId: string, item = 'bonus') => ({ people: [{ personId, amounts: [{ item, amount: '1.00' }] }] });
    expect(await refusal(special(someone(place.people.unfinished)))).toContain('Una Unfinished cannot be in this run: No rate of pay');
    expect(await refusal(special(someone(place.people.hourly, 'gift')))).toContain('no pay item “gift”');
    expect(await refusal(special({ payDate: '2031-01-03' }))).toContain('no United States tables');
  });
});
