import fc from 'fast-check';
import { efw2Sample } from '../testing/efw2-sample';
import { execute, select } from '../database/connection';
import { moveToday } from '../employers/service';
import { reversePayslip } from '../pay-runs/corrections/corrections';
import { sheetOf } from '../pay-runs/sheet/sheet';
import { setNationalNumber } from '../people/service';
import { obligationsOf } from '../remittances/owed';
import { StandInAgency } from '../standins/agencies/agency';
import { agencyView, setAgency } from '../standins/agencies/books';
import { readWages } from '../standins/agencies/US/quarterly-wages';
import { readReport } from '../standins/agencies/US/state-reports';
import { readStatements } from '../standins/agencies/US/wage-statements';
import { readReturn } from '../standins/agencies/US/returns';
import { CALM, readyToFile } from '../testing/filing-workplace';
import { refusal } from '../testing/refusal';
import type { Workplace } from '../testing/workplace';
import type { Scope } from '../scope';
import type { Agency } from './agency';
import { exchangeWithAgencies, fileOf, takeAnswer } from './files';
import { agreeFiling, enterFilingLine, prepareFiling, sendByFile } from './life';
import { agencyOf, outside } from './routes';
import { viewOf } from './service';

const QUARTER = '2026-Q4';

describe('A filing by file', () => {
  let place: Workplace;
  let scope: Scope;
  let run: string;
  const at = () => [scope, '941', QUARTER] as const;
  const agreed = async () => {
    await prepareFiling(...at(), { reason: 'As it is now' });
    await agreeFiling(...at(), { signer: 'A. Signatory', title: 'Owner' });
  };
  const send = (more: { pays?: boolean; consent?: string } = {}) => sendByFile(...at(), { pays: false, consent: '', ...more }, outside);
  const state = async () => (await viewOf(...at())).state;
  const answers = () => exchangeWithAgencies(scope, agencyOf(scope));
  const reverseHourly = async () => {
    const row = (await sheetOf(scope, run)).rows.find((one) => one.personId === place.people.hourly);
    await reversePayslip(scope, row?.payslipId ?? '', 'never worked', false);
  };

  beforeEach(async () => {
    place = await readyToFile();
    run = await place.run();
    await place.approve(run);
    scope = await place.scope();
    await moveToday(scope, '2027-01-04');
    scope = await place.scope();
  });
  afterAll(async () => setAgency(scope, CALM));

  it('can be read before anything is sent, is signed when it is, and is accepted', async () => {
    const before = await fileOf(...at());
    expect(before.name).toBe('941-2026-Q4.xml');
    expect(before.content).not.toContain('BusinessOfficerGrp');
    await agreed();
    await send();
    expect(await state()).toBe('accepted');
    const sent = await fileOf(...at(), 1);
    expect(sent.content).toContain('<TaxpayerPIN>40117</TaxpayerPIN>');
    expect(sent.content).toContain('<SignatureDt>2027-01-04</SignatureDt>');
    const { events, files } = await viewOf(...at());
    expect(events.map(({ step, who }) => `${step} ${who}`)).toEqual([
      'prepared The clerk',
      'agreed The clerk',
      'sent The clerk',
      'received Woodruff',
      'accepted Woodruff',
    ]);
    expect(files.map(({ attempt, name }) => [attempt, name])).toEqual([[1, '941-2026-Q4.xml']]);
    expect(await refusal(send())).toContain('is not agreed to, or was sent already');
    const [mail] = await select<{ subject: string }>(
      scope.database,
      `select subject from outbox where employer_id = :id and kind = 'filing'`,
      { id: place.employerId },
    );
    expect(mail?.subject).toBe('Form 941, quarter 4 of 2026: accepted');
  });

  it('says what is missing before the first one, and keeps what was agreed to', async () => {
    await execute(
      scope.database,
      `update employers set facts = jsonb_set(facts, '{country,signerPin}', '""') where id = :id returning id`,
      { id: place.employerId },
    );
    scope = await place.scope();
    expect((await viewOf(...at())).file?.wants.map(({ part }) => part)).toEqual(['registrations']);
    await agreed();
    expect(await refusal(send())).toContain("The signer's PIN");
    expect(await state()).toBe('agreed');
  });

  it('is rejected with what leads to the cause, corrected and sent again', async () => {
    await setAgency(scope, { ...CALM, knownAs: 'Another name' });
    await agreed();
    await send();
    expect(await state()).toBe('rejected');
    expect((await viewOf(...at())).faults.map(({ code }) => code)).toEqual(['NAME']);
    await setAgency(scope, { ...CALM, knownAs: scope.employer.name });
    await agreed();
    await send();
    const { state: now, faults, events } = await viewOf(...at());
    expect([now, faults, events.at(-1)?.attempt]).toEqual(['accepted', [], 2]);
    expect((await agencyView(scope)).files.map(({ status }) => status)).toEqual(['accepted', 'rejected']);
  });

  it('is amended by what differs, as a correction that the agency knows the original of', async () => {
    await agreed();
    await send();
    await reverseHourly();
    scope = await place.scope();
    await agreed();
    await send();
    expect(await state()).toBe('amended');
    expect((await fileOf(...at(), 2)).content).toContain('<ReturnTypeCd>941X</ReturnTypeCd>');
  });

  it('counts an answer once: late, doubled, in the wrong order, lost and asked for again, or to nobody', async () => {
    await setAgency(scope, { ...CALM, answersAfter: 3, doubles: true, loses: true });
    await agreed();
    await send();
    expect(await state()).toBe('queued');
    await moveToday(scope, '2027-01-06');
    scope = await place.scope();
    await answers();
    expect(await state()).toBe('received');
    await moveToday(scope, '2027-01-07');
    scope = await place.scope();
    expect((await answers()).answers).toBe(0);
    await moveToday(scope, '2027-01-08');
    scope = await place.scope();
    await answers();
    await answers();
    expect((await viewOf(...at())).events.map(({ step }) => step)).toEqual(['prepared', 'agreed', 'sent', 'received', 'accepted']);
    const strange = {
      answer: 'A-strange',
      file: '00000000-0000-0000-0000-000000000000',
      on: '2027-01-08',
      status: 'accepted' as const,
      number: '1',
      faults: [],
    };
    expect(await takeAnswer(scope, strange)).toBe('unknown');
    expect(await takeAnswer(scope, strange)).toBe('known');
  });

  it('goes once from two tabs, and again under its own key where the process died', async () => {
    await agreed();
    const both = await Promise.allSettled([send(), send()]);
    expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    await execute(scope.database, 'update filing_files set told_at = null where employer_id = :id returning id', { id: place.employerId });
    expect((await answers()).sent).toBe(1);
    expect((await agencyView(scope)).files.length).toBe(1);
  });

  it('waits where the agency cannot be reached, and goes with the next exchange', async () => {
    await agreed();
    const away: Agency = { submit: () => Promise.reject(new Error('unreachable')), answers: () => Promise.resolve([]) };
    await expectAsync(
      sendByFile(...at(), { pays: false, consent: '' }, { ...outside, settle: (of) => exchangeWithAgencies(of, away) }),
    ).toBeRejectedWithError('unreachable');
    expect(await state()).toBe('queued');
    await answers();
    expect(await state()).toBe('accepted');
  });

  it('pays what is left along with it, with a consent of its own only', async () => {
    const owed = async () => (await obligationsOf(scope, 'us.deposit')).reduce((sum, { left }) => sum + left, 0);
    const left = await owed();
    expect((await viewOf(...at())).balance).toBe(left);
    await agreed();
    expect(await refusal(send({ pays: true }))).toContain('Consent to the payment');
    expect(await state()).toBe('agreed');
    await send({ pays: true, consent: 'A. Signatory' });
    expect([await owed(), await state()]).toEqual([0, 'accepted']);
    expect((await viewOf(...at())).files[0]?.consents).toBe('Payment agreed to by A. Signatory');
  });

  it('carries an override into the file; one that breaks the arithmetic is not prepared', async () => {
    const enter = (line: string, amount: string | null, reason = 'Two were paid by the agent') =>
      enterFilingLine(...at(), { line, amount, reason });
    await enter('1', '9');
    expect(await refusal(enter('1', '9.50'))).toContain('is a count');
    expect((await viewOf(...at())).lines.find(({ line }) => line === '1')?.replaced?.reason).toBe('Two were paid by the agent');
    await enter('3', '9999.00', 'Withheld by hand');
    expect(await refusal(prepareFiling(...at(), { reason: '' }))).toContain('Line 7');
    await enter('3', null, 'It was the ledger that was right');
    await agreed();
    await send();
    expect((await fileOf(...at(), 1)).content).toContain('<EmployeeCnt>9</EmployeeCnt>');
    expect(await state()).toBe('accepted');
  });

  it('of a quarter that runs is refused by the agency, too', async () => {
    const { content } = await fileOf(...at());
    const agency = new StandInAgency(scope.database, 'US');
    await agency.submit({ key: `early-${place.employerId}`, agency: 'IRS', name: '941.xml', content, on: '2026-12-30' });
    const [last] = (await agency.answers([`early-${place.employerId}`], '2027-01-04')).slice(-1);
    expect(last?.faults.map(({ code }) => code)).toEqual(['SIGNATURE', 'PERIOD']);
  });

  it('of a state has its people, and the reader finds every figure that is damaged', async () => {
    for (const [person, of] of [
      [place.people.hourly, '213-45-6789'],
      [place.people.salaried, '214-45-6789'],
    ] as const)
      await setNationalNumber(scope, person, of);
    const { name, content } = await fileOf(scope, 'pa-1', QUARTER);
    const { faults, form, to, taxpayer } = readWages(content);
    expect([name, form, to, taxpayer.length]).toEqual([`pa-1-${QUARTER}.txt`, 'Forms UC-2 and UC-2A', '2026-12-31', 9]);
    expect(faults.map(({ code }) => code)).toEqual(['ACCOUNT']);
    const rows = content.split('\r\n').slice(0, -1);
    expect(rows.map((row) => row[0])).toEqual(['A', 'E', 'S', 'S', 'T', 'F']);
    // Of everybody the wages up to the ceiling, and the sums of the total and of the end.
    const places: Record<string, number[]> = { E: [2, 189], S: [60, 100, 217], T: [8, 20, 60], F: [10, 30, 80] };
    rows.forEach((row, index) =>
      places[row[0]!]?.forEach((column) => {
        const other = row[column - 1] === '7' ? '8' : '7';
        const damaged = rows.map((one, at) => (at === index ? row.slice(0, column - 1) + other + row.slice(column) : one)).join('\r\n');
        expect(readWages(damaged).faults.length).withContext(`${row[0]} ${column}`).toBeGreaterThan(1);
      }),
    );
    for (const at of rows.keys()) {
      const without = rows.filter((_row, index) => index !== at).join('\r\n');
      expect(readWages(without).faults.length)
        .withContext(`without record ${at + 1}`)
        .toBeGreaterThan(1);
    }
  });

  it('of a state without people is read line by line', async () => {
    const { content } = await fileOf(scope, 'pa-income', QUARTER);
    expect(readReport(content).faults.map(({ code }) => code)).toEqual(['ACCOUNT']);
    const damaged = content.replace(/^(line,withheld,)\d/m, '$1x');
    expect(readReport(damaged).faults.map(({ code }) => code)).toEqual(['AMOUNT', 'ACCOUNT']);
  });

  it('of wages is read by the agency’s own reader, statement by statement', async () => {
    await setNationalNumber(scope, place.people.hourly, '213-45-6789');
    await setNationalNumber(scope, place.people.salaried, '214-45-6789');
    const { content } = await fileOf(scope, 'w-2', '2026');
    const { faults, from, taxpayer } = readStatements(content);
    expect(faults).toEqual([]);
    expect([from, taxpayer.length]).toEqual(['2026-01-01', 9]);
    expect(
      content
        .split('\r\n')
        .map((line) => line.slice(0, 2))
        .join(' '),
    ).toBe('RA RE RW RS RW RS RT RF ');
  });

  it('finds a number that begins with 9 before and after it is sent', async () => {
    await setNationalNumber(scope, place.people.hourly, '213-45-6789');
    await setNationalNumber(scope, place.people.salaried, '214-45-6789');
    const { content } = await fileOf(scope, 'w-2', '2026');
    const nine = content.replace('RW213', 'RW913');
    expect(readStatements(nine).faults.map(({ code, person }) => [code, person])).toEqual([['SSN', 'HANA HOURLY']]);
    const twice = content.replace('RW214', 'RW213');
    expect(readStatements(twice).faults.map(({ code }) => code)).toEqual(['TWICE']);
  });

  describe('damaged anywhere that counts', () => {
    it('is rejected: federal returns, by each amount', async () => {
      const { content } = await fileOf(...at());
      const amounts = [...content.matchAll(/<(\w+Amt)[^>]*>(-?[\d.]+)</g)].filter(
        ([, element]) => !['WagesAmt', 'CurrentQtrFractionsCentsAmt'].includes(element ?? ''),
      );
      expect(amounts.length).toBeGreaterThan(10);
      expect(readReturn(content).faults).toEqual([]);
      for (const { 0: whole, index } of amounts) {
        const more = whole.replace(/(-?[\d.]+)<$/, (_all, amount: string) => `${(Number(amount) + 1).toFixed(2)}<`);
        const damaged = content.slice(0, index) + more + content.slice(index + whole.length);
        expect(readReturn(damaged).faults.length).withContext(whole).toBeGreaterThan(0);
      }
      expect(readReturn(content.slice(0, 300)).faults.map(({ code }) => code)).toEqual(['XML']);
    });

    it('is rejected: wage statements, by every record and amount', () => {
      const good = efw2Sample();
      expect(readStatements(good).faults).toEqual([]);
      const lines = good.split('\r\n').filter(Boolean);
      lines.forEach((_line, index) => {
        const without = lines.filter((_one, other) => other !== index).join('\r\n');
        // A state's record alone can be left out: the state is not this agency's.
        if (!lines[index]?.startsWith('RS'))
          expect(readStatements(without).faults.length)
            .withContext(`without ${lines[index]?.slice(0, 2)}`)
            .toBeGreaterThan(0);
      });
      fc.assert(
        fc.property(fc.nat(lines.length - 1), fc.nat(511), (line, column) => {
          const record = lines[line] as string;
          // Names, addresses and what is of the state can be anything; every figure of the agency's own is checked.
          const own =
            {
              RW: [
                [2, 11],
                [187, 264],
              ],
              RT: [[2, 114]],
              RF: [[7, 16]],
            }[record.slice(0, 2)] ?? [];
          if (!own.some(([from = 0, to = 0]) => column >= from && column < to)) return;
          const damaged = lines
            .map((one, other) => (other === line ? one.slice(0, column) + 'x' + one.slice(column + 1) : one))
            .join('\r\n');
          expect(readStatements(damaged).faults.length)
            .withContext(`${record.slice(0, 2)} column ${column + 1}`)
            .toBeGreaterThan(0);
        }),
        { numRuns: 300 },
      );
    });
  });
});
