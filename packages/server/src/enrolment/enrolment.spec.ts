import { select } from '../database/connection';
import { calculateRun } from '../calculation/calculation';
import { openPoints } from '../pay-runs/sheet/points';
import { openRun } from '../calculation/calculation';
import { britishWorks } from '../testing/british-works';
import { testDatabase } from '../testing/database';
import { refusal } from '../testing/refusal';
import { approveAll } from '../testing/workplace';
import type { Scope } from '../scope';
import { contributionsFile, enrolmentLetters, enrolmentReport, ownLetters } from './papers';
import { addSavingsScheme, changeSavingsScheme, schemesOf } from './schemes';
import { enrolmentPage, enrolmentWaiting } from './standing';
import { chooseRound, recordEnrolment, undoEnrolment } from './steps';

const SCHEME = {
  name: 'Harbour Savings',
  provider: 'Harbour Mutual',
  reference: 'HM-4471',
  group: 'ALL',
  choices: { basis: 'qualifying', tax: 'net-pay' },
  tiers: [{ code: 'standard', label: 'Standard', employee: '5', employer: '3' }],
  employerAtMost: '',
};
const NOVEMBER = { from: '2026-11-01', to: '2026-11-30', payDate: '2026-11-30' };
const DECEMBER = { from: '2026-12-01', to: '2026-12-31', payDate: '2026-12-31' };

describe('Enrolment into savings schemes', () => {
  let works: Awaited<ReturnType<typeof britishWorks>>;
  let scope: Scope;
  let rhian: string;
  let scheme: string;

  beforeEach(async () => {
    works = await britishWorks({ hired: '2026-11-01', country: { dutiesFrom: '2019-05-01' } });
    scope = await works.scope();
    [rhian] = works.people;
    scheme = (await addSavingsScheme(scope, SCHEME)).id;
  });
  const one = async () => (await enrolmentPage(await works.scope())).people.find(({ personId }) => personId === rhian)!;
  const record = async (what: Parameters<typeof recordEnrolment>[1]['what'], people = [rhian]) =>
    recordEnrolment(await works.scope(), { people, what });
  const enrol = (on = '2026-11-01') => record({ step: 'enrolled', on, scheme, tier: 'standard', because: 'enrolled' });
  const letter = (on = '2026-11-20') => record({ step: 'letter', on, letter: 'enrolled', how: 'inbox' });
  const posted = (code: string) =>
    select<{ amount: number }>(
      testDatabase(),
      'select coalesce(sum(amount), 0)::bigint as amount from ledger_lines where person_id = :rhian and code = :code',
      { rhian, code },
    ).then(([row]) => row?.amount);
  const paid = async (period = NOVEMBER) => {
    const run = await works.run(period);
    await approveAll(await works.scope(), run);
    return run;
  };

  it('asks of an open run who is to be enrolled, and no more once it is done', async () => {
    const id = await works.run();
    const points = async () => {
      const now = await works.scope();
      return (await openPoints(now, await openRun(now, id))).filter(({ key }) => key.startsWith('enrol:'));
    };
    expect((await points()).map(({ who, weight, sentence }) => [who, weight, sentence.slice(0, 55)])).toEqual([
      ['Rhian Carrow', 'look', 'Eligible jobholder: to be enrolled from 1 Nov 2026, by '],
      ['Ewan Strath', 'look', 'Eligible jobholder: to be enrolled from 1 Nov 2026, by '],
    ]);
    expect((await enrolmentWaiting(await works.scope()))?.sentence).toBe('2 people to enrol, postpone or exempt');
    await enrol();
    expect((await points()).map(({ who }) => who)).toEqual(['Ewan Strath']);
    // The item is on the payslip of the run once it is calculated again: 5 and 3 per cent of 3,000.00 less 520.00.
    await calculateRun(await works.scope(), id);
    await approveAll(await works.scope(), id);
    expect([await posted('scheme-1'), await posted('scheme-1-employer')]).toEqual([12_400, 7440]);
  });

  it('shows the assessment with its tests and its working', async () => {
    await works.run();
    const { assessed, duty, standing } = await one();
    expect(assessed).toEqual(jasmine.objectContaining({ payDate: '2026-11-30', draft: true, earnings: 300_000, category: 'eligible' }));
    expect(assessed?.tests.every(({ holds }) => holds)).toBeTrue();
    expect(assessed?.workings['earnings']?.amount).toBe('3000.00');
    expect([standing, duty?.what, duty?.by]).toEqual(['Not in a scheme', 'enrol', '2026-12-12']);
  });

  it('gives back what was taken with the next pay, when somebody opts out within the month', async () => {
    await enrol();
    await paid();
    await letter('2026-11-25');
    expect((await one()).optOutUntil).toBe('2026-12-24');
    const open = await works.run(DECEMBER);
    await record({ step: 'opted-out', on: '2026-12-10', reference: 'HM-OUT-9' });
    await calculateRun(await works.scope(), open);
    await approveAll(await works.scope(), open);
    // Nothing more is taken, and all of it has come back, the tax with it.
    expect([await posted('scheme-1'), await posted('scheme-1-employer')]).toEqual([0, 0]);
    expect((await one()).standing).toBe('Opted out on 10 Dec 2026');
  });

  it('is not opted out of before the letter, nor after its month; then it ends without a refund', async () => {
    await enrol();
    expect(await refusal(record({ step: 'opted-out', on: '2026-11-20', reference: 'x' }))).toContain('Mark the letter as given');
    await letter('2026-11-20');
    expect(await refusal(record({ step: 'opted-out', on: '2026-12-20', reference: 'x' }))).toContain('ended on 19 Dec 2026');
    await paid();
    await record({ step: 'ceased', on: '2026-12-01' });
    await paid(DECEMBER);
    expect(await posted('scheme-1')).toBe(12_400);
  });

  it('is postponed up to three months, each kind once, and asked for again after it', async () => {
    const until = (day: string, kind = 'start') => record({ step: 'postponed', on: '2026-11-01', kind, until: day });
    expect(await refusal(until('2027-02-02'))).toContain('until 1 Feb 2027 at most');
    await until('2026-12-15');
    await works.run();
    expect((await one()).duty).toEqual(jasmine.objectContaining({ what: 'letter', letter: 'postponed', by: '2026-12-12' }));
    expect(await refusal(until('2026-12-20'))).toContain('Each kind is allowed once');
    await approveAll(
      await works.scope(),
      (await select<{ id: string }>(testDatabase(), `select id from pay_runs where employer_id = :e`, { e: scope.employer.id }))[0]!.id,
    );
    await works.run(DECEMBER);
    expect((await one()).duty).toEqual(jasmine.objectContaining({ what: 'enrol', from: '2026-12-15' }));
  });

  it('names who does not fit, and records nothing', async () => {
    await record({ step: 'exempt', on: '2026-11-01', reason: 'director' });
    expect((await one()).standing).toBe('Exempt since 1 Nov 2026: Director, not enrolled');
    expect(await refusal(record({ step: 'exempt', on: '2026-11-01', reason: 'unknown' }))).toContain('no such reason');
    expect(await refusal(record({ step: 'ceased', on: '2026-11-05' }, works.people))).toContain('is not a member');
    expect(await refusal(record({ step: 'exempt-no-more', on: '2026-10-31' }))).toContain('before the first day of work');
    await record({ step: 'exempt-no-more', on: '2026-11-10' });
    await enrol();
    expect(await refusal(enrol())).toContain('a member already');
    expect(await refusal(record({ step: 'letter', on: '2027-01-01', letter: 'enrolled', how: 'paper' }))).toContain('after today');
    expect(
      await refusal(record({ step: 'enrolled', on: '2026-11-01', scheme, tier: 'gold', because: 'agreed' }, [works.people[1]])),
    ).toContain('no such group');
    expect((await one()).steps.length).toBe(3);
  });

  it('takes back the last step, as long as nothing was paid by it', async () => {
    await enrol();
    const [step] = (await one()).steps;
    await undoEnrolment(await works.scope(), step!.id, { reason: 'the wrong scheme' });
    const after = await one();
    expect([after.state, after.steps[0]?.undone]).toEqual(['out', 'the wrong scheme']);
    expect(await refusal(undoEnrolment(await works.scope(), step!.id, { reason: 'again' }))).toContain('only the last step');
    await enrol();
    await paid();
    expect(await refusal(undoEnrolment(await works.scope(), (await one()).steps.at(-1)!.id, { reason: 'too late' }))).toContain(
      'contributions were paid',
    );
  });

  it('prints the letters of those who wait for one, and tells the own view of it', async () => {
    await enrol();
    await works.run();
    const pdf = await enrolmentLetters(await works.scope(), { letter: 'enrolled' });
    expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
    await letter();
    expect((await ownLetters(await works.scope(), rhian)).map(({ letter: code, on }) => [code, on])).toEqual([['enrolled', '2026-11-20']]);
    expect(await refusal(enrolmentLetters(await works.scope(), { letter: 'enrolled' }))).toContain('Nobody');
    expect((await one()).duty).toBeNull();
  });

  it('writes what went to a scheme for its provider, and who stands where', async () => {
    await enrol();
    await paid();
    const csv = await contributionsFile(await works.scope(), scheme, { from: '2026-11-01', to: '2026-11-30' });
    const [head, line, ...none] = csv.trim().split('\n');
    expect(none).toEqual([]);
    expect(head).toContain('NINO');
    expect(line).toContain(
      'HM-4471,ALL,M1,2026-11-01,2026-11-30,2026-11-30,1,AB123456C,Carrow,Rhian,1988-03-04,3000.00,124.00,74.40,Eligible jobholder,2026-11-01,',
    );
    const report = await enrolmentReport(await works.scope(), { state: 'in' });
    expect(report.trim().split('\n').length).toBe(2);
    expect(report).toContain('In Harbour Savings since 1 Nov 2026');
  });

  it('enrols again those who left, on a day of the round', async () => {
    // The third anniversaries of 1 May 2019 are in 2022 and 2025; the next round is in 2028.
    expect((await enrolmentPage(scope)).round).toEqual(
      jasmine.objectContaining({ anniversary: '2028-05-01', from: '2028-02-01', to: '2028-07-31' }),
    );
    expect(await refusal(chooseRound(scope, { on: '2026-12-01' }))).toContain('from 1 Feb 2028 to 31 Jul 2028');
    await chooseRound(scope, { on: '2028-04-01' });
    await chooseRound(await works.scope(), { on: '2028-05-06' });
    expect((await enrolmentPage(await works.scope())).round?.chosen).toBe('2028-05-06');
  });

  it('counts what the declaration asks', async () => {
    await enrol();
    await works.run();
    const rows = (await enrolmentPage(await works.scope())).declaration?.rows ?? [];
    expect(rows.filter(({ people }) => people).map(({ label, people }) => [label, people])).toEqual([
      ['Workers in all', 2],
      ['Enrolled by law', 1],
    ]);
  });

  it('lets the names and rates of a scheme change, and refuses what does not go together', async () => {
    const [first] = await schemesOf(scope);
    const { name, provider, reference, group } = SCHEME;
    const tiers = [{ code: 'standard', label: 'Standard', employee: '6', employer: '4' }];
    await changeSavingsScheme(scope, scheme, { name, provider, reference, group, tiers, version: first!.version });
    expect(
      await refusal(changeSavingsScheme(scope, scheme, { name, provider, reference, group, tiers, version: first!.version })),
    ).toContain('meanwhile');
    expect(await refusal(addSavingsScheme(scope, SCHEME))).toContain('already');
    expect(await refusal(addSavingsScheme(scope, { ...SCHEME, name: 'B', choices: { basis: 'basic' } }))).toContain('a set that fits');
    expect(await refusal(addSavingsScheme(scope, { ...SCHEME, name: 'C', tiers: [...SCHEME.tiers, ...SCHEME.tiers] }))).toContain(
      'Two groups',
    );
  });

  it('records once what is sent twice at the same moment', async () => {
    const now = await works.scope();
    const what = { step: 'exempt', on: '2026-11-01', reason: 'director' } as const;
    const both = await Promise.allSettled([
      recordEnrolment(now, { people: [rhian], what: { step: 'enrolled', on: '2026-11-01', scheme, tier: 'standard', because: 'agreed' } }),
      recordEnrolment(now, { people: [rhian], what: { step: 'enrolled', on: '2026-11-01', scheme, tier: 'standard', because: 'agreed' } }),
    ]);
    expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    expect(await refusal(recordEnrolment(now, { people: [rhian], what }))).toContain('is a member');
  });
});
