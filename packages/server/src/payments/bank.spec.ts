import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { validateXML } from 'xmllint-wasm';
import { select } from '../database/connection';
import { payerOf } from '../employers/paying-accounts';
import { setCutOff } from '../standins/bank/books';
import type { Bank } from './bank';
import { batchFile, batchView } from './batches';
import { readStatements } from './camt053';
import { exchangeWithBank, takeStatement } from './exchange';
import { payReturned } from './returned';
import { House, OWN } from '../testing/house-of-payments';
import { refusal } from '../testing/refusal';

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
