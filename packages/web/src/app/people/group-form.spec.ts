import type { EmployerPage, Group, PayItemRow } from '@woodruff/contract';
import { packOf } from '@woodruff/core';
import { part, refused } from '../../testing/part';
import { leaveStore } from '../leave/leave.store';
import { payItemsStore } from '../pay-items/pay-items.store';
import { GroupForm } from './group-form';
import { employerStore } from './people.store';

const EMPLOYER = {
  schedules: [{ id: 's', name: 'Fortnightly' }],
  departments: ['Hot shop', 'Café'],
  worksites: ['Corbel Falls'],
  taxForm: packOf('US').taxForm,
} as unknown as EmployerPage;
const HEALTH = {
  id: 'h',
  code: 'health',
  name: 'Health premium',
  kind: 'deduction',
  method: { by: 'amount' },
  retired: false,
} as unknown as PayItemRow;
const group = (members: number): Group => ({
  id: 'g',
  name: 'Café',
  version: 3,
  defaults: {
    scheduleId: 's',
    department: 'Café',
    worksite: '',
    job: '',
    items: [{ itemId: 'h', amount: '92.00' }],
    leavePlans: [],
    tax: { workState: 'VA' },
    accounts: { wages: '6020', reimbursements: '', employerTaxes: '' },
  },
  members: Array.from({ length: members }, (_none, index) => ({ personId: String(index), name: `Person ${index}`, own: [] })),
});

describe('The form of a group', () => {
  const shown = (of: Group | null) =>
    part(
      GroupForm,
      { group: of },
      {
        stores: [employerStore as never, payItemsStore as never, leaveStore as never],
        actions: [employerStore.loaded({ data: EMPLOYER }), payItemsStore.loaded({ data: [HEALTH] })],
      },
    );

  it('of a new one supplies what is entered, and leaves the rest to each person', async () => {
    const one = await shown(null);
    const saved = one.given(one.fixture.componentInstance.saved);
    await one.fill('Name', 'Seasonal');
    await one.fill('Department', 'Hot shop');
    await one.fill('Works in', 'PA');
    await one.fill('Wages', '6030');
    await one.fill('Item 1', 'h');
    await one.fill('Value of item 1', '45.00');
    await one.press('Save the group');
    expect(await one.answer('POST', '/groups', { id: 'n' })).toEqual({
      name: 'Seasonal',
      defaults: {
        scheduleId: null,
        department: 'Hot shop',
        worksite: '',
        job: '',
        kind: null,
        standardHours: null,
        leavePlans: [],
        tax: { workState: 'PA' },
        accounts: { wages: '6030', reimbursements: '', employerTaxes: '' },
        items: [{ itemId: 'h', amount: '45.00' }],
      },
    });
    expect(saved.length).toBe(1);
  });

  it('offers of a certificate only the place of work', async () => {
    const one = await shown(null);
    expect(one.text).toContain('Tax details of the place of work');
    expect(one.text).not.toContain('Filing status');
    expect(one.text).not.toContain('Lives in');
  });

  it('is passed on after a look at who follows and who keeps their own', async () => {
    const one = await shown(group(2));
    expect(one.field('Works in').value).toBe('VA');
    await one.fill('Value of item 1', '95.00');
    await one.press('Show what it changes');
    const follow = [{ personId: '0', name: 'Farrow, Edda', what: ['Health premium 95.00 instead of 92.00'] }];
    const keep = [{ personId: '1', name: 'Marchbanks, Liv', what: ['Health premium 60.00'] }];
    expect(await one.answer('POST', '/groups/g/check', { follow, keep })).toEqual(
      jasmine.objectContaining({ version: 3, passOnFrom: '2026-11-23' }),
    );
    await one.answer('PUT', '/groups/g?rehearse=true', { people: [], unchanged: 22, runs: [] });
    expect(one.text).toContain('Farrow, Edda');
    await one.press('Save it for 1 person');
    await one.answer('PUT', '/groups/g', refused('Somebody else changed Café meanwhile.'), 409);
    expect(one.text).toContain('Somebody else changed Café meanwhile.');
    expect(one.field('Value of item 1').value).toBe('95.00');
  });

  it('is looked at again when something else is entered after the look', async () => {
    const one = await shown(group(1));
    await one.press('Show what it changes');
    await one.answer('POST', '/groups/g/check', { follow: [], keep: [] });
    await one.answer('PUT', '/groups/g?rehearse=true', { people: [], unchanged: 0, runs: [] });
    await one.fill('Department', 'Hot shop');
    expect(one.buttons()).toContain('Show what it changes');
  });

  it('can be for those who join later only', async () => {
    const one = await shown(group(2));
    const select = one.field('Its 2 people') as unknown as HTMLSelectElement;
    await one.fill('Its 2 people', select.options[1]!.value);
    await one.press('Save it for those who join later');
    expect(await one.answer('PUT', '/groups/g', {})).toEqual(jasmine.objectContaining({ passOnFrom: null }));
  });
});
