import { Router } from '@angular/router';
import { TestBed } from '@angular/core/testing';
import type { Delivery, ReversalPreview, Sheet } from '@woodruff/contract';
import { part, refused } from '../../testing/part';
import { RunActs, type Act } from './run-acts';

const SHEET = {
  run: { id: 'r', people: 22, payDate: '2026-11-27', totals: { net: 4_512_345 } },
  withdrawUntil: '2026-11-25',
} as unknown as Sheet;
const DELIVERY: Delivery = {
  ready: 20,
  waiting: 0,
  sent: 0,
  paper: [{ payslipId: 'y', name: 'Edda Farrow' }],
  reports: [],
  members: [
    { name: 'O. Mirren', email: 'clerk@example.test' },
    { name: 'A. Quillmere', email: 'approver@example.test' },
  ],
};

const TOUCHES: ReversalPreview = {
  name: '21 payslips',
  payDate: '2026-11-13',
  reversalDate: '2026-11-23',
  net: 4_410_000,
  touches: [{ what: 'Gross pay in 2026', before: 200_000_000, after: 194_000_000 }],
  notes: ['2 cheques over 1,447.99 in total: stop them, or have them returned.'],
};

describe('What is done with a run as a whole', () => {
  async function shown(act: Act) {
    const one = await part(RunActs, { sheet: SHEET, act });
    const go = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    return { one, go };
  }

  it('withdrawn says in figures what it does and until when, and opens the draft in its place', async () => {
    const { one, go } = await shown('withdraw');
    expect(one.text).toContain('Withdraws 22 payslips, net 45,123.45, paid Fri 27 Nov 2026.');
    expect(one.text).toContain('Possible until Wed 25 Nov 2026.');
    await one.fill('Reason', 'Hours of a shift are missing');
    await one.press('Withdraw the run');
    expect(await one.answer('POST', '/pay-runs/r/withdraw', { id: 'n' })).toEqual({ reason: 'Hours of a shift are missing' });
    expect(go.calls.mostRecent().args[0]).toEqual(['/pay-runs', 'n']);
    expect(one.element.querySelector('form')).toBeNull();
  });

  it('too late for that, keeps the reason and says what is possible', async () => {
    const { one, go } = await shown('withdraw');
    await one.fill('Reason', 'Hours are missing');
    await one.press('Withdraw the run');
    await one.answer('POST', '/pay-runs/r/withdraw', refused('The cut-off has passed. Reverse the run instead.'), 409);
    expect(one.text).toContain('Reverse the run instead.');
    expect(one.field('Reason').value).toBe('Hours are missing');
    expect(go).not.toHaveBeenCalled();
  });

  it('reversed opens a replacement unless that is not wanted', async () => {
    const { one, go } = await shown('reverse');
    await one.answer('GET', '/pay-runs/r/reversal', TOUCHES);
    expect(one.text).toContain('Reverses all payslips of this run that stand: 21 payslips, net 44,100.00, dated today.');
    expect(one.text).toContain('Gross pay in 2026 2,000,000.00 1,940,000.00');
    expect(one.text).toContain('2 cheques over 1,447.99 in total: stop them, or have them returned.');
    await one.fill('Reason', 'Wrong period');
    await one.press('Reverse the run');
    expect(await one.answer('POST', '/pay-runs/r/reversal', { replacementRun: 'n' })).toEqual({ reason: 'Wrong period', replace: true });
    expect(go.calls.mostRecent().args[0]).toEqual(['/pay-runs', 'n']);
    const again = await shown('reverse');
    const changed = again.one.given(again.one.fixture.componentInstance.changed);
    await again.one.fill('Open a replacement run', false);
    await again.one.press('Reverse the run');
    expect(await again.one.answer('POST', '/pay-runs/r/reversal', { replacementRun: null })).toEqual({ reason: '', replace: false });
    expect(changed.length).toBe(1);
  });

  it('sent back goes with what is to be changed', async () => {
    const { one } = await shown('send-back');
    const changed = one.given(one.fixture.componentInstance.changed);
    await one.fill('What is to be changed', 'The bonus of Edda Farrow');
    await one.press('Send the run back');
    expect(await one.answer('POST', '/pay-runs/r/send-back', {})).toEqual({ comment: 'The bonus of Edda Farrow' });
    expect(changed.length).toBe(1);
  });

  it('delivered says who gets mail and who needs paper, and sends the reports to those chosen', async () => {
    const { one } = await shown('deliver');
    await one.answer('GET', '/pay-runs/r/delivery', DELIVERY);
    expect(one.text).toContain('20 payslips go out by mail.');
    expect([...one.element.querySelectorAll('a')].map((link) => link.textContent.trim())).toContain('Edda Farrow');
    expect(one.buttons()).toContain('Send 20 payslips');
    await one.fill('Register to O. Mirren', true);
    await one.fill('Summary to A. Quillmere', true);
    await one.press('Send 20 payslips and 2 reports');
    const to = 'approver@example.test';
    const sent = { ...DELIVERY, ready: 0, sent: 20, reports: [{ to, report: 'summary', deliveredAt: null }] };
    expect(await one.answer('POST', '/pay-runs/r/delivery', sent)).toEqual({
      reports: [
        { to: 'clerk@example.test', report: 'register' },
        { to, report: 'summary' },
      ],
    });
    expect(one.text).toContain('20 sent.');
    expect(one.text).toContain('A. Quillmere sent');
    expect(() => one.field('Summary to A. Quillmere')).toThrow();
    expect(one.button('Everything is sent').disabled).toBeTrue();
  });
});
