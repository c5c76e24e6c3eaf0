import { leaveTermsSchema } from '@woodruff/contract';
import { execute } from '../database/connection';
import { moveToday } from '../employers/service';
import { calculateRun } from '../calculation/calculation';
import { addPersonItem } from '../people/employment/recurring-items';
import { addLeavePlan, setLeaveMembers } from '../leave/plans';
import { changePerson, personPage, setNationalNumber } from '../people/service';
import { numbered, readyToFile } from '../testing/filing-workplace';
import { refusal } from '../testing/refusal';
import type { Workplace } from '../testing/workplace';
import type { Scope } from '../scope';
import { boxMap, setItemBoxes } from './boxes';
import { giveCopies } from './give';
import { agreeFiling, prepareFiling, sendByFile } from './life';
import { outside } from './routes';
import { sayYearStep, yearPlan } from './year-plan';

describe('The plan of the year’s end', () => {
  let place: Workplace;
  let scope: Scope;
  let run: string;
  const plan = () => yearPlan(scope, '2026');
  const step = async (code: string) => (await plan()).steps.find((one) => one.code === code);
  const on = async (date: string) => {
    await moveToday(scope, date);
    scope = await place.scope();
  };

  beforeEach(async () => {
    place = await readyToFile();
    scope = await place.scope();
    await addPersonItem(scope, place.people.hourly, {
      itemId: place.items['loan'] ?? '',
      amount: '12.00',
      from: '2026-01-01',
      to: '2026-11-30',
    });
    run = await place.run();
  });

  it('follows from what is on file: runs, boxes, facts, filings, statements', async () => {
    expect((await step('runs'))?.state).toBe('open');
    await place.approve(run);
    scope = await place.scope();
    expect([(await step('runs'))?.state, (await step('boxes'))?.state]).toEqual(['later', 'open']);
    const open = (await boxMap(scope, '2026')).filings.flatMap(({ items }) => items).filter((item) => item.open);
    await setItemBoxes(scope, { year: '2026', items: open.map(({ id }) => ({ id, put: { filing: '', box: '', label: '' } })) });
    expect((await step('boxes'))?.state).toBe('done');
    const { toFix, ending } = await plan();
    expect(toFix.some(({ weight, who }) => weight === 'stop' && who?.personId === place.people.hourly)).toBeTrue();
    expect(ending.map(({ sentence }) => sentence)).toEqual(['Loan ends for 1 person, last on 30 Nov 2026.']);
    const people = toFix.flatMap(({ who }) => (who ? [who] : []));
    for (const { one, number } of numbered(people)) await setNationalNumber(scope, one.personId, number);
    expect((await step('facts-w-2'))?.state).toBe('done');
    await on('2027-01-11');
    expect([(await step('runs'))?.state, (await step('filing-w-2-2026'))?.state, (await step('given-w-2'))?.state]).toEqual([
      'done',
      'open',
      'open',
    ]);
    await prepareFiling(scope, 'w-2', '2026', { reason: '' });
    await giveCopies(scope, 'w-2', '2026', { how: 'paper', people: [] });
    expect((await step('given-w-2'))?.state).toBe('done');
    await agreeFiling(scope, 'w-2', '2026', { signer: 'A. Signatory', title: 'Owner' });
    await sendByFile(scope, 'w-2', '2026', { pays: false, consent: '' }, outside);
    expect((await step('filing-w-2-2026'))?.how).toBe('Accepted.');
    const filed = (await plan()).filings.find(({ filing }) => filing === 'w-2');
    expect([filed?.attempts, filed?.given?.given, filed?.state]).toEqual([1, filed?.given?.of, 'accepted']);
    const { version, facts } = await personPage(scope, place.people.hourly);
    const address = { ...facts.address, line1: '9 Other Street' };
    await changePerson(scope, place.people.hourly, { version, facts: { ...facts, address }, from: null, reason: '' });
    const moved = (await plan()).toFix.find(({ sentence }) => sentence.includes('since the statement was made final'));
    expect([moved?.who?.personId, moved?.weight]).toEqual([place.people.hourly, 'look']);
  });

  it('names leave that is carried over at most, with who has more', async () => {
    const earns = { by: 'period' as const, steps: [{ fromMonths: 0, hours: '50' }] };
    const terms = leaveTermsSchema.parse({ name: 'Vacation', earns, yearBegins: '01-01', carryOver: '40' });
    const { id } = await addLeavePlan(scope, { code: 'holiday', from: '2026-01-01', terms });
    await setLeaveMembers(scope, id, { personIds: [place.people.hourly], from: '2026-01-01', end: false });
    const said = async () => (await plan()).ending.map(({ sentence }) => sentence);
    expect(await said()).toContain('Vacation: at most 40 hours are carried over on 1 Jan 2027. Nobody has more so far.');
    await calculateRun(scope, run);
    await place.approve(run);
    scope = await place.scope();
    expect(await said()).toContain('Vacation: at most 40 hours are carried over on 1 Jan 2027. 1 person has more so far.');
  });

  it('says what is late, and which year one is in', async () => {
    await place.approve(run);
    scope = await place.scope();
    await on('2027-02-10');
    const { current, years, steps } = await plan();
    expect([current, years]).toEqual(['2027', ['2027', '2026']]);
    expect(steps.filter(({ state }) => state === 'late').map(({ code }) => code)).toEqual(
      jasmine.arrayContaining(['filing-941-2026-Q4', 'filing-w-2-2026', 'given-w-2']),
    );
  });

  it('has reminders that somebody says are done, and takes back that they were', async () => {
    await sayYearStep(scope, '2026', 'turn-2026-12-01', { done: true, note: 'By letter' });
    expect((await step('turn-2026-12-01'))?.byHand).toEqual(jasmine.objectContaining({ who: 'The clerk', note: 'By letter' }));
    await sayYearStep(scope, '2026', 'turn-2026-12-01', { done: false, note: '' });
    expect((await step('turn-2026-12-01'))?.byHand).toBeNull();
    expect(await refusal(sayYearStep(scope, '2026', 'runs', { done: true, note: '' }))).toContain('no such step');
    expect(await refusal(yearPlan(scope, 'soon'))).toContain('no such tax year');
  });

  it('tells what the next year asks for, and when it was done', async () => {
    const ahead = async () => (await plan()).ahead.map(({ code, done }) => [code, done]);
    expect(await ahead()).toEqual([
      ['deposits', true],
      ['rate-PA', false],
    ]);
    await execute(
      scope.database,
      `update employers set facts = jsonb_set(facts, '{country,states,PA}', '{"unemploymentRate": "2.1", "nextUnemploymentRate": "2.4", "nextUnemploymentFrom": "2027-01-01"}') where id = :id returning id`,
      { id: place.employerId },
    );
    scope = await place.scope();
    expect(await ahead()).toEqual([
      ['deposits', true],
      ['rate-PA', true],
    ]);
  });
});
