import { employerFactsSchema, type SetUp } from '@woodruff/contract';
import { part, refused } from '../../testing/part';
import { payItemsStore } from '../pay-items/pay-items.store';
import { groupsStore } from '../people/people.store';
import { EmployerRules } from './employer-rules';
import { setUpStore } from './employer.store';
import { SetUpEdit } from './set-up-edit';

const SET_UP = {
  name: 'Works',
  version: 4,
  facts: employerFactsSchema.parse({
    country: {},
    departments: [],
    worksites: [{ name: 'Corbel Falls', state: 'PA' }],
    address: { line1: '', city: '', state: '', postcode: '' },
    signatory: { name: '', title: '' },
    secondPersonApproves: false,
    overtimeRules: 'weekly',
  }),
  form: {
    overtimeRules: [
      { code: 'weekly', label: 'Over 40 hours a week' },
      { code: 'daily', label: 'Over 8 a day' },
    ],
    fields: [],
    lists: [],
    kinds: [],
  },
} as unknown as SetUp;
const EFFECT = { people: [], unchanged: 22, runs: [] };

describe('Posting and rules of the employer', () => {
  const shown = (role: 'administrator' | 'clerk' = 'administrator') =>
    part(
      EmployerRules,
      {},
      {
        role,
        providers: [SetUpEdit],
        stores: [setUpStore as never, groupsStore as never, payItemsStore as never],
        actions: [setUpStore.loaded({ data: SET_UP }), payItemsStore.loaded({ data: [] })],
      },
    );

  it('are read in words, and changed by an administrator only', async () => {
    const one = await shown('clerk');
    expect(one.text).toContain('Overtime Over 40 hours a week');
    expect(one.buttons()).toEqual([]);
  });

  it('show what they change in the open runs before they are saved', async () => {
    const one = await shown();
    await one.press('Change: Posting and rules');
    await one.fill('Overtime', 'daily');
    await one.fill('Wages', '6010');
    await one.press('Show what it changes');
    const asked = (await one.answer('PUT', '/set-up?rehearse=true', EFFECT)) as { facts: SetUp['facts'] };
    expect([asked.facts.overtimeRules, asked.facts.accounts.wages]).toEqual(['daily', '6010']);
    expect(one.text).toContain('No payslip in the open runs changes.');
    await one.press('Save posting and rules');
    expect(await one.answer('PUT', '/set-up', {})).toEqual(jasmine.objectContaining({ version: 4, name: 'Works' }));
  });

  it('are looked at again when something else is entered after the look', async () => {
    const one = await shown();
    await one.press('Change: Posting and rules');
    await one.press('Show what it changes');
    await one.answer('PUT', '/set-up?rehearse=true', EFFECT);
    await one.fill('Overtime', 'daily');
    expect(one.buttons()).toContain('Show what it changes');
  });

  it('keep what was entered when it is refused', async () => {
    const one = await shown();
    await one.press('Change: Posting and rules');
    await one.press('Add a day');
    await one.press('Show what it changes');
    await one.answer('PUT', '/set-up?rehearse=true', refused('facts.holidays.0.label: expected a name.'), 422);
    expect(one.text).toContain('expected a name');
    expect(one.field('Day of holiday 1').value).toBe('2026-11-23');
  });
});
