import { part } from '../../testing/part';
import { LeavingByLaw } from './leaving-by-law';

const ASKED = '/people/p/leaving/owed?lastDay=2026-12-31&kind=redundant';
const inputs = { personId: 'p', lastDay: '2026-12-31', kind: 'redundant' };
const payment = {
  label: 'Statutory redundancy pay',
  sentence: '25.50 weeks of pay.',
  amount: '19150.50',
  key: 'redundancy',
  item: 'redundancy',
};
const working = {
  key: 'redundancy',
  label: 'Statutory redundancy pay',
  amount: '19150.50',
  unit: 'money' as const,
  steps: [{ operation: 'start' as const, label: 'A week of pay', amount: '751.00', result: '751.00' }],
  sources: [],
  notes: [],
  facts: [],
};

describe('What the law wants paid to who leaves', () => {
  it('is shown with the least notice, opens to its working, and is put in', async () => {
    const shown = await part(LeavingByLaw, inputs, { country: 'GB' });
    await shown.answer('GET', ASKED, { notice: 'The law wants 12 weeks.', payments: [payment], workings: { redundancy: working } });
    expect(shown.text).toContain('The law wants 12 weeks. Statutory redundancy pay 19,150.50');
    await shown.press('Statutory redundancy pay, how it came about');
    expect(shown.text).toContain('A week of pay');
    const owed = shown.given(shown.fixture.componentInstance.owed);
    await shown.press('Put it in');
    expect(owed).toEqual([payment]);
  });

  it('says why nothing is owed, and asks nothing where the country says nothing', async () => {
    const shown = await part(LeavingByLaw, inputs, { country: 'GB' });
    await shown.answer('GET', ASKED, { notice: null, payments: [{ ...payment, amount: null, sentence: 'Nothing by law.' }], workings: {} });
    expect(shown.text).toContain('Nothing by law.');
    expect(shown.buttons()).toEqual([]);
    const elsewhere = await part(LeavingByLaw, inputs);
    elsewhere.asksNothing();
    expect(elsewhere.text).toBe('');
  });
});
