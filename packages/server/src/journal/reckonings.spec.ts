import { changeSetUp, setUpView } from '../employers/set-up';
import { fileOf } from '../filings/files';
import { agreeFiling, prepareFiling, sendByFile } from '../filings/life';
import { outside } from '../filings/routes';
import { listOfFilings, viewOf } from '../filings/service';
import { reversePayslip } from '../pay-runs/corrections/corrections';
import { obligationsOf } from '../remittances/owed';
import { setAgency } from '../standins/agencies/books';
import { readSummary } from '../standins/agencies/GB/payment-summary';
import { britishWorks } from '../testing/british-works';
import { CALM } from '../testing/filing-workplace';
import { approveAll } from '../testing/workplace';
import { select } from '../database/connection';
import { moveToday } from '../employers/service';
import { marked } from '../testing/marked';
import { testDatabase } from '../testing/database';
import { tieOutsOf } from '../tie-outs/tie-outs';
import type { Scope } from '../scope';
import { taxGridOf } from './differences';

const EPS = ['eps', '2026-27-08'] as const;

describe("An employer's own reckonings", () => {
  let works: Awaited<ReturnType<typeof britishWorks>>;
  let scope: Scope;
  let run: string;
  const claim = async (employmentAllowance: boolean) => {
    const { facts, version } = await setUpView(scope);
    const renamed = { departments: {}, worksites: {}, jobs: {} };
    await changeSetUp(scope, {
      name: scope.employer.name,
      version,
      renamed,
      facts: { ...facts, country: { ...facts.country, employmentAllowance } },
    });
    scope = await works.scope();
  };
  const owed = async () => (await obligationsOf(scope, 'gb.paye-payment')).map(({ due, amount, left }) => ({ due, amount, left }));
  const agree = async () => (await tieOutsOf(scope)).filter(({ agrees }) => !agrees).map(({ code }) => code);

  beforeEach(async () => {
    works = await britishWorks();
    scope = await works.scope();
    await setAgency(scope, CALM);
    run = await works.run();
    await approveAll(scope, run);
    scope = await works.scope();
  });

  it('follow a claim: owed, posted and explained, and taken back with it', async () => {
    // 3,000.00 and 4,000.00 a month: (3,000 − 417) and (4,000 − 417) at 15 per cent.
    const contributions = 38_745 + 53_745;
    const [before] = await owed();
    expect(before?.due).toBe('2026-12-22');
    const whole = before?.amount ?? 0;
    const all = (amount: number) => [{ due: '2026-12-22', amount, left: amount }];
    await claim(true);
    expect(await owed()).toEqual(all(whole - contributions));
    expect(await agree()).toEqual([]);
    const { reckoned, rows } = await taxGridOf(scope, 2026);
    expect(reckoned.map(({ label, period, amount }) => [label, period, amount])).toEqual([
      ['Employment allowance', 'tax month 8 of 2026-27', -contributions],
    ]);
    expect(reckoned[0]?.workings['gb.allowance']?.amount).toBe('-924.90');
    expect(rows.find(({ code }) => code === 'gb.allowance')?.total).toBe(-contributions);
    await claim(false);
    expect(await owed()).toEqual(all(whole));
    expect(await agree()).toEqual([]);
  });

  it('are made good where a payslip is taken back', async () => {
    await claim(true);
    const [payslip] = await select<{ id: string }>(testDatabase(), 'select id from payslips where run_id = :run limit 1', { run });
    await reversePayslip(scope, payslip?.id ?? '', 'paid by mistake', false);
    const [first] = (await taxGridOf(scope, 2026)).rows.filter(({ code }) => code === 'gb.allowance');
    const [contributions] = (await taxGridOf(scope, 2026)).rows.filter(({ code }) => code === 'gb.ni.employer');
    expect(first?.total).toBe(-(contributions?.total ?? 0));
    expect(await agree()).toEqual([]);
  });

  it('go to the agency in a summary, read and accepted; without them there is none for a month with pay', async () => {
    const asked = async () => (await listOfFilings(scope)).find(({ filing }) => filing === 'eps')?.periods.map(({ key }) => key) ?? [];
    expect(await asked()).not.toContain('2026-27-08');
    await claim(true);
    expect(await asked()).toContain('2026-27-08');
    const read = readSummary((await fileOf(scope, ...EPS)).content);
    expect([read.faults, read.to, read.from]).toEqual([[], '2026-12-05', '2026-11-06']);
    await moveToday(scope, '2026-12-08');
    scope = await works.scope();
    await prepareFiling(scope, ...EPS, { reason: '' });
    await agreeFiling(scope, ...EPS, { signer: 'A. Signatory', title: 'Owner' });
    await sendByFile(scope, ...EPS, { pays: false, consent: '' }, outside);
    expect((await viewOf(scope, ...EPS)).state).toBe('accepted');
  });

  it('tell of a month in which nobody was paid', async () => {
    const { content } = await fileOf(scope, 'eps', '2026-27-07');
    expect(content).toContain('<NoPaymentForPeriod>yes</NoPaymentForPeriod>');
    expect(readSummary(content).faults).toEqual([]);
    expect(readSummary(marked(content.replace('2026-10-06', '2026-10-05'))).faults).toEqual([]);
    expect(readSummary(marked(content.replace('<To>2026-11-05', '<To>2026-11-04'))).faults.map(({ code }) => code)).toEqual(['NO-PAYMENT']);
  });
});
