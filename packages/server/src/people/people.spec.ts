import { select } from '../database/connection';
import { testDatabase } from '../testing/database';
import { PENNSYLVANIA, Workplace } from '../testing/workplace';
import { addRate } from './employment/rates';
import { addPerson, changePerson, listPeople, personPage, reveal, setNationalNumber } from './service';
import { addTaxDetails } from './tax/tax-details';
import { todayView } from '../today/today';
import { addNote, removeDocument, setDocument } from './notes';
import { placeOf } from './postcodes';
import { packOf } from '@woodruff/core';
import { setPayment, trialDeposit } from './payment/payment';
import { Vault } from '../vault/vault';
import { personFactsSchema, rateSchema } from '@woodruff/contract';
import { sheetOf } from '../pay-runs/sheet/sheet';
import { viewOf } from '../filings/service';
import { calculateRun } from '../calculation/calculation';
import { changePayslip } from '../pay-runs/sheet/edits';
import { postOpening } from './history/opening';
import type { Scope } from '../scope';

const refused = async (work: Promise<unknown>): Promise<{ code: string; message: string; more?: { changed?: unknown[] } }> =>
  work.then(
    () => ({ code: 'not refused', message: '' }),
    (error: unknown) => error as { code: string; message: string },
  );

describe('People', () => {
  let place: Workplace;
  let scope: Scope;
  beforeAll(async () => {
    place = await Workplace.make();
    scope = await place.scope();
  }, 60_000);

  it('can be saved unfinished, and all that is missing is listed at once', async () => {
    const { id } = await addPerson(scope, personFactsSchema.parse({ code: 'N1', givenName: 'Nell', familyName: 'New' }));
    const page = await personPage(scope, id);
    expect(page.missing.map((fact) => fact.sentence)).toEqual([
      'No hire date',
      'No pay schedule',
      'No rate of pay',
      'No tax details',
      'No national number',
      'No method of payment',
    ]);
  });

  it('have a code of their own', async () => {
    const error = await refused(addPerson(scope, personFactsSchema.parse({ code: 'H1', givenName: 'A', familyName: 'B' })));
    expect(error.message).toContain('already a person with the code H1');
  });

  it('cannot leave before they came', async () => {
    const error = await refused(
      addPerson(scope, personFactsSchema.parse({ code: 'L1', givenName: 'A', familyName: 'B', hired: '2026-05-01', left: '2026-04-30' })),
    );
    expect(error.message).toContain('before the hire date');
  });

  it('are changed by one clerk at a time: the second learns what changed', async () => {
    const page = await personPage(scope, place.people.salaried);
    const facts = personFactsSchema.parse(page.facts);
    await changePerson(scope, place.people.salaried, { version: page.version, facts: { ...facts, job: 'Lead' } });
    const error = await refused(changePerson(scope, place.people.salaried, { version: page.version, facts: { ...facts, job: 'Head' } }));
    expect(error.code).toBe('changed-meanwhile');
    expect(error.more?.changed?.[0]).toEqual(jasmine.objectContaining({ who: 'The clerk', what: 'Changed job' }));
  });

  it('keep national numbers sealed, masked, and record who looked', async () => {
    await setNationalNumber(scope, place.people.hourly, '123-45-6789');
    const [row] = await select<{ sealed: Buffer }>(testDatabase(), 'select number_sealed as sealed from people where id = :id', {
      id: place.people.hourly,
    });
    expect(row?.sealed.toString('latin1')).not.toContain('123456789');
    expect((await personPage(scope, place.people.hourly)).nationalNumber).toBe('•••-••-6789');
    expect(await reveal(scope, place.people.hourly, 'national-number')).toEqual({ value: '123456789' });
    const [entry] = await select<{ action: string }>(
      testDatabase(),
      'select action from audit_entries where subject_id = :id order by id desc limit 1',
      { id: place.people.hourly },
    );
    expect(entry?.action).toBe('reveal');
  });

  it('cannot share a number, nor have one that cannot exist', async () => {
    expect((await refused(setNationalNumber(scope, place.people.salaried, '123-45-6789'))).code).toBe('number-shared');
    expect((await refused(setNationalNumber(scope, place.people.salaried, '666-45-6789'))).message).toContain('cannot exist');
  });

  it('are paid to accounts whose routing number has the right check digit', async () => {
    expect([packOf('US').bank.code.isOne('123456780'), packOf('US').bank.code.isOne('123456781')]).toEqual([true, false]);
    expect(
      (await refused(setPayment(scope, place.people.hourly, { method: 'deposit', bank: '123456781', account: '40017' }))).message,
    ).toContain('check digit');
    await setPayment(scope, place.people.hourly, { method: 'deposit', bank: '123456780', account: '400170022' });
    expect((await personPage(scope, place.people.hourly)).payment?.shown).toBe('Bank 123456780, account ••••0022');
  });

  it('have one rate of a kind from a date, and never one of nothing', async () => {
    const rate = { label: 'Pay', per: 'hour' as const, amount: '26.00', from: '2026-12-06', primary: true, reason: 'Raise' };
    await addRate(scope, place.people.hourly, rate);
    expect((await refused(addRate(scope, place.people.hourly, rate))).message).toContain('already a rate from 6 Dec 2026');
    expect((await refused(addRate(scope, place.people.hourly, { ...rate, from: '2027-01-01', amount: '0' }))).message).toContain(
      'more than zero',
    );
    const listed = (await listPeople(scope)).find((person) => person.id === place.people.hourly);
    expect(listed?.pay).withContext('a coming raise is not today’s pay').toBe('25.00 an hour');
  });

  it('have tax details that name each field at fault', async () => {
    const error = (await refused(
      addTaxDetails(scope, place.people.hourly, { from: '2026-02-01', facts: { ...PENNSYLVANIA, workState: 'ZZ' } }),
    )) as { more?: { fields?: { path: string }[] } };
    expect(error.more?.fields?.[0]?.path).toBe('workState');
  });
});

describe('The vault', () => {
  it('opens what it sealed, and notices a changed byte or another key', () => {
    const vault = new Vault('ab'.repeat(32));
    const sealed = vault.seal('123456789');
    expect(vault.open(sealed)).toBe('123456789');
    expect(vault.seal('123456789').equals(sealed)).withContext('never the same twice').toBeFalse();
    expect(() => new Vault('cd'.repeat(32)).open(sealed)).toThrow();
    sealed[sealed.length - 1]! ^= 1;
    expect(() => vault.open(sealed)).toThrow();
  });
});

describe('Deposits over several accounts', () => {
  const BANK = '123456780';
  let place: Workplace;
  let scope: Scope;
  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
  }, 60_000);
  const refusal = async (accounts: object[]): Promise<string> =>
    setPayment(scope, place.people.hourly, { method: 'deposit', accounts } as Parameters<typeof setPayment>[2]).then(
      () => 'not refused',
      (error: unknown) => (error as Error).message,
    );
  const rest = { bank: BANK, account: '40017001', by: 'remainder' };

  it('show what each would get of the latest net pay; numbers are sealed and shown masked', async () => {
    await place.run();
    const savings = { bank: BANK, account: '40017002', kind: 'savings', by: 'amount', value: '200.00' };
    expect(await refusal([savings, { bank: BANK, account: '40017003', by: 'percent', value: '10' }, rest])).toBe('not refused');
    const page = await personPage(scope, place.people.hourly);
    const net = page.payslips[0]!.net;
    expect(page.payment?.accounts.map(({ shown, kind, by, value, ofLastNet }) => [shown, kind, by, value, ofLastNet])).toEqual([
      ['••••7002', 'savings', 'amount', '200.00', 20_000],
      ['••••7003', 'checking', 'percent', '10', Math.round(net / 10)],
      ['••••7001', 'checking', 'remainder', null, net - 20_000 - Math.round(net / 10)],
    ]);
    expect(page.changes[0]?.what).toBe(
      'Paid by deposit: 200.00 to the account ending 7002, 10% to the account ending 7003, the remainder to the account ending 7001; until now paid by check',
    );
    expect((await reveal(scope, place.people.hourly, 'account')).value).toBe('40017002, 40017003, 40017001');
  });

  it('keep the number of an account whose share changes, and its trial deposit', async () => {
    await refusal([{ ...rest, account: '40017002', by: 'amount', value: '50' }, rest]);
    const [first, last] = (await personPage(scope, place.people.hourly)).payment!.accounts;
    await trialDeposit(scope, place.people.hourly, { account: first!.id, state: 'asked' });
    expect(
      await refusal([
        { id: first!.id, bank: BANK, by: 'amount', value: '75' },
        { id: last!.id, bank: BANK, by: 'remainder' },
      ]),
    ).toBe('not refused');
    const after = (await personPage(scope, place.people.hourly)).payment!.accounts;
    expect(after.map(({ shown, value, trial }) => [shown, value, trial])).toEqual([
      ['••••7002', '75', 'asked'],
      ['••••7001', null, null],
    ]);
  });

  it('are refused without exactly one remainder, a share of nothing, a mistyped bank, a missing number', async () => {
    expect(await refusal([{ ...rest, by: 'amount', value: '50' }])).toContain('One account takes the remainder');
    expect(await refusal([rest, { ...rest, account: '40017002' }])).toContain('One account takes the remainder');
    expect(await refusal([{ ...rest, by: 'amount', value: '0' }, rest])).toContain('Enter how much');
    expect(await refusal([{ ...rest, by: 'percent', value: '101' }, rest])).toContain('at most 100');
    expect(await refusal([{ ...rest, bank: '123456789' }])).toContain('check digit');
    expect(await refusal([{ bank: BANK, by: 'remainder' }])).toContain('account number is missing');
  });
});

describe('A postcode', () => {
  it('gives city and state without a network; an unknown one gives nothing', () => {
    expect(placeOf('23320')).toEqual({ city: 'Chesapeake', state: 'VA' });
    expect(placeOf('00000')).toEqual({ city: '', state: '' });
  });
});

describe('Beside what is paid', () => {
  it('notes stay as written, documents tell on Today when they expire, own fields are of their kind', async () => {
    const place = await Workplace.make({ ownFields: [{ key: 'shirt', label: 'Shirt', kind: 'choice', choices: ['S', 'M'] }] });
    const scope = await place.scope();
    const id = place.people.hourly;
    await addNote(scope, id, { date: '2026-11-20', text: 'Asked about the savings club' });
    await setDocument(scope, id, { name: 'Work permit', expires: '2026-12-10' });
    await setDocument(scope, id, { name: 'Work permit', expires: '2026-12-12' });
    await setDocument(scope, id, { name: 'Forklift licence', expires: '2028-01-01' });
    const page = await personPage(scope, id);
    expect(page.notes.map(({ date, who, text }) => [date, who, text])).toEqual([
      ['2026-11-20', 'The clerk', 'Asked about the savings club'],
    ]);
    expect(page.documents.map(({ name, expires }) => [name, expires])).toEqual([
      ['Work permit', '2026-12-12'],
      ['Forklift licence', '2028-01-01'],
    ]);
    const ofPeople = async () => (await todayView(scope)).coming.filter(({ personId }) => personId);
    expect((await ofPeople()).map(({ date, what }) => [date, what])).toEqual([['2026-12-12', 'Hana Hourly: Work permit expires']]);
    await removeDocument(scope, id, page.documents[0]!.id);
    expect(await ofPeople()).toEqual([]);

    const own = (shirt: string) =>
      changePerson(scope, id, { version: page.version, facts: personFactsSchema.parse({ ...page.facts, own: { shirt } }) });
    expect(await own('XL').catch((error: unknown) => (error as Error).message)).toBe('Shirt: expected one of S, M.');
    await own('M');
    expect((await personPage(scope, id)).facts.own).toEqual({ shirt: 'M' });
  });

  it('contractors are paid without tax details, counted as no employees and given no wage statement', async () => {
    const works = await Workplace.make();
    const clerk = await works.scope();
    const { version, facts } = await personPage(clerk, works.people.unfinished);
    await changePerson(clerk, works.people.unfinished, { version, facts: { ...facts, kind: 'contractor' }, from: null, reason: '' });
    await addRate(clerk, works.people.unfinished, rateSchema.parse({ label: 'Fee', per: 'period', amount: '1800', from: '2026-01-01' }));
    expect((await personPage(clerk, works.people.unfinished)).missing.map((fact) => fact.sentence)).toEqual([
      'No national number',
      'No method of payment',
    ]);
    const run = await works.run();
    const row = (await sheetOf(clerk, run)).rows.find((one) => one.personId === works.people.unfinished);
    expect([row?.totals.gross, row?.totals.taxes, row?.totals.net, row?.totals.employerCost]).toEqual([180_000, 0, 180_000, 180_000]);
    await works.approve(run);
    expect((await viewOf(clerk, 'w-2', '2026')).copies.map((one) => one.name)).not.toContain('Unfinished, Una');
  });

  it('contractors are withheld from once the agency refuses their number, counting what they were paid elsewhere', async () => {
    const works = await Workplace.make();
    const clerk = await works.scope();
    const id = works.people.hourly;
    const change = async (numberRefused: string | null) => {
      const { version, facts } = await personPage(clerk, id);
      await changePerson(clerk, id, { version, facts: { ...facts, kind: 'contractor', numberRefused }, from: null, reason: '' });
    };
    await change(null);
    await setNationalNumber(clerk, id, '213-45-6001');
    await postOpening(clerk, id, { paidUntil: '2026-09-30', amounts: { ordinary: '1900.00' }, acceptDifferences: false });
    expect((await viewOf(clerk, '1099-nec', '2026')).lines.find(({ line }) => line === 'less')?.amount).toBe(190_000);
    const taxes = async (run: string) => (await sheetOf(clerk, run)).rows.find((one) => one.personId === id)?.totals.taxes;
    const run = await works.run();
    const payslip = (await sheetOf(clerk, run)).rows.find((one) => one.personId === id);
    await changePayslip(clerk, run, payslip?.payslipId ?? '', { version: payslip?.version ?? 0, edits: { hours: { ordinary: '80' } } });
    expect(await taxes(run)).toBe(0);
    await change('2026-11-01');
    await calculateRun(clerk, run);
    const row = (await sheetOf(clerk, run)).rows.find((one) => one.personId === id);
    // 24 per cent of the whole payment, for 1,900.00 before and this one reach 2,000.00.
    expect(row?.totals.taxes).toBe(Math.round(0.24 * (row?.totals.gross ?? 0)));
    await change('2027-01-01');
    await calculateRun(clerk, run);
    expect(await taxes(run)).toBe(0);
  });
});
