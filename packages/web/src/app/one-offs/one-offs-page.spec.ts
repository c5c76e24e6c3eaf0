import type { OneOff, PersonRow } from '@woodruff/contract';
import { part, refused, type Part } from '../../testing/part';
import { peopleStore } from '../people/people.store';
import { OneOffsPage } from './one-offs-page';
import { oneOffsStore } from './one-offs.store';

const PEOPLE = [
  { id: 'ines', code: 'G-104', name: 'Ines Halloway' },
  { id: 'nils', code: 'G-117', name: 'Nils Penhallow' },
] as PersonRow[];
const waiting = (more: Partial<OneOff> = {}): OneOff => ({
  id: 'one',
  personId: 'ines',
  person: 'Ines Halloway',
  code: 'G-104',
  department: 'Hot shop',
  item: 'bonus',
  itemName: 'Bonus',
  kind: 'earning',
  amount: '150.00',
  note: 'kiln rebuilt',
  part: null,
  earned: null,
  takes: { by: 'next' },
  back: null,
  state: 'waiting',
  where: 'the next run',
  runId: null,
  payslipId: null,
  by: 'O. Mirren',
  at: '2026-11-20T09:00:00Z',
  ...more,
});
const PAGE = {
  oneOffs: [
    waiting(),
    waiting({ id: 'two', person: 'Nils Penhallow', state: 'in-run', where: 'run paid 27 Nov 2026', runId: 'run' }),
    waiting({ id: 'three', person: 'Edda Farrow', state: 'paid', where: 'paid 13 Nov 2026', runId: 'paid' }),
  ],
  runs: [{ id: 'run', label: 'run paid 27 Nov 2026' }],
  items: [
    { code: 'bonus', name: 'Bonus', kind: 'earning' },
    { code: 'tools', name: 'Tools paid back', kind: 'reimbursement' },
  ],
  earnedCounts: false,
};

describe('One-offs', () => {
  let shown: Part<OneOffsPage>;

  async function page(more: object = {}, role: 'clerk' | 'viewer' = 'clerk'): Promise<void> {
    shown = await part(
      OneOffsPage,
      {},
      {
        stores: [oneOffsStore as never, peopleStore as never],
        arrives: [oneOffsStore.loaded({ data: { ...PAGE, ...more } }), peopleStore.loaded({ data: PEOPLE })],
        role,
      },
    );
  }
  const paste = (label: string, text: string) => shown.paste(text, shown.field(label));

  it('say where each is: waiting, or in the run that took it; what is paid only when asked for', async () => {
    await page();
    expect(shown.text).toContain('Ines Halloway Bonus 150.00 kiln rebuilt waits for the next run');
    expect(shown.element.querySelector('a[href="/pay-runs/run"]')?.textContent).toContain('run paid 27 Nov 2026');
    expect(shown.text).not.toContain('Edda Farrow');
    shown.element.querySelector<HTMLInputElement>('h2 input[type=checkbox]')!.click();
    await shown.settle();
    expect(shown.text).toContain('Edda Farrow');
  });

  it('are typed line by line, by name or code, for the next run, a named one, or a day', async () => {
    await page();
    await shown.fill('Person, line 1', 'g-104');
    await shown.fill('Item, line 1', 'Bonus');
    await shown.fill('Amount, line 1', '1,250.50');
    await shown.fill('Taken by, line 1', 'run');
    await shown.fill('Person, line 2', 'Nils Penhallow (G-117)');
    await shown.fill('Item, line 2', 'tools');
    await shown.fill('Amount, line 2', '18');
    await shown.fill('Taken by, line 2', 'date');
    await shown.fill('From which day, line 2', '2026-12-15');
    await shown.press('Save 2 one-offs');
    const { entries } = (await shown.answer('POST', '/one-offs', { added: 2 })) as { entries: object[] };
    expect(entries).toEqual([
      jasmine.objectContaining({ person: 'G-104', item: 'bonus', amount: '1250.50', takes: { by: 'run', runId: 'run' } }),
      jasmine.objectContaining({ person: 'G-117', item: 'tools', amount: '18', takes: { by: 'date', date: '2026-12-15' } }),
    ]);
    expect(shown.text).toContain('2 one-offs saved.');
  });

  it('are pasted as a block from a spreadsheet, and a line can be taken off again', async () => {
    await page();
    await paste('Person, line 1', 'Ines Halloway\tBonus\t100\tkiln\nNils Penhallow\tBonus\t$1,200.00\t');
    expect(shown.field('Person, line 2').value).toBe('Nils Penhallow');
    expect(shown.field('Amount, line 2').value).toBe('1200.00');
    await shown.press('Take line 1 off');
    expect(shown.field('Person, line 1').value).toBe('Nils Penhallow');
    expect(shown.buttons()).toContain('Save this one-off');
  });

  it('that are refused stay as typed, with the cell marked that is meant', async () => {
    await page();
    await paste('Person, line 1', 'Ines Halloway\tBonus\t100\nNobody\tBonus\t50');
    await shown.press('Save 2 one-offs');
    const fields = [{ path: 'entries.1.person', expected: 'somebody on file' }];
    await shown.answer('POST', '/one-offs', { ...refused('Nobody on file is called Nobody.'), fields }, 422);
    expect(shown.text).toContain('Nobody on file is called Nobody.');
    expect(shown.field('Person, line 2').classList).toContain('wrong');
    expect(shown.field('Person, line 1').classList).not.toContain('wrong');
    expect(shown.field('Amount, line 2').value).toBe('50');
  });

  it('for a part of a month say which days', async () => {
    await page();
    await paste('Person, line 1', 'Ines Halloway\tBonus\t100');
    await shown.fill('Days, line 1', 'part');
    await shown.fill('From, line 1', '2026-11-09');
    await shown.fill('To, line 1', '2026-11-20');
    await shown.press('Save this one-off');
    const { entries } = (await shown.answer('POST', '/one-offs', { added: 1 })) as { entries: { part: object }[] };
    expect(entries[0]?.part).toEqual({ from: '2026-11-09', to: '2026-11-20' });
  });

  it('say in which days they were earned, where taxes go by these', async () => {
    await page();
    await paste('Person, line 1', 'Ines Halloway\tBonus\t100');
    expect([...shown.field('Days, line 1').querySelectorAll('option')].map(({ value }) => value)).toEqual(['', 'part']);
    await page({ earnedCounts: true });
    await paste('Person, line 1', 'Ines Halloway\tBonus\t100');
    await shown.fill('Days, line 1', 'earned');
    await shown.fill('From, line 1', '2026-07-01');
    await shown.press('Save this one-off');
    // A last day that was left open is sent as it is, for the server to say what is missing.
    const { entries } = (await shown.answer('POST', '/one-offs', { added: 1 })) as { entries: { part: object; earned: object }[] };
    expect([entries[0]?.part, entries[0]?.earned]).toEqual([null as never, { from: '2026-07-01', to: '' }]);
  });

  it('are changed and removed while they wait, and put back while their run is open', async () => {
    await page();
    await shown.press('Change, Ines Halloway');
    await shown.fill('Amount', '175.00');
    await shown.press('Save the change');
    expect(await shown.answer('PUT', '/one-offs/one', {})).toEqual(
      jasmine.objectContaining({ amount: '175.00', note: 'kiln rebuilt', takes: { by: 'next' } }),
    );
    await shown.press('Put back, Nils Penhallow');
    await shown.answer('POST', '/one-offs/two/put-back', {});
    await shown.press('Remove, Ines Halloway');
    await shown.answer('DELETE', '/one-offs/one', {});
  });

  it('are only looked at by a viewer', async () => {
    await page({}, 'viewer');
    expect(shown.buttons()).toEqual([]);
    expect(shown.text).toContain('Ines Halloway');
  });
});
