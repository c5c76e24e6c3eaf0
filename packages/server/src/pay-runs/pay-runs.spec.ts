import { payItemSchema } from '@woodruff/contract';
import { computePayslip, type PayslipInput, type PayslipLine } from '@woodruff/core';
import fc from 'fast-check';
import { execute, select } from '../database/connection';
import { testDatabase } from '../testing/database';
import { PERIOD, Workplace } from '../testing/workplace';
import type { Scope } from '../scope';
import { approveRun } from './posting/approval';
import { calculateRun, openRun } from '../calculation/calculation';
import { reversalPreview, reversePayslip } from './corrections/corrections';
import { registerCsv, registerXlsx, payslipsPdf } from './deliver/documents';
import { acceptPoint, changePayslip, discardEdits, wouldLose } from './sheet/edits';
import { Payslip } from '../calculation/models';
import { compareRun, netWanted, payslipView, whyDifferent } from './sheet/payslips';
import { balancesOutOfStep } from '../ledger/posting';
import { openPoints } from './sheet/points';
import { runView, sheetOf } from './sheet/sheet';
import { proposals, startRun } from './making/start';
import { addPayItem, payItemPage, changePayItem } from '../pay-items/service';
import { rehearse } from '../calculation/rehearsal';
import { addPersonItem } from '../people/employment/recurring-items';
import { behind, viewOf } from '../filings/service';
import ExcelJS from 'exceljs';

const codeOf = (error: unknown) => (error as { code: string }).code;
const refused = async (work: Promise<unknown>): Promise<string> => work.then(() => 'not refused', codeOf);

const payslipOf = async (runId: string, personId: string): Promise<Payslip> => (await Payslip.findOne({ where: { runId, personId } }))!;

async function approve(place: Workplace, runId: string, key = `key-${runId}`) {
  const scope = await place.scope();
  for (const point of await openPoints(scope, await openRun(scope, runId))) {
    if (point.weight === 'look') await acceptPoint(scope, runId, point.key, 'looked at');
  }
  const approver = await place.scope('approver');
  return approveRun(approver, runId, (await runView(approver, runId)).version, key);
}

describe('A pay run', () => {
  let place: Workplace;
  let scope: Scope;
  let run: string;
  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
    run = await place.run();
  }, 60_000);

  it('is proposed with its period and pay date, and begins with everybody who is ready', async () => {
    const other = await Workplace.make();
    const [proposal] = await proposals(await other.scope());
    expect(proposal).toEqual(jasmine.objectContaining({ from: '2026-11-22', to: '2026-12-05', payDate: '2026-12-11', people: 3 }));
    const sheet = await sheetOf(scope, run);
    expect(sheet.rows.map((row) => row.name)).toEqual(['Hourly, Hana', 'Salaried, Sol', 'Seasonal, Xeno']);
    expect(sheet.notIn).toEqual([jasmine.objectContaining({ name: 'Una Unfinished', why: 'No rate of pay; No tax details' })]);
    expect(sheet.run.totals.gross).toBe(200_000 + 250_000);
  });

  it('is proposed for the next period that has somebody to pay: those in which nobody was employed do not hold it up', async () => {
    const other = await Workplace.make();
    const elsewhere = await other.scope();
    await startRun(elsewhere, { scheduleId: other.scheduleId, from: '2026-09-13', to: '2026-09-26', payDate: '2026-10-02' });
    await execute(elsewhere.database, `update people set hired = '2026-11-09' where employer_id = :employer`, {
      employer: elsewhere.employer.id,
    });
    expect((await proposals(elsewhere)).map(({ from, to }) => [from, to])).toEqual([['2026-11-08', '2026-11-21']]);
  });

  it('is started once for a period, and only for a period of the schedule', async () => {
    expect(await refused(startRun(scope, { scheduleId: place.scheduleId, ...PERIOD }))).toBe('run-exists');
    expect(await refused(startRun(scope, { scheduleId: place.scheduleId, ...PERIOD, from: '2026-11-09' }))).toBe('invalid');
  });

  it('refuses a pay date that has no rate table', async () => {
    expect(
      await refused(startRun(scope, { scheduleId: place.scheduleId, from: '2026-12-20', to: '2027-01-02', payDate: '2027-01-08' })),
    ).toBe('no-table');
  });

  it('works an edit out at once, and takes hours entered in place of the standard ones', async () => {
    const payslip = await payslipOf(run, place.people.hourly);
    const { row } = await changePayslip(scope, run, payslip.id, { version: 1, edits: { hours: { ordinary: '70.00', overtime: '4.00' } } });
    expect(row.totals.gross).toBe(70 * 2500 + 4 * 3750);
    expect(row.version).toBe(2);
    const stored = await payslipView(scope, payslip.id);
    expect(stored.history[0]?.what).toBe('70.00 hours on ordinary; 4.00 hours on overtime');
  });

  it('takes another amount of a recurring item for this payslip only, says so in its history, and loses it when rebuilt', async () => {
    const payslip = await payslipOf(run, place.people.hourly);
    const amounts = [{ item: 'health', amount: '62.50', note: 'cover from mid-month' }];
    const { row } = await changePayslip(scope, run, payslip.id, { version: 1, edits: { amounts } });
    expect(row.totals.deductions).toBe(6_250);
    const stored = await payslipView(scope, payslip.id);
    expect(stored.history[0]?.what).toBe('health of 62.50 this once (cover from mid-month)');
    expect(stored.workings['health']?.steps[0]?.label).toBe('Given for this payslip only');
    expect((await wouldLose(scope, run)).map(({ lost }) => lost)).toEqual([['health of 62.50 this once (cover from mid-month)']]);
    await discardEdits(scope, run, payslip.id);
    await calculateRun(scope, run);
    expect((await payslipView(scope, payslip.id)).totals.deductions).toBe(5_000);
    expect(
      await refused(changePayslip(scope, run, payslip.id, { version: 3, edits: { amounts: [{ item: 'nothing', amount: '1.00' }] } })),
    ).toBe('invalid');
  });

  it('warns of 200 hours and does not refuse them', async () => {
    const payslip = await payslipOf(run, place.people.hourly);
    const { points } = await changePayslip(scope, run, payslip.id, { version: 1, edits: { hours: { ordinary: '200.00' } } });
    expect(points.map((point) => [point.key.split(':')[0], point.weight])).toContain(['hours-unlikely', 'look']);
  });

  it('lets two clerks edit one payslip only one after the other', async () => {
    const payslip = await payslipOf(run, place.people.hourly);
    await changePayslip(scope, run, payslip.id, { version: 1, edits: { note: 'first' } });
    const error = await changePayslip(scope, run, payslip.id, { version: 1, edits: { note: 'second' } }).catch(
      (found: unknown) => found as { code: string; more: { changed: { who: string }[] } },
    );
    expect((error as { code: string }).code).toBe('changed-meanwhile');
    expect((error as { more: { changed: { who: string }[] } }).more.changed[0]?.who).toBe('The clerk');
  });

  it('takes part of a deduction larger than pay, and says so', async () => {
    await addPersonItem(scope, place.people.salaried, { itemId: place.items['loan']!, amount: '9000.00', from: '2026-01-01' });
    await calculateRun(scope, run);
    const payslip = await payslipView(scope, (await payslipOf(run, place.people.salaried)).id);
    expect(payslip.totals.net).toBe(0);
    expect(payslip.problems[0]).toEqual(jasmine.objectContaining({ code: 'pay-does-not-cover', item: 'loan' }));
  });

  it('is not approved while net is below zero', async () => {
    const payslip = await payslipOf(run, place.people.seasonal);
    await changePayslip(scope, run, payslip.id, { version: 1, edits: { oneOffs: [{ id: 'v', item: 'van', amount: '900.00' }] } });
    expect(await refused(approve(place, run))).toBe('open-points');
    const points = await openPoints(scope, await openRun(scope, run));
    expect(points[0]).toEqual(jasmine.objectContaining({ weight: 'stop', who: 'Xeno Seasonal' }));
    expect(points[0]?.sentence).toContain('It lacks');
  });

  it('names the item, not the people, when its limit makes it zero for all who have it', async () => {
    await addPersonItem(scope, place.people.salaried, { itemId: place.items['health']!, amount: '40.00', from: '2026-01-01' });
    const page = await payItemPage(scope, place.items['health']!);
    const zero = {
      code: page.code,
      name: page.name,
      kind: page.kind,
      treatment: page.treatment,
      method: page.method,
      order: page.order,
      limits: { perYear: '0' },
    };
    const effect = await rehearse(scope, (inside) => changePayItem(inside, page.id, { version: page.version, item: zero }));
    expect(effect.people.map((person) => person.name))
      .withContext('before it is saved')
      .toEqual(['Hana Hourly', 'Sol Salaried']);
    await changePayItem(scope, place.items['health']!, { version: page.version, item: zero });
    await calculateRun(scope, run);
    const points = (await openPoints(scope, await openRun(scope, run))).filter((point) => point.key.startsWith('limit-is-zero'));
    expect(points.map((point) => [point.who, point.itemId])).toEqual([['health', place.items['health']!]]);
  });

  it('names the item, not the people, when it gives nothing for all who have it', async () => {
    const { id } = await addPayItem(
      scope,
      payItemSchema.parse({
        code: 'share',
        name: 'Plan share',
        kind: 'employer-contribution',
        treatment: 'employer-plan',
        method: { by: 'percent', of: { items: ['bonus'] } },
        order: 500,
      }),
    );
    for (const person of [place.people.hourly, place.people.salaried])
      await addPersonItem(scope, person, { itemId: id, percent: '3', from: '2026-01-01' });
    await calculateRun(await place.scope(), run);
    const points = (await openPoints(scope, await openRun(scope, run))).filter((point) => point.key.startsWith('gives-nothing'));
    expect(points.map((point) => [point.sentence, point.itemId])).toEqual([
      ["Plan share gives nothing for all 2 who have it. Look at how it works on the item's page.", id],
    ]);
  });

  it('knows when set-up changed after it was calculated, and is not approved until recalculated', async () => {
    await addPersonItem(scope, place.people.salaried, { itemId: place.items['loan']!, amount: '10.00', from: '2026-01-01' });
    expect((await sheetOf(await place.scope(), run)).stale).toBeTrue();
    expect(await refused(approve(place, run))).toBe('open-points');
    await calculateRun(await place.scope(), run);
    expect((await approve(place, run)).state).toBe('approved');
  });

  it('posts once: the same key gets the same answer, another tab is refused with who was first', async () => {
    const first = await approve(place, run, 'the-key');
    const approver = await place.scope('approver');
    expect((await approveRun(approver, run, 1, 'the-key')).approvedAt).toBe(first.approvedAt);
    expect(await refused(approveRun(approver, run, first.version, 'another-key'))).toBe('already-approved');
    const [posted] = await select<{ gross: number }>(
      testDatabase(),
      `select sum(amount)::bigint as gross from ledger_lines where run_id = :run and kind = 'earning'`,
      { run },
    );
    expect(posted?.gross).toBe(first.totals.gross);
    expect(await balancesOutOfStep(scope)).toEqual([]);
  });

  it('wants a second pair of eyes where the employer does', async () => {
    const strict = await Workplace.make({ secondPersonApproves: true });
    const strictRun = await strict.run();
    const clerk = await strict.scope();
    for (const point of await openPoints(clerk, await openRun(clerk, strictRun)))
      await acceptPoint(clerk, strictRun, point.key, 'looked at');
    expect(await refused(approveRun(clerk, strictRun, (await runView(clerk, strictRun)).version, 'k'))).toBe('second-person');
    expect((await approve(strict, strictRun)).state).toBe('approved');
  });

  it('is not changed after approval, neither by a service nor by a statement', async () => {
    await approve(place, run);
    const payslip = await payslipOf(run, place.people.hourly);
    expect(await refused(changePayslip(scope, run, payslip.id, { version: payslip.version, edits: {} }))).toBe('approved');
    for (const statement of [
      'update ledger_lines set amount = 1',
      'delete from ledger_lines',
      `update payslip_results set net = 1`,
      'delete from audit_entries',
    ]) {
      await expectAsync(
        execute(testDatabase(), `${statement} where ${statement.includes('audit') ? 'employer_id' : 'run_id'} = :id`, {
          id: statement.includes('audit') ? place.employerId : run,
        }),
      )
        .withContext(statement)
        .toBeRejected();
    }
  });

  it('lists what rebuilding loses, and rebuilds', async () => {
    const payslip = await payslipOf(run, place.people.hourly);
    await changePayslip(scope, run, payslip.id, {
      version: 1,
      edits: { hours: { overtime: '3.00' }, oneOffs: [{ id: 'a', item: 'bonus', amount: '100.00' }] },
    });
    expect(await wouldLose(scope, run)).toEqual([
      { payslipId: payslip.id, name: 'Hana Hourly', lost: ['3.00 hours on overtime', 'bonus of 100.00'] },
    ]);
    await discardEdits(scope, run);
    await calculateRun(scope, run);
    expect((await runView(scope, run)).totals.gross).toBe(450_000);
  });

  it('keeps with each payslip the input from which it comes out the same', async () => {
    await approve(place, run);
    const rows = await select<{ input: PayslipInput; lines: PayslipLine[] }>(
      testDatabase(),
      'select input, lines from payslip_results where run_id = :run',
      { run },
    );
    for (const row of rows) expect(computePayslip(row.input).lines).toEqual(row.lines);
  });

  it('explains its differences from the last run in causes that add up', async () => {
    await approve(place, run);
    const next = await place.run({ from: '2026-11-22', to: '2026-12-05', payDate: '2026-12-11' });
    const payslip = await payslipOf(next, place.people.hourly);
    await changePayslip(scope, next, payslip.id, {
      version: 1,
      edits: { hours: { overtime: '2.00' }, oneOffs: [{ id: 'b', item: 'bonus', amount: '100.00' }] },
    });
    const comparison = await compareRun(scope, next);
    expect(comparison.groups.reduce((sum, group) => sum + group.share, 0)).toBe(comparison.difference);
    expect(comparison.people[0]?.causes.map((cause) => cause.group)).toEqual(['hours', 'one-offs']);
    const difference = await whyDifferent(scope, payslip.id, 'us.fit');
    expect(difference.causes.reduce((sum, cause) => sum + cause.share, 0)).toBe(difference.later - difference.earlier);
  });

  it('finds the gross for a net wanted', async () => {
    const payslip = await payslipOf(run, place.people.salaried);
    const { amount, missing } = await netWanted(scope, payslip.id, 'bonus', '2500.00');
    const { row } = await changePayslip(scope, run, payslip.id, {
      version: 1,
      edits: { oneOffs: [{ id: 'net-wanted', item: 'bonus', amount }] },
    });
    expect(row.totals.net + missing).toBe(250_000);
  });

  it('prints payslips and a register whose columns add up', async () => {
    const csv = await registerCsv(scope, run);
    const [header = '', ...rows] = csv.trim().split('\n');
    const net = header.split(',').indexOf('Net');
    expect(rows.map((row) => row.split(',')[0])).toEqual(['H1', 'S1', 'X1']);
    expect(rows.reduce((sum, row) => sum + Math.round(Number(row.split(',')[net]) * 100), 0)).toBe((await runView(scope, run)).totals.net);
    const page = (await new ExcelJS.Workbook().xlsx.load((await registerXlsx(scope, run)).buffer as ArrayBuffer)).worksheets[0]!;
    const column = page.getColumn(net + 1).letter;
    expect(page.getCell(`${column}3`).value).toBe('Net');
    expect([4, 5, 6].reduce((sum, row) => sum + Math.round(Number(page.getCell(`${column}${row}`).value) * 100), 0)).toBe(
      (await runView(scope, run)).totals.net,
    );
    expect(page.getCell(`${column}7`).value).toEqual({ formula: `SUM(${column}4:${column}6)` } as never);
    const pdf = await payslipsPdf(scope, { run });
    expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
    expect((pdf.toString('latin1').match(/\/Type \/Page\b/g) ?? []).length).toBe(3);
  });
});

describe('A correction', () => {
  let place: Workplace;
  let scope: Scope;
  let run: string;
  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
    run = await place.run();
    await approve(place, run);
    scope = await place.scope();
  }, 60_000);

  it('lists what it touches, reverses, and opens a replacement; year to date and the return follow', async () => {
    const payslip = await payslipOf(run, place.people.hourly);
    const preview = await reversalPreview(scope, payslip.id);
    expect(preview.touches[0]).toEqual({ what: 'Gross pay in 2026', before: 200_000, after: 0 });
    const before = await viewOf(scope, '941', '2026-Q4');
    const { replacementRun } = await reversePayslip(scope, payslip.id, 'wrong hours', true);
    const between = await viewOf(scope, '941', '2026-Q4');
    expect(between.lines[1]!.amount).toBe(before.lines[1]!.amount - 195_000);
    const replacement = await payslipOf(replacementRun!, place.people.hourly);
    await changePayslip(scope, replacementRun!, replacement.id, { version: 1, edits: { hours: { ordinary: '76.00' } } });
    await approve(place, replacementRun!);
    const after = await viewOf(scope, '941', '2026-Q4');
    expect(after.lines[1]!.amount).toBe(before.lines[1]!.amount - 4 * 2500);
    expect(after.checks.every((check) => check.holds)).toBeTrue();
    expect(await balancesOutOfStep(scope)).toEqual([]);
  });

  it('is made once', async () => {
    const payslip = await payslipOf(run, place.people.hourly);
    await reversePayslip(scope, payslip.id, 'cheque lost', false);
    expect(await refused(reversePayslip(scope, payslip.id, 'again', false))).toBe('already-reversed');
    const [sum] = await select<{ amount: number }>(
      testDatabase(),
      'select sum(abs(amount))::bigint as amount from balances where person_id = :person',
      { person: place.people.hourly },
    );
    expect(sum?.amount).withContext('a payslip and its reversal post to zero').toBe(0);
  });

  it('ties every figure of return and statements to payslips', async () => {
    const statement = (await viewOf(scope, 'w-2', '2026')).copies.find((candidate) => candidate.personId === place.people.salaried)!;
    const box = statement.boxes[0]!;
    const found = await behind(scope, { codes: box.codes.join(','), from: '2026-01-01', to: '2026-12-31', person: place.people.salaried });
    expect(found.total).toBe(box.amount);
    expect(statement.checks.map((check) => check.code)).toEqual(['number-missing', 'address-missing']);
  });
});

describe('The ledger', () => {
  it('keeps its sums whatever is approved, reversed and replaced', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.record({ hours: fc.integer({ min: 0, max: 90 }), reverse: fc.boolean(), replace: fc.boolean() }), {
          minLength: 1,
          maxLength: 3,
        }),
        async (steps) => {
          const place = await Workplace.make();
          let day = 8;
          for (const step of steps) {
            const scope = await place.scope();
            const pad = (value: number) => String(value).padStart(2, '0');
            const run = await place.run({
              from: `2026-02-${pad(day - 7)}`,
              to: `2026-02-${pad(day + 6)}`,
              payDate: `2026-02-${pad(day + 12)}`,
            });
            const payslip = await payslipOf(run, place.people.hourly);
            await changePayslip(scope, run, payslip.id, { version: 1, edits: { hours: { ordinary: `${step.hours}.00` } } });
            await approve(place, run);
            if (step.reverse) {
              const { replacementRun } = await reversePayslip(await place.scope(), payslip.id, 'a reason', step.replace);
              if (replacementRun) await approve(place, replacementRun);
            }
            expect(await balancesOutOfStep(scope)).toEqual([]);
            day += 14;
            if (day > 15) break;
          }
        },
      ),
      { numRuns: 6 },
    );
  }, 120_000);
});
