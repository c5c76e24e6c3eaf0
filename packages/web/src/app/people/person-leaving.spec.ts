import type { Leaving, PayItemRow, Person } from '@woodruff/contract';
import { part, refused } from '../../testing/part';
import { payItemsStore } from '../pay-items/pay-items.store';
import { PersonLeaving } from './person-leaving';

const PERSON = { id: 'p', facts: { left: null } } as unknown as Person;
const item = (code: string, treatment: string) =>
  ({ id: code, code, name: code, kind: 'earning', treatment, method: { by: 'amount' }, retired: false }) as unknown as PayItemRow;
const LEAVING: Leaving = {
  id: 'l',
  lastDay: '2026-11-20',
  reason: 'moves away',
  notice: { how: 'worked', given: '2026-11-06' },
  runId: 'r',
  state: 'open',
  entered: {
    lastDay: '2026-11-20',
    reason: 'moves away',
    notice: { how: 'worked', given: '2026-11-06' },
    amounts: [{ item: 'bonus', amount: '1200.00', note: '' }],
    paysLeave: false,
    finalPay: { in: 'own-run', payDate: '2026-11-25', taxMethod: 'aggregate', ordinaryDeductions: false },
  },
  certificate: null,
  by: 'O. Mirren',
  at: '2026-11-20T10:00:00',
};
const NOTICE = {
  amount: '2232.00',
  workings: {
    notice: { key: 'notice', label: 'Notice not worked', amount: '2232.00', unit: 'money', steps: [], sources: [], notes: [], facts: [] },
  },
};
const NO_EFFECT = { people: [], unchanged: 22, runs: [] };
const working = (key: string, label: string, amount: string) => ({
  key,
  label,
  amount,
  unit: 'money',
  steps: [],
  sources: [],
  notes: [],
  facts: [],
});
const FINAL = {
  payDate: '2026-11-27',
  with: 'the regular pay of 8 – 21 Nov 2026',
  lines: [
    { id: 'ordinary', kind: 'earning', label: 'Ordinary', amount: 200_000 },
    { id: 'us.fit', kind: 'tax', label: 'Federal income tax', amount: 15_000 },
  ],
  gross: 200_000,
  net: 185_000,
  problems: [{ weight: 'look', sentence: 'Dues: pay covers 5.00 of 18.50.' }],
  workings: { 'us.fit': working('us.fit', 'Federal income tax', '150.00'), net: working('net', 'Net pay', '1850.00') },
};

describe('Leaving', () => {
  async function shown(leaving: Leaving, role: 'clerk' | 'viewer' = 'clerk') {
    const one = await part(
      PersonLeaving,
      { person: PERSON },
      {
        role,
        stores: [payItemsStore as never],
        actions: [payItemsStore.loaded({ data: [item('tools', 'wages'), item('bonus', 'supplemental')] })],
      },
    );
    await one.answer('GET', '/people/p/leaving', leaving);
    return one;
  }
  async function begun() {
    const one = await shown(null);
    await one.press('Record leaving');
    await one.answer('GET', '/people/p/leave', { plans: [], requests: [] });
    return one;
  }

  const look = async (one: Awaited<ReturnType<typeof begun>>, final: object | null = FINAL) => {
    await one.press('Show what it changes');
    const body = await one.answer('POST', '/people/p/leaving?rehearse=true', NO_EFFECT);
    await one.answer('POST', '/people/p/leaving/final-pay', final);
    return body;
  };

  it('is shown before it is saved: what it changes, then the leaving itself', async () => {
    const one = await begun();
    await one.fill('Last day', '2026-11-20');
    await one.fill('Reason', 'moves away');
    expect(one.buttons()).not.toContain('Save the leaving');
    await look(one);
    expect(one.text).toContain('No payslip in the open runs changes.');
    const saved = one.given(one.fixture.componentInstance.saved);
    await one.press('Save the leaving');
    const body = await one.answer('POST', '/people/p/leaving', { runId: null });
    expect(body).toEqual({
      lastDay: '2026-11-20',
      reason: 'moves away',
      notice: { how: 'none', given: null, until: null },
      paysLeave: true,
      amounts: [],
      finalPay: { in: 'next-run' },
    });
    expect(saved.length).toBe(1);
  });

  it('asks again what it changes when something else is entered after the look', async () => {
    const one = await begun();
    await look(one);
    await one.fill('Last day', '2026-11-27');
    expect(one.buttons()).toContain('Show what it changes');
  });

  it('puts in what notice comes to, taxed as a lump sum, with its working; deducted it is taken off', async () => {
    const one = await begun();
    await one.fill('Notice', 'paid');
    await one.fill('Notice goes until', '2026-12-04');
    await one.answer('GET', '/people/p/leaving/notice?lastDay=2026-11-23&until=2026-12-04', NOTICE);
    expect(one.text).toContain('comes to 2,232.00; put in below');
    expect([one.field('Item, line 1').value, one.field('Amount, line 1').value, one.field('Note, line 1').value]).toEqual([
      'bonus',
      '2232.00',
      'Notice not worked',
    ]);
    await one.fill('Notice', 'deducted');
    await one.fill('Notice goes until', '2026-12-04');
    await one.answer('GET', '/people/p/leaving/notice?lastDay=2026-11-23&until=2026-12-04', NOTICE);
    expect(one.field('Amount, line 1').value).toBe('-2232.00');
  });

  it('in a run of its own has its day and its tax method', async () => {
    const one = await begun();
    await one.fill('Final pay', 'own-run');
    await one.fill('Paid on', '2026-11-25');
    await one.fill('Tax on supplemental pay', 'aggregate');
    expect(await look(one)).toEqual(
      jasmine.objectContaining({
        finalPay: { in: 'own-run', payDate: '2026-11-25', taxMethod: 'aggregate', ordinaryDeductions: true },
      }),
    );
  });

  it('shows the final payslip, each line open to its working, before anything is saved', async () => {
    const one = await begun();
    await look(one);
    expect(one.text).toContain('Paid Fri 27 Nov 2026: the regular pay of 8 – 21 Nov 2026. Gross 2,000.00.');
    expect(one.text).toContain('Dues: pay covers 5.00 of 18.50.');
    expect(one.text).toMatch(/Ordinary 2,000\.00 Federal income tax −150\.00 Net pay 1,850\.00/);
    await one.press('Federal income tax');
    expect(one.element.querySelector('wr-figure-working')?.textContent).toContain('150.00');
    await one.press('Net pay');
    expect(one.element.querySelector('wr-figure-working')?.textContent).toContain('1,850.00');
    await one.fill('Last day', '2026-10-02');
    await look(one, null);
    expect(one.text).toContain('nothing is left to be paid');
  });

  it('is changed from what was entered, until its final pay is approved', async () => {
    const one = await shown(LEAVING);
    await one.press('Change it');
    await one.answer('GET', '/people/p/leave', { plans: [], requests: [] });
    expect([one.field('Last day').value, one.field('Paid on').value, one.field('Amount, line 1').value]).toEqual([
      '2026-11-20',
      '2026-11-25',
      '1200.00',
    ]);
    await one.fill('Last day', '2026-11-19');
    await one.press('Show what it changes');
    await one.answer('PUT', '/people/p/leaving?rehearse=true', NO_EFFECT);
    await one.answer('POST', '/people/p/leaving/final-pay', FINAL);
    await one.press('Save the leaving as changed');
    expect(await one.answer('PUT', '/people/p/leaving', { runId: null })).toEqual({
      ...LEAVING.entered,
      lastDay: '2026-11-19',
      notice: { how: 'worked', given: '2026-11-06', until: null },
    });
    expect(one.text).not.toContain('P45');
    expect((await shown({ ...LEAVING, certificate: 'P45' })).text).toContain('P45, PDF');
    expect((await shown({ ...LEAVING, state: 'approved' })).buttons()).not.toContain('Change it');
  });

  it('that is entered leads to its final pay and statement, and is undone with a reason', async () => {
    const one = await shown(LEAVING);
    expect(one.text).toContain('Last day Fri 20 Nov 2026: moves away. Notice worked, given Fri 6 Nov 2026');
    expect([...one.element.querySelectorAll('a')].map((link) => link.getAttribute('href'))).toEqual([
      '/pay-runs/r',
      '/api/employers/e/people/p/leaving/statement.pdf',
    ]);
    await one.press('Undo the leaving');
    await one.answer('POST', '/people/p/leaving/undo', refused('Say why it is undone.'), 422);
    expect(one.text).toContain('Say why it is undone.');
    await one.fill('Why it is undone', 'stays after all');
    await one.press('Undo the leaving');
    expect(await one.answer('POST', '/people/p/leaving/undo', {})).toEqual({ reason: 'stays after all' });
    await one.answer('GET', '/people/p/leaving', null);
    expect(one.text).toContain('No leaving is recorded.');
  });

  it('is read only by who may not prepare', async () => {
    expect((await shown(LEAVING, 'viewer')).buttons()).toEqual([]);
  });
});
