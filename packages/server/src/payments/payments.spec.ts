import { changeSchedule } from '../employers/schedules';
import { setUpView } from '../employers/set-up';
import { payerOf, payingAccounts, setBank } from '../employers/paying-accounts';
import { reversePayslip } from '../pay-runs/corrections/corrections';
import { withdrawRun } from '../pay-runs/corrections/whole-run';
import { payAgain } from '../pay-runs/posting/net-payments';
import { changePayslip } from '../pay-runs/sheet/edits';
import { sheetOf } from '../pay-runs/sheet/sheet';
import { setPayment, trialDeposit } from '../people/payment/payment';
import { personPage } from '../people/service';
import { setOpening } from '../standins/bank/books';
import { PERIOD } from '../testing/workplace';
import { batchFile, batchView, denominationsOf, dropBatch, prepareBatch } from './batches';
import { chequesOf, chequesPdf, positivePayCsv, unclaimedCsv } from './cheques';
import { fundingOf } from './funding';
import { ladderOf } from './ladder';
import { payReturned, settleByHand } from './returned';
import { House } from '../testing/house-of-payments';
import { refusal } from '../testing/refusal';

describe('Net pay', () => {
  it('waits on the ladder, is gathered with a payment for each account, and is released once', async () => {
    const house = await House.begin();
    const before = (await ladderOf(house.scope)).rungs.find(({ kind }) => kind === 'pay');
    expect(before).toEqual(jasmine.objectContaining({ date: PERIOD.payDate, state: 'to-prepare', late: false }));
    const batch = await house.prepare();
    const view = await batchView(house.scope, batch);
    expect(view.amount).toBe(before?.amount ?? 0);
    expect(view.transfers.filter(({ payee }) => payee === 'Hana Hourly').map(({ amount, method }) => [method, amount === 20_000])).toEqual([
      ['file', true],
      ['file', false],
    ]);
    expect(await refusal(house.prepare())).toContain('Nothing waits to be paid');
    const [first, second] = await Promise.allSettled([house.release(batch), house.release(batch)]);
    expect([first.status, second.status].sort()).toEqual(['fulfilled', 'rejected']);
    expect(await refusal(house.release(batch))).toContain('was released already');
    expect(await refusal(dropBatch(house.scope, batch))).toContain('cannot be dropped');
    expect(await refusal(withdrawRun(house.scope, house.run, 'too late'))).toContain('with the bank');
    const file = await batchFile(house.scope, batch);
    expect((await batchFile(house.scope, batch)).content).toBe(file.content);
    expect(file.name).toMatch(/^payments-\d+\.ach$/);
  });

  it('is dropped before it is released, and waits again', async () => {
    const house = await House.begin();
    const waiting = async () => (await ladderOf(house.scope)).rungs.find(({ kind }) => kind === 'pay')?.amount;
    const before = await waiting();
    const batch = await house.prepare();
    expect(await waiting()).toBeUndefined();
    await dropBatch(house.scope, batch);
    expect(await waiting()).toBe(before);
    await house.prepare();
  });

  it('leaves out what was reversed since, and is nothing where nothing stands', async () => {
    const house = await House.begin();
    const batch = await house.prepare();
    const { rows } = await sheetOf(house.scope, house.run);
    const hourly = rows.find(({ personId }) => personId === house.place.people.hourly);
    await reversePayslip(house.scope, hourly?.payslipId ?? '', 'never worked', false);
    await house.release(batch);
    expect((await house.to('Hana', batch)).map(({ state }) => state)).toEqual(['left-out', 'left-out']);
    const { content } = await batchFile(house.scope, batch);
    expect(content).not.toContain('HANA');
  });

  it('tells of an account that changed between approval and release, by whom, and goes where it is said', async () => {
    const house = await House.begin();
    const batch = await house.prepare();
    await setPayment(house.scope, house.place.people.salaried, { method: 'deposit', bank: '031000040', account: '998877665' });
    const { changed } = await batchView(house.scope, batch);
    expect(changed).toEqual([jasmine.objectContaining({ name: 'Sol Salaried', who: 'The clerk' })]);
    expect(changed[0]?.what).toContain('7665');
    expect(await refusal(house.release(batch))).toContain('Sol Salaried');
    await house.release(batch, { accounts: 'now' });
    expect((await batchFile(house.scope, batch)).content).toContain('998877665');
    const other = await House.begin();
    const kept = await other.prepare();
    await setPayment(other.scope, other.place.people.salaried, { method: 'deposit', bank: '031000040', account: '998877665' });
    await other.release(kept, { accounts: 'approved' });
    expect((await batchFile(other.scope, kept)).content).not.toContain('998877665');
    // What is released stays as it is, whatever changes later.
    const before = (await batchFile(other.scope, kept)).content;
    await setPayment(other.scope, other.place.people.salaried, { method: 'deposit', bank: '031000040', account: '111222333' });
    expect((await batchFile(other.scope, kept)).content).toBe(before);
  });

  it('says what the account lacks', async () => {
    const house = await House.begin();
    await house.sent();
    await house.on('2026-12-01');
    await house.exchange();
    const [account] = (await ladderOf(house.scope)).accounts;
    const paid = (await house.to('')).filter(({ method }) => method === 'file').reduce((sum, { amount }) => sum + amount, 0);
    expect(account).toEqual(jasmine.objectContaining({ balance: 5_000_000 - paid, on: '2026-11-27' }));
  });

  it('sets off against a replacement what was paid for the payslip that was reversed, and pays the rest', async () => {
    const house = await House.begin();
    await house.sent();
    await house.on('2026-12-01');
    await house.exchange();
    const [sol] = await house.to('Sol');
    const { replacementRun } = await reversePayslip(house.scope, sol?.payslipId ?? '', 'A bonus was forgotten', true);
    const { rows } = await sheetOf(house.scope, replacementRun ?? '');
    const oneOffs = [{ id: 'b', item: 'bonus', amount: '500.00' }];
    await changePayslip(house.scope, replacementRun ?? '', rows[0]?.payslipId ?? '', {
      version: rows[0]?.version ?? 0,
      edits: { oneOffs },
    });
    await house.place.approve(replacementRun ?? '');
    // 500.00 less 22 %, 6.2 %, 1.45 %, 3.07 %, 0.07 % and 1 %.
    const rest = 33_105;
    const batch = await house.prepare('pay', '2026-12-01');
    const parts = (await batchView(house.scope, batch)).transfers.map(({ method, amount }) => [method, amount]);
    expect(parts).toEqual([
      ['file', rest],
      ['set-off', sol?.amount ?? 0],
    ]);
    expect((await batchView(house.scope, batch)).amount).toBe(rest);
    await dropBatch(house.scope, batch);
    const again = await house.prepare('pay', '2026-12-01');
    await house.release(again);
    expect((await batchView(house.scope, again)).transfers.map(({ state }) => state)).toEqual(['sent', 'confirmed']);
  });

  it('carries trial deposits along, and marks the account when the bank has booked or returned them', async () => {
    const house = await House.begin();
    const account = async () => (await personPage(house.scope, house.place.people.salaried)).payment?.accounts[0];
    await trialDeposit(house.scope, house.place.people.salaried, { account: (await account())?.id ?? '', state: 'asked' });
    const batch = await house.sent();
    const trial = (await house.to('Sol', batch)).find(({ purpose }) => purpose === 'trial');
    expect([trial?.amount, trial?.method]).toEqual([0, 'file']);
    expect((await batchFile(house.scope, batch)).content).toMatch(/\n623031000040/);
    await house.on('2026-11-27');
    await house.exchange();
    expect((await account())?.trial).toBe('arrived');
  });

  it('is counted into notes and coins', () => {
    expect(denominationsOf([12_345, 100])).toEqual([
      { denomination: 10_000, pieces: 1 },
      { denomination: 2_000, pieces: 1 },
      { denomination: 100, pieces: 4 },
      { denomination: 25, pieces: 1 },
      { denomination: 10, pieces: 2 },
    ]);
  });
});

describe('Several accounts that pay', () => {
  it('each has batches, files, statements and a line in funding of its own', async () => {
    const house = await House.begin();
    const own = (await payerOf(house.scope, null)).account;
    await setBank(house.scope, { which: 'another', name: 'Harbour Mutual', routing: '011000015', account: `${own}9` });
    const [, second] = await payingAccounts(house.scope);
    expect(second?.last4).toBe(`${own}9`.slice(-4));
    expect(
      await refusal(setBank(house.scope, { which: 'another', name: 'Harbour Mutual', routing: '011000015', account: '12345' })),
    ).toContain('called Harbour Mutual already');
    await setOpening(house.scope, 1_000_000, second?.id ?? null);
    const rungBefore = (await ladderOf(house.scope)).rungs.find(({ kind }) => kind === 'pay');
    expect(rungBefore?.payingAccountId).toBeNull();
    const { schedules } = await setUpView(house.scope);
    const { id: scheduleId, people: _people, runs: _runs, ...schedule } = schedules[0]!;
    await changeSchedule(house.scope, scheduleId, { ...schedule, payingAccountId: second?.id ?? null });
    const rung = (await ladderOf(house.scope)).rungs.find(({ kind }) => kind === 'pay');
    expect([rung?.payingAccountId, rung?.amount]).toEqual([second?.id ?? '', rungBefore?.amount ?? 0]);
    expect(await refusal(house.prepare())).toContain('Nothing waits to be paid');
    const { id } = await prepareBatch(house.scope, { kind: 'pay', payDate: PERIOD.payDate, payingAccountId: second?.id ?? null });
    const view = await batchView(house.scope, id);
    expect([view.from?.name, view.handInBy]).toEqual(['Harbour Mutual', '2026-11-25']);
    await house.release(id);
    await house.exchange();
    await house.on('2026-12-01');
    await house.exchange();
    const { accounts } = await ladderOf(house.scope);
    const gone = (await house.to('', id)).filter(({ method }) => method === 'file').reduce((sum, { amount }) => sum + amount, 0);
    expect(accounts.map(({ balance }) => balance)).toEqual([null, 1_000_000 - gone]);
    const { id: gathered } = await prepareBatch(house.scope, { kind: 'pay', payDate: PERIOD.payDate }).catch(() => ({ id: '' }));
    expect(gathered).toBe('');
    const funding = await fundingOf(house.scope);
    expect(funding.days.filter(({ expected }) => expected).every(({ payingAccountId }) => payingAccountId === second?.id)).toBeTrue();
  });
});

describe('Cheques', () => {
  it('are numbered, printed, cleared or stopped, and told to the bank', async () => {
    const house = await House.begin();
    const { rows } = await sheetOf(house.scope, house.run);
    const salaried = rows.find(({ personId }) => personId === house.place.people.salaried);
    const { made } = await payAgain(house.scope, salaried?.payslipId ?? '', { method: 'cheque', reason: 'By cheque this once' });
    const { number = 0 } = made.find(({ stopped }) => stopped === null) ?? {};
    const batch = await house.prepare();
    expect(await refusal(chequesPdf(house.scope, batch, 'top'))).toContain('release it first');
    await house.release(batch);
    expect((await chequesPdf(house.scope, batch, 'middle')).subarray(0, 5).toString()).toBe('%PDF-');
    const { cheques } = await chequesOf(house.scope, { state: 'out' });
    const one = cheques.find((cheque) => cheque.number === number);
    expect(one?.events.map(({ step }) => step)).toEqual(['released', 'printed']);
    expect(await positivePayCsv(house.scope)).toContain(
      `${number ?? ''},2026-11-23,${((one?.amount ?? 0) / 100).toFixed(2)},Sol Salaried,issued`,
    );
    await settleByHand(house.scope, one?.id ?? '', 'stopped', 'Spoilt in the printer');
    expect(await refusal(settleByHand(house.scope, one?.id ?? '', 'cleared', ''))).toContain('stopped already');
    expect(await positivePayCsv(house.scope)).toContain(
      `${number ?? ''},2026-11-23,${((one?.amount ?? 0) / 100).toFixed(2)},Sol Salaried,void`,
    );
    await payReturned(house.scope, one?.id ?? '', { way: 'cheque', reason: 'Printed anew' });
    const next = await house.prepare('again', '2026-11-30');
    await house.release(next);
    expect((await chequesOf(house.scope, { state: 'out' })).cheques.some(({ reason }) => reason === 'Printed anew')).toBeTrue();
    await house.on('2027-07-01');
    expect((await chequesOf(house.scope, { state: 'stale' })).cheques.length).toBeGreaterThan(0);
    // Pennsylvania: two years, counted until the end of the year, reported by 15 April after it.
    const out = (await chequesOf(house.scope, { state: 'out' })).cheques.find(({ reason }) => reason === 'Printed anew');
    expect([out?.date, out?.unclaimed?.from, out?.unclaimed?.report]).toEqual(['2026-11-23', '2028-11-23', '2029-04-15']);
    expect((await chequesOf(house.scope, { state: 'unclaimed' })).cheques).toEqual([]);
    await house.on('2028-11-23');
    expect((await unclaimedCsv(house.scope)).split('\n').filter((line) => line.includes('Sol Salaried')).length).toBe(1);
  });
});
