import { filing } from '../../testing/filing';
import { part, refused } from '../../testing/part';
import { FilingEntries } from './filing-entries';

const enters = [
  { line: '8', label: 'Adjustment for sick pay', help: 'From the notice', amount: 0, reason: '' },
  { line: '9', label: 'Adjustments for tips', help: 'What could not be collected', amount: -4_000, reason: 'Tips of July' },
];

describe('Lines that the ledger does not hold', () => {
  it('are entered with where they are from; a refusal keeps what was typed', async () => {
    const one = await part(FilingEntries, { filing: filing({ enters }) }, { role: 'clerk' });
    const saved = one.given(one.fixture.componentInstance.saved);
    expect(one.text).toContain('Tips of July');
    await one.press('Enter line 8');
    await one.fill('Amount', '-12.00');
    await one.press('Save line 8');
    const at = '/filings/941/2026-Q3/entered';
    expect(await one.answer('POST', at, refused('Say where the amount is from.'), 400)).toEqual({
      line: '8',
      amount: '-12.00',
      reason: '',
    });
    expect(one.text).toContain('Say where the amount is from.');
    await one.fill('Where it is from', 'Notice of the insurer');
    await one.press('Save line 8');
    expect(await one.answer('POST', at, {})).toEqual({ line: '8', amount: '-12.00', reason: 'Notice of the insurer' });
    expect(saved.length).toBe(1);
  });

  it('are only looked at by who may not prepare', async () => {
    const one = await part(FilingEntries, { filing: filing({ enters }) }, { role: 'viewer' });
    expect(one.text).not.toContain('Enter');
  });
});
