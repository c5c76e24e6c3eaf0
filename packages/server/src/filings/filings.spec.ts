import { setNationalNumber } from '../people/service';
import { reversePayslip } from '../pay-runs/corrections/corrections';
import { balancesOutOfStep, rebuildBalances } from '../ledger/posting';
import { sheetOf } from '../pay-runs/sheet/sheet';
import { execute, select } from '../database/connection';
import { moveToday } from '../employers/service';
import { todayView } from '../today/today';
import { PERIOD, Workplace } from '../testing/workplace';
import type { Scope } from '../scope';
import { agreeFiling, answerFiling, enterFilingLine, prepareFiling, sendFiling, withdrawFiling } from './life';
import { copiesPdf } from './copies-print';
import { filingCsv, filingPdf } from './print';
import { behind, listOfFilings, viewOf } from './service';

const QUARTER = '2026-Q4';

describe('Returns and statements', () => {
  let place: Workplace;
  let scope: Scope;
  let run: string;
  const line = async (label: string) => (await viewOf(scope, '941', QUARTER)).lines.find((one) => one.label.toLowerCase().includes(label));
  const statementOf = async (name: string) => (await viewOf(scope, 'w-2', '2026')).copies.find((one) => one.name.startsWith(name));

  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
    run = await place.run();
    await place.approve(run);
    scope = await place.scope();
  });

  it('of a quarter count each line from the ledger, and every check holds', async () => {
    const made = await viewOf(scope, '941', QUARTER);
    const wages = made.lines.find((one) => one.label.toLowerCase().includes('wages, tips'));
    const sum = await behind(scope, { codes: (wages?.codes ?? []).join(','), from: '2026-10-01', to: '2026-12-31' });
    expect(sum.total).toBe(wages?.amount ?? 0);
    expect(sum.total).toBeGreaterThan(0);
    expect(made.checks.filter((check) => !check.holds)).toEqual([]);
    expect([made.period.due, made.complete]).toEqual(['2027-02-01', false]);
  });

  it('of a quarter without pay are nothing, not an error', async () => {
    const { lines, byDay } = await viewOf(scope, '941', '2026-Q1');
    expect(lines.filter((one) => one.amount !== 0)).toEqual([]);
    expect(byDay?.days).toEqual([]);
  });

  it('follow a reversal: the quarter and the statement are as if it had not been paid', async () => {
    const before = (await line('wages, tips'))?.amount ?? 0;
    const row = (await sheetOf(scope, run)).rows.find((one) => one.personId === place.people.hourly);
    await reversePayslip(scope, row?.payslipId ?? '', 'paid twice', false);
    expect(before - ((await line('wages, tips'))?.amount ?? 0)).toBe(200_000 - 5_000);
    expect((await statementOf('Hourly'))?.boxes.find((box) => box.box === '1')?.amount ?? 0).toBe(0);
  });

  it('a reversal of the year after counts in the year, the quarter and on the day of what it takes back', async () => {
    const before = await viewOf(scope, '941', QUARTER);
    const row = (await sheetOf(scope, run)).rows.find((one) => one.personId === place.people.hourly);
    await moveToday(scope, '2027-01-15');
    scope = await place.scope();
    await reversePayslip(scope, row?.payslipId ?? '', 'never worked', false);
    const posted = await select<{ payDate: string; countsOn: string; year: string }>(
      scope.database,
      `select distinct l.pay_date as "payDate", l.counts_on as "countsOn", l.tax_year as year from ledger_lines l join payslips y on y.id = l.payslip_id where y.reverses is not null and l.employer_id = :id`,
      { id: place.employerId },
    );
    expect(posted).toEqual([{ payDate: '2027-01-15', countsOn: PERIOD.payDate, year: '2026' }]);
    // Nothing of the new year, whose wage bases begin at nothing; and no day of the old one is below nothing.
    const then = await viewOf(scope, '941', QUARTER);
    expect(then.byDay?.days.map((day) => day.date)).toEqual(before.byDay?.days.map((day) => day.date));
    expect(then.byDay?.days.every((day) => day.amount > 0)).toBeTrue();
    expect(then.checks.filter((check) => !check.holds)).toEqual([]);
    const [left] = await select<{ year: number }>(
      scope.database,
      `select coalesce(sum(amount), 0)::bigint as year from balances where person_id = :id and tax_year = '2027'`,
      { id: place.people.hourly },
    );
    expect(left?.year).toBe(0);
    expect(await balancesOutOfStep(scope)).toEqual([]);
  });

  it('say what is to be fixed before a statement is given out', async () => {
    const before = (await statementOf('Hourly'))?.checks ?? [];
    expect(before.some((check) => check.sentence.toLowerCase().includes('number'))).toBeTrue();
    await setNationalNumber(scope, place.people.hourly, '123-45-6789');
    const after = await statementOf('Hourly');
    expect(after?.number).toBe('•••-••-6789');
    expect(after?.checks.length).toBe(before.length - 1);
  });

  it('tell two people with one number, brought along from elsewhere', async () => {
    const { hourly, salaried } = place.people;
    await setNationalNumber(scope, hourly, '123-45-6789');
    await execute(
      scope.database,
      'update people o set number_sealed = p.number_sealed, number_fingerprint = p.number_fingerprint, number_last4 = p.number_last4 from people p where p.id = :hourly and o.id = :salaried',
      { hourly, salaried },
    );
    for (const name of ['Hourly', 'Salaried'])
      expect((await statementOf(name))?.checks.map((check) => check.code)).toContain('number-shared');
  });

  it('tie each box of all statements to the ledger', async () => {
    const { checks, lines } = await viewOf(scope, 'w-2', '2026');
    expect(checks.length).toBe(lines.length);
    expect(checks.filter((check) => !check.holds)).toEqual([]);
  });

  it('come as files: PDF, and CSV with a row for each statement', async () => {
    expect((await filingPdf(scope, '941', QUARTER, undefined)).subarray(0, 5).toString()).toBe('%PDF-');
    expect((await copiesPdf(scope, 'w-2', '2026', {})).subarray(0, 5).toString()).toBe('%PDF-');
    const rows = (await filingCsv(scope, 'w-2', '2026')).trim().split('\n');
    expect(rows[0]).toContain('Name,Number,Box 1');
    expect(rows.length - 1).toBe((await viewOf(scope, 'w-2', '2026')).copies.length);
  });

  it('notice balances that are out of step with the ledger, which are made anew from it', async () => {
    await execute(scope.database, `update year_sums set sums = sums_added(sums, jsonb_build_object(:code, 1)) where employer_id = :id`, {
      id: place.employerId,
      code: 'us.fit',
    });
    const broken = (await viewOf(scope, '941', QUARTER)).checks.filter((check) => !check.holds);
    expect(broken.map((check) => check.sentence)).toEqual([jasmine.stringContaining('do not equal the ledger')]);
    await rebuildBalances(scope);
    expect(await balancesOutOfStep(scope)).toEqual([]);
    expect((await viewOf(scope, '941', QUARTER)).checks.every((check) => check.holds)).toBeTrue();
  });

  describe('from the first look to an amendment', () => {
    const at = () => [scope, '941', QUARTER] as const;
    const state = async () => (await viewOf(...at())).state;
    const refused = async (work: Promise<unknown>): Promise<string> =>
      work.then(
        () => '',
        (error: unknown) => (error as Error).message,
      );
    const filed = async () => {
      await prepareFiling(...at(), { reason: '' });
      await agreeFiling(...at(), { signer: 'A. Signatory', title: 'Owner' });
      await sendFiling(...at(), { how: 'paper', reference: '' });
    };
    const reverseHourly = async () => {
      const row = (await sheetOf(scope, run)).rows.find((one) => one.personId === place.people.hourly);
      await reversePayslip(scope, row?.payslipId ?? '', 'never worked', false);
    };

    beforeEach(async () => {
      await moveToday(scope, '2027-01-04');
      scope = await place.scope();
    });

    it('is prepared, agreed to, sent and accepted, each once', async () => {
      expect(await state()).toBe('due');
      expect(await refused(agreeFiling(...at(), { signer: 'A', title: '' }))).toContain('is not waiting to be agreed to');
      await prepareFiling(...at(), { reason: '' });
      expect(await refused(prepareFiling(...at(), { reason: '' }))).toContain('was prepared already');
      await withdrawFiling(...at(), { reason: 'Look again' });
      expect(await state()).toBe('due');
      await filed();
      expect(await state()).toBe('queued');
      expect(await refused(sendFiling(...at(), { how: 'paper', reference: '' }))).toContain('was sent already');
      expect(await refused(withdrawFiling(...at(), { reason: 'Too late' }))).toContain('is not waiting to be sent');
      await answerFiling(...at(), { answer: 'accepted', reference: 'A-17', reasons: '' });
      const view = await viewOf(...at());
      expect([view.state, view.filed?.attempt, view.filed?.differences]).toEqual(['accepted', 2, []]);
      expect(view.events.map(({ attempt, step }) => `${attempt} ${step}`)).toEqual([
        '1 prepared',
        '1 withdrawn',
        '2 prepared',
        '2 agreed',
        '2 sent',
        '2 accepted',
      ]);
      expect(view.events.find(({ step }) => step === 'agreed')?.words).toContain('Signed by A. Signatory, Owner: “I have looked');
      expect((await todayView(scope)).due.map(({ what }) => what)).not.toContain('Form 941, quarter 4 of 2026');
    });

    it('keeps what was filed, shows by how much it differs, and is amended with a reason', async () => {
      await filed();
      await answerFiling(...at(), { answer: 'accepted', reference: '', reasons: '' });
      expect(await refused(prepareFiling(...at(), { reason: 'Again' }))).toContain('nothing differs');
      const wages = (await line('wages, tips'))?.amount ?? 0;
      await reverseHourly();
      const { filed: before, state: stands } = await viewOf(...at());
      expect(stands).toBe('accepted');
      expect(before?.differences.find((one) => one.line === '2')).toEqual(jasmine.objectContaining({ filed: wages, now: wages - 195_000 }));
      const listed = (await listOfFilings(scope)).find(({ filing }) => filing === '941')?.periods.find(({ key }) => key === QUARTER);
      expect(listed?.differs).toBe(before?.differences.length ?? -1);
      expect(before?.because).toBe('The payslip of Hana Hourly paid 27 Nov 2026 was reversed: never worked');
      expect(before?.amendUntil).toBe('2030-04-15');
      expect(await refused(prepareFiling(...at(), { reason: '' }))).toContain('say why');
      await prepareFiling(...at(), { reason: 'Paid by mistake' });
      await agreeFiling(...at(), { signer: 'A. Signatory', title: '' });
      await sendFiling(...at(), { how: 'portal', reference: 'X' });
      await answerFiling(...at(), { answer: 'accepted', reference: '', reasons: '' });
      const after = await viewOf(...at());
      expect([after.state, after.filed?.differences]).toEqual(['amended', []]);
    });

    it('is not corrected any more when the period of limitation is over', async () => {
      await filed();
      await answerFiling(...at(), { answer: 'accepted', reference: '', reasons: '' });
      await reverseHourly();
      await moveToday(scope, '2030-04-16');
      scope = await place.scope();
      expect(await refused(prepareFiling(...at(), { reason: 'Late' }))).toContain('the period of limitation is over');
    });

    it('takes lines that the ledger does not hold from what is entered, the last of each, and not while it is prepared', async () => {
      const enter = (line: string, amount: string, reason = 'Notice of the insurer') =>
        enterFilingLine(scope, '941', QUARTER, { line, amount, reason });
      const before = (await line('after adjustments and credits'))?.amount ?? 0;
      await enter('8', '-10.00');
      await enter('8', '-12.00', 'Corrected notice');
      expect(await line('sick pay')).toEqual(jasmine.objectContaining({ amount: -1_200, working: 'Entered: Corrected notice' }));
      // What is owed is what the ledger says; what was entered explains it.
      expect((await line('after adjustments and credits'))?.amount).toBe(before);
      expect((await viewOf(scope, '941', QUARTER)).enters.map(({ line: name, amount }) => [name, amount])).toEqual([
        ['8', -1_200],
        ['9', 0],
        ['11', 0],
      ]);
      await expectAsync(enter('12', '5.00')).toBeRejectedWithError(/follows from other lines/);
      await enter('8', '0.00', 'It was another employer');
      await prepareFiling(scope, '941', QUARTER, { reason: '' });
      await expectAsync(enter('8', '-12.00')).toBeRejectedWithError(/Take it back first/);
      await expectAsync(execute(scope.database, 'update filing_entries set amount = 0 returning id')).toBeRejected();
    });

    it('is another try after it was refused', async () => {
      await filed();
      await answerFiling(...at(), { answer: 'rejected', reference: '', reasons: 'Name control does not match' });
      const view = await viewOf(...at());
      expect([view.state, view.next, view.filed]).toEqual(['rejected', ['prepared'], null]);
      await filed();
      expect(await state()).toBe('queued');
    });

    it('is not prepared while its period runs, with a check that does not hold, or with something to fix', async () => {
      expect(await refused(prepareFiling(scope, '941', '2027-Q1', { reason: '' }))).toContain('its period ends on 31 Mar 2027');
      expect(await refused(prepareFiling(scope, 'w-2', '2026', { reason: '' }))).toContain('has no social security number on file');
      await execute(
        scope.database,
        `update year_sums set sums = sums_added(sums, jsonb_build_object('us.fit', 1)) where employer_id = :id`,
        {
          id: place.employerId,
        },
      );
      expect(await refused(prepareFiling(...at(), { reason: '' }))).toContain('do not equal the ledger');
      await rebuildBalances(scope);
    });

    it('stays as it was: the database refuses to change or empty what happened', async () => {
      await filed();
      for (const sql of ['update filing_events set words = $$$$', 'delete from filing_events', 'truncate filing_events'])
        await expectAsync(execute(scope.database, sql))
          .withContext(sql)
          .toBeRejectedWithError(/append-only/);
    });

    it('is nothing under a name or a period that there is not', async () => {
      for (const [code, key] of [
        ['941', '2026-Q5'],
        ['941', '2026'],
        ['942', '2026-Q4'],
        ['w-2', '2026-Q4'],
      ])
        expect(await refused(viewOf(scope, code ?? '', key ?? '')))
          .withContext(`${code} ${key}`)
          .toContain('There is no such filing');
    });
  });

  it('show one employer nothing of another’s', async () => {
    const other = await (await Workplace.make()).scope();
    expect((await behind(other, { codes: 'us.fit', from: '2026-01-01', to: '2026-12-31' })).entries).toEqual([]);
    expect((await viewOf(other, 'w-2', '2026')).copies).toEqual([]);
  });
});
