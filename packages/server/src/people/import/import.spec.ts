import ExcelJS from 'exceljs';
import { select } from '../../database/connection';
import { testDatabase } from '../../testing/database';
import { Workplace } from '../../testing/workplace';
import type { Scope } from '../../scope';
import { personPage, reveal } from '../service';
import { setPayment } from '../payment/payment';
import { peopleCsv, peopleXlsx } from './export';
import { checkImport, importPeople } from './import';
import { refusal } from '../../testing/refusal';

const file = (text: string | Buffer, columns?: (string | null)[]) => ({
  name: 'people.csv',
  content: Buffer.from(text as string).toString('base64'),
  dates: 'month-first' as const,
  ...(columns ? { columns } : {}),
});
const HEAD =
  'Code,First name,Last name,Date of birth,Hired,Department,Pay schedule,Rate,Per,SSN,health,Form used,"Filing status, step 1(c)",Lives in,Works in';
const ROW = (code: string, more: Partial<Record<'born' | 'hired' | 'department' | 'rate' | 'ssn' | 'health' | 'status', string>> = {}) =>
  [
    code,
    'Nia',
    `Row-${code}`,
    more.born ?? '1990-02-03',
    more.hired ?? '11/02/2026',
    more.department ?? 'shop',
    'fortnightly',
    more.rate ?? '"1,250.50"',
    'period',
    more.ssn ?? '',
    more.health ?? '45',
    '2020',
    more.status ?? 'single',
    'TX',
    'Texas',
  ].join(',');

describe('A file of people', () => {
  let place: Workplace;
  let scope: Scope;
  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
  }, 60_000);
  const count = async () =>
    Number(
      (await select<{ n: number }>(testDatabase(), 'select count(*) as n from people where employer_id = :id', { id: place.employerId }))[0]
        ?.n,
    );

  it('is matched by its headings, checked, taken whole; the same file again changes nothing', async () => {
    const csv = file([HEAD, ROW('N1', { ssn: '123-45-6001' }), ROW('N2')].join('\n'));
    const check = await checkImport(scope, csv);
    expect(check.columns.filter((column) => column.key === null)).toEqual([]);
    expect([check.problemCount, check.added, check.changed, check.unchanged]).toEqual([0, 2, 0, 0]);
    expect(await importPeople(scope, csv)).toEqual({ added: 2, changed: 0, unchanged: 0 });
    expect(await importPeople(scope, csv)).toEqual({ added: 0, changed: 0, unchanged: 2 });
    const [{ id } = { id: '' }] = await select<{ id: string }>(
      testDatabase(),
      `select id from people where employer_id = :id and code = 'N1'`,
      { id: place.employerId },
    );
    const page = await personPage(scope, id);
    expect(page.facts).toEqual(jasmine.objectContaining({ hired: '2026-11-02', department: 'Shop', scheduleId: place.scheduleId }));
    expect(page.nationalNumber).toBe('•••-••-6001');
    expect(page.rates.map((rate) => [rate.amount, rate.per, rate.from, rate.reason])).toEqual([
      ['1250.50', 'period', '2026-11-02', 'Imported'],
    ]);
    expect(page.items.map((item) => [item.code, item.amount, item.from])).toEqual([['health', '45', '2026-11-02']]);
    expect(page.taxDetails[0]?.facts).toEqual(jasmine.objectContaining({ residentState: 'TX', workState: 'TX' }));
    expect(page.missing.map((fact) => fact.sentence)).toEqual(['No method of payment']);
    expect(page.changes[0]?.what).toContain('from people.csv, row 2');
  });

  it('changes only what it says: empty cells and columns that are not there leave facts alone', async () => {
    await importPeople(scope, file([HEAD, ROW('N1')].join('\n')));
    const change = file('Code,First name,Last name,Rate,Rate from,health\nN1,Nia,Row-N1,1300.00,2026-12-01,\n');
    const check = await checkImport(scope, change);
    expect(check.changes).toEqual([{ row: 2, name: 'Nia Row-N1', what: 'rate 1300.00 from 2026-12-01' }]);
    await importPeople(scope, change);
    const [{ id } = { id: '' }] = await select<{ id: string }>(
      testDatabase(),
      `select id from people where employer_id = :id and code = 'N1'`,
      { id: place.employerId },
    );
    const page = await personPage(scope, id);
    expect(page.rates.map((rate) => [rate.amount, rate.per])).toEqual([
      ['1300.00', 'period'],
      ['1250.50', 'period'],
    ]);
    expect([page.facts.born, page.items.length]).toEqual(['1990-02-03', 1]);
  });

  it('puts another account in the place of the one that takes what remains, and leaves accounts with a share of their own', async () => {
    const share = { bank: '031000503', account: '11112222', by: 'amount' as const, value: '50.00', kind: 'savings' as const };
    const main = { bank: '031000503', account: '33334444', by: 'remainder' as const, kind: 'checking' as const };
    await setPayment(scope, place.people.salaried, { method: 'deposit', accounts: [share, main] });
    await importPeople(scope, file('Code,First name,Last name,Routing number,Account number\nS1,Sol,Salaried,031000503,55556666\n'));
    const page = await personPage(scope, place.people.salaried);
    const accounts = page.payment?.method === 'deposit' ? page.payment.accounts : [];
    expect(accounts?.map(({ shown, by, value }) => [shown.slice(-4), by, value])).toEqual([
      ['2222', 'amount', '50.00'],
      ['6666', 'remainder', null],
    ]);
    expect((await reveal(scope, place.people.salaried, 'account')).value).toBe('11112222, 55556666');
    expect(page.changes.map((entry) => entry.what)).toContain(
      'Paid to the account ending 6666; until now to the account ending 4444, from people.csv, row 2',
    );
  });

  it('gives somebody on file an item from today on: what was paid without it stays as it was paid', async () => {
    const change = file('Code,First name,Last name,loan\nS1,Sol,Salaried,40.00\n');
    expect((await checkImport(scope, change)).changes.map((entry) => entry.what)).toEqual(['Loan 40.00']);
    await importPeople(scope, change);
    const page = await personPage(scope, place.people.salaried);
    expect(page.items.map((item) => [item.code, item.amount, item.from])).toEqual([['loan', '40.00', '2026-11-23']]);
  });

  it('tells every cell that is not taken, with row, column, value and remedy; and nothing of it is saved', async () => {
    const before = await count();
    const csv = file(
      [
        HEAD,
        ROW('N1'),
        ROW('N2', { born: '31.2.1990', department: 'Foundry' }),
        ROW('N1', { rate: '0' }),
        ROW('has space', { ssn: '000-12-3456', status: 'widowed' }),
      ].join('\n'),
    );
    const check = await checkImport(scope, csv);
    expect(check.problems.map((problem) => `${problem.row} ${problem.column} “${problem.value}”: ${problem.remedy}`)).toEqual([
      '3 Date of birth “31.2.1990”: Write a date such as 2026-11-27.',
      "3 Department “Foundry”: There is no department “Foundry”. Add it on the employer's page, or correct the name.",
      '4 Rate “0”: A rate is more than zero.',
      '4 Code “N1”: Row 2 has this code, too. Keep one row for each person.',
      '5 Code “has space”: Write a code of letters and figures, without spaces.',
      '5 SSN “000-12-3456”: This number cannot exist. Compare it with the card.',
      '5 Filing status, step 1(c) “widowed”: Write one of: single, married, married-higher-single.',
    ]);
    expect(await refusal(importPeople(scope, csv))).toContain('7 cells were not taken, so nothing was imported');
    expect(await count()).toBe(before);
  });

  it('finds what only a comparison shows: a number of somebody else, an order of dates, tax details without a state', async () => {
    await importPeople(scope, file([HEAD, ROW('N1', { ssn: '123-45-6001' })].join('\n')));
    const check = await checkImport(
      scope,
      file([HEAD, ROW('N2', { ssn: '123-45-6001' }), ROW('N3', { born: '2026-11-20' }), ROW('N4').replace(/,TX,Texas$/, ',,')].join('\n')),
    );
    expect(check.problems.map((problem) => [problem.row, problem.column, problem.value])).toEqual([
      [2, 'Social security number', '•••-••-6001'],
      [3, 'Date of birth', '2026-11-20'],
      [4, 'residentState', ''],
    ]);
  });

  it('headings of another system are matched by hand once, and remembered', async () => {
    const csv = 'Kennung,Vorname,Nachname\nN1,Nia,Okafor\n';
    const first = await checkImport(scope, file(csv));
    expect(first.problems.map((problem) => problem.column)).toEqual(['Code', 'Given names', 'Family name']);
    await importPeople(scope, file(csv, ['code', 'givenName', 'familyName']));
    expect((await checkImport(scope, file(csv.replace('N1', 'N2')))).columns.map((column) => column.key)).toEqual([
      'code',
      'givenName',
      'familyName',
    ]);
  });

  it('is read from a workbook, dates and figures as the spreadsheet keeps them; semicolons and tabs, too', async () => {
    const workbook = new ExcelJS.Workbook();
    const page = workbook.addWorksheet('People');
    page.addRow(['Code', 'First name', 'Last name', 'Hire date', 'Rate', 'Per']);
    page.addRow(['N1', 'Nia', 'Okafor', new Date('2026-11-02T00:00:00Z'), 24.5, 'hour']);
    const check = await checkImport(scope, file(Buffer.from(await workbook.xlsx.writeBuffer())));
    expect(check.problemCount).toBe(0);
    expect(check.changes).toEqual([{ row: 2, name: 'Nia Okafor', what: 'new' }]);
    for (const separator of [';', '\t']) {
      const text = ['Code', 'First name', 'Last name'].join(separator) + '\n' + ['N9', 'Nia', 'Okafor, Dr'].join(separator);
      expect((await checkImport(scope, file(text))).problemCount).toBe(0);
    }
  });

  it('that is none is refused with what to do', async () => {
    expect(await refusal(checkImport(scope, file('Code,First name\n')))).toContain('has no rows');
    expect(await refusal(checkImport(scope, file('Code,"First\nN1')))).toContain('not a readable CSV');
    expect(await refusal(checkImport(scope, file(Buffer.from('PK not a workbook'))))).toContain('cannot be read');
  });

  it('as exported can be imported again and changes nothing, as CSV and as workbook; protected numbers stay masked', async () => {
    await importPeople(scope, file([HEAD, ROW('N1', { ssn: '123-45-6001' })].join('\n')));
    const csv = await peopleCsv(scope);
    expect(csv).toContain('•••-••-6001');
    expect(csv).not.toContain('123456001');
    for (const content of [csv, await peopleXlsx(scope)]) {
      const check = await checkImport(scope, file(content));
      expect(check.problems).toEqual([]);
      expect([check.added, check.changed, check.unchanged]).toEqual([0, 0, 5]);
    }
  });
});
