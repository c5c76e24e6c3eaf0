import type { LeavePlanView, LeaveTerms, PayItemRow } from '@woodruff/contract';
import { part, refused, type Part } from '../../testing/part';
import { payItemsStore } from '../pay-items/pay-items.store';
import { LeavePlanForm } from './leave-plan-form';

const item = (code: string, name: string, by: string) =>
  ({ id: code, code, name, kind: 'earning', method: { by }, retired: false }) as unknown as PayItemRow;
const ITEMS = [item('leave', 'Vacation', 'hours'), item('payout', 'Vacation payout', 'amount'), item('salary', 'Salary', 'salary')];
const TERMS: LeaveTerms = {
  name: 'Vacation',
  item: 'leave',
  payOutItem: 'payout',
  earns: {
    by: 'period',
    steps: [
      { fromMonths: 0, hours: '3.08' },
      { fromMonths: 60, hours: '4.62' },
    ],
  },
  earnsAfterDays: 0,
  usableAfterDays: 90,
  atMostBalance: '160',
  carryOver: '40',
  mayOwe: '8',
  yearBegins: '07-01',
};
const PLAN: LeavePlanView = { id: 'vacation', code: 'vacation', people: 22, terms: [{ from: '2026-01-01', terms: TERMS }] };
const EFFECT = {
  people: [{ name: 'Ines Halloway', before: 183_691, after: 183_691, cost: 0, stop: null, look: ['Vacation is below zero.'] }],
  unchanged: 21,
  runs: [],
};

describe('The form of a leave plan', () => {
  let shown: Part<LeavePlanForm>;
  const open = async (plan: LeavePlanView | null) => {
    shown = await part(
      LeavePlanForm,
      { plan, day: '2026-11-23' },
      { stores: [payItemsStore as never], actions: [payItemsStore.loaded({ data: ITEMS })] },
    );
  };
  const choices = (label: string) => [...(shown.field(label) as unknown as HTMLSelectElement).options].map((one) => one.text.trim());
  /** What is entered is looked at after a pause. */
  const pause = () => new Promise((done) => setTimeout(done, 450));

  it('makes a plan that is earned by hours worked, with only the rules that were entered', async () => {
    await open(null);
    await shown.fill('Name', 'Sick leave');
    await shown.fill('Code', 'sick');
    await shown.fill('Earned', 'hours-worked');
    await shown.fill('Hours of leave', '1');
    await shown.fill('for every so many worked', '40');
    await shown.fill('Earned in a plan year at most', '48');
    await shown.fill('Taken from so many days after hire', '30');
    const saved = shown.given(shown.fixture.componentInstance.saved);
    await shown.press('Save the plan');
    expect(await shown.answer('POST', '/leave/plans', { id: 'sick' })).toEqual({
      code: 'sick',
      from: '2026-11-23',
      terms: {
        name: 'Sick leave',
        earns: { by: 'hours-worked', hours: '1', forEvery: '40' },
        yearBegins: '01-01',
        atMostInYear: '48',
        usableAfterDays: 30,
      },
    });
    expect(saved.length).toBe(1);
  });

  it('offers items paid by the hour to pay it, and earnings other than the salary to pay it out', async () => {
    await open(null);
    expect(choices('Paid through')).toEqual(['not paid', 'Vacation']);
    expect(choices('On leaving, what is left')).toEqual([
      'is not paid',
      'is paid out through Vacation',
      'is paid out through Vacation payout',
    ]);
  });

  it('says by which item it may be cashed out, and how much has to stay', async () => {
    await open(PLAN);
    expect(choices('Cashing out in service')).toEqual(['is not allowed', 'by agreement, through Vacation']);
    const [item] = [...shown.field('Cashing out in service').querySelectorAll('option')].slice(1);
    await shown.fill('Cashing out in service', item!.value);
    await shown.fill('After cashing out, left at least', '152');
    await shown.fill('Cashed out in twelve months, at most', '76');
    await shown.press('Save from this day on');
    const { terms } = (await shown.answer('PUT', '/leave/plans/vacation', {})) as { terms: LeaveTerms };
    expect(terms).toEqual({ ...TERMS, cashOutItem: item!.value, cashOutKeeps: '152', cashOutAtMost: '76' });
  });

  it('shows the terms in force, and gives them back as they were when nothing else is entered', async () => {
    await open(PLAN);
    expect([shown.field('Hours, row 2').value, shown.field('Month and day, such as').value]).toEqual(['4.62', '07-01']);
    await shown.press('Save from this day on');
    expect(await shown.answer('PUT', '/leave/plans/vacation', {})).toEqual({ from: '2026-11-23', terms: TERMS });
  });

  it('more after longer service is a row more; without one the rest stands', async () => {
    await open(PLAN);
    await shown.press('More after longer service');
    await shown.fill('Months, row 3', '120');
    await shown.fill('Hours, row 3', '6.15');
    shown.element.querySelectorAll<HTMLButtonElement>('.steps button')[0]!.click();
    await shown.settle();
    await shown.press('Save from this day on');
    const sent = (await shown.answer('PUT', '/leave/plans/vacation', {})) as { terms: LeaveTerms };
    expect(sent.terms.earns).toEqual({
      by: 'period',
      steps: [
        { fromMonths: 60, hours: '4.62' },
        { fromMonths: 120, hours: '6.15' },
      ],
    });
  });

  it('what was typed stays when the plans are read again meanwhile', async () => {
    await open(PLAN);
    await shown.fill('In force from', '2027-01-01');
    await shown.fill('Hours, row 2', '5');
    shown.fixture.componentRef.setInput('plan', { ...PLAN });
    shown.fixture.componentRef.setInput('day', '2026-11-24');
    await shown.settle();
    expect([shown.field('In force from').value, shown.field('Hours, row 2').value]).toEqual(['2027-01-01', '5']);
  });

  it('the day of terms that are on file corrects them', async () => {
    await open(PLAN);
    await shown.fill('In force from', '2026-01-01');
    expect(shown.buttons()).toContain('Correct the terms of that day');
  });

  it('tells what a change does to the open run while it is entered', async () => {
    await open(PLAN);
    await shown.fill('May go below zero by', '');
    await pause();
    const asked = (await shown.answer('PUT', '/leave/plans/vacation?rehearse=true', EFFECT)) as { terms: LeaveTerms };
    expect(asked.terms.mayOwe).toBeUndefined();
    expect(shown.text).toContain('Vacation is below zero.');
  });

  it('says what the server does not take, and keeps what was entered', async () => {
    await open(null);
    await shown.fill('Name', 'Vacation');
    await shown.press('Save the plan');
    await shown.answer('POST', '/leave/plans', refused('A code is missing. Enter a short one, such as vacation.'), 422);
    expect(shown.text).toContain('A code is missing.');
    expect(shown.field('Name').value).toBe('Vacation');
  });
});
