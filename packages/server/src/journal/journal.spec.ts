import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { execute, select } from '../database/connection';
import { setBank } from '../employers/paying-accounts';
import { reversePayslip } from '../pay-runs/corrections/corrections';
import { sheetOf } from '../pay-runs/sheet/sheet';
import { batchView, prepareBatch } from '../payments/batches';
import { releaseBatch } from '../payments/release';
import { obligationsOf } from '../remittances/owed';
import { remit } from '../remittances/service';
import type { Scope } from '../scope';
import { agenciesOf } from '../payments/routes';
import { checkTieOuts, outOfTie, tieOutsOf } from '../tie-outs/tie-outs';
import { PERIOD, Workplace } from '../testing/workplace';
import { previewOf } from './post-pay';
import { accountMap, journalFile, journalOf, setAccountRule } from './service';

describe('The journal', () => {
  let place: Workplace;
  let scope: Scope;
  let run: string;
  const sumOf = async (account: string) => {
    const found = (await journalOf(scope, {})).accounts.find((one) => one.account === account);
    return (found?.debit ?? 0) - (found?.credit ?? 0);
  };
  const set = (
    side: 'expense' | 'liability' | 'bank',
    code: string,
    account: string,
    more: { department?: string; worksite?: string; job?: string; group?: string } = {},
  ) => setAccountRule(scope, { side, code, account, department: '', worksite: '', job: '', group: '', ...more });

  beforeEach(async () => {
    place = await Workplace.make({
      accounts: {
        netPay: '2100',
        taxes: '2110',
        wages: '6010',
        employerTaxes: '6100',
        reimbursements: '6410',
        bank: '1010',
        deductions: '2150',
        contributions: '',
      },
    });
    scope = await place.scope();
    await setBank(scope, { name: 'Tidewater Savings', routing: '051000017', account: '7700144' });
    run = await place.run();
  });

  it('has cost, net pay and what is owed of a run, and balances; what it would post is the same before', async () => {
    const before = await previewOf(scope, run);
    await place.approve(run);
    const { entries } = await journalOf(scope, {});
    expect(entries.length).toBe(1);
    const of = (lines: { account: string; amount: number }[]) =>
      Object.fromEntries(
        [...new Set(lines.map(({ account }) => account))].map((account) => [
          account,
          lines.reduce((sum, line) => (line.account === account ? sum + line.amount : sum), 0),
        ]),
      );
    expect(of(entries[0]?.lines ?? [])).toEqual(of(before));
    expect(entries[0]?.lines.reduce((sum, { amount }) => sum + amount, 0)).toBe(0);
    const { rows } = await sheetOf(scope, run);
    expect(-(await sumOf('2100'))).toBe(rows.reduce((sum, { totals }) => sum + (totals?.net ?? 0), 0));
  });

  it('is posted to the account that is said closest, from then on only', async () => {
    await set('expense', 'ordinary', '6011');
    await set('expense', '', '6012', { department: 'Shop' });
    await set('liability', 'us.deposit', '2111');
    await place.approve(run);
    // Hana by the hour: 80 hours of 25.00; Sol has a salary and no department.
    expect(await sumOf('6011')).toBe(200_000);
    const [deposit] = await obligationsOf(scope, 'us.deposit');
    expect(-(await sumOf('2111'))).toBe(deposit?.amount ?? 0);
    await set('expense', 'ordinary', '6999');
    expect(await sumOf('6011')).toBe(200_000);
    await set('expense', 'ordinary', '');
    expect((await accountMap(scope)).rules.some(({ code }) => code === 'ordinary')).toBeFalse();
    await expectAsync(set('bank', '', 'two  blanks')).toBeRejectedWithError(/on one line/);
  });

  it('says what has no account, and posts it under its name', async () => {
    scope.employer.facts.accounts.deductions = '';
    await execute(
      scope.database,
      `update employers set facts = jsonb_set(facts, '{accounts,deductions}', '""') where id = :id returning id`,
      { id: place.employerId },
    );
    await place.approve(run);
    scope = await place.scope();
    expect(await sumOf('Deductions (no account)')).toBe(-5_000);
    const map = await accountMap(scope);
    expect(map.targets.filter(({ from }) => from === 'none').map(({ code }) => code)).toEqual(['health']);
  });

  it('follows payments to payees, and a reversal takes back what its payslip had posted', async () => {
    await place.approve(run);
    scope = await place.scope();
    const [deposit] = await obligationsOf(scope, 'us.deposit');
    const { due = '', left = 0 } = deposit ?? {};
    const before = await sumOf('2110');
    await remit(scope, { payments: [{ owed: 'us.deposit', due, method: 'agency', reference: '' }] }, agenciesOf(scope));
    expect([(await sumOf('2110')) - before, await sumOf('1010')]).toEqual([left, -left]);
    const { rows } = await sheetOf(scope, run);
    for (const { payslipId, totals } of rows) if (totals?.net) await reversePayslip(scope, payslipId, 'never worked', false);
    expect(await sumOf('2100')).toBe(0);
    expect(await sumOf('6010')).toBe(0);
  });

  it('is refused by the database where an entry does not balance, and is never changed', async () => {
    await place.approve(run);
    const [entry] = await select<{ id: number }>(scope.database, 'select id from journal_entries where employer_id = :id', {
      id: place.employerId,
    });
    await expectAsync(
      execute(scope.database, `insert into journal_lines (entry_id, account, side, amount) values (:id, '1', 'bank', 1) returning id`, {
        id: entry?.id,
      }),
    ).toBeRejectedWithError(/does not balance/);
    await expectAsync(
      execute(scope.database, 'update journal_lines set amount = 0 where entry_id = :id returning id', { id: entry?.id }),
    ).toBeRejected();
    await expectAsync(execute(scope.database, 'delete from journal_entries where id = :id returning id', { id: entry?.id })).toBeRejected();
  });

  it('goes out in open formats; plain-text accounting is checked and balanced by hledger', async () => {
    await place.approve(run);
    const csv = (await journalFile(scope, { format: 'csv' })).content.toString();
    expect(csv.split('\n')[0]).toBe('entry,date,account,debit,credit,description,department,entry description');
    expect((JSON.parse((await journalFile(scope, { format: 'json' })).content.toString()) as { entries: unknown[] }).entries.length).toBe(
      1,
    );
    expect((await journalFile(scope, { format: 'xlsx' })).content.subarray(0, 2).toString()).toBe('PK');
    const text = (await journalFile(scope, { format: 'ledger' })).content;
    // ./test installs it.
    expect(existsSync('/usr/bin/hledger')).withContext('hledger is there').toBeTrue();
    const folder = mkdtempSync(join(tmpdir(), 'woodruff-journal-'));
    const file = join(folder, 'year.ledger');
    writeFileSync(file, text);
    const run1 = (args: string[]) => execFileSync('/usr/bin/hledger', ['-f', file, ...args], { encoding: 'utf8' });
    expect(() => run1(['check'])).not.toThrow();
    expect(run1(['balance', '--flat', '-N', 'Liabilities:2100'])).toContain(`${((await sumOf('2100')) / 100).toFixed(2)} USD`);
    writeFileSync(file, text.toString().replace(/(\d+)\.\d\d USD/, '1.00 USD'));
    expect(() => execFileSync('/usr/bin/hledger', ['-f', file, 'check'], { stdio: 'pipe' })).toThrow();
    rmSync(folder, { recursive: true });
  });

  it('each pair agrees after a run, its payments and a reversal; one that does not is named on the way to its lines', async () => {
    const agree = async () =>
      (await tieOutsOf(scope)).filter(({ agrees }) => !agrees).map(({ code, differences }) => [code, differences.map(({ what }) => what)]);
    await place.approve(run);
    scope = await place.scope();
    // The loan has no payee in this workplace; the health premium neither.
    const nobodys = [['obligations-liabilities', ['health: owed to nobody that is named']]];
    expect(await agree()).toEqual(nobodys);
    const { id } = await prepareBatch(scope, { kind: 'pay', payDate: PERIOD.payDate });
    await releaseBatch(scope, id, { version: (await batchView(scope, id)).version, balanced: true });
    expect(await agree()).toEqual(nobodys);
    const { rows } = await sheetOf(scope, run);
    const hourly = rows.find(({ personId }) => personId === place.people.hourly);
    await reversePayslip(scope, hourly?.payslipId ?? '', 'never worked', false);
    // Paid, reversed and not replaced: it has to come back.
    const after = await agree();
    expect(after.find(([code]) => code === 'payments-transfers')?.[1]).toEqual(['Hana Hourly: paid, and reversed since']);
    await checkTieOuts(scope);
    expect((await outOfTie(scope)).map(({ code }) => code)).toContain('payments-transfers');
  });
});
