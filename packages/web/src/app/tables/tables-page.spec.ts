import type { TableComparison, TablesView } from '@woodruff/contract';
import { part } from '../../testing/part';
import { TablesPage } from './tables-page';
import { tableComparisonStore, tablesStore } from './tables.store';

const file = { title: 'Tables of 2027', countsFrom: '2027-01-01', entries: 3, proposedAt: '2026-12-10', decidedBy: null, reason: '' };
const tables: TablesView = {
  country: 'United States',
  today: '2026-12-12',
  next: { label: '2027', from: '2027-01-01', missing: 3 },
  inForce: [
    { code: 'us.oasdi.rate', value: '6.2', from: '2026-01-01', source: '26 U.S.C. 3101(a)', confirmed: true, loaded: false },
    { code: 'us.futa.rate', value: '6', from: '2026-01-01', source: '26 U.S.C. 3301', confirmed: false, loaded: true },
  ],
  files: [
    { ...file, id: 'f1', state: 'proposed', proposedBy: 'Ada', own: true },
    { ...file, id: 'f2', state: 'proposed', proposedBy: 'Bo', own: false },
  ],
};
const comparison: TableComparison = {
  before: '2026-12-12',
  after: '2027-01-01',
  changed: [{ code: 'us.oasdi.rate', before: '6.2', after: '7', source: 'A publication', confirmed: false }],
  ending: [{ code: 'us.futa.rate', before: '6' }],
  people: [
    {
      personId: 'p1',
      name: 'Ada Kiln',
      netBefore: 200_000,
      netAfter: 198_000,
      costBefore: 260_000,
      costAfter: 262_000,
      lines: [{ label: 'Social security', before: 15_500, after: 17_500 }],
      refused: '',
    },
  ],
};

describe('Tables of the law', () => {
  const shown = (role: 'administrator' | 'clerk' = 'administrator') =>
    part(
      TablesPage,
      {},
      {
        role,
        stores: [tablesStore as never, tableComparisonStore as never],
        arrives: [tablesStore.loaded({ data: tables }), tableComparisonStore.loaded({ data: comparison })],
      },
    );

  it('say what is missing of the next year, and what is not confirmed', async () => {
    const one = await shown();
    expect(one.text).toContain('3 tables have no figures of 2027 yet');
    expect(one.text).toContain('26 U.S.C. 3301 (unconfirmed)');
    expect(one.text).toContain('loaded here');
  });

  it('show the change, for whom, and because of what', async () => {
    const one = await shown();
    expect(one.text).toContain('6.2 → 7');
    expect(one.text).toContain('Social security +200.00'.replace('+200.00', '+20.00'));
    expect(one.text).toContain('1 table has no figures on that day');
  });

  it('are approved by somebody else than who has loaded them', async () => {
    const one = await shown();
    expect(one.element.querySelectorAll('td.acts')[0]?.textContent).not.toContain('Approve');
    await one.press('Approve');
    expect(await one.answer('POST', '/tables/f2/decision', {})).toEqual({ approve: true });
    expect((await shown('clerk')).text).not.toContain('Approve');
  });
});
