import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import type { PayItemRow, PersonRow } from '@woodruff/contract';
import { part, refused, type Part } from '../../testing/part';
import { payItemsStore } from '../pay-items/pay-items.store';
import { employerStore, peopleStore } from '../people/people.store';
import { SpecialRunNew } from './special-run-new';

const person = (id: string, name: string, more: Partial<PersonRow> = {}) =>
  ({ id, name, code: id, department: 'Hot shop', schedule: 'Fortnightly', payable: true, left: null, ...more }) as PersonRow;
const PEOPLE = [
  person('amsden', 'Amsden, Bertil'),
  person('farrow', 'Farrow, Edda'),
  person('hartnoll', 'Hartnoll, Solveig', { payable: false }),
  person('vanterpool', 'Vanterpool, Henrike', { schedule: 'Twice a month' }),
  person('gone', 'Tarleton, Ruf', { left: '2026-06-30' }),
];
const item = (code: string, name: string, kind: string, by: string, held: number) =>
  ({ id: code, code, name, kind, method: { by }, held, retired: false }) as unknown as PayItemRow;
const ITEMS = [
  item('tools', 'Tool allowance', 'earning', 'amount', 0),
  item('bonus', 'Bonus', 'earning', 'amount', 0),
  item('deferral', 'Retirement deferral', 'deduction', 'percent', 12),
  item('ordinary', 'Ordinary', 'earning', 'hours', 0),
];
const EMPLOYER = {
  schedules: [
    { id: 'fortnightly', name: 'Fortnightly' },
    { id: 'twice', name: 'Twice a month' },
  ],
};

describe('A special run', () => {
  let shown: Part<SpecialRunNew>;
  let went: jasmine.Spy;

  async function begin(inputs: { person?: string; on?: string } = {}): Promise<void> {
    shown = await part(SpecialRunNew, inputs as never, {
      stores: [employerStore as never, peopleStore as never, payItemsStore as never],
      arrives: [
        employerStore.loaded({ data: EMPLOYER as never }),
        peopleStore.loaded({ data: PEOPLE }),
        payItemsStore.loaded({ data: ITEMS }),
      ],
      size: [1200, 700],
    });
    await shown.drawn();
    went = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
  }
  const names = () => [...shown.element.querySelectorAll('.ag-row [col-id="name"]')].map((one) => one.textContent.trim());
  const choose = async (name: string) => {
    const row = [...shown.element.querySelectorAll('.ag-row')].find((one) => one.textContent.includes(name));
    row?.querySelector<HTMLInputElement>('input[type=checkbox]')?.click();
    await shown.drawn();
  };

  it('lists who can be paid by the schedule, and nobody else', async () => {
    await begin();
    expect(names()).toEqual(['Amsden, Bertil', 'Farrow, Edda']);
    await shown.fill('For the people of', 'twice');
    await shown.drawn();
    expect(names()).toEqual(['Vanterpool, Henrike']);
    expect(shown.button('Nobody is chosen yet').disabled).toBeTrue();
  });

  it('pays the same to all who are chosen, with chosen items and the tax method', async () => {
    await begin();
    await choose('Amsden');
    await choose('Farrow');
    await shown.fill('The same for all chosen', '1,250');
    await shown.press('Enter it');
    expect(shown.text).toContain('2 people, total 2,500.00.');
    await shown.fill('Name', 'Year-end bonus');
    await shown.fill('Tax on supplemental pay', 'aggregate');
    await shown.fill('Recurring items', 'chosen');
    await shown.fill('Retirement deferral', true);
    await shown.press('Start the run for 2 people');
    expect(await shown.answer('POST', '/pay-runs/special', { id: 'run' })).toEqual({
      scheduleId: 'fortnightly',
      name: 'Year-end bonus',
      payDate: '2026-11-23',
      rules: { items: ['deferral'], ordinaryDeductions: false, taxMethod: 'aggregate', takesWaiting: false },
      people: [
        { personId: 'amsden', amounts: [{ item: 'bonus', amount: '1250.00' }] },
        { personId: 'farrow', amounts: [{ item: 'bonus', amount: '1250.00' }] },
      ],
    });
    expect(went).toHaveBeenCalledWith(['/pay-runs', 'run']);
  });

  it('takes what waits of the item, for people without an amount too', async () => {
    await begin();
    await shown.fill('What is paid', 'tools');
    await choose('Farrow');
    await shown.fill('Also takes one-offs of Tool allowance', true);
    await shown.press('Start the run for 1 person');
    const sent = (await shown.answer('POST', '/pay-runs/special', refused('A name is missing.'), 422)) as {
      rules: object;
      people: object[];
    };
    expect(sent.rules).toEqual({ items: ['tools'], ordinaryDeductions: false, taxMethod: 'flat', takesWaiting: true });
    expect(sent.people).toEqual([{ personId: 'farrow', amounts: [] }]);
    expect(shown.text).toContain('A name is missing.');
    expect(went).not.toHaveBeenCalled();
  });

  it('says what is wrong with an amount, and takes none of them', async () => {
    await begin();
    await choose('Amsden');
    await shown.fill('The same for all chosen', 'twelve');
    await shown.press('Enter it');
    expect(shown.element.querySelector('[role=alert]')).not.toBeNull();
    expect(shown.text).toContain('1 person, total 0.00.');
  });

  it('for one person is a second payslip on the day of the first', async () => {
    await begin({ person: 'farrow', on: '2026-11-27' });
    expect(names()).toEqual(['Farrow, Edda']);
    expect([shown.field('Name').value, shown.field('Paid on').value]).toEqual(['Second payslip, Farrow, Edda', '2026-11-27']);
    expect(shown.buttons()).toContain('Start the run for 1 person');
  });
});
