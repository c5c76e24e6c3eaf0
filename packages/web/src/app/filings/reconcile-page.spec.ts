import type { YearReconciled } from '@woodruff/contract';
import { part } from '../../testing/part';
import { reconciledStore } from './filings.store';
import { ReconcilePage } from './reconcile-page';

const sums = { register: 228_000, opening: 0, adjusted: 0, ledger: 228_000, unexplained: 0 };
const year: YearReconciled = {
  year: '2026-27',
  codes: [
    { code: 'pay', label: 'Ordinary pay', kind: 'earning', ...sums },
    { code: 'tax', label: 'Withholding', kind: 'tax', ...sums, adjusted: 50_000, ledger: 278_000 },
    { code: 'leave:a', label: 'Leave earned', kind: 'leave', ...sums },
  ],
  people: [],
};

describe('The reconciliation of a year', () => {
  const shown = (data: YearReconciled = year) =>
    part(ReconcilePage, { year: '2026-27' }, { stores: [reconciledStore as never], arrives: [reconciledStore.loaded({ data })] });

  it('sets the register beside the ledger, each difference with its cause', async () => {
    const one = await shown();
    expect(one.text).toContain('the register and the ledger agree');
    expect(one.text).toContain('Withholding 2,280.00 – 500.00 2,780.00 –');
    expect(one.text).toContain('Leave earned hours');
    await one.fill('Only what differs', true);
    expect(one.text).not.toContain('Ordinary pay');
    expect(one.text).toContain('Withholding');
  });

  it('says by how many items nothing explains the difference', async () => {
    const one = await shown({ ...year, codes: [{ ...year.codes[0]!, ledger: 228_001, unexplained: 1 }] });
    expect(one.text).toContain('1 item differs by what nothing explains');
  });

  it('opens the people behind an item', async () => {
    const one = await shown({ ...year, people: [{ personId: 'p', name: 'Kiln, Ada', ...sums }] });
    expect(one.text).not.toContain('Kiln, Ada');
    await one.press('Ordinary pay');
    expect(one.text).toContain('Kiln, Ada');
    expect(one.button('Ordinary pay').getAttribute('aria-expanded')).toBe('true');
  });
});
