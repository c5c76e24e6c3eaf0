import type { FilingView } from '@woodruff/contract';
import { filing } from '../../testing/filing';
import { part, refused } from '../../testing/part';
import { EarlierPayPart } from './earlier-pay';

const EARLIER: NonNullable<FilingView['earlier']> = {
  through: '2026-08-31',
  months: [
    { month: 'July 2026', entered: 0, deposited: 220_000 },
    { month: 'August 2026', entered: 440_000, deposited: 210_000 },
  ],
  deposits: [
    { id: 'd', on: '2026-07-10', paidOn: '2026-07-15', amount: 220_000, reference: 'D-1', who: 'O. Mirren', undone: null },
    { id: 'x', on: '2026-07-24', paidOn: '2026-07-29', amount: 9_900, reference: 'D-0', who: 'O. Mirren', undone: 'It was of last year' },
  ],
};

describe('Pay of before this system', () => {
  const shown = (role: 'clerk' | 'viewer' = 'clerk') => part(EarlierPayPart, { filing: filing(), earlier: EARLIER }, { role });

  it('stands beside what was deposited of it, month by month and in all', async () => {
    const { text } = await shown();
    expect(text).toContain('July 2026 – 2,200.00 2,200.00');
    expect(text).toContain('August 2026 4,400.00 2,100.00 \u22122,300.00');
    expect(text).toContain('Sum 4,400.00 4,300.00 \u2212100.00');
    expect(text).toContain('Taken back: It was of last year');
  });

  it('takes a deposit with the pay date that it was for; what is wrong with it is said and nothing is lost', async () => {
    const one = await shown();
    const saved = one.given(one.fixture.componentInstance.saved);
    await one.press('Record an earlier deposit');
    await one.fill('For pay of', '2026-08-07');
    await one.fill('Deposited on', '2026-08-12');
    await one.fill('Amount', '100.00');
    await one.fill('Number of the payment', 'D-3');
    await one.press('Record the deposit');
    await one.answer('POST', '/filings/941/2026-Q3/earlier', refused('It is recorded already.'), 409);
    expect([one.text.includes('It is recorded already.'), one.field('Amount').value, saved.length]).toEqual([true, '100.00', 0]);
    await one.press('Record the deposit');
    expect(await one.answer('POST', '/filings/941/2026-Q3/earlier', {})).toEqual({
      on: '2026-08-07',
      paidOn: '2026-08-12',
      amount: '100.00',
      reference: 'D-3',
    });
    expect(saved.length).toBe(1);
  });

  it('lets go of a deposit with a reason only, and shows a viewer no way to', async () => {
    const one = await shown();
    await one.press('Take back D-1');
    await one.fill('Why it is taken back', 'Another quarter');
    await one.press('Take the deposit back');
    expect(await one.answer('POST', '/filings/earlier/d/undone', {})).toEqual({ reason: 'Another quarter' });
    expect((await shown('viewer')).buttons()).toEqual([]);
  });
});
