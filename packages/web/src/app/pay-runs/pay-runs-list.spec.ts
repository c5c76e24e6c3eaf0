import type { Run } from '@woodruff/contract';
import { part } from '../../testing/part';
import { TOTALS } from '../../testing/sheet';
import { PayRunsList } from './pay-runs-list';
import { runsStore } from './pay-runs.store';

const run = (id: string, more: Partial<Run>): Run => ({
  id,
  kind: 'regular',
  name: '',
  scheduleId: 's',
  schedule: 'Fortnightly',
  from: '2026-11-08',
  to: '2026-11-21',
  payDate: '2026-11-27',
  state: 'open',
  people: 22,
  totals: { ...TOTALS, gross: 4_001_140, net: 2_951_895 },
  approvedBy: null,
  submittedBy: null,
  sentBack: null,
  approvedAt: null,
  version: 1,
  ...more,
});
const RUNS = [
  run('open', {}),
  run('asked', { state: 'submitted' }),
  run('paid', { state: 'approved', approvedBy: 'Tobias Fennimore', people: 10_000 }),
  run('bonus', { kind: 'special', name: 'Year-end bonus', state: 'withdrawn' }),
  run('back', { kind: 'correction', state: 'approved', people: 0, totals: TOTALS }),
];

describe('The list of runs', () => {
  const shown = (data: Run[], role: 'clerk' | 'viewer' = 'clerk') =>
    part(PayRunsList, {}, { role, stores: [runsStore as never], arrives: [runsStore.loaded({ data })] });

  it('tells the state of each in words, who approved it, and what each comes to', async () => {
    const one = await shown(RUNS);
    const rows = [...one.element.querySelectorAll('tbody tr, table > tr')].map((row) =>
      [...row.querySelectorAll('td')].map((cell) => cell.textContent.replace(/\s+/g, ' ').trim()),
    );
    expect(rows.map((cells) => cells[2])).toEqual(['open', 'submitted', 'approved by Tobias Fennimore', 'withdrawn', 'approved']);
    expect(rows.map((cells) => cells[3])).toEqual(['22', '22', '10,000', '22', 'reversal']);
    expect([rows[0]?.[4], rows[0]?.[7], rows[4]?.[4]]).toEqual(['40,011.40', '29,518.95', '–']);
    expect(rows[3]?.[1]).toContain('Year-end bonus');
    expect(one.element.querySelectorAll('.attention').length).withContext('what is not done yet').toBe(2);
  });

  it('leads to a run, and to a special one who may begin it', async () => {
    const links = (one: Awaited<ReturnType<typeof shown>>) =>
      [...one.element.querySelectorAll('a')].map((link) => link.getAttribute('href'));
    expect(links(await shown(RUNS))).toEqual(jasmine.arrayContaining(['/pay-runs/open', '/pay-runs/special', '/pay-runs/one-offs']));
    expect(links(await shown(RUNS, 'viewer'))).not.toContain('/pay-runs/special');
  });

  it('says where the first one comes from', async () => {
    expect((await shown([])).text).toContain('The first one is proposed on Today as soon as somebody can be paid.');
  });
});
