import { leavingSchema } from '@woodruff/contract';
import { execute } from '../database/connection';
import { addTaxDetails } from '../people/tax/tax-details';
import { testDatabase } from '../testing/database';
import { approveRun } from '../pay-runs/posting/approval';
import { calculateRun, openRun } from '../calculation/calculation';
import { acceptPoint } from '../pay-runs/sheet/edits';
import { payslipView } from '../pay-runs/sheet/payslips';
import { balancesOutOfStep } from '../ledger/posting';
import { rehearse } from '../calculation/rehearsal';
import { openPoints } from '../pay-runs/sheet/points';
import { listRuns, runView, sheetOf } from '../pay-runs/sheet/sheet';
import { oneOffPage } from '../one-offs/service';
import { refusal } from '../testing/refusal';
import { britishWorks } from '../testing/british-works';
import { approveAll, Workplace } from '../testing/workplace';
import type { Scope } from '../scope';
import { finalPay, noticePayOf, owedOnLeaving } from './final-pay';
import { changeLeaving, leave, leavingOf, undoLeaving } from './leaving';
import { leavingCertificate } from './certificate';
import { leavingStatement } from './statement';
import { personPage } from '../people/service';

describe('Leaving', () => {
  let place: Workplace;
  let scope: Scope;
  const body = (more: object = {}) =>
    leavingSchema.parse({
      lastDay: '2026-11-20',
      reason: 'moves away',
      notice: { given: '2026-11-06', how: 'worked' },
      amounts: [{ item: 'bonus', amount: '1200.00', note: 'unused leave' }],
      finalPay: { in: 'own-run', payDate: '2026-11-25', taxMethod: 'flat', ordinaryDeductions: true },
      ...more,
    });
  const approve = async (run: string) => {
    for (const point of await openPoints(scope, await openRun(scope, run)))
      if (point.weight === 'look') await acceptPoint(scope, run, point.key, 'looked at');
    await approveRun(await place.scope(), run, (await runView(scope, run)).version, `key-${run}`);
  };

  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
  });

  it('ends the record and its items with the final pay, which has a run of its own', async () => {
    const { runId } = await leave(scope, place.people.hourly, body());
    await calculateRun(scope, runId ?? '');
    const [row] = (await sheetOf(scope, runId ?? '')).rows;
    const payslip = await payslipView(scope, row?.payslipId ?? '');
    expect(
      payslip.lines.filter((line) => ['earning', 'deduction-before-tax'].includes(line.kind)).map((line) => `${line.code} ${line.amount}`),
    ).toEqual(['bonus 120000', 'health 5000']);
    const page = await personPage(scope, place.people.hourly);
    // The period that holds the last day is paid on the 27th: until then the premium is taken.
    expect([page.facts.left, page.facts.leftReason, page.items[0]?.to]).toEqual(['2026-11-20', 'moves away', '2026-11-27']);
    expect((await leavingOf(scope, place.people.hourly))?.runId).toBe(runId);
  });

  it('can be undone before and after the final pay: the run goes or is reversed, record and items come back', async () => {
    const first = await leave(scope, place.people.hourly, body());
    await calculateRun(scope, first.runId ?? '');
    await undoLeaving(scope, place.people.hourly, 'stays after all');
    expect((await listRuns(scope)).length).toBe(0);
    const second = await leave(scope, place.people.hourly, body());
    await calculateRun(scope, second.runId ?? '');
    scope = await place.scope();
    await calculateRun(scope, second.runId ?? '');
    await approve(second.runId ?? '');
    await undoLeaving(scope, place.people.hourly, 'stays after all');
    const page = await personPage(scope, place.people.hourly);
    expect([page.facts.left, page.items[0]?.to, page.yearToDate.net]).toEqual([null, null, 0]);
    expect(await balancesOutOfStep(scope)).toEqual([]);
    expect(await leavingOf(scope, place.people.hourly)).toBeNull();
  });

  it('pays with the next regular run when wanted, and can be looked at before it is saved', async () => {
    const run = await place.run();
    const wanted = body({ finalPay: { in: 'next-run' } });
    const effect = await rehearse(scope, (inside) => leave(inside, place.people.hourly, wanted), place.people.hourly);
    expect(effect.people.length).toBe(1);
    expect(await leavingOf(scope, place.people.hourly)).toBeNull();
    expect((await leave(scope, place.people.hourly, wanted)).runId).toBeNull();
    expect((await oneOffPage(scope, false)).oneOffs[0]?.runId).toBe(run);
  });

  it('shows the final payslip before it is saved: in a run of its own, with a run that is begun, and with one that is not', async () => {
    const { hourly } = place.people;
    const lines = async (more: object) => {
      const shown = await finalPay(scope, hourly, body(more));
      return [
        shown?.with,
        shown?.payDate,
        ...(shown?.lines ?? []).filter(({ kind }) => kind !== 'tax').map(({ label, amount }) => `${label} ${amount}`),
      ];
    };
    expect(await lines({})).toEqual(['Final pay, Hana Hourly', '2026-11-25', 'bonus 120000', 'health 5000']);
    // The 20th is the last weekday of the period: all its standard hours are paid.
    const regular = ['the regular pay of 8 – 21 Nov 2026', '2026-11-27', 'ordinary 200000', 'bonus 120000', 'health 5000'];
    expect(await lines({ finalPay: { in: 'next-run' } })).toEqual(regular);
    await place.run();
    expect(await lines({ finalPay: { in: 'next-run' } })).toEqual(regular);
    expect(await leavingOf(scope, hourly)).toBeNull();
    expect((await oneOffPage(scope, false)).oneOffs).toEqual([]);
    const shown = await finalPay(scope, hourly, body());
    expect(shown?.workings['us.fit']?.steps.length).toBeGreaterThan(0);
    expect(shown?.net).toBe((shown?.lines ?? []).reduce((sum, { kind, amount }) => sum + (kind === 'earning' ? amount : -amount), 0));
  });

  it('says when the law of the place wants final pay earlier than it is paid', async () => {
    const { hourly } = place.people;
    const later = { finalPay: { in: 'next-run' }, lastDay: '2026-11-10' };
    const told = async (kind: string) =>
      (await finalPay(scope, hourly, body({ ...later, kind })))?.problems.filter(({ sentence }) =>
        sentence.includes('law wants final pay'),
      );
    expect(await told('dismissed')).toEqual([]);
    await execute(
      testDatabase(),
      `update employers set facts = jsonb_set(facts, '{country,states,TX}', '{"unemploymentRate": "2.7"}') where id = :id`,
      {
        id: place.employerId,
      },
    );
    scope = await place.scope();
    const facts = { federal: { certificate: '2020', status: 'single' }, residentState: 'TX', workState: 'TX' };
    await addTaxDetails(scope, hourly, { from: '2026-06-01', facts });
    // Texas Labor Code 61.014: six days; paid on the 27th.
    expect((await told('dismissed'))?.map(({ sentence }) => sentence)).toEqual([jasmine.stringContaining('by Mon 16 Nov 2026')]);
    expect(await told('resigned')).toEqual([]);
  });

  it('is changed until the final pay is approved: what it had done before goes', async () => {
    const { hourly } = place.people;
    const run = await place.run();
    await leave(scope, hourly, body({ finalPay: { in: 'next-run' } }));
    expect((await leavingOf(scope, hourly))?.entered?.amounts[0]?.amount).toBe('1200.00');
    const amounts = [{ item: 'bonus', amount: '900.00', note: 'agreed' }];
    await changeLeaving(scope, hourly, body({ lastDay: '2026-11-19', amounts, finalPay: { in: 'next-run' } }));
    expect((await oneOffPage(scope, false)).oneOffs.map(({ amount, note, runId }) => [amount, note, runId])).toEqual([
      ['900.00', 'agreed', run],
    ]);
    expect((await personPage(scope, hourly)).facts.left).toBe('2026-11-19');
    const { runId } = await changeLeaving(scope, hourly, body());
    expect((await oneOffPage(scope, false)).oneOffs).toEqual([]);
    await calculateRun(scope, runId ?? '');
    scope = await place.scope();
    await calculateRun(scope, runId ?? '');
    await approve(runId ?? '');
    expect(await refusal(changeLeaving(scope, hourly, body()))).toContain('The final pay is approved');
  });

  it('undone takes its lump sum out of the regular run, unless it was paid with it', async () => {
    const { hourly } = place.people;
    const run = await place.run();
    await leave(scope, hourly, body({ finalPay: { in: 'next-run' } }));
    await undoLeaving(scope, hourly, 'stays after all');
    expect((await oneOffPage(scope, false)).oneOffs).toEqual([]);
    await leave(scope, hourly, body({ finalPay: { in: 'next-run' } }));
    scope = await place.scope();
    await calculateRun(scope, run);
    await approve(run);
    expect(await refusal(undoLeaving(scope, hourly, 'stays after all'))).toContain('Reverse that payslip first');
  });

  it('pays its lump sum with the period of the last day, not with a run before it', async () => {
    await place.run();
    await leave(scope, place.people.hourly, body({ lastDay: '2026-12-01', finalPay: { in: 'next-run' } }));
    const [lump] = (await oneOffPage(scope, false)).oneOffs;
    expect([lump?.state, lump?.takes]).toEqual(['waiting', { by: 'date', date: '2026-12-11' }]);
  });

  it('does not wait for a regular run that will not come', async () => {
    const run = await place.run();
    await approve(run);
    const late = { finalPay: { in: 'next-run' } };
    expect(await refusal(leave(scope, place.people.hourly, body(late)))).toContain('8 – 21 Nov 2026 is paid already');
    expect(await finalPay(scope, place.people.hourly, body({ ...late, amounts: [] }))).toBeNull();
  });

  it('gives the employee a statement, and refuses a second leaving, an impossible day and worked notice without its day', async () => {
    const statement = async () => (await leavingStatement(scope, place.people.hourly)).subarray(0, 5).toString();
    expect(await refusal(statement())).toContain('leaving');
    expect(await refusal(leave(scope, place.people.hourly, body({ lastDay: '2020-01-01' })))).toContain('before the hire date');
    expect(await refusal(leave(scope, place.people.hourly, body({ notice: { how: 'worked' } })))).toContain(
      'Notice that is worked was given on a day',
    );
    const { runId } = await leave(scope, place.people.hourly, body());
    await calculateRun(scope, runId ?? '');
    expect(await statement()).toBe('%PDF-');
    expect(await refusal(leave(scope, place.people.hourly, body()))).toContain('A leaving is entered');
  });

  it('suggests what notice that is not worked comes to, at the rate of the last day', async () => {
    const ask = (until: string, person = place.people.hourly) => noticePayOf(scope, person, { lastDay: '2026-11-20', until });
    // 80 standard hours a fortnight at 25.00: 200.00 a day, ten weekdays.
    const sum = await ask('2026-12-04');
    expect([sum.amount, sum.workings['notice:day']?.amount]).toEqual(['2000.00', '200.00']);
    expect(await refusal(ask('2026-11-20'))).toContain('goes beyond the last day');
    expect(await refusal(ask('2026-12-04', place.people.seasonal))).toContain('No standard hours are on file');
    expect(
      await refusal(leave(scope, place.people.hourly, body({ notice: { how: 'paid', given: '2026-11-20', until: '2026-11-19' } }))),
    ).toContain('goes beyond the last day');
  });

  it('keeps until when notice goes', async () => {
    await leave(scope, place.people.hourly, body({ notice: { how: 'paid', given: '2026-11-20', until: '2026-12-04' } }));
    expect((await leavingOf(scope, place.people.hourly))?.notice).toEqual({ how: 'paid', given: '2026-11-20', until: '2026-12-04' });
  });
});

describe('A certificate of leaving', () => {
  it('is made where the law wants one, of what is posted, and by nobody who may not see the number', async () => {
    const works = await britishWorks();
    const scope = await works.scope();
    const [person] = works.people;
    expect(await refusal(leavingCertificate(scope, person))).toContain('certificate of leaving');
    await leave(scope, person, {
      lastDay: '2026-11-30',
      reason: 'Moves away',
      notice: { how: 'none' },
      amounts: [],
      paysLeave: false,
      finalPay: { in: 'next-run' },
    });
    expect((await leavingOf(scope, person))?.certificate).toBe('P45');
    await approveAll(scope, await works.run());
    expect((await leavingCertificate(await works.scope(), person)).subarray(0, 5).toString()).toBe('%PDF-');
    const place = await Workplace.make();
    expect(await refusal(leavingCertificate(await place.scope(), place.people.hourly))).toContain('certificate of leaving');
  });
});

describe('What the law wants paid to who leaves', () => {
  it('is shown with its working and the item that pays it, and says why nothing is owed', async () => {
    const works = await britishWorks({ hired: '2020-11-01' });
    const scope = await works.scope();
    const [rhian] = works.people;
    const none = await owedOnLeaving(scope, rhian, { lastDay: '2021-11-30', kind: 'redundant' });
    expect(none.payments.map(({ amount, sentence }) => [amount, sentence.slice(0, 14)])).toEqual([[null, 'Nothing by law']]);
    // Six years at 36,000.00 a year: 692.31 a week, all from 22 to 40 years old.
    const { payments, notice, workings } = await owedOnLeaving(scope, rhian, { lastDay: '2026-10-31', kind: 'redundant' });
    expect(payments.map(({ amount, item }) => [amount, item])).toEqual([['4153.86', null]]);
    expect(notice).toContain('6 weeks of notice');
    expect(workings['redundancy']?.steps.length).toBeGreaterThan(1);
    expect((await owedOnLeaving(scope, rhian, { lastDay: '2026-10-31', kind: 'resigned' })).payments).toEqual([]);
  });
});
