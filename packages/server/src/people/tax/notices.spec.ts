import { select } from '../../database/connection';
import { issueNotice, noticesOf } from '../../standins/agencies/notices';
import type { StandInNotice } from '../../standins/agencies/GB/notices';
import { britishWorks } from '../../testing/british-works';
import { testDatabase } from '../../testing/database';
import { refusal } from '../../testing/refusal';
import { packFor, type Scope } from '../../scope';
import { addTaxDetails } from './tax-details';
import { applyNotices, changeGenerally, checkGenerally, checkNotices, noticesPage } from './notices';

const NOTICE: StandInNotice = {
  form: 'P6',
  givenName: 'Rhian',
  familyName: 'Carrow',
  number: 'AB123456C',
  issued: '2026-11-10',
  from: '2026-11-14',
  taxCode: 'C1100L',
};

describe('Notices of the tax agency', () => {
  let works: Awaited<ReturnType<typeof britishWorks>>;
  let scope: Scope;
  let rhian: string;
  beforeEach(async () => {
    works = await britishWorks();
    scope = await works.scope();
    [rhian] = works.people;
  });
  const issue = (...all: Partial<StandInNotice>[]) =>
    all.reduce(
      (before, more) =>
        before.then(() => issueNotice(testDatabase(), packFor(scope).employerNumber(scope.employer.facts.country), { ...NOTICE, ...more })),
      Promise.resolve(),
    );
  const details = () =>
    select<{ from: string; code: string; loan: string }>(
      testDatabase(),
      `select from_date as "from", facts->>'taxCode' as code, facts->>'studentLoan' as loan from tax_details where person_id = :rhian order by from_date`,
      { rhian },
    );

  it('are fetched, looked at and used from the day that each says', async () => {
    await issue({}, { form: 'SL1', taxCode: undefined, plan: '02', from: '2026-11-20' }, { issued: '2026-12-30' });
    const content = await noticesOf(scope);
    const { rows, faults } = await checkNotices(scope, content);
    expect(faults).toEqual([]);
    expect(rows.map(({ label, name, problem }) => [label, name, problem])).toEqual([
      ['tax code C1100L', 'Carrow, Rhian', null],
      ['student loan, plan 2, starts', 'Carrow, Rhian', null],
    ]);
    expect(await applyNotices(scope, { content, chosen: [1, 0] })).toEqual({ changed: 2 });
    expect((await details()).slice(1)).toEqual([
      { from: '2026-11-14', code: 'C1100L', loan: 'none' },
      { from: '2026-11-20', code: 'C1100L', loan: '2' },
    ]);
    expect((await noticesPage(await works.scope())).used.map(({ label }) => label)).toEqual([
      'student loan, plan 2, starts',
      'tax code C1100L',
    ]);
    expect((await checkNotices(scope, content)).rows.every(({ used }) => used)).toBeTrue();
    expect(await refusal(applyNotices(scope, { content, chosen: [0] }))).toContain('was used before');
  });

  it('are not used where a later one is on file, of a stranger, or of another employer', async () => {
    await issue({});
    await applyNotices(scope, { content: await noticesOf(scope), chosen: [0] });
    await issue({ issued: '2026-11-02', taxCode: '900L' }, { number: 'AB999999C', issued: '2026-11-12' });
    const content = await noticesOf(scope);
    const problems = (await checkNotices(scope, content)).rows.map(({ problem }) => problem);
    expect(problems).toEqual(['a later notice, of 10 Nov 2026, is on file', null, 'nobody on file has this number']);
    expect(await refusal(applyNotices(scope, { content, chosen: [0] }))).toContain('a later notice');
    const other = content.replaceAll('<EmployerRef>', '<EmployerRef>9');
    expect((await checkNotices(scope, other)).rows[1]?.problem).toContain('another employer');
    expect((await details()).length).toBe(2);
  });

  it('that are no XML, or hold nothing, say so', async () => {
    expect(await refusal(checkNotices(scope, 'tax code,1257L'))).toContain('not XML');
    expect((await checkNotices(scope, '<Other/>')).faults[0]).toContain('no notice in the file');
    expect(await refusal(applyNotices(scope, { content: '<Other/>', chosen: [3] }))).toContain('not in the file');
  });

  it('change everybody from a day on, but for who has details of the day already', async () => {
    const change = { from: '2027-04-06', entered: { L: '10', marks: 'drop' } };
    await addTaxDetails(scope, works.people[1], { from: '2027-04-06', facts: { taxCode: 'S1300L', category: 'A', basis: 'cumulative' } });
    const { rows, unchanged } = await checkGenerally(scope, change);
    expect(rows.map(({ name, before, after, problem }) => [name, before, after, problem])).toEqual([
      ['Carrow, Rhian', '1257L', '1267L', null],
      ['Strath, Ewan', 'S1257L', 'S1267L', 'details from this day or a later one are on file and stay'],
    ]);
    expect(unchanged).toBe(0);
    expect(await changeGenerally(scope, change)).toEqual({ changed: 1 });
    expect((await details()).at(-1)).toEqual({ from: '2027-04-06', code: '1267L', loan: 'none' });
    expect(await refusal(changeGenerally(await works.scope(), { from: '2028-04-06', entered: {} }))).toContain('Nobody');
  });
});
