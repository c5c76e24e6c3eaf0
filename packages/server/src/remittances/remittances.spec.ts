import { personItemSchema, payItemSchema } from '@woodruff/contract';
import { select } from '../database/connection';
import { moveToday } from '../employers/service';
import { setBank } from '../employers/paying-accounts';
import { viewOf } from '../filings/service';
import { addPayItem } from '../pay-items/service';
import { reversePayslip } from '../pay-runs/corrections/corrections';
import { sheetOf } from '../pay-runs/sheet/sheet';
import { batchFile, batchView, prepareBatch } from '../payments/batches';
import { releaseBatch } from '../payments/release';
import { dueCalendar, ladderOf } from '../payments/ladder';
import { addPersonItem } from '../people/employment/recurring-items';
import { setNationalNumber } from '../people/service';
import type { Scope } from '../scope';
import { agenciesOf } from '../payments/routes';
import { tellAgencies, type AgencyPayments } from './agency';
import { addReceipt, receiptOf } from './receipts';
import { PERIOD, Workplace } from '../testing/workplace';
import { obligationsOf } from './owed';
import { changePayee, payeesOf, payeeView, remit, undoRemittance } from './service';

const DEPOSIT = 'us.deposit';
const SUPPORT = 'payee:State disbursement unit';
const refusal = async (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => 'done',
    (error: Error) => error.message,
  );

describe('What is owed', () => {
  let place: Workplace;
  let scope: Scope;
  let run: string;
  const owed = async (code: string) => obligationsOf(scope, code);
  const pay = (code: string, due: string, more: Partial<Parameters<typeof remit>[1]['payments'][number]> = {}) =>
    remit(scope, { payments: [{ owed: code, due, method: 'elsewhere', reference: 'R-1', ...more }] }, agenciesOf(scope));

  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
    await setBank(scope, { name: 'Tidewater Savings', routing: '051000017', account: '7700144' });
    const support = await addPayItem(
      scope,
      payItemSchema.parse({
        code: 'support',
        name: 'Child support',
        kind: 'deduction',
        treatment: 'child-support',
        method: { by: 'amount' },
        order: 400,
        goes: { payee: 'State disbursement unit' },
      }),
    );
    const dues = await addPayItem(
      scope,
      payItemSchema.parse({
        code: 'dues',
        name: 'Union dues',
        kind: 'deduction',
        treatment: 'union-dues',
        method: { by: 'amount' },
        order: 500,
        goes: { payee: 'Glass Union', reference: 'Local 12' },
      }),
    );
    await setNationalNumber(scope, place.people.hourly, '213-45-6789');
    await addPersonItem(
      scope,
      place.people.hourly,
      personItemSchema.parse({ itemId: support.id, amount: '125.00', from: '2026-01-01', orderFacts: { reference: 'FS-2204' } }),
    );
    await addPersonItem(scope, place.people.salaried, personItemSchema.parse({ itemId: dues.id, amount: '30.00', from: '2026-01-01' }));
    run = await place.run();
    await place.approve(run);
    scope = await place.scope();
  });

  it('is by payee and period, with the day of each payee’s rule', async () => {
    const all = await obligationsOf(scope);
    const of = (code: string) => all.filter((one) => one.owed === code).map(({ due, left }) => [due, left]);
    // Paid Friday 27 November: a monthly depositor by 15 December; support seven business days later; dues by agreement.
    expect(of(DEPOSIT).map(([due]) => due)).toEqual(['2026-12-15']);
    expect(of(SUPPORT)).toEqual([['2026-12-08', 12_500]]);
    expect(of('payee:Glass Union')).toEqual([['2026-12-15', 3_000]]);
    expect(of('us.state-income-deposit@US-PA').map(([due]) => due)).toEqual(['2027-02-01']);
    const page = await payeeView(scope, SUPPORT);
    expect([page.rule, page.ruleFixed, page.cases]).toEqual([
      '7 business days after each pay date',
      true,
      [{ personId: place.people.hourly, name: 'Hana Hourly', caseNumber: 'FS-2204', amount: 12_500 }],
    ]);
    expect((await payeesOf(scope)).find(({ owed: code }) => code === SUPPORT)).toEqual(
      jasmine.objectContaining({ left: 12_500, next: '2026-12-08', late: false }),
    );
  });

  it('comes to what was posted: the obligations of each payee are the lines withheld for it', async () => {
    const { rows } = await sheetOf(scope, run);
    expect(rows.length).toBeGreaterThan(0);
    const [deposit] = await owed(DEPOSIT);
    await moveToday(scope, '2027-01-04');
    scope = await place.scope();
    const made = await viewOf(scope, '941', '2026-Q4');
    expect(made.lines.find(({ line }) => line === '12')?.amount).toBe(deposit?.amount ?? 0);
  });

  it('is paid in part, in full, and not beyond; the return counts it', async () => {
    const [deposit] = await owed(DEPOSIT);
    const due = deposit?.due ?? '';
    const [part] = (await pay(DEPOSIT, due, { amount: '100.00' })).payments;
    expect((await owed(DEPOSIT))[0]).toEqual(jasmine.objectContaining({ paid: 10_000, left: (deposit?.amount ?? 0) - 10_000 }));
    expect(await refusal(pay(DEPOSIT, due, { amount: String((deposit?.amount ?? 0) / 100) }))).toContain('is more than');
    const { payments } = await pay(DEPOSIT, due, { method: 'agency', reference: '' });
    expect(payments[0]?.confirmation).toMatch(/^\d{15}$/);
    expect(await refusal(pay(DEPOSIT, due))).toContain('nothing is left');
    expect(await refusal(pay(DEPOSIT, '2026-12-16'))).toContain('Nothing is owed');
    await moveToday(scope, '2027-01-04');
    scope = await place.scope();
    const line = (await viewOf(scope, '941', '2026-Q4')).lines.find((one) => one.line === '13');
    expect(line?.amount).toBe(deposit?.amount ?? 0);
    expect(await refusal(undoRemittance(scope, payments[0]?.id ?? '', 'Entered twice'))).toContain('The payee has this payment');
    await undoRemittance(scope, part?.id ?? '', 'Entered twice');
    expect(await refusal(undoRemittance(scope, part?.id ?? '', 'Entered twice'))).toContain('taken back already');
    expect((await owed(DEPOSIT))[0]?.left).toBe(10_000);
  });

  it('through the agency is told once, again where it was cut off, and taken back where it is refused', async () => {
    const [deposit] = await owed(DEPOSIT);
    const due = deposit?.due ?? '';
    const lost: AgencyPayments = { pay: () => Promise.reject(new Error('cut off')) };
    const body = { payments: [{ owed: DEPOSIT, due, method: 'agency' as const, reference: '' }] };
    await expectAsync(remit(scope, body, lost)).toBeRejectedWithError('cut off');
    // What was ordered counts as paid, has no confirmation yet, and is not ordered twice.
    expect((await owed(DEPOSIT))[0]?.left).toBe(0);
    const agencies = agenciesOf(scope);
    const [waiting] = (await payeeView(scope, DEPOSIT)).paid;
    expect([waiting?.reference, waiting?.receipts]).toEqual(['', []]);
    // The agency got it, and its answer was lost.
    await agencies.pay({
      key: waiting?.id ?? '',
      payee: 'United States Treasury',
      taxpayer: '00-1234567',
      about: 'Federal deposit',
      due,
      amount: deposit?.amount ?? 0,
      on: '2026-11-23',
    });
    await tellAgencies(scope, agencies);
    await tellAgencies(scope, agencies);
    const [paid] = (await payeeView(scope, DEPOSIT)).paid;
    expect(paid?.receipts.map(({ name }) => name)).toEqual([`confirmation-${paid?.reference}.txt`]);
    expect((await receiptOf(scope, paid?.receipts[0]?.id ?? '')).content.toString()).toContain('settles on 24 Nov 2026');
    const booked = await select<{ amount: number }>(scope.database, 'select amount from agency.payments where order_key = :id', {
      id: paid?.id,
    });
    expect(booked).toEqual([{ amount: deposit?.amount ?? 0 }]);
    // Pennsylvania was given no number to know the employer by.
    const [state] = await owed('us.state-income-deposit@US-PA');
    const answer = await pay('us.state-income-deposit@US-PA', state?.due ?? '', { method: 'agency', reference: '' });
    expect(answer.payments[0]?.refused).toContain('knows its payers by a number');
    expect((await owed('us.state-income-deposit@US-PA'))[0]?.left).toBe(state?.left ?? 0);
  });

  it('keeps receipts with the payment, and only what is one', async () => {
    const { payments } = await pay(SUPPORT, '2026-12-08');
    const id = payments[0]?.id ?? '';
    const content = Buffer.from('%PDF-1.7 receipt').toString('base64');
    const receipt = await addReceipt(scope, id, { name: 'receipt.pdf', content });
    expect((await payeeView(scope, SUPPORT)).paid[0]?.receipts).toEqual([{ id: receipt.id, name: 'receipt.pdf' }]);
    expect((await receiptOf(scope, receipt.id)).type).toBe('application/pdf');
    expect(await refusal(addReceipt(scope, id, { name: 'x.html', content: Buffer.from('<html>').toString('base64') }))).toContain('a PDF');
    const other = await (await Workplace.make()).scope();
    expect(await refusal(addReceipt(other, id, { name: 'receipt.pdf', content }))).toContain('no such payment');
    expect(await refusal(receiptOf(other, receipt.id))).toContain('no such receipt');
  });

  it('wants a reference and a day that has been for what was paid elsewhere', async () => {
    expect(await refusal(pay(DEPOSIT, '2026-12-15', { reference: '' }))).toContain('by which reference');
    expect(await refusal(pay(DEPOSIT, '2026-12-15', { on: '2026-12-24' }))).toContain('a day that has been');
    expect(await refusal(pay(DEPOSIT, '2026-12-15', { amount: '-5.00' }))).toContain('nothing is left');
  });

  it('a reversal after payment is a credit, used by the next payment of the same payee', async () => {
    await pay('payee:Glass Union', '2026-12-15');
    const { rows } = await sheetOf(scope, run);
    await reversePayslip(scope, rows.find(({ personId }) => personId === place.people.salaried)?.payslipId ?? '', 'never worked', false);
    expect((await owed('payee:Glass Union'))[0]).toEqual(jasmine.objectContaining({ amount: 0, paid: 3_000, left: 0 }));
    await moveToday(scope, '2026-12-07');
    scope = await place.scope();
    const next = await place.run({ from: '2026-11-22', to: '2026-12-05', payDate: '2026-12-11' });
    await place.approve(next);
    scope = await place.scope();
    // Thirty of December are covered by what was paid for November.
    expect((await owed('payee:Glass Union')).map(({ due, amount, credit, left }) => [due, amount, credit, left])).toEqual([
      ['2026-12-15', 0, 0, 0],
      ['2027-01-15', 3_000, 3_000, 0],
    ]);
  });

  it('what was paid of pay that is reversed whole stays in sight, paid too much', async () => {
    const [deposit] = await owed('us.deposit');
    await pay('us.deposit', deposit?.due ?? '');
    for (const { payslipId } of (await sheetOf(scope, run)).rows) await reversePayslip(scope, payslipId, 'never worked', false);
    expect(await owed('us.deposit')).toEqual([jasmine.objectContaining({ due: deposit?.due, amount: 0, paid: deposit?.amount, left: 0 })]);
  });

  it('goes by file with the case of each order, and by check to whoever has no account', async () => {
    expect(
      await refusal(
        changePayee(scope, {
          owed: SUPPORT,
          version: 1,
          method: 'file',
          bank: '011000016',
          account: '4455',
          address: { line1: '', line2: '', city: '', state: '', postcode: '' },
        }),
      ),
    ).toContain('mistyped');
    const address = { line1: '', line2: '', city: '', state: '', postcode: '' };
    await changePayee(scope, { owed: SUPPORT, version: 1, method: 'file', bank: '011000015', account: '44556677', address });
    await pay(SUPPORT, '2026-12-08', { method: 'file', reference: '' });
    await pay('payee:Glass Union', '2026-12-15', { method: 'cheque', reference: '' });
    const rung = (await ladderOf(scope)).rungs.find(({ kind }) => kind === 'remittance');
    expect(rung?.amount).toBe(15_500);
    const { id } = await prepareBatch(scope, { kind: 'remittance', payDate: '2026-12-04' });
    const { version } = await batchView(scope, id);
    await releaseBatch(scope, id, { version, balanced: true });
    expect((await batchFile(scope, id)).content).toContain('\n705DED*CS*FS-2204*261127*12500*213456789*N*HOURLY, HA\\ ');
    expect((await batchView(scope, id)).sums).toEqual([
      { method: 'file', payments: 1, amount: 12_500 },
      { method: 'cheque', payments: 1, amount: 3_000 },
    ]);
    expect((await owed(SUPPORT))[0]?.left).toBe(0);
    const [paid] = (await payeeView(scope, SUPPORT)).paid;
    expect(await refusal(undoRemittance(scope, paid?.id ?? '', 'By mistake'))).toContain('Drop the batch first');
  });

  it('by file without an account is refused when it is released, with what to do', async () => {
    await pay('payee:Glass Union', '2026-12-15', { method: 'file', reference: '' });
    const { id } = await prepareBatch(scope, { kind: 'remittance', payDate: '2026-12-04' });
    expect(await refusal(releaseBatch(scope, id, { version: 1, balanced: true }))).toContain('Glass Union has no account on file');
  });

  it('is late when its day has passed, first on the ladder, and stands in the calendar until it is paid', async () => {
    await moveToday(scope, '2026-12-16');
    scope = await place.scope();
    const [first] = (await ladderOf(scope)).rungs;
    expect([first?.late, first?.date]).toEqual([true, '2026-11-27']);
    expect((await ladderOf(scope)).rungs.filter(({ late, kind }) => late && kind === 'owed').map(({ date }) => date)).toEqual([
      '2026-12-08',
      '2026-12-15',
      '2026-12-15',
    ]);
    const calendar = await dueCalendar(scope);
    expect(calendar).toContain('DTSTART;VALUE=DATE:20261208\r\n');
    expect(calendar.split('\r\n').every((line) => line.length <= 75)).toBeTrue();
    await pay(SUPPORT, '2026-12-08');
    expect(await dueCalendar(scope)).not.toContain('20261208');
  });

  it('by another rule, agreed with the payee', async () => {
    const address = { line1: '', line2: '', city: '', state: '', postcode: '' };
    await changePayee(scope, {
      owed: 'payee:Glass Union',
      version: 1,
      method: 'cheque',
      bank: '',
      account: '',
      address,
      rule: { by: 'pay-date', days: 3 },
    });
    expect((await owed('payee:Glass Union'))[0]?.due).toBe('2026-11-30');
    expect(PERIOD.payDate).toBe('2026-11-27');
  });
});
