import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import type { PayslipView } from '@woodruff/contract';
import { computePayslip, type PayslipInput } from '@woodruff/core';
import { part, type Part } from '../../testing/part';
import { WorkingPanel } from './working-panel';
import { workingActions, workingFeature, type Frame } from './working.store';
import example from '../../../../../docs/examples/payslip-glassblower.json';

const worked = computePayslip(example as unknown as PayslipInput, { workings: true });
const PAYSLIP = {
  id: 'slip',
  personId: 'ines',
  name: 'Ines Halloway',
  payDate: '2026-11-27',
  ...worked,
  notDue: [{ code: 'dues', label: 'Union dues', why: 'Taken on the first payslip of a month only.' }],
  history: [{ what: '70.00 hours on ordinary', who: 'O. Mirren', at: '2026-11-23T09:41:00Z' }],
  leave: [],
} as unknown as PayslipView;

describe('The panel beside a page', () => {
  let shown: Part<WorkingPanel>;

  async function panel(...frames: Frame[]): Promise<void> {
    shown = await part(
      WorkingPanel,
      {},
      {
        stores: [workingFeature as never],
        actions: [...frames.map((frame) => workingActions.open({ frame })), workingActions.payslipLoaded({ payslip: PAYSLIP })],
      },
    );
  }

  it('shows a payslip from its earnings to what is paid out, what is not on it and who changed it', async () => {
    await panel({ kind: 'payslip', payslipId: 'slip' });
    const order = ['Earnings', 'Before tax', 'Taxes', 'Paid by the employer', 'Gross pay', 'Net pay', 'Not on this payslip'];
    const places = order.map((words) => shown.text.indexOf(words, shown.text.indexOf('Earnings')));
    expect(places).toEqual([...places].sort((a, b) => a - b));
    expect(places.every((place) => place > 0)).toBeTrue();
    expect(shown.text).toContain('Taken on the first payslip of a month only.');
    expect(shown.text).toContain('70.00 hours on ordinary O. Mirren, 23 Nov 2026 09:41');
  });

  it('opens a line to its working, and goes back to the payslip', async () => {
    await panel({ kind: 'payslip', payslipId: 'slip' });
    await shown.press('Federal income tax');
    expect(shown.element.querySelector('h2')?.textContent.replace(/\s+/g, ' ').trim()).toBe('Federal income tax100.24');
    expect(shown.text).toContain('1,240.00 + 12% of what is over 19,900.00');
    await shown.press('‹ Back');
    expect(shown.text).toContain('Net pay · paid 27 Nov 2026');
  });

  it('goes on from a working to the figures in it', async () => {
    await panel({ kind: 'figure', payslipId: 'slip', key: 'us.fit' });
    const figures = [...shown.element.querySelectorAll<HTMLButtonElement>('button.opens')];
    figures[0]!.click();
    await shown.settle();
    expect(TestBed.inject(Store).selectSignal(workingFeature.selectFrame)()).toEqual({
      kind: 'figure',
      payslipId: 'slip',
      key: 'us.fit.wages',
    });
  });

  it('says that a figure is zero because nothing counts for it, rather than nothing', async () => {
    await panel({ kind: 'figure', payslipId: 'slip', key: 'reimbursed-by-nobody' });
    expect(shown.text).toContain('this figure is zero because nothing on the payslip counts for it');
  });

  it('shows no other payslip than the one asked for, while that one is on its way', async () => {
    await panel({ kind: 'payslip', payslipId: 'another' });
    expect(shown.text).toContain('Opening the payslip …');
    expect(shown.text).not.toContain('Ines Halloway');
  });

  it('opens a sum to its people, each to the figure that counts', async () => {
    const entries = [
      { payslipId: 'slip', name: 'Ines Halloway', amount: 10_024 },
      { payslipId: 'slip-2', name: 'Nils Penhallow', amount: 8_000, figure: 'us.fit:2' },
    ];
    await panel({ kind: 'total', title: 'Federal income tax', figure: 'us.fit', entries });
    expect(shown.element.querySelector('h2')?.textContent).toContain('180.24');
    await shown.press('Nils Penhallow ›');
    expect(TestBed.inject(Store).selectSignal(workingFeature.selectFrame)()).toEqual({
      kind: 'figure',
      payslipId: 'slip-2',
      key: 'us.fit:2',
    });
  });

  it('unfolds a long list, and adds up all of it from the start', async () => {
    const entries = Array.from({ length: 1000 }, (_none, index) => ({ payslipId: `p${index}`, name: `Person ${index}`, amount: 100 }));
    await panel({ kind: 'total', title: 'Gross', figure: 'gross', entries });
    const rows = () => shown.element.querySelectorAll('tr').length;
    expect(shown.text).toContain('Gross 1,000.00 1,000 people, largest first');
    expect(rows()).toBe(200);
    await shown.press('200 of 1,000 are shown: show 600 more');
    await shown.press('800 of 1,000 are shown: show 200 more');
    expect(rows()).toBe(1000);
    expect(shown.buttons().some((name) => name.includes('are shown'))).toBeFalse();
  });

  it('leads from a box of a return to the lines posted for it', async () => {
    await panel({ kind: 'behind', title: 'Box 2', note: 'Income tax withheld', codes: ['us.fit'], from: '2026-01-01', to: '2026-12-31' });
    expect(shown.text).toContain('Looking into the ledger …');
    const entry = {
      payslipId: 'slip',
      name: 'Ines Halloway',
      payDate: '2026-11-13',
      code: 'us.fit',
      label: 'Federal income tax',
      amount: 9_664,
    };
    TestBed.inject(Store).dispatch(workingActions.behindLoaded({ behind: { entries: [entry], total: 9_664 } as never }));
    await shown.settle();
    expect(shown.text).toContain('Ines Halloway › Fri 13 Nov 2026 · Federal income tax 96.64 1 entry 96.64');
  });

  it('closes, and leaves nothing behind', async () => {
    await panel({ kind: 'payslip', payslipId: 'slip' });
    await shown.press('Close the panel');
    expect(shown.text).toBe('');
  });
});
