import { setNationalNumber } from '../people/service';
import { reversePayslip } from '../pay-runs/corrections';
import { balancesOutOfStep } from '../pay-runs/posting';
import { sheetOf } from '../pay-runs/sheet';
import { execute, select } from '../database/connection';
import { moveToday } from '../employers/service';
import { PERIOD, Workplace } from '../testing/workplace';
import type { Scope } from '../users/scope';
import { behind, quarterlyPdf, quarterlyReturn, rebuildBalances, statementsCsv, statementsPdf, yearEnd } from './service';

const QUARTER = { year: 2026, quarter: 4 };

describe('Returns and statements', () => {
  let place: Workplace;
  let scope: Scope;
  let run: string;
  const line = async (label: string) =>
    (await quarterlyReturn(scope, QUARTER)).lines.find((one) => one.label.toLowerCase().includes(label));
  const statementOf = async (name: string) => (await yearEnd(scope, 2026)).statements.find((one) => one.name.startsWith(name));

  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
    run = await place.run();
    await place.approve(run);
    scope = await place.scope();
  });

  it('of a quarter count each line from the ledger, and every check holds', async () => {
    const made = await quarterlyReturn(scope, QUARTER);
    const wages = made.lines.find((one) => one.label.toLowerCase().includes('wages, tips'));
    const sum = await behind(scope, { codes: (wages?.codes ?? []).join(','), from: '2026-10-01', to: '2026-12-31' });
    expect(sum.total).toBe(wages?.amount ?? 0);
    expect(sum.total).toBeGreaterThan(0);
    expect(made.checks.filter((check) => !check.holds)).toEqual([]);
    expect([made.due, made.complete]).toEqual(['2027-02-01', false]);
  });

  it('of a quarter without pay are nothing, not an error', async () => {
    const { lines, liability } = await quarterlyReturn(scope, { year: 2026, quarter: 1 });
    expect(lines.filter((one) => one.amount !== 0)).toEqual([]);
    expect(liability).toEqual([]);
  });

  it('follow a reversal: the quarter and the statement are as if it had not been paid', async () => {
    const before = (await line('wages, tips'))?.amount ?? 0;
    const row = (await sheetOf(scope, run)).rows.find((one) => one.personId === place.people.hourly);
    await reversePayslip(scope, row?.payslipId ?? '', 'paid twice', false);
    expect(before - ((await line('wages, tips'))?.amount ?? 0)).toBe(200_000 - 5_000);
    expect((await statementOf('Hourly'))?.boxes.find((box) => box.box === '1')?.amount ?? 0).toBe(0);
  });

  it('a reversal of the year after counts in the year, the quarter and on the day of what it takes back', async () => {
    const before = await quarterlyReturn(scope, QUARTER);
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
    const then = await quarterlyReturn(scope, QUARTER);
    expect(then.liability.map((day) => day.payDate)).toEqual(before.liability.map((day) => day.payDate));
    expect(then.liability.every((day) => day.amount > 0)).toBeTrue();
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
    const { tied } = await yearEnd(scope, 2026);
    expect(tied.length).toBe(6);
    expect(tied.filter((check) => !check.holds)).toEqual([]);
  });

  it('come as files: PDF, and CSV with a row for each statement', async () => {
    expect((await quarterlyPdf(scope, QUARTER)).subarray(0, 5).toString()).toBe('%PDF-');
    expect((await statementsPdf(scope, 2026, undefined)).subarray(0, 5).toString()).toBe('%PDF-');
    const rows = (await statementsCsv(scope, 2026)).trim().split('\n');
    expect(rows[0]).toContain('Name,Number,Box 1');
    expect(rows.length - 1).toBe((await yearEnd(scope, 2026)).statements.length);
  });

  it('notice balances that are out of step with the ledger, which are made anew from it', async () => {
    await execute(scope.database, `update year_sums set sums = sums_added(sums, jsonb_build_object(:code, 1)) where employer_id = :id`, {
      id: place.employerId,
      code: 'us.fit',
    });
    const broken = (await quarterlyReturn(scope, QUARTER)).checks.filter((check) => !check.holds);
    expect(broken.map((check) => check.sentence)).toEqual([jasmine.stringContaining('do not equal the ledger')]);
    await rebuildBalances(scope);
    expect(await balancesOutOfStep(scope)).toEqual([]);
    expect((await quarterlyReturn(scope, QUARTER)).checks.every((check) => check.holds)).toBeTrue();
  });

  it('show one employer nothing of another’s', async () => {
    const other = await (await Workplace.make()).scope();
    expect((await behind(other, { codes: 'us.fit', from: '2026-01-01', to: '2026-12-31' })).entries).toEqual([]);
    expect((await yearEnd(other, 2026)).statements).toEqual([]);
  });
});
