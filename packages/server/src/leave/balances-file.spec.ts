import { leaveTermsSchema } from '@woodruff/contract';
import { balancesOutOfStep } from '../ledger/posting';
import { refusal } from '../testing/refusal';
import { Workplace } from '../testing/workplace';
import type { Scope } from '../scope';
import { checkLeaveBalances, importLeaveBalances } from './balances-file';
import { leaveCsv } from './page';
import { personLeave } from './person-leave';
import { addLeavePlan, setLeaveMembers } from './plans';

describe('A file of leave balances', () => {
  let place: Workplace;
  let scope: Scope;
  const file = (text: string) => ({ name: 'leave.csv', content: Buffer.from(text).toString('base64'), date: '2026-11-20' });
  const balanceOf = async (person: string) => (await personLeave(scope, person)).plans[0]?.balance;

  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
    const terms = leaveTermsSchema.parse({
      name: 'Vacation',
      yearBegins: '01-01',
      earns: { by: 'period', steps: [{ fromMonths: 0, hours: '3.08' }] },
    });
    const { id } = await addLeavePlan(scope, { code: 'vacation', from: '2026-01-01', terms });
    await setLeaveMembers(scope, id, { personIds: [place.people.hourly, place.people.salaried], from: '2026-01-01', end: false });
  });

  it('says what it changes, posts the difference, and changes nothing a second time', async () => {
    const rows = file('person,plan,balance_hours\nH1,Vacation,76.50\nS1,vacation,"1,040.00"\n');
    const check = await checkLeaveBalances(scope, rows);
    expect([check.changed, check.unchanged, check.problemCount]).toEqual([2, 0, 0]);
    expect(check.changes[0]).toEqual({ name: 'Hourly, Hana', plan: 'Vacation', before: 0, after: 7_650 });
    expect(await balanceOf(place.people.hourly)).toBe(0);
    await importLeaveBalances(scope, rows);
    expect([await balanceOf(place.people.hourly), await balanceOf(place.people.salaried)]).toEqual([7_650, 104_000]);
    expect((await importLeaveBalances(scope, rows)).unchanged).toBe(2);
    expect((await personLeave(scope, place.people.hourly)).plans[0]?.movements.length).toBe(1);
    expect(await balancesOutOfStep(scope)).toEqual([]);
  });

  it('with other hours posts only what differs, down too', async () => {
    await importLeaveBalances(scope, file('person,plan,balance_hours\nH1,Vacation,76.50\n'));
    await importLeaveBalances(scope, file('person,plan,balance_hours\nH1,Vacation,70.00\n'));
    const [plan] = (await personLeave(scope, place.people.hourly)).plans;
    expect(plan?.movements.map((one) => one.amount)).toEqual([-650, 7_650]);
    expect(plan?.movements[0]?.what).toBe('Balances from the file leave.csv');
  });

  it('takes back what goes out', async () => {
    await importLeaveBalances(scope, file('person,plan,balance_hours\nH1,Vacation,76.50\n'));
    const { changed, unchanged } = await checkLeaveBalances(scope, file(await leaveCsv(scope)));
    expect([changed, unchanged]).toEqual([0, 2]);
  });

  it('lists every cell that is not taken with what to do, and posts nothing', async () => {
    const rows = file('person,plan,balance_hours\nH1,Vacation,8\nZ9,Vacation,8\nH1,Sick,8\nS1,Vacation,many\nH1,Vacation,9\n');
    const { problems } = await checkLeaveBalances(scope, rows);
    expect(problems.map(({ row, column, value }) => [row, column, value])).toEqual([
      [3, 'person', 'Z9'],
      [4, 'plan', 'Sick'],
      [5, 'balance_hours', 'many'],
      [6, 'plan', 'Vacation'],
    ]);
    expect(await refusal(importLeaveBalances(scope, rows))).toContain('4 cells were not taken, so nothing was posted');
    expect(await balanceOf(place.people.hourly)).toBe(0);
    expect(await refusal(checkLeaveBalances(scope, file('who,what\nH1,Vacation\n')))).toContain('must name the columns');
  });

  it('is not posted as of a day to come', async () => {
    const rows = { ...file('person,plan,balance_hours\nH1,Vacation,8\n'), date: '2026-12-01' };
    expect(await refusal(importLeaveBalances(scope, rows))).toContain('as of today or an earlier day');
  });
});
