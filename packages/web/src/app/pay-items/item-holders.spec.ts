import type { Effect, PayItemPage, PersonRow } from '@woodruff/contract';
import { part, refused, type Part } from '../../testing/part';
import { peopleStore } from '../people/people.store';
import { ItemHolders } from './item-holders';

const PEOPLE = [
  { id: 'ines', name: 'Ines Halloway', department: 'Hot shop', job: 'Gaffer', left: null },
  { id: 'nils', name: 'Nils Penhallow', department: 'Hot shop', job: 'Blower', left: null },
  { id: 'edda', name: 'Edda Farrow', department: 'Packing', job: 'Packer', left: null },
  { id: 'gone', name: 'Gone Before', department: 'Packing', job: 'Packer', left: '2026-03-31' },
] as PersonRow[];
const ITEM = {
  id: 'dues',
  code: 'dues',
  name: 'Union dues',
  kind: 'deduction',
  method: { by: 'amount' },
  holders: [
    { personId: 'ines', name: 'Ines Halloway', amount: '18.50', percent: null, from: '2025-01-01', to: null },
    { personId: 'nils', name: 'Nils Penhallow', amount: '18.50', percent: null, from: '2025-01-01', to: '2026-06-30' },
  ],
} as unknown as PayItemPage;
const EFFECT: Effect = { runs: [], people: [], unchanged: 3 };

describe('An item of many people', () => {
  let shown: Part<ItemHolders>;

  async function holders(): Promise<void> {
    shown = await part(
      ItemHolders,
      { item: ITEM },
      { stores: [peopleStore as never], arrives: [peopleStore.loaded({ data: PEOPLE })], size: [1000, 600] },
    );
    await shown.drawn();
  }
  const now = () =>
    [...shown.element.querySelectorAll('.ag-center-cols-container .ag-row, .ag-row')]
      .filter((row) => row.querySelector('[col-id="name"]'))
      .map((row) => ['name', 'now', 'typed'].map((column) => row.querySelector(`[col-id="${column}"]`)?.textContent.trim()).join('|'));
  const paste = async (line: number, text: string) => {
    shown.fixture.componentInstance['grid']?.setFocusedCell(line, 'typed');
    await shown.drawn();
    await shown.paste(text);
  };

  it('shows who has it on the day, and nobody who has left', async () => {
    await holders();
    expect(now()).toEqual(['Ines Halloway|18.50|', 'Nils Penhallow|–|', 'Edda Farrow|–|']);
    await shown.fill('From', '2026-02-01');
    await shown.drawn();
    expect(now()).toContain('Nils Penhallow|18.50|');
    expect(now().some((row) => row.startsWith('Gone Before'))).toBeTrue();
  });

  it('is filtered to who has it and who has it not', async () => {
    await holders();
    await shown.press('Has it');
    await shown.drawn();
    expect(now()).toEqual(['Ines Halloway|18.50|']);
    await shown.press('Has it not');
    await shown.drawn();
    expect(now().length).toBe(2);
  });

  it('is given, changed and ended by a pasted column, and saved only after what it changes was shown', async () => {
    await holders();
    await paste(0, '20.00\n-\n1,000');
    expect(shown.text).toContain('1 get it, 1 change');
    await shown.press('Show what it changes');
    const body = {
      from: '2026-11-23',
      entries: [
        jasmine.objectContaining({ personId: 'ines', end: false, amount: '20.00' }),
        jasmine.objectContaining({ personId: 'edda', amount: '1000' }),
      ],
    };
    expect(await shown.answer('PUT', '/holders?rehearse=true', EFFECT)).toEqual(body);
    expect(shown.text).toContain('No payslip in the open runs changes.');
    const saved = shown.given(shown.fixture.componentInstance.saved);
    await shown.press('Save for 2 people');
    expect(await shown.answer('PUT', '/holders', {})).toEqual(body);
    expect(saved.length).toBe(1);
  });

  it('is entered for all that are shown, and ended only for those who have it', async () => {
    await holders();
    await shown.fill('Amount', '19.25');
    await shown.press('Enter it for all shown');
    await shown.drawn();
    expect(shown.text).toContain('2 get it, 1 change');
    await shown.press('End it for all shown who have it');
    await shown.drawn();
    expect(shown.text).toContain('2 get it, 1 end');
    expect(now()[0]).toBe('Ines Halloway|18.50|ends');
  });

  it('keeps what was typed when it is refused, and asks for a new look once more is typed', async () => {
    await holders();
    await paste(0, '20.00');
    await shown.press('Show what it changes');
    await shown.answer('PUT', '/holders?rehearse=true', EFFECT);
    await shown.press('Save for 1 person');
    await shown.answer('PUT', '/holders', refused('Somebody else changed this item.'), 409);
    expect(shown.text).toContain('Somebody else changed this item.');
    expect(now()[0]).toBe('Ines Halloway|18.50|20.00');
    await paste(2, '5');
    expect(shown.buttons()).toContain('Show what it changes');
  });
});
