import fc from 'fast-check';
import type { Ladder, Transfer } from '@woodruff/contract';
import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { validateXML } from 'xmllint-wasm';
import { select } from '../database/connection';
import { changeSchedule } from '../employers/schedules';
import { moveToday } from '../employers/service';
import { setUpView } from '../employers/set-up';
import { payerOf, payingAccounts, setBank } from '../employers/paying-accounts';
import { reversePayslip } from '../pay-runs/corrections/corrections';
import { withdrawRun } from '../pay-runs/corrections/whole-run';
import { payAgain } from '../pay-runs/posting/net-payments';
import { changePayslip } from '../pay-runs/sheet/edits';
import { sheetOf } from '../pay-runs/sheet/sheet';
import { setPayment, trialDeposit } from '../people/payment/payment';
import { personPage } from '../people/service';
import { holidaysOf, type Scope } from '../scope';
import { StandInBank } from '../standins/bank/bank';
import { setBankAccount, setCutOff, setOpening } from '../standins/bank/books';
import { testDatabaseUrl, testVaultKey } from '../testing/database';
import { PERIOD, Workplace } from '../testing/workplace';
import type { Bank } from './bank';
import { batchFile, batchView, denominationsOf, dropBatch, prepareBatch } from './batches';
import { releaseBatch } from './release';
import { readStatements } from './camt053';
import { chequesOf, chequesPdf, positivePayCsv, unclaimedCsv } from './cheques';
import { exchangeWithBank, takeStatement } from './exchange';
import { fundingOf } from './funding';
import { ladderOf } from './ladder';
import { answerNotice, holdReturned, payReturned, settleByHand } from './returned';

const OWN = { name: 'Tidewater Savings', routing: '051000017', account: '7700144' };
const HANA = { method: 'deposit' as const, bank: '011000015', account: '440012301' };

/** An approved run: Hana by deposit in two parts, Sol by deposit, the others by cheque. */
class House {
  run = '';
  bank: Bank;

  private constructor(
    readonly place: Workplace,
    public scope: Scope,
  ) {
    this.bank = new StandInBank(scope.database, holidaysOf(scope));
  }

  static async begin(): Promise<House> {
    const place = await Workplace.make();
    const house = new House(place, await place.scope());
    const { scope } = house;
    // Accounts of every spec are its own: the bank is one for all.
    const own = String(Math.floor(Math.random() * 1e9) + 1e9);
    await setBank(scope, { ...OWN, account: own });
    await setPayment(scope, place.people.hourly, {
      method: 'deposit',
      accounts: [
        { bank: HANA.bank, account: `${own}1`, kind: 'savings', by: 'amount', value: '200.00' },
        { bank: HANA.bank, account: `${own}2`, kind: 'checking', by: 'remainder' },
      ],
    });
    await setPayment(scope, place.people.salaried, { method: 'deposit', bank: '031000040', account: `${own}3` });
    await setOpening(scope, 5_000_000);
    house.run = await place.run();
    await place.approve(house.run);
    house.scope = await place.scope();
    return house;
  }

  async account(which: 1 | 2 | 3): Promise<{ bank: string; account: string }> {
    const [row] = await select<{ account: string }>(
      this.scope.database,
      `select account from bank.payments where account like '%${which}' and length(account) = 11 and name like :name order by id desc limit 1`,
      {
        name: which === 3 ? 'SOL%' : 'HANA%',
      },
    );
    return { bank: which === 3 ? '031000040' : HANA.bank, account: row?.account ?? '' };
  }

  async prepare(kind: 'pay' | 'again' = 'pay', payDate = PERIOD.payDate): Promise<string> {
    return (await prepareBatch(this.scope, { kind, payDate })).id;
  }

  async release(batch: string, more: { accounts?: 'approved' | 'now'; format?: string; balanced?: boolean } = {}): Promise<void> {
    await releaseBatch(this.scope, batch, { version: (await batchView(this.scope, batch)).version, balanced: true, ...more });
  }

  exchange(): ReturnType<typeof exchangeWithBank> {
    return exchangeWithBank(this.scope, this.bank);
  }

  async on(date: string): Promise<void> {
    await moveToday(this.scope, date);
    this.scope = await this.place.scope();
  }

  /** Everything sent, and what comes back is back. */
  async sent(): Promise<string> {
    const batch = await this.prepare();
    await this.release(batch);
    await this.exchange();
    return batch;
  }

  async to(payee: string, batch?: string): Promise<Transfer[]> {
    const batches = batch
      ? [batch]
      : (
          await select<{ id: string }>(this.scope.database, 'select id from payment_batches where employer_id = :id', {
            id: this.place.employerId,
          })
        ).map(({ id }) => id);
    const all = await Promise.all(batches.map((id) => batchView(this.scope, id)));
    return all.flatMap(({ transfers }) => transfers).filter((transfer) => transfer.payee.startsWith(payee));
  }
}

const refusal = async (work: Promise<unknown>): Promise<string> =>
  work.then(
    () => 'done',
    (error: Error) => error.message,
  );

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

describe('The bank', () => {
  it('books on the effective day, and what came too late a day after', async () => {
    const house = await House.begin();
    const batch = await house.sent();
    expect((await batchView(house.scope, batch)).state).toBe('sent');
    await house.on('2026-11-27');
    expect((await house.exchange()).lines).toBe(3);
    expect((await house.to('Sol'))[0]?.events.map(({ step, on }) => `${step} ${on}`)).toEqual(['released 2026-11-23', 'booked 2026-11-27']);
    // The same statements again change nothing.
    expect((await house.exchange()).lines).toBe(0);
    expect((await batchView(house.scope, batch)).state).toBe('confirmed');
    const late = await House.begin();
    await late.on('2026-11-27');
    await late.sent();
    expect((await late.exchange()).lines).toBe(0);
    await late.on('2026-11-30');
    await late.exchange();
    expect((await late.to('Sol'))[0]?.events.find(({ step }) => step === 'booked')?.on).toBe('2026-11-30');
  });

  it('gets each file once, whatever is cut off between', async () => {
    const house = await House.begin();
    const batch = await house.prepare();
    await house.release(batch);
    // Handed in, and the process died before it noted so.
    const { name, content } = await batchFile(house.scope, batch);
    await house.bank.submit({ name, content, on: house.scope.employer.today, at: '10:00' });
    expect((await batchView(house.scope, batch)).delivered).toBeFalse();
    await Promise.all([house.exchange(), house.exchange()]);
    const [{ count } = { count: 0 }] = await select<{ count: number }>(
      house.scope.database,
      'select count(*)::int as count from bank.payments where reference in (:references)',
      {
        references: (await house.to('', batch)).map(({ reference }) => reference),
      },
    );
    expect(count).toBe(3);
    // Another file with the same payments is refused whole.
    const again = content.replace(/^(.{33})./, '$1Z');
    expect(await house.bank.submit({ name, content: again, on: '2026-11-24', at: '10:00' })).toEqual({
      taken: false,
      faults: [jasmine.objectContaining({ what: '3 payments were in an earlier file' })],
    });
  });

  it('refuses a damaged file with the position, and the payments can be made again', async () => {
    const house = await House.begin();
    const batch = await house.prepare();
    await house.release(batch);
    const damaging: Bank = {
      submit: (file) => house.bank.submit({ ...file, content: file.content.replace(/(\n6.{28})\d/, '$1x') }),
      statements: house.bank.statements.bind(house.bank),
    };
    await exchangeWithBank(house.scope, damaging);
    const view = await batchView(house.scope, batch);
    expect([view.state, view.faults?.[0]]).toEqual(['refused', jasmine.objectContaining({ line: 3, column: 30 })]);
    const files = view.transfers.filter(({ method }) => method === 'file');
    expect(files.map(({ state }) => state)).toEqual(['returned', 'returned', 'returned']);
    for (const { id } of files) await payReturned(house.scope, id, { way: 'account', reason: 'The file was damaged' });
    const next = await house.prepare('again', '2026-11-30');
    await house.release(next);
    await house.exchange();
    expect((await batchView(house.scope, next)).transfers.map(({ state }) => state)).toEqual(['sent', 'sent', 'sent']);
  });

  it('refuses a file with any figure of its sums and hashes changed', async () => {
    const house = await House.begin();
    const batch = await house.prepare();
    await house.release(batch);
    const { name, content } = await batchFile(house.scope, batch);
    const lines = content.split('\n');
    // Columns that are checked, by record; names, accounts and free text may say anything.
    const checked: Record<string, [from: number, to: number][]> = {
      '1': [
        [1, 13],
        [35, 40],
      ],
      '5': [
        [1, 4],
        [51, 53],
        [79, 94],
      ],
      '6': [
        [1, 1],
        [4, 12],
        [30, 39],
        [79, 79],
      ],
      '8': [
        [1, 44],
        [45, 54],
        [80, 94],
      ],
      '9': [[1, 55]],
    };
    const places = lines.flatMap((line, at) =>
      /^9{94}$/.test(line)
        ? []
        : (checked[line[0] ?? ''] ?? []).flatMap(([from, to]) =>
            Array.from({ length: to - from + 1 }, (_one, index) => [at, from + index] as const),
          ),
    );
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...places), fc.constantFrom(...'0123456789X'), async ([line, column], letter) => {
        if (lines[line]?.[column - 1] === letter) return;
        const damaged = lines.map((text, at) => (at === line ? text.slice(0, column - 1) + letter + text.slice(column) : text)).join('\n');
        const answer = await house.bank.submit({ name, content: damaged, on: '2026-11-23', at: '10:00' });
        expect(answer.taken)
          .withContext(`line ${line + 1}, column ${column}, ${letter}`)
          .toBeFalse();
      }),
      { numRuns: 60 },
    );
  });

  it('takes ISO 20022, valid against the schema', async () => {
    const house = await House.begin();
    const batch = await house.prepare();
    await house.release(batch, { format: 'pain.001' });
    const { content, name } = await batchFile(house.scope, batch);
    expect(name).toMatch(/\.xml$/);
    const schema = readFileSync(new URL('../testing/pain.001.001.09.xsd', import.meta.url), 'utf8');
    expect((await validateXML({ xml: [{ fileName: name, contents: content }], schema: [schema] })).errors).toEqual([]);
    const wrong = content.replace(/<EndToEndId>.*?<\/EndToEndId>/, '');
    expect((await validateXML({ xml: [{ fileName: name, contents: wrong }], schema: [schema] })).valid).toBeFalse();
    await house.exchange();
    await house.on('2026-11-30');
    await house.exchange();
    expect((await house.to('Sol'))[0]?.state).toBe('confirmed');
    const { bank } = house;
    for (const damaged of [
      content.replace(/<CtrlSum>\d/, '<CtrlSum>9'),
      content.replace('<NbOfTxs>3', '<NbOfTxs>4'),
      content.slice(0, 400),
      content.replace('pain.001.001.09', 'pain.001.001.03'),
    ])
      expect((await bank.submit({ name, content: damaged, on: '2026-11-23', at: '10:00' })).taken).toBeFalse();
  });
});

describe('A payment that comes back', () => {
  const returned = async (which: 1 | 2 | 3, state: 'closed' | 'unknown' | 'moved' = 'closed') => {
    const house = await House.begin();
    await house.sent();
    await setBankAccount(house.scope, {
      ...(await house.account(which)),
      name: '',
      state,
      newBank: '',
      newAccount: state === 'moved' ? '55667788' : '',
    });
    await house.on('2026-12-02');
    await house.exchange();
    return house;
  };

  it('stands with its reason, is paid again once the account is corrected, and only once', async () => {
    const house = await returned(3);
    const [sol] = await house.to('Sol');
    expect([sol?.state, sol?.events.at(-1)]).toEqual([
      'returned',
      jasmine.objectContaining({ step: 'returned', code: 'R02', words: 'The account is closed', on: '2026-11-30' }),
    ]);
    const ladder = await ladderOf(house.scope);
    expect(ladder.returned.map(({ payee }) => payee)).toEqual(['Sol Salaried']);
    expect(ladder.rungs.find(({ kind }) => kind === 'batch')?.returned).toBe(1);
    const again = () => payReturned(house.scope, sol?.id ?? '', { way: 'account', reason: 'New account' });
    expect(await refusal(again())).toContain('is the one that sent it back');
    await setPayment(house.scope, house.place.people.salaried, { method: 'deposit', bank: '031000040', account: '60606060' });
    await again();
    expect(await refusal(again())).toContain('paid again already');
    expect(await refusal(payAgain(house.scope, sol?.payslipId ?? '', { method: 'cheque', reason: 'And by hand' }))).toContain(
      'paid again already',
    );
    const batch = await house.prepare('again', '2026-12-03');
    await house.release(batch);
    await house.exchange();
    await house.on('2026-12-07');
    await house.exchange();
    expect((await house.to('Sol')).map(({ state, amount }) => [state, amount])).toEqual([
      ['paid-again', sol?.amount ?? 0],
      ['confirmed', sol?.amount ?? 0],
    ]);
  });

  it('of two accounts only the part that came back is paid again', async () => {
    const house = await returned(1, 'unknown');
    const parts = await house.to('Hana');
    expect(parts.map(({ state, amount }) => [state, amount === 20_000])).toEqual([
      ['returned', true],
      ['confirmed', false],
    ]);
    expect(await refusal(payReturned(house.scope, parts[1]?.id ?? '', { way: 'cheque', reason: 'By mistake' }))).toContain(
      'did not come back',
    );
    await payReturned(house.scope, parts[0]?.id ?? '', { way: 'account', reason: 'To the other account' });
  });

  it('goes by cheque, to the estate, or is held', async () => {
    const house = await returned(3);
    const [sol] = await house.to('Sol');
    await holdReturned(house.scope, sol?.id ?? '', 'Waiting for the family');
    expect((await house.to('Sol'))[0]?.state).toBe('held');
    await payReturned(house.scope, sol?.id ?? '', { way: 'estate', reason: 'Letters of administration seen' });
    const batch = await house.prepare('again', '2026-12-03');
    expect((await batchView(house.scope, batch)).transfers.map(({ payee, method, number }) => [payee, method, number !== null])).toEqual([
      ['Estate of Sol Salaried', 'cheque', true],
    ]);
  });

  it('is not paid again while it is on its way, nor once it is reversed', async () => {
    const house = await House.begin();
    await house.sent();
    const [sol] = await house.to('Sol');
    expect(await refusal(payReturned(house.scope, sol?.id ?? '', { way: 'cheque', reason: 'In a hurry' }))).toContain('did not come back');
    expect(await refusal(payAgain(house.scope, sol?.payslipId ?? '', { method: 'cheque', reason: 'In a hurry' }))).toContain(
      'The bank has this payment',
    );
    const other = await returned(3);
    const [back] = await other.to('Sol');
    await reversePayslip(other.scope, back?.payslipId ?? '', 'never worked', false);
    expect(await refusal(payReturned(other.scope, back?.id ?? '', { way: 'cheque', reason: 'As asked' }))).toContain('reversed meanwhile');
  });

  it('a notice of change arrives with the money, and is taken over into the account once', async () => {
    const house = await returned(3, 'moved');
    const [sol] = await house.to('Sol');
    expect([sol?.state, sol?.events.at(-1)?.told]).toEqual(['confirmed', { bank: '031000040', account: '55667788' }]);
    expect((await ladderOf(house.scope)).notices.length).toBe(1);
    await answerNotice(house.scope, sol?.id ?? '', true);
    const { payment } = await personPage(house.scope, house.place.people.salaried);
    expect(JSON.stringify(payment)).toContain('7788');
    expect(await refusal(answerNotice(house.scope, sol?.id ?? '', true))).toContain('answered this notice already');
    expect((await ladderOf(house.scope)).notices).toEqual([]);
  });
});

describe('A statement', () => {
  const entry = (reference: string, amount: string, side: 'DBIT' | 'CRDT', id: string) =>
    `<Ntry><NtryRef>${id}</NtryRef><Amt Ccy="USD">${amount}</Amt><CdtDbtInd>${side}</CdtDbtInd><BookgDt><Dt>2026-11-27</Dt></BookgDt><NtryDtls><TxDtls><Refs><EndToEndId>${reference}</EndToEndId></Refs></TxDtls></NtryDtls></Ntry>`;
  const statement = (entries: string, opening: string, closing: string, account = '1') =>
    `<Document xmlns="urn:iso:std:iso:20022:tech:xsd:camt.053.001.08"><BkToCstmrStmt><Stmt><Id>S1</Id><Acct><Id><Othr><Id>${account}</Id></Othr></Id><Svcr><FinInstnId><ClrSysMmbId><MmbId>${OWN.routing}</MmbId></ClrSysMmbId></FinInstnId></Svcr></Acct>${[
      ['OPBD', opening],
      ['CLBD', closing],
    ]
      .map(
        ([code, amount]) =>
          `<Bal><Tp><CdOrPrtry><Cd>${code}</Cd></CdOrPrtry></Tp><Amt Ccy="USD">${amount}</Amt><CdtDbtInd>CRDT</CdtDbtInd><Dt><Dt>2026-11-27</Dt></Dt></Bal>`,
      )
      .join('')}${entries}</Stmt></BkToCstmrStmt></Document>`;

  it('that names an unknown payment is kept and told; another amount does not count as the payment', async () => {
    const house = await House.begin();
    await house.sent();
    const [sol] = await house.to('Sol');
    const content = statement(
      `${entry('X404', '10.00', 'DBIT', 'E1')}${entry(sol?.reference ?? '', '1.00', 'DBIT', 'E2')}`,
      '100.00',
      '89.00',
      (await payerOf(house.scope, null)).account,
    );
    expect(await takeStatement(house.scope, content)).toEqual({ lines: 2, unknown: 1 });
    expect(await takeStatement(house.scope, content)).toEqual({ lines: 0, unknown: 0 });
    expect((await house.to('Sol'))[0]?.state).toBe('sent');
    expect(await refusal(takeStatement(house.scope, statement('', '1.00', '1.00', '990011')))).toContain('ending 0011, which is none of');
  });

  it('that does not add up, or is none, is refused whole', async () => {
    const house = await House.begin();
    expect(await refusal(takeStatement(house.scope, statement(entry('A', '10.00', 'DBIT', 'E1'), '100.00', '80.00')))).toContain(
      'does not add up',
    );
    expect(await refusal(takeStatement(house.scope, '<Document/>'))).toContain('holds no statement');
    expect(await refusal(takeStatement(house.scope, 'not XML'))).toContain('no XML');
    expect(() => readStatements(statement(entry('A', '1O.00', 'DBIT', 'E1'), '1.00', '1.00'))).toThrowError(/an amount that is none/);
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

describe('The bank', () => {
  afterEach(async () => setCutOff((await House.begin()).scope, '23:59'));

  it('takes a file after its cut-off as on the next business day', async () => {
    const house = await House.begin();
    await setCutOff(house.scope, '17:00');
    const bookedOn = async (at: string): Promise<string | undefined> => {
      const one = await House.begin();
      await one.on('2026-11-25');
      const batch = await one.prepare();
      await one.release(batch);
      await one.bank.submit({ ...(await batchFile(one.scope, batch)), on: '2026-11-25', at });
      await one.on('2026-12-04');
      await one.exchange();
      return (await one.to('Sol', batch))[0]?.events.find(({ step }) => step === 'booked')?.on;
    };
    // The day before the pay date is Thanksgiving: what comes on Wednesday evening counts as of Friday, and is booked on Monday.
    expect(await bookedOn('17:00')).toBe('2026-11-27');
    expect(await bookedOn('17:01')).toBe('2026-11-30');
  });
});

describe('A process that is killed', () => {
  it('at any step of a release leaves each net pay to arrive exactly once', async () => {
    const house = await House.begin();
    const batch = await house.prepare();
    const { version } = await batchView(house.scope, batch);
    const child = (after: number): Promise<{ code: number | null; signal: string | null }> =>
      new Promise((resolve) => {
        const process_ = spawn(process.execPath, ['--import', 'tsx', new URL('../testing/killed-release.ts', import.meta.url).pathname], {
          env: {
            ...process.env,
            KILLED: JSON.stringify({
              url: testDatabaseUrl(),
              key: testVaultKey(),
              employer: house.place.employerId,
              user: house.scope.user.id,
              batch,
              version,
              after,
            }),
          },
          stdio: ['ignore', 'ignore', 'inherit'],
        });
        process_.on('exit', (code, signal) => resolve({ code, signal }));
      });
    let killed = 0;
    for (let after = 1; ; after += 1 + Math.floor(after / 6)) {
      const { signal } = await child(after);
      if (signal !== 'SIGKILL') break;
      killed += 1;
    }
    expect(killed).toBeGreaterThan(5);
    await house.exchange();
    await house.on('2026-12-01');
    await house.exchange();
    expect((await house.to('', batch)).filter(({ method }) => method === 'file').every(({ state }) => state === 'confirmed')).toBeTrue();
    const twice = await select(
      house.scope.database,
      `select p.reference from bank.payments p join transfers t on t.reference = p.reference where t.employer_id = :id group by 1 having count(*) > 1`,
      { id: house.place.employerId },
    );
    expect(twice).toEqual([]);
  }, 240_000);
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

type Step = {
  do: 'prepare' | 'release' | 'exchange' | 'replay' | 'double' | 'again' | 'day' | 'close' | 'fix' | 'whole' | 'die';
  which: number;
};
const step: fc.Arbitrary<Step> = fc.record({
  do: fc.constantFrom('prepare', 'release', 'exchange', 'replay', 'double', 'again', 'day', 'close', 'fix', 'whole', 'die'),
  which: fc.nat(5),
});

describe('Whatever happens', () => {
  it('each net pay has arrived exactly once, or is open', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 6, maxLength: 24 }), async (steps) => {
        const house = await House.begin();
        const { bank } = house;
        let day = 23;
        let statements: string[] = [];
        const keeping: Bank = {
          submit: bank.submit.bind(bank),
          statements: async (...of) => (statements = await bank.statements(...of)),
        };
        const open = async (): Promise<Ladder> => ladderOf(house.scope);
        const play = async ({ do: what, which }: Step): Promise<unknown> => {
          const ladder = await open();
          const waiting = ladder.rungs.filter(({ state }) => state === 'to-prepare');
          const batches = ladder.rungs.filter(({ state, batchId }) => state === 'to-send' && batchId);
          const back = ladder.returned[which % Math.max(1, ladder.returned.length)];
          switch (what) {
            case 'prepare': {
              const rung = waiting[which % Math.max(1, waiting.length)];
              return (
                rung && prepareBatch(house.scope, { kind: rung.kind as 'pay', payDate: rung.kind === 'pay' ? PERIOD.payDate : rung.date })
              );
            }
            case 'release':
            case 'double': {
              const batch = batches[which % Math.max(1, batches.length)]?.batchId;
              if (!batch) return undefined;
              const once = () => house.release(batch, { accounts: which % 2 ? 'now' : 'approved' });
              return what === 'double' ? Promise.allSettled([once(), once()]) : once();
            }
            case 'exchange':
              return exchangeWithBank(house.scope, keeping);
            case 'replay':
              for (const content of statements) await takeStatement(house.scope, content);
              return undefined;
            case 'die': {
              // The bank gets the file, and nobody notes that it did.
              const [row] = await select<{ id: string }>(
                house.scope.database,
                'select id from payment_batches where employer_id = :id and released_at is not null and file_hash is not null order by number limit 1',
                { id: house.place.employerId },
              );
              return row && bank.submit({ ...(await batchFile(house.scope, row.id)), on: house.scope.employer.today, at: '10:00' });
            }
            case 'again':
              return back && payReturned(house.scope, back.id, { way: which % 2 ? 'cheque' : 'account', reason: 'It came back' });
            case 'whole':
              return back?.payslipId && payAgain(house.scope, back.payslipId, { method: 'cheque', reason: 'It came back' });
            case 'fix':
              return setPayment(house.scope, house.place.people.salaried, {
                method: 'deposit',
                bank: '031000040',
                account: `7${which}00${Date.now() % 1e6}`,
              });
            case 'close':
              return setBankAccount(house.scope, {
                ...(await house.account(((which % 3) + 1) as 1)),
                name: '',
                state: which % 2 ? 'closed' : 'unknown',
                newBank: '',
                newAccount: '',
              });
            case 'day':
              day += 1 + (which % 3);
              return house.on(new Date(Date.UTC(2026, 10, day)).toISOString().slice(0, 10));
          }
        };
        for (const one of steps) {
          await play(one).catch((error: unknown) => {
            if (!(error instanceof Error) || !('code' in error || 'status' in error)) throw error;
          });
          // What has left for each net pay and did not come back is never more than the net; what is live is the net.
          const wrong = await select<{ payslip: string }>(
            house.scope.database,
            `select n.payslip_id as payslip, sum(t.amount) filter (where booked and not back) as gone, sum(t.amount) filter (where not back and not replaced) as live, min(net.amount) as net
             from transfers t join net_payments n on n.id = t.net_payment_id join lateral (select max(x.net) as amount from payslip_results x where x.payslip_id = n.payslip_id) net on true
             cross join lateral (select exists (select 1 from transfer_events e where e.transfer_id = t.id and e.step in ('booked', 'cleared')) as booked,
               exists (select 1 from transfer_events e where e.transfer_id = t.id and e.step in ('returned', 'refused', 'stopped', 'dropped')) as back,
               exists (select 1 from transfers o where o.replaces = t.id) as replaced) s
             where t.employer_id = :id group by n.payslip_id
             having coalesce(sum(t.amount) filter (where booked and not back), 0) > min(net.amount) or coalesce(sum(t.amount) filter (where not back and not replaced), 0) > min(net.amount)`,
            { id: house.place.employerId },
          );
          expect(wrong).withContext(JSON.stringify(steps)).toEqual([]);
          // And the bank has not paid more either.
          const twice = await select<{ name: string }>(
            house.scope.database,
            `select p.name from bank.payments p join transfers t on t.reference = p.reference where t.employer_id = :id and p.returned_on is null group by p.name
             having sum(p.amount) > (select sum(x.net) from payslips y join payslip_results x on x.payslip_id = y.id join people e on e.id = y.person_id where upper(e.given_name || ' ' || e.family_name) = p.name and y.run_id = :run and y.state = 'posted')`,
            { id: house.place.employerId, run: house.run },
          );
          expect(twice).withContext(JSON.stringify(steps)).toEqual([]);
        }
      }),
      { numRuns: 8 },
    );
  }, 240_000);
});
